import { Box, Button, Menu, MenuItem } from '@mui/material';
import { useState } from 'react';
import type { BayWorkup, JobState, KeepOutKind, KeepOutShape, KeepOutWorkup } from '../api/generated/schema';
import { length, samePart, useBench } from '../kit/bench';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';
import { KeepOutDetail } from './KeepOutDetail';
import { ScanImport } from './ScanImport';
import { ThingRow } from './ThingRow';

interface Props {
  /** The big boxes, or everything else. */
  big: boolean;
  state: JobState;
  bay: BayWorkup;
  drawing: Drawing;
}

interface Start {
  name: string;
  kind: KeepOutKind;
  shape: KeepOutShape;
}

const box = (size: [number, number, number]): KeepOutShape => ({
  shape: 'box',
  centre: [0, 0, 0],
  size,
  heading: 0,
  pitch: 0,
});

/** What is offered first, at the size such things have; where it is, is for the builder to say. */
const boxes: readonly Start[] = [
  { name: 'radiator', kind: 'still_metal', shape: box([40, 650, 420]) },
  { name: 'charge cooler', kind: 'still_metal', shape: box([65, 600, 200]) },
  { name: 'condenser', kind: 'still_metal', shape: box([18, 600, 360]) },
  { name: 'engine', kind: 'still_metal', shape: box([500, 260, 420]) },
  { name: 'turbo', kind: 'hot', shape: box([180, 170, 170]) },
  { name: 'air filter', kind: 'still_metal', shape: box([180, 160, 160]) },
  { name: 'big box', kind: 'still_metal', shape: box([200, 200, 200]) },
];

const things: readonly Start[] = [
  { name: 'box', kind: 'still_metal', shape: box([120, 120, 120]) },
  {
    name: 'cylinder',
    kind: 'still_metal',
    shape: { shape: 'cylinder', from: [0, 0, 0], to: [0, 0, 150], diameter: 100 },
  },
  { name: 'ball', kind: 'live_terminal', shape: { shape: 'sphere', centre: [0, 0, 0], diameter: 40 } },
  {
    name: 'hose or cable',
    kind: 'hose_or_wire',
    shape: {
      shape: 'line',
      points: [
        [0, 0, 0],
        [150, 0, 0],
        [200, 80, 0],
      ],
      diameter: 16,
    },
  },
  {
    name: 'flat sheet',
    kind: 'bonnet',
    shape: { shape: 'plane', centre: [0, 0, 400], normal: [0, 0, -1], size: [900, 1200] },
  },
  {
    name: 'outline',
    kind: 'still_metal',
    shape: {
      shape: 'sheet',
      corners: [
        [0, 0, 0],
        [200, 0, 0],
        [200, 0, 100],
        [0, 0, 100],
      ],
    },
  },
];

/** What is in the way: the big boxes, or everything else. */
export function KeepOutStage({ big, state, bay, drawing }: Props) {
  const { unit, selected, select, selectMade } = useBench();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [importing, setImporting] = useState(false);
  const mine = bay.keep_outs.filter((keepOut) => keepOut.big === big);
  const chosen = mine.find((one) => samePart(selected, { part: 'keep_out', keep_out: one.keep_out }));

  async function add(start: Start) {
    setAnchor(null);
    const { name, kind, shape } = start;
    const made = await drawing.keep({
      step: 'measure',
      edit: 'add_keep_out',
      name,
      kind,
      rides: 'body',
      shape,
      big,
    });
    if (made) selectMade(made);
  }

  return (
    <>
      <Box
        role='group'
        aria-label={big ? 'Big boxes' : 'In the way'}
        sx={{ mx: -1, borderBottom: `1px solid ${token.hairline}` }}
      >
        {mine.map((keepOut) => (
          <Box key={keepOut.keep_out}>
            <ThingRow
              name={keepOut.name}
              aside={aside(keepOut, length(keepOut.gap, unit))}
              selected={keepOut === chosen}
              ghost={keepOut.standing !== 'in_place'}
              severity={worst(bay, keepOut)}
              onSelect={() => select({ part: 'keep_out', keep_out: keepOut.keep_out })}
            />
            {keepOut === chosen && (
              <KeepOutDetail
                key={keepOut.keep_out}
                state={state}
                bay={bay}
                keepOut={keepOut}
                drawing={drawing}
              />
            )}
          </Box>
        ))}
      </Box>
      <Box sx={{ display: 'flex', gap: 1, mt: 1.25 }}>
        <Button variant='contained' aria-haspopup='menu' onClick={(event) => setAnchor(event.currentTarget)}>
          {big ? 'Add a big box…' : 'Add…'}
        </Button>
        {!big && (
          <Button variant='outlined' onClick={() => setImporting(true)}>
            Bring in a scan…
          </Button>
        )}
      </Box>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {(big ? boxes : things).map((start) => (
          <MenuItem key={start.name} dense onClick={() => void add(start)}>
            {start.name[0]?.toUpperCase()}
            {start.name.slice(1)}
          </MenuItem>
        ))}
      </Menu>
      {importing && <ScanImport drawing={drawing} onClose={() => setImporting(false)} />}
    </>
  );
}

function aside(keepOut: KeepOutWorkup, gap: string): string {
  if (keepOut.standing === 'missing') return 'missing';
  if (keepOut.standing === 'mock_up') return 'mock-up';
  return `gap ${gap}`;
}

function worst(bay: BayWorkup, keepOut: KeepOutWorkup) {
  const place = { part: 'keep_out', keep_out: keepOut.keep_out } as const;
  return bay.findings.find((finding) => samePart(finding.part, place))?.severity;
}
