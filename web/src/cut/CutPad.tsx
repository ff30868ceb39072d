import { Box, Button, Checkbox, Link, Typography } from '@mui/material';
import { useState } from 'react';
import { Link as RouterLink } from 'react-router';
import { words } from '../api/client';
import type { CutRow, Done, JobState, PieceWorkup, Workup } from '../api/generated/schema';
import { useDeed } from '../api/record';
import { Landing } from '../fit/Landing';
import { cardsAt, stockAt } from '../head/steps';
import {
  degrees,
  figure,
  length,
  type Selected,
  samePart,
  sentence,
  type Unit,
  useBench,
} from '../kit/bench';
import { Findings } from '../kit/Findings';
import { PlainTable } from '../kit/PlainTable';
import { PrintDialog } from '../kit/PrintDialog';
import type { Drawing } from '../kit/useDrawing';
import { Lessons, NoteLesson } from '../log/Lessons';
import { TimeKeeper } from '../log/TimeKeeper';
import { token } from '../theme';
import { Beads } from './Beads';
import { BesideTube } from './BesideTube';
import { Closing } from './Closing';
import { CutOtherwise } from './CutOtherwise';
import { CutTable } from './CutTable';
import { DrillsRow } from './DrillsRow';
import { HosePad } from './HosePad';
import { JigSection } from './JigSection';
import { LongestRow } from './LongestRow';
import { SawRow } from './SawRow';

interface Props {
  state: JobState;
  workup: Workup;
  drawing: Drawing;
}

/** The bench pad of the Cut step: lines to scribe, cuts in order, templates. */
export function CutPad({ state, workup, drawing }: Props) {
  const { unit, selected, select } = useBench();
  const { cutting } = workup;
  const [printing, setPrinting] = useState(false);
  const { mutate } = useDeed(state.id);
  const onDone = (done: Done) => mutate(done, { onError: (error) => drawing.say(words(error)) });
  const base = `/api/jobs/${state.id}/runs/${workup.run}`;
  const partOf = (cut: CutRow): Selected =>
    cut.piece ? { part: 'piece', run: workup.run, piece: cut.piece } : { part: 'nothing' };
  if (workup.hose) return <HosePad state={state} workup={workup} hose={workup.hose} drawing={drawing} />;
  if (!cutting) {
    return (
      <>
        <Typography variant='h1' component='h2' sx={{ mb: 1 }}>
          Nothing to cut yet
        </Typography>
        <Typography variant='body2' sx={{ mb: 1 }}>
          A cut list needs a pipe whose every piece has a length. Mend this first:
        </Typography>
        <Findings findings={workup.findings} selected={selected} onMend={(edit) => void drawing.keep(edit)} />
      </>
    );
  }
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between' }}>
        <Typography variant='h1' component='h2'>
          {cutting.cuts.length} {cutting.cuts.length === 1 ? 'cut' : 'cuts'}
        </Typography>
        <Box sx={{ fontSize: 20, fontWeight: 700, color: token.dye }}>{length(cutting.stock_used, unit)}</Box>
      </Box>
      <Typography variant='body2' color='textSecondary' sx={{ mb: 1 }}>
        of {length(workup.od, unit)} tube from one squared end, {length(cutting.kerf, unit)} kerf each: every
        mark is the side of the cut towards the squared end. Pieces are marked {workup.mark} and numbered from
        A. This list is for one stick that is long enough;{' '}
        <Link component={RouterLink} to={stockAt(state.id)}>
          from the shelf
        </Link>{' '}
        has the marks for each stick there is.
      </Typography>
      <CutOtherwise workup={workup} onDone={onDone} />
      <Lessons state={state} workup={workup} step='cut' />
      <Landing state={state} workup={workup} drawing={drawing} />
      <Box sx={{ mb: 1.25, borderBottom: `1px solid ${token.hairline}` }}>
        <SawRow pinned={state.job.saw} drawing={drawing} />
        <DrillsRow
          key={JSON.stringify(state.job.drills ?? null)}
          pinned={state.job.drills ?? {}}
          drawing={drawing}
        />
        <LongestRow workup={workup} drawing={drawing} />
      </Box>
      {cutting.bias != null && cutting.bias !== 0 && (
        <Typography variant='body2' sx={{ mb: 1 }}>
          The saw is set {degrees(Math.abs(cutting.bias), 2)} {cutting.bias > 0 ? 'under' : 'over'} each
          angle, for what it errs by; without that the worst bend would be {degrees(cutting.worst_out, 1)}{' '}
          out. Square cuts are squared by the stop.
        </Typography>
      )}
      <Beads beads={cutting.beads} unit={unit} />
      <BesideTube workup={workup} base={base} />
      <Drawn workup={workup} />
      {cutting.lines.length > 0 && <Lines workup={workup} unit={unit} />}
      {cutting.lines.length > 0 && (
        <Typography variant='body2' color='textSecondary' sx={{ mb: 0.5 }}>
          The named line faces up and the blade leans so that the mark on it is nearer the squared end. On a
          saw that swings flat, turn that line to the fence instead. Turns are of the tube, seen from the
          squared end.
        </Typography>
      )}
      <CutTable
        label='Cut list'
        cuts={cutting.cuts}
        unit={unit}
        chosen={(cut) => cut.piece != null && samePart(selected, partOf(cut))}
        onPick={(cut) => cut.piece != null && select(partOf(cut))}
        tick={(cut) => {
          const piece = workup.pieces.find((one) => cut.frees != null && one.name === cut.frees);
          return (
            piece && (
              <Checkbox
                size='small'
                checked={piece.cut}
                sx={{ p: 0.25 }}
                slotProps={{ input: { 'aria-label': `${piece.name} is cut` } }}
                onClick={(event) => event.stopPropagation()}
                onChange={(_, on) => onDone(on ? cutDeed(workup.run, piece) : notCut(workup.run, piece))}
              />
            )
          );
        }}
        name={(cut) => (
          <Link
            component='button'
            color='inherit'
            underline='none'
            onClick={() => cut.piece != null && select(partOf(cut))}
            sx={{ fontWeight: 700, fontSize: 14 }}
          >
            {cut.frees ?? 'waste'}
          </Link>
        )}
      />
      {cutting.checks.length > 0 && (
        <Box component='section' aria-label='Checks while tacking' sx={{ mt: 1.5 }}>
          <Typography variant='h3'>While it is tacked</Typography>
          <Box component='ul' sx={{ m: 0, pl: 2.25, fontSize: 15, lineHeight: 1.4 }}>
            {cutting.checks.map((check) => (
              <li key={check.bend}>{sentence(check.words, unit)}</li>
            ))}
          </Box>
        </Box>
      )}
      {cutting.closing && <Closing closing={cutting.closing} unit={unit} />}
      {cutting.meetings.length > 0 && <Meetings workup={workup} />}
      <Typography variant='h2' sx={{ mt: 2, mb: 0.75 }}>
        To take to the saw
      </Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.75 }}>
        <Button variant='contained' onClick={() => setPrinting(true)}>
          Print…
        </Button>
        <PrintDialog job={state.id} run={workup.run} open={printing} onClose={() => setPrinting(false)} />
        <Button variant='outlined' component={RouterLink} to={cardsAt(state.id, workup.run)}>
          Bench cards
        </Button>
        <Button variant='outlined' href={`${base}/cut-list.csv`}>
          Cut list, CSV
        </Button>
        <Button variant='outlined' href={`${base}/lra.csv`}>
          Bender table, CSV
        </Button>
        {cutting.settings.map((saw, index) => (
          <Button key={saw} variant='outlined' href={`${base}/templates/${index + 1}`}>
            Template {degrees(saw, 2)}, 1:1
          </Button>
        ))}
      </Box>
      <BenderTables workup={workup} unit={unit} />
      <JigSection state={state} run={workup.run} />
      <TimeKeeper key={`cut ${workup.run}`} job={state.id} workup={workup} step='cut' />
      <NoteLesson workup={workup} step='cut' />
    </>
  );
}

const cutDeed = (run: number, piece: PieceWorkup): Done => ({
  deed: 'cut',
  run,
  piece: piece.piece,
  as_cut: {
    name: piece.name,
    size: {
      centre: piece.centre.mm,
      longest: piece.longest.mm,
      saws: [piece.saw_from, piece.saw_to],
    },
  },
});
const notCut = (run: number, piece: PieceWorkup): Done => ({ deed: 'not_cut', run, piece: piece.piece });

/** Which pieces are bent after they are sawn. */
function Drawn({ workup }: { workup: Workup }) {
  const bent = workup.pieces.filter((piece) => piece.drawn.length > 0);
  if (bent.length === 0) return null;
  const named = bent.map((piece) => {
    const bends = piece.drawn.map((bend) => workup.bends.findIndex((one) => one.bend === bend) + 1);
    return `${piece.name} (bend ${bends.join(', ')})`;
  });
  return (
    <Typography variant='body2' sx={{ my: 0.75 }}>
      Sawn straight and then bent by the table below: {named.join('; ')}. The length is that of the finished
      centre line: add what your bender holds on to.
    </Typography>
  );
}

/** Lines to scribe along the tube before anything is sawn, each with the one opposite. */
function Lines({ workup, unit }: { workup: Workup; unit: Unit }) {
  const lines = workup.cutting?.lines ?? [];
  return (
    <Box sx={{ bgcolor: token.sheet, border: `1px solid ${token.hairline}`, px: 1.25, py: 0.75, mb: 1 }}>
      <Typography variant='h3'>Scribe first</Typography>
      <Typography variant='body2' color='textSecondary'>
        Lines along the tube, {unit} round the girth from 1a, clockwise seen from the squared end.
      </Typography>
      <Box
        component='dl'
        sx={{
          display: 'grid',
          gridTemplateColumns: 'repeat(4, auto 1fr)',
          rowGap: 0.25,
          columnGap: 0.75,
          m: 0,
          mt: 0.5,
        }}
      >
        {lines.map((line) => (
          <Box key={line.name} sx={{ display: 'contents' }}>
            <Box component='dt' sx={{ color: token.inkSoft }}>
              {line.name}
            </Box>
            <Box component='dd' sx={{ m: 0, fontWeight: 700 }}>
              {figure(line.round, unit)}
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}

/** How the pieces are turned to each other when they are put together. */
function Meetings({ workup }: { workup: Workup }) {
  const unit = useBench((bench) => bench.unit);
  const meetings = workup.cutting?.meetings ?? [];
  return (
    <>
      <PlainTable
        title='Put together from A'
        heads={['Piece', 'its line', 'meets line', 'of piece', 'Stands at']}
        rows={meetings.map((one) => [one.piece, one.line, one.next_line, one.next, degrees(one.stands)])}
      />
      {meetings.map(
        (one) =>
          one.gap && (
            <Typography key={one.piece} variant='body2'>
              Between {one.piece} and {one.next} {one.hose ? 'a gap of' : `the ${one.joint_word},`}{' '}
              {length(one.gap, unit)}
              {one.hose ? `, in a hose of ${length(one.hose, unit)}` : ' of the centre line'}.
            </Typography>
          ),
      )}
      <Typography variant='body2' color='textSecondary'>
        Where a piece's line stands in the pipe: clockwise from up, seen from A along it.
      </Typography>
    </>
  );
}

/** The tables a bender or a drawing board wants: length, rotation and angle, and where the vertices are. */
function BenderTables({ workup, unit }: { workup: Workup; unit: Unit }) {
  return (
    <>
      <PlainTable
        title='Length, rotation, angle'
        heads={['Bend', 'Length', 'Rotation', 'Angle', 'Radius']}
        rows={workup.lra.map((row, index) => [
          row.angle == null ? 'end' : String(index + 1),
          figure(row.length, unit),
          row.rotation == null ? '' : degrees(row.rotation),
          row.angle == null ? '' : degrees(row.angle),
          row.radius ? figure(row.radius, unit) : '',
        ])}
      />
      <PlainTable
        title='Vertices'
        heads={['Bend', 'Forward x', 'Left y', 'Up z', 'Setback']}
        rows={workup.bends.map((bend, index) => [
          String(index + 1),
          ...bend.vertex.map((coordinate) => figure(coordinate, unit)),
          figure(bend.setback, unit),
        ])}
      />
    </>
  );
}
