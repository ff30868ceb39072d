import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  TextField,
  Typography,
} from '@mui/material';
import { useRef, useState } from 'react';
import type { Duty, JobState, Measure, Port, RunDraft, Tube } from '../api/generated/schema';
import { lengthsRead } from '../api/hooks';
import { Choice } from '../kit/Choice';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';
import { MouthChoice } from './MouthChoice';
import { dutyNames, options } from './names';
import { type PortChange, PortFields } from './PortFields';
import { TubeChoice } from './TubeChoice';
import { useMeasures } from './useMeasures';

interface Props {
  state: JobState;
  open: boolean;
  drawing: Drawing;
  onClose: () => void;
  onAdded: (run: number) => void;
}

interface Gauge {
  heading: number;
  pitch: number;
}

const firstTube: Tube = { material: 'aluminium6061', od: 63.5, wall: 2 };

function firstPort(name: string, at: Port['at'], gauge: Gauge): Port {
  return { name, at, out: gauge, od: 63.5, form: 'beaded', rides: 'body' };
}

/** Says what a new pipe is and where its two ports are; a pipe is there at once. */
export function NewRunDialog({ state, open, drawing, onClose, onAdded }: Props) {
  const [name, setName] = useState('');
  const [duty, setDuty] = useState<Duty>('charge_hot');
  const [tube, setTube] = useState(firstTube);
  const [a, setA] = useState(() => firstPort('outlet', [0, 0, 0], { heading: 0, pitch: 0 }));
  const [b, setB] = useState(() => firstPort('inlet', [500, 250, 150], { heading: 180, pitch: 0 }));
  const measure = useMeasures([tube.od, tube.wall, ...a.at, a.od, ...b.at, b.od]);

  const form = useRef<HTMLDivElement>(null);
  const [unread, setUnread] = useState(false);
  const said = useRef<RunDraft>(undefined);
  const stubOf = (port: Port) => {
    const stub = drawing.bay?.stubs.find((one) => one.port === port);
    return stub ? { run: stub.run, branch: stub.branch } : null;
  };
  said.current = { name, duty, tube, a, b, stubs: { a: stubOf(a), b: stubOf(b) } };

  async function add() {
    // The last field may still be on its way to be read.
    await lengthsRead();
    const refused = form.current?.querySelector<HTMLElement>('[aria-invalid="true"]');
    setUnread(Boolean(refused));
    if (refused) return refused.focus();
    const made = said.current && (await drawing.keep({ step: 'job', edit: 'add_run', run: said.current }));
    if (!made) return;
    setName('');
    const run = made.find((part) => part.part === 'run');
    if (run?.part === 'run') onAdded(run.run);
  }

  const ports: [string, Port, (change: PortChange) => void][] = [
    ['A', a, setA],
    ['B', b, setB],
  ];
  return (
    <Dialog open={open} onClose={onClose} maxWidth='lg' fullWidth aria-labelledby='new-run-title'>
      <DialogTitle id='new-run-title' sx={{ pb: 0.5 }}>
        New run
      </DialogTitle>
      <DialogContent ref={form} sx={{ pb: 1 }}>
        <Typography variant='body2' color='textSecondary' sx={{ mb: 1.5 }}>
          A run is one pipe from mouth A to mouth B. Lengths are typed as you say them: 86, 3 3/8, 2.5in.
        </Typography>
        <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: 'repeat(3, 1fr)' }, gap: 3 }}>
          <Box component='section' aria-label='The run' sx={column}>
            <Typography variant='h3'>The run</Typography>
            <Box sx={{ display: 'grid', gap: 1, pt: 1.25 }}>
              <TextField
                label='Name of the run'
                value={name}
                autoFocus
                onChange={(event) => setName(event.target.value)}
                slotProps={{
                  inputLabel: { shrink: true },
                  htmlInput: { maxLength: 80, autoComplete: 'off' },
                }}
              />
              <Choice<Duty>
                label='Duty'
                width='100%'
                value={duty}
                options={options(dutyNames)}
                onChange={setDuty}
              />
            </Box>
            <TubeChoice tube={tube} od={measure(tube.od)} wall={measure(tube.wall)} onChange={setTube} />
            <Typography variant='body2' color='textSecondary'>
              Its pipe takes the best way round there is; everything can be changed afterwards.
            </Typography>
          </Box>
          {ports.map(([letter, port, set]) => (
            <Box key={letter} component='section' aria-label={`Port ${letter}`} sx={column}>
              <Typography variant='h3'>Mouth {letter}</Typography>
              <MouthChoice
                state={state}
                bay={drawing.bay}
                letter={letter}
                port={port}
                onPick={(to) => set(() => to)}
              />
              <PortFields
                letter={letter}
                port={port}
                at={port.at.map(measure) as (Measure | undefined)[]}
                od={measure(port.od)}
                out={port.out}
                onChange={set}
              />
            </Box>
          ))}
        </Box>
        {(unread || drawing.problem) && (
          <Typography role='alert' sx={{ mt: 1.5, p: 1, bgcolor: token.foulsPaper, color: token.fouls }}>
            {unread ? 'A field above cannot be read. Mend it first; nothing was added.' : drawing.problem}
          </Typography>
        )}
      </DialogContent>
      <DialogActions sx={{ px: 3, pb: 2 }}>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant='main' disabled={!name.trim()} onClick={() => void add()}>
          Add the run
        </Button>
      </DialogActions>
    </Dialog>
  );
}

const column = { borderTop: `2px solid ${token.ink}`, pt: 1 };
