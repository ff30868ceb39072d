import { Box, Typography } from '@mui/material';
import { words } from '../api/client';
import type {
  BuiltNear,
  Done,
  DualUnitText,
  FitOff,
  FitStep,
  JobState,
  Workup,
} from '../api/generated/schema';
import { useDeed } from '../api/record';
import { figure, sentence, type Unit, useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import { Lessons, NoteLesson } from '../log/Lessons';
import { TimeKeeper } from '../log/TimeKeeper';
import { token } from '../theme';
import { ChanceBar, inHundred } from './ChanceBar';
import { Corrections } from './Corrections';
import { Finer } from './Finer';
import { FitSteps } from './FitSteps';
import { Rough } from './Rough';
import { useFit } from './useFit';

interface Props {
  state: JobState;
  workup: Workup;
  drawing: Drawing;
}

/** From here on what is asked is likely to do. */
const SURE = 0.95;

/** The bench pad of the Fit step: how the pipe lies when it is tried on, and what makes it land. */
export function FitPad({ state, workup, drawing }: Props) {
  const unit = useBench((bench) => bench.unit);
  const select = useBench((bench) => bench.select);
  const { run } = workup;
  const { mutateAsync, isPending } = useDeed(state.id);
  const data = useFit(state, run, true);
  const note = async (done: Done) => {
    try {
      await mutateAsync(done);
      return true;
    } catch (error) {
      drawing.say(words(error));
      return false;
    }
  };
  const onNote = (step: FitStep) => note({ deed: 'fit', run, step });
  if (!data) return null;
  const tried = data.off.length > 0;
  const wrong = data.steps.find((step) => step.disagrees);
  if (data.none) {
    return (
      <>
        <Typography variant='h1' component='h2' sx={{ mb: 1 }}>
          Nothing to try on
        </Typography>
        <Typography variant='body2'>{sentence(data.none, unit)}</Typography>
      </>
    );
  }
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between' }}>
        <Typography variant='h1' component='h2'>
          {tried ? 'As it is' : 'Try it on'}
        </Typography>
        <Box sx={{ fontSize: 20, fontWeight: 700, color: token.dye }}>{inHundred(data.chance)} land</Box>
      </Box>
      <Box sx={{ display: 'flex', mb: 0.75 }}>
        <ChanceBar chance={data.chance} then={data.corrections[0]?.chance} />
      </Box>
      <Lessons state={state} workup={workup} step='fit' />
      {tried ? (
        <Off off={data.off} />
      ) : (
        <Typography variant='body2' color='textSecondary'>
          Tack it, put it on at A with its line on the mark, and look at B. Say how it lies; finer readings
          make it surer.
        </Typography>
      )}
      {wrong && (
        <Box
          role='alert'
          sx={{
            my: 1,
            px: 1.25,
            py: 0.75,
            bgcolor: token.foulsPaper,
            borderLeft: `4px solid ${token.fouls}`,
          }}
        >
          <Typography variant='h3'>■ Further off than a bench makes it</Typography>
          <Typography variant='body2'>
            {sentence(wrong.words, unit)}: read that again. If it stands, measure what may have been cut or
            tacked wrong before anything is cut.
          </Typography>
          {data.suspects.length > 0 && (
            <Box component='ul' aria-label='What would explain it' sx={{ m: 0, pl: 2.25, fontSize: 14 }}>
              {data.suspects.map((suspect) => (
                <li key={suspect.mm}>{sentence(suspect, unit)}</li>
              ))}
            </Box>
          )}
        </Box>
      )}
      <Told words={data.warnings} unit={unit} />
      {data.built?.near == null ? null : <Near near={data.built.near} unit={unit} />}
      {data.likely && tried && (
        <Box
          sx={{
            my: 1,
            px: 1.25,
            py: 0.75,
            bgcolor: token.strawPaper,
            borderLeft: `4px solid ${token.straw}`,
          }}
        >
          <Typography variant='h3'>It lands as it is</Typography>
          <Typography variant='body2'>Mark across every seam, and weld it.</Typography>
        </Box>
      )}
      {tried && data.next && !data.likely && (data.corrections[0]?.chance ?? 0) < SURE && (
        <Typography variant='body2' sx={{ mt: 1 }}>
          <strong>Before you cut, measure:</strong> {sentence(data.next.words, unit)}. What is known is not
          sure enough yet.
        </Typography>
      )}
      <Corrections
        corrections={data.corrections}
        unit={unit}
        busy={isPending}
        onDone={(act) => onNote({ fit: 'acted', act })}
        onShow={(act) => select({ part: 'piece', run, piece: act.piece })}
        onTake={(edit) => void drawing.keep(edit)}
      />
      <Rough key={`rough ${run}`} busy={isPending} onNote={onNote} />
      <Finer key={`finer ${run}`} fit={data} workup={workup} busy={isPending} onNote={onNote} />
      <FitSteps steps={data.steps} unit={unit} onBack={(was) => void note({ deed: 'not_fit', run, was })} />
      <TimeKeeper key={`fit ${run}`} job={state.id} workup={workup} step='fit' />
      <NoteLesson workup={workup} step='fit' />
    </>
  );
}

interface ToldProps {
  words: readonly DualUnitText[];
  unit: Unit;
}

/** What makes a bad weld. */
function Told({ words: all, unit }: ToldProps) {
  return all.map((one) => (
    <Typography key={one.mm} role='alert' variant='body2' sx={{ my: 1, color: token.fouls }}>
      ■ {sentence(one, unit)}.
    </Typography>
  ));
}

/** What it is too near to as it was built, and was not as planned. */
function Near({ near, unit }: { near: readonly BuiltNear[]; unit: Unit }) {
  if (near.length === 0) return null;
  return (
    <Box component='section' aria-label='As built' sx={{ my: 1 }}>
      <Typography variant='h3'>As it was built</Typography>
      {near.map((one) => (
        <Typography key={one.words.mm} variant='body2' sx={{ color: one.fouls ? token.fouls : token.ink }}>
          {one.fouls ? '■' : '▲'} {sentence(one.words, unit)}
        </Typography>
      ))}
    </Box>
  );
}

/** How its end lies beside the mouth at B, in three figures. */
function Off({ off }: { off: readonly FitOff[] }) {
  const unit = useBench((bench) => bench.unit);
  return (
    <Box
      component='section'
      aria-label='How its end lies at B'
      sx={{
        display: 'grid',
        gridTemplateColumns: 'repeat(3, 1fr)',
        border: `1px solid ${token.hairline}`,
        bgcolor: token.sheet,
      }}
    >
      {off.map(({ how, by, spread }, at) => (
        <Box key={how} sx={{ p: 0.75, borderLeft: at > 0 ? `1px solid ${token.hairline}` : 0 }}>
          <Box sx={{ fontSize: 20, fontWeight: 700 }}>
            {figure(by, unit)}{' '}
            <Box component='span' sx={{ fontSize: 14, fontWeight: 400 }}>
              {unit} {how}
            </Box>
          </Box>
          <Box sx={{ fontSize: 13, color: token.inkSoft }}>give or take {figure(spread, unit)}</Box>
        </Box>
      ))}
    </Box>
  );
}
