import { Box } from '@mui/material';
import type { Dash, Edit, HoseBuild, Material, Measure, RunId, Workup } from '../api/generated/schema';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import type { Drawing } from '../kit/useDrawing';
import { useLatest } from '../kit/useLatest';
import { buildNames, dashes, type HoseKind, hoseNames, options } from './names';
import { TubeChoice } from './TubeChoice';

interface Props {
  workup: Workup;
  drawing: Drawing;
}

/** What a run is built of: rigid tube, or a hose, with its size and stuff. */
export function BuiltOf({ workup, drawing }: Props) {
  const { run } = workup;
  const { hose, tube } = workup.decisions;
  const keep = (edit: Edit) => drawing.keep(edit);
  const changeTube = useLatest(tube, (to) => keep({ step: 'spec', edit: 'set_tube', run, tube: to }));
  return (
    <Box component='section' aria-label='Built of' sx={{ pt: 0.5 }}>
      <Choice
        label='Built of'
        width='100%'
        value={hose?.build ?? 'tube'}
        options={options(buildNames)}
        onChange={(kind) => keep(kind === 'tube' ? asTube(workup) : setHose(run, firstBuild(kind)))}
      />
      {hose ? (
        <HoseFields
          hose={hose}
          material={tube.material}
          bore={workup.hose?.bore}
          onChange={(change) =>
            keep({ step: 'spec', edit: 'set_hose', run, hose, ...change } as const satisfies Edit)
          }
        />
      ) : (
        <TubeChoice tube={tube} od={workup.od} wall={workup.wall} onChange={changeTube} />
      )}
    </Box>
  );
}

/** A hose as one is when nobody said more. */
function firstBuild(kind: Exclude<HoseKind, 'tube'>): HoseBuild {
  const fitting = { angle: 0, swivels: true };
  switch (kind) {
    case 'threaded':
      return { build: 'threaded', dash: '-6', fittings: [fitting, fitting] };
    case 'moulded':
      return { build: 'moulded', inserts: true };
    case 'corrugated':
      return { build: 'corrugated' };
  }
}

function setHose(run: RunId, hose: HoseBuild): Edit {
  return { step: 'spec', edit: 'set_hose', run, hose };
}

/** Tube as wide as the mouth at A, which a run that was hose begins with again. */
function asTube({ run, ends }: Workup): Edit {
  return {
    step: 'spec',
    edit: 'set_tube',
    run,
    tube: { material: 'stainless304l', od: ends[0].port_od.mm, wall: 1 },
  };
}

interface FieldsProps {
  hose: HoseBuild;
  material: Material;
  bore: Measure | undefined;
  onChange: (change: { hose?: HoseBuild; material?: Material; bore?: number }) => unknown;
}

function HoseFields({ hose, material, bore, onChange }: FieldsProps) {
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1, py: 1, pt: 1.75 }}>
      <Choice
        label='Of'
        width='100%'
        value={material in hoseNames ? (material as keyof typeof hoseNames) : 'ptfe'}
        options={options(hoseNames)}
        onChange={(to) => onChange({ material: to })}
      />
      {hose.build === 'threaded' ? (
        <Choice<Dash>
          label='Size'
          width='100%'
          value={hose.dash}
          options={dashes}
          onChange={(dash) => onChange({ hose: { ...hose, dash } })}
        />
      ) : (
        <LengthField label='Bore' width='100%' value={bore} onKeep={(mm) => onChange({ bore: mm })} />
      )}
    </Box>
  );
}
