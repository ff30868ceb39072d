import { Box, Button, Checkbox, FormControlLabel } from '@mui/material';
import type {
  BayWorkup,
  InstallState,
  JobState,
  KeepOutChange,
  KeepOutKind,
  KeepOutWorkup,
  Side,
} from '../api/generated/schema';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import { SetOut } from '../kit/SetOut';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';
import { Found } from './Found';
import { NameField } from './NameField';
import { kindNames, options, sideNames, standingNames } from './names';
import { QuickReading } from './QuickReading';
import { Readings } from './Readings';
import { ScanDetail } from './ScanDetail';
import { ShapeFields } from './ShapeFields';
import { SwingFields } from './SwingFields';

interface Props {
  state: JobState;
  bay: BayWorkup;
  keepOut: KeepOutWorkup;
  drawing: Drawing;
}

const kinds = ['tape', 'up', 'forward', 'left'] as const;

/** Everything about one thing in the way. */
export function KeepOutDetail({ state, bay, keepOut, drawing }: Props) {
  const kept = state.job.keep_outs.find((one) => one.id === keepOut.keep_out);
  if (!kept) return null;
  const change = (to: KeepOutChange) =>
    drawing.keep({ step: 'measure', edit: 'change_keep_out', keep_out: kept.id, to });
  const of = { of: 'keep_out', keep_out: kept.id } as const;
  const scanned = kept.shape.shape === 'scan';
  return (
    <Box sx={{ px: 1, pb: 1.25, borderLeft: `4px solid ${token.straw}`, bgcolor: token.paper }}>
      {!scanned && <Found found={keepOut.found} />}
      <Box sx={{ display: 'grid', gap: 1.25, mt: 1.25 }}>
        <NameField label='What it is' value={kept.name} onKeep={(name) => change({ set: 'name', name })} />
        <Box sx={{ display: 'grid', gridTemplateColumns: '1.5fr 1fr', gap: 1 }}>
          <Choice<KeepOutKind>
            label='Sort of thing'
            width='100%'
            value={kept.kind}
            options={options(kindNames)}
            onChange={(kind) => void change({ set: 'kind', kind })}
          />
          <Choice<Side>
            label='Rides on'
            width='100%'
            value={kept.rides}
            options={options(sideNames)}
            onChange={(rides) => void change({ set: 'rides', rides })}
          />
        </Box>
        <Box sx={{ display: 'grid', gridTemplateColumns: '112px 1fr', gap: 1, alignItems: 'center' }}>
          <LengthField
            label='Gap to a pipe'
            width='100%'
            value={keepOut.gap}
            onKeep={(mm) => change({ set: 'gap', gap: mm })}
          />
          <Box sx={{ fontSize: 13, color: token.inkSoft, lineHeight: 1.25 }}>
            {keepOut.gap_reason}
            {kept.gap != null && (
              <Button
                variant='text'
                onClick={() => void change({ set: 'gap', gap: null })}
                sx={{ p: 0, ml: 0.5, fontSize: 13, minWidth: 0 }}
              >
                Use the usual
              </Button>
            )}
          </Box>
        </Box>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1.5fr 1fr', gap: 1 }}>
          <Choice<InstallState>
            label='When it was measured it was'
            width='100%'
            value={kept.standing ?? 'in_place'}
            options={options(standingNames)}
            onChange={(standing) =>
              void drawing.keep({ step: 'measure', edit: 'set_standing', of, standing })
            }
          />
          <FormControlLabel
            control={
              <Checkbox
                size='small'
                checked={kept.big ?? false}
                onChange={(event) => void change({ set: 'big', big: event.target.checked })}
              />
            }
            label='Big box'
            sx={{ '& .MuiFormControlLabel-label': { fontSize: 14 } }}
          />
        </Box>
        <FormControlLabel
          control={
            <Checkbox
              size='small'
              checked={kept.comes_off ?? false}
              onChange={(event) => void change({ set: 'comes_off', comes_off: event.target.checked })}
            />
          }
          label='May be taken off first where a pipe does not come out past it'
          sx={{ '& .MuiFormControlLabel-label': { fontSize: 14, lineHeight: 1.25 } }}
        />
      </Box>
      {scanned ? (
        <ScanDetail bay={bay} kept={kept} keepOut={keepOut} drawing={drawing} />
      ) : (
        <ShapeFields
          shape={kept.shape}
          held={keepOut.found.place === 'readings'}
          onKeep={(shape) => change({ set: 'shape', shape })}
        />
      )}
      {!scanned && (
        <>
          <QuickReading
            state={state}
            of={of}
            kinds={kinds}
            bay={bay}
            drawing={drawing}
            self={`keep_out ${kept.id}`}
            spots={kept.shape.shape === 'box' ? 'corners' : undefined}
            suggested={keepOut.found.help?.taken}
          />
          <Readings of={of} readings={kept.readings ?? []} found={keepOut.found} drawing={drawing} />
        </>
      )}
      <SwingFields
        swing={kept.swing ?? undefined}
        at={keepOut.at}
        onKeep={(swing) => change({ set: 'swing', swing })}
      />
      <SetOut part={{ part: 'keep_out', keep_out: kept.id }} follows={bay} />
      <Button
        variant='text'
        onClick={() => void drawing.keep({ step: 'measure', edit: 'remove_keep_out', keep_out: kept.id })}
        sx={{ p: 0, mt: 1.25, color: token.fouls }}
      >
        Remove it
      </Button>
    </Box>
  );
}
