import { Box, Button, Typography } from '@mui/material';
import type { EndWorkup, JobState, Workup } from '../api/generated/schema';
import { useBench } from '../kit/bench';
import { Findings } from '../kit/Findings';
import type { Drawing } from '../kit/useDrawing';
import { useLatest } from '../kit/useLatest';
import { token } from '../theme';
import { PortFields } from './PortFields';

interface Props {
  state: JobState;
  workup: Workup;
  drawing: Drawing;
  onNewRun: () => void;
}

/** The bench pad of the Measure step: where the two mouths are, and what stands in the way. */
export function MeasurePad({ state, workup, drawing, onNewRun }: Props) {
  const selected = useBench((bench) => bench.selected);
  const { run } = workup;
  return (
    <>
      <Typography variant='h1' component='h2'>
        Where the ports are
      </Typography>
      <Typography variant='body2' color='textSecondary' sx={{ mb: 0.5 }}>
        From the vehicle's zero, each along the way out of its mouth. Drag a port by its arrows in the bay, or
        type.
      </Typography>
      {workup.ends.map((end) => (
        <PortSection key={`${run} ${end.end}`} workup={workup} end={end} drawing={drawing} />
      ))}
      <Box sx={{ mt: 1.5 }}>
        <Findings findings={workup.findings} selected={selected} onMend={(edit) => void drawing.keep(edit)} />
      </Box>
      <Typography variant='h2' sx={{ mt: 1.5, mb: 0.5 }}>
        In the way
      </Typography>
      <Typography variant='body2' color='textSecondary'>
        {state.job.keep_outs.length === 0
          ? 'Nothing yet.'
          : state.job.keep_outs.map((keepOut) => keepOut.name).join(' · ')}
      </Typography>
      <Button variant='outlined' onClick={onNewRun} sx={{ mt: 1.5 }}>
        Add another run
      </Button>
    </>
  );
}

/** One port and its fields; the field that has the focus selects it in the bay. */
function PortSection({ workup, end, drawing }: { workup: Workup; end: EndWorkup; drawing: Drawing }) {
  const { selected, select } = useBench();
  const letter = end.end.toUpperCase();
  const mine = selected.part === 'end' && selected.end === end.end;
  const port = end.end === 'a' ? workup.decisions.a : workup.decisions.b;
  const change = useLatest(port, (next) =>
    drawing.keep({ edit: 'set_port', run: workup.run, end: end.end, port: next }),
  );
  return (
    <Box
      component='section'
      aria-label={`Port ${letter}`}
      onFocus={() => !mine && select({ part: 'end', end: end.end })}
      sx={{ borderLeft: `4px solid ${mine ? token.straw : token.hairline}`, pl: 1.25, mt: 1.25 }}
    >
      <Typography variant='h2' component='h3'>
        {letter} · {end.name}
      </Typography>
      <PortFields
        letter={letter}
        port={port}
        at={end.at}
        od={end.port_od}
        out={{ heading: end.heading, pitch: end.pitch }}
        live={{ heading: end.heading, pitch: end.pitch, vector: end.out }}
        onChange={change}
      />
    </Box>
  );
}
