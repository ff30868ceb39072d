import { Box, Button, Typography } from '@mui/material';
import { words } from '../api/client';
import type { Done, JobState, Workup } from '../api/generated/schema';
import { useDeed } from '../api/record';
import { samePart, sentence, useBench } from '../kit/bench';
import { Fold } from '../kit/Fold';
import type { Drawing } from '../kit/useDrawing';
import { Lessons, NoteLesson } from '../log/Lessons';
import { TimeKeeper } from '../log/TimeKeeper';
import { CouponLog } from './CouponLog';
import { GasRows } from './GasRows';
import { NextSeam } from './NextSeam';
import { SeamList } from './SeamList';
import { Sentences, Warnings } from './Sentences';
import { Turner } from './Turner';
import { useWeld } from './useWeld';
import { WelderFields } from './WelderFields';
import { WeldSections } from './WeldSections';
import { insideNames, processNames, timeText } from './words';

interface Props {
  state: JobState;
  workup: Workup;
  drawing: Drawing;
}

/** The bench pad of the Weld step: the seam that is next, how it is set, and all that goes with it. */
export function WeldPad({ state, workup, drawing }: Props) {
  const { unit, selected, select } = useBench();
  const { run } = workup;
  const { mutateAsync, isPending } = useDeed(state.id);
  const data = useWeld(state, run, true);
  const note = async (done: Done) => {
    try {
      await mutateAsync(done);
    } catch (error) {
      drawing.say(words(error));
    }
  };
  if (!data) return null;
  if (data.none) {
    return (
      <>
        <Typography variant='h1' component='h2' sx={{ mb: 1 }}>
          Nothing to weld
        </Typography>
        <Typography variant='body2' sx={{ mb: 1.5 }}>
          {sentence(data.none, unit)}
        </Typography>
        <WelderFields />
      </>
    );
  }
  const ordered = [...data.seams].sort((one, other) => one.turn - other.turn);
  const done = ordered.filter((seam) => seam.welded).length;
  const next = ordered.find((seam) => !seam.welded);
  const weldAll = async () => {
    for (const seam of ordered.filter((one) => !one.welded))
      await note({ deed: 'did', run, what: { act: 'weld', seam: seam.seam } });
  };
  // What is pointed at is told; else what is next.
  const shown = ordered.find((seam) => samePart(seam.part, selected)) ?? next ?? ordered[0];
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between' }}>
        <Typography variant='h1' component='h2'>
          {next ? 'Weld it' : 'All of it is welded'}
        </Typography>
        <Typography variant='body2'>
          {done} of {ordered.length} seams
        </Typography>
      </Box>
      <Typography variant='body2' color='textSecondary' sx={{ mb: 1 }}>
        {processNames[data.process]}
        {data.inside ? `, ${insideNames[data.inside]}` : ''} · {timeText(data.arc * 60)} of arc,{' '}
        {timeText(data.pauses * 60)} of cooling, about {`${data.hours.toFixed(1)}\u00a0h`}
      </Typography>
      <Lessons state={state} workup={workup} step='weld' />
      <Warnings warnings={data.warnings} unit={unit} />
      {shown && (
        <NextSeam
          seam={shown}
          isNext={shown === next}
          of={ordered.length}
          unit={unit}
          busy={isPending}
          onDone={(welded) =>
            void note({ deed: welded ? 'did' : 'did_not', run, what: { act: 'weld', seam: shown.seam } })
          }
        />
      )}
      {next && done < ordered.length - 1 && (
        <Button variant='text' disabled={isPending} onClick={() => void weldAll()} sx={{ mb: 0.5, p: 0 }}>
          All of it was welded elsewhere
        </Button>
      )}
      <SeamList seams={ordered} shown={shown} unit={unit} onSelect={(seam) => select(seam.part)} />
      <Fold name='Before the first arc' aside={`${data.before.length} things`} first={done === 0}>
        <Sentences all={data.before} unit={unit} />
        <Sentences all={data.cautions.map((text) => ({ mm: text, inch: text }))} unit={unit} caution />
      </Fold>
      <Fold name='What it pulls' aside={data.sections.length > 1 ? `${data.sections.length} sections` : ''}>
        <WeldSections sections={data.sections} unit={unit} />
      </Fold>
      {data.gas && (
        <GasRows
          gas={data.gas}
          sections={data.sections}
          unit={unit}
          onRead={(bar) => note({ deed: 'bottle', run, bar })}
        />
      )}
      {data.turner && <Turner turner={data.turner} job={state.id} workup={workup} unit={unit} />}
      <Fold name='When it is cold' aside={`${data.after.length} things`}>
        <Sentences all={data.after} unit={unit} />
      </Fold>
      <CouponLog tube={workup.decisions.tube} process={data.process} />
      <WelderFields />
      <TimeKeeper key={`weld ${run}`} job={state.id} workup={workup} step='weld' />
      <NoteLesson workup={workup} step='weld' />
    </>
  );
}
