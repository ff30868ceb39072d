import { Box, Button, ButtonBase, Link as MuiLink, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import type { Edit, JobState, NextAct, RackRun } from '../api/generated/schema';
import { useTruing } from '../api/hooks';
import { ChanceBar, inHundred } from '../fit/ChanceBar';
import { runAt, stepNames } from '../head/steps';
import { sentence, useBench } from '../kit/bench';
import { severityLook } from '../kit/Findings';
import { headingFont, token } from '../theme';
import { RackStick } from './RackStick';
import { StepBar } from './StepBar';

interface Props {
  state: JobState;
  run: RackRun;
  /** The mark of its twin. */
  twin: string | undefined;
  perMm: number;
  /** Whether it is read on a phone, as a list. */
  narrow: boolean;
  onDo: (edit: Edit) => void;
  onName: () => void;
}

/** Height of a row, px. */
export const ROW = 74;

/** One run on the rack: its sign, its stick, how it stands, what is next. */
export function RackRow({ state, run, twin, perMm, narrow, onDo, onName }: Props) {
  const unit = useBench((bench) => bench.unit);
  const at = runAt(state.id, run.run, run.next.step);
  return (
    <Box
      component='li'
      sx={{
        display: 'grid',
        gridTemplateColumns: narrow ? '52px minmax(0, 1fr)' : '56px 216px minmax(0, 1fr) 430px',
        columnGap: narrow ? 1.5 : 2,
        rowGap: 0.75,
        alignItems: 'center',
        minHeight: ROW,
        px: narrow ? 1.5 : 3,
        py: narrow ? 1.25 : 0.25,
        borderBottom: `1px solid ${token.hairline}`,
        bgcolor: token.paper,
        '&:focus-within': { boxShadow: `inset 4px 0 ${token.straw}` },
      }}
    >
      <ButtonBase
        onClick={onName}
        aria-label={`Name, mark and place of ${run.name}`}
        title='Name, mark and place'
        sx={{
          height: 44,
          bgcolor: token.dye,
          color: token.sheet,
          fontFamily: headingFont,
          fontWeight: 600,
          fontSize: run.mark.length > 2 ? 19 : 23,
          '&:hover': { bgcolor: token.dyeHover },
        }}
      >
        {run.mark}
      </ButtonBase>
      <Box sx={{ minWidth: 0 }}>
        <MuiLink
          component={Link}
          to={at}
          underline='hover'
          color='inherit'
          data-run={run.run}
          sx={{ display: 'block', fontWeight: 700, fontSize: 16, lineHeight: 1.2, overflowWrap: 'anywhere' }}
        >
          {run.name}
        </MuiLink>
        <Typography variant='body2' color='textSecondary' sx={{ lineHeight: 1.25 }}>
          {sentence(run.tube, unit)}
          {run.chance != null && <Lands chance={run.chance} />}
          {twin && (
            <Box component='span' sx={{ display: 'block', color: token.dye, fontWeight: 600 }}>
              twin of {twin}
            </Box>
          )}
        </Typography>
      </Box>
      <Box sx={narrow ? { gridColumn: '1 / -1' } : { minWidth: 0 }}>
        {run.rod ? (
          <RackStick
            rod={run.rod}
            name={run.name}
            perMm={perMm}
            height={narrow ? 44 : ROW - 6}
            small={narrow}
          />
        ) : (
          <Typography variant='body2' color='textSecondary'>
            No pipe yet
          </Typography>
        )}
      </Box>
      <Box sx={{ minWidth: 0, gridColumn: narrow ? '1 / -1' : undefined, display: 'grid', gap: 0.5 }}>
        <NextWords next={run.next} more={run.counts.errors + run.counts.warnings - 1}>
          {ready(run) && <Truing state={state} run={run.run} />}
        </NextWords>
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.25, flexWrap: narrow ? 'wrap' : 'nowrap' }}>
          <StepBar steps={run.steps} />
          <Act state={state} run={run} onDo={onDo} />
        </Box>
      </Box>
    </Box>
  );
}

/** The chance to land, small. */
function Lands({ chance }: { chance: number }) {
  return (
    <Box component='span' sx={{ display: 'flex', alignItems: 'center', gap: 0.75, whiteSpace: 'nowrap' }}>
      <Box component='span' sx={{ display: 'flex', width: 60 }}>
        <ChanceBar chance={chance} />
      </Box>
      {inHundred(chance)} land
    </Box>
  );
}

/** Whether a run only waits for the saw: the last moment to look at how it lies. */
const ready = ({ next }: RackRun) => next.severity == null && next.step === 'cut';

function NextWords({ next, more, children }: { next: NextAct; more: number; children: ReactNode }) {
  const unit = useBench((bench) => bench.unit);
  const look = next.severity ? severityLook(next.severity) : undefined;
  const words = sentence(next.words, unit);
  return (
    <Typography
      variant='body2'
      title={words}
      sx={{
        lineHeight: 1.3,
        p: '1px',
        display: '-webkit-box',
        WebkitLineClamp: 2,
        WebkitBoxOrient: 'vertical',
        overflow: 'hidden',
      }}
    >
      <Box
        component='strong'
        sx={{
          mr: 0.75,
          px: 0.6,
          border: `1px solid ${look?.edge ?? token.dye}`,
          bgcolor: look?.paper ?? token.sheet,
          color: look?.ink ?? token.dye,
        }}
      >
        {look ? `${look.shape} ${look.word}` : stepNames[next.step]}
      </Box>
      {words}
      {more > 0 && next.severity && (
        <Box component='span' sx={{ color: token.inkSoft }}>
          {' '}
          and {more} more
        </Box>
      )}
      {children}
    </Typography>
  );
}

const act = {
  p: 0,
  minWidth: 0,
  fontWeight: 700,
  lineHeight: 1.2,
  textAlign: 'left',
  justifyContent: 'flex-start',
} as const;

/** The button that settles what is wrong, or leads to what is next. */
function Act({ state, run, onDo }: Pick<Props, 'state' | 'run' | 'onDo'>) {
  const unit = useBench((bench) => bench.unit);
  const { next } = run;
  const { edit } = next;
  const label = sentence(next.label, unit);
  if (edit) {
    return (
      <Button variant='text' sx={act} onClick={() => onDo(edit)}>
        {label}
      </Button>
    );
  }
  return (
    <Button
      variant='text'
      sx={{ ...act, whiteSpace: 'nowrap' }}
      component={Link}
      to={runAt(state.id, run.run, next.step)}
      state={{ part: next.part }}
      aria-label={`${label}: ${run.name}`}
    >
      {label}
    </Button>
  );
}

/** Before metal is cut: what level, plumb and parallel would cost. */
function Truing({ state, run }: { state: JobState; run: number }) {
  const unit = useBench((bench) => bench.unit);
  const truing = useTruing(state, run);
  const best = truing.data?.offers.find((offer) => !offer.spoils);
  if (!best) return null;
  return (
    <>
      {' '}
      <MuiLink component={Link} to={runAt(state.id, run, 'route')} state={{ stage: 'ways' }} color='inherit'>
        {sentence(best.label, unit)}: {sentence(best.price, unit)}
      </MuiLink>
    </>
  );
}
