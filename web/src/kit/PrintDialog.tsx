import {
  Box,
  Button,
  Checkbox,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  FormControlLabel,
  Typography,
} from '@mui/material';
import { useState } from 'react';
import { words } from '../api/client';
import type { Paper, SheetKind, WorkshopEdit } from '../api/generated/schema';
import { useKeepWorkshop, useWorkshop } from '../api/workshop';
import { token } from '../theme';
import { useBench } from './bench';
import { Choice } from './Choice';
import { NotDone } from './NotDone';
import { NumberField } from './NumberField';
import { PlainField } from './PlainField';
import { Row } from './Row';

type Sheet = readonly [SheetKind, string];

const ofRun: Sheet[] = [
  ['run', 'Run sheet with views'],
  ['cuts', 'Cut list'],
  ['bending', 'Bending table'],
  ['welding', 'Welder’s sheet'],
  ['joints', 'Joints, supports and what is let in'],
  ['templates', 'Templates at true scale'],
  ['plates', 'Plates and tabs at true scale'],
  ['set_out', 'Set out on the car'],
  ['jig', 'Bench jig at true scale: many pages'],
];
const ofVehicle: Sheet[] = [
  ['buying', 'To buy'],
  ['sticks', 'Cuts by stick'],
  ...ofRun.filter(([sheet]) => sheet !== 'cuts'),
];

/** What was chosen last on this device. */
const KEPT = 'nook-bend printing';

interface Kept {
  paper: Paper;
  printer?: number;
  without: SheetKind[];
}

function kept(): Kept {
  try {
    const { paper, printer, without } = JSON.parse(localStorage.getItem(KEPT) ?? '{}');
    return {
      paper: paper === 'letter' ? 'letter' : 'a4',
      ...(Number.isInteger(printer) ? { printer } : {}),
      without: Array.isArray(without) ? without : ['jig'],
    };
  } catch {
    return { paper: 'a4', without: ['jig'] };
  }
}

interface Props {
  job: number;
  /** The run that is printed; the whole vehicle where there is none. */
  run?: number;
  open: boolean;
  onClose: () => void;
}

/** What is printed, on which paper, by which printer; the packet opens as a PDF. */
export function PrintDialog({ job, run, open, onClose }: Props) {
  const unit = useBench((bench) => bench.unit);
  const { data } = useWorkshop();
  const { mutateAsync } = useKeepWorkshop();
  const [how, setHow] = useState(kept);
  const [name, setName] = useState('');
  const [problem, setProblem] = useState<string>();
  const sheets = run === undefined ? ofVehicle : ofRun;
  const printers = data?.workshop.printers ?? [];
  const printer = printers.find((one) => one.id === how.printer);
  const change = (to: Partial<Kept>) => {
    const next = { ...how, ...to };
    setHow(next);
    localStorage.setItem(KEPT, JSON.stringify(next));
  };
  const keep = async (edit: WorkshopEdit) => {
    try {
      setProblem(undefined);
      return await mutateAsync(edit);
    } catch (error) {
      setProblem(words(error));
      return undefined;
    }
  };
  const add = async () => {
    const state = await keep({ edit: 'add_printer', name: name.trim() });
    const made = state?.workshop.printers?.at(-1);
    if (made) {
      setName('');
      change({ printer: made.id });
    }
  };
  const chosen = sheets.map(([sheet]) => sheet).filter((sheet) => !how.without.includes(sheet));
  const asked = new URLSearchParams({ paper: how.paper, unit, sheets: chosen.join(',') });
  if (printer) asked.set('printer', String(printer.id));
  const base = run === undefined ? `/api/jobs/${job}` : `/api/jobs/${job}/runs/${run}`;
  return (
    <Dialog open={open} onClose={onClose} aria-labelledby='print-title' fullWidth maxWidth='sm'>
      <DialogTitle id='print-title'>{run === undefined ? 'Print the vehicle' : 'Print the run'}</DialogTitle>
      <DialogContent>
        {problem && <NotDone problem={problem} onUnderstood={() => setProblem(undefined)} />}
        <Box
          role='group'
          aria-label='Sheets'
          sx={{ display: 'grid', gridTemplateColumns: { sm: '1fr 1fr' } }}
        >
          {sheets.map(([sheet, text]) => (
            <FormControlLabel
              key={sheet}
              label={text}
              control={
                <Checkbox
                  checked={chosen.includes(sheet)}
                  onChange={(_, on) =>
                    change({
                      without: on
                        ? how.without.filter((one) => one !== sheet)
                        : [...how.without.filter((one) => one !== sheet), sheet],
                    })
                  }
                />
              }
            />
          ))}
        </Box>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 2fr', gap: 1.5, mt: 2 }}>
          <Choice
            label='Paper'
            width='100%'
            value={how.paper}
            options={[
              ['a4', 'A4'],
              ['letter', 'Letter'],
            ]}
            onChange={(paper) => change({ paper: paper === 'letter' ? 'letter' : 'a4' })}
          />
          <Choice
            label='Printer'
            width='100%'
            value={printer ? String(printer.id) : ''}
            options={[['', 'Not said'], ...printers.map((one) => [String(one.id), one.name] as const)]}
            onChange={(id) => setHow({ ...how, printer: Number(id) || undefined } as Kept)}
          />
          <PlainField label='Another printer' value={name} onChange={setName} />
          <Button variant='outlined' disabled={!name.trim()} onClick={() => void add()}>
            Add it
          </Button>
        </Box>
        {printer && (
          <Row
            name='Its 100 mm bar'
            aside={
              printer.bar == null
                ? 'not measured: print a page, measure the bar, type it'
                : printer.bar === 100
                  ? 'true'
                  : 'the drawings are made as much larger or smaller'
            }
          >
            <NumberField
              label='The 100 mm bar measures'
              hideLabel
              unit='mm'
              width={110}
              value={printer.bar ?? 100}
              onKeep={(bar) => keep({ edit: 'set_printed_bar', printer: printer.id, bar })}
            />
          </Row>
        )}
        <Typography variant='body2' sx={{ mt: 1.5, color: token.inkSoft }}>
          Print at 100 %, not fitted to the page. Every page has a bar of 100 mm and one of 4 in to check it
          by.
        </Typography>
      </DialogContent>
      <DialogActions sx={{ px: 3, pb: 2 }}>
        <Button onClick={onClose}>Close</Button>
        <Button
          variant='contained'
          disabled={chosen.length === 0}
          href={`${base}/packet.pdf?${asked}`}
          target='_blank'
          rel='noopener'
        >
          Open the PDF
        </Button>
      </DialogActions>
    </Dialog>
  );
}
