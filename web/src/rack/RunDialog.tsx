import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from '@mui/material';
import type { JobState } from '../api/generated/schema';
import { DeleteButton } from '../jobs/DeleteButton';
import { Choice } from '../kit/Choice';
import { NotDone } from '../kit/NotDone';
import type { Drawing } from '../kit/useDrawing';
import { NameField } from '../measure/NameField';

interface Props {
  state: JobState;
  run: number;
  drawing: Drawing;
  onPlace: (run: number, to: number) => void;
  onClose: () => void;
}

/** What a run is called, what is written on its metal, where it hangs, and whose twin it is. */
export function RunDialog({ state, run: id, drawing, onPlace, onClose }: Props) {
  const at = state.job.runs.findIndex((run) => run.id === id);
  const run = state.job.runs[at];
  if (!run) return null;
  const others = state.job.runs.filter((other) => other.id !== id);
  const remove = async () => {
    if (await drawing.keep({ step: 'job', edit: 'remove_run', run: id })) onClose();
  };
  return (
    <Dialog open onClose={onClose} maxWidth='xs' fullWidth aria-labelledby='run-title'>
      <DialogTitle id='run-title'>{run.name}</DialogTitle>
      <DialogContent>
        {drawing.problem && <NotDone problem={drawing.problem} onUnderstood={drawing.clearProblem} />}
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 110px', gap: 1.5, pt: 1 }}>
          <NameField
            label='Name of the run'
            value={run.name}
            onKeep={(name) => drawing.keep({ step: 'job', edit: 'rename_run', run: id, name })}
          />
          <NameField
            label='Mark'
            value={run.mark ?? ''}
            most={4}
            onKeep={(mark) =>
              drawing.keep({ step: 'job', edit: 'set_mark', run: id, mark: mark.toUpperCase() })
            }
          />
        </Box>
        <Typography variant='body2' color='textSecondary' sx={{ mt: 0.5, mb: 1.5 }}>
          The mark is scratched into every piece before its number: one or two letters are quickest.
        </Typography>
        <Choice
          label='Mirrored twin of'
          width='100%'
          value={run.twin == null ? '' : String(run.twin)}
          options={[['', 'No other run'], ...others.map((other) => [String(other.id), other.name] as const)]}
          onChange={(twin) =>
            void drawing.keep({
              step: 'route',
              edit: 'set_twin',
              // The one that is chosen stays as it is, and this one becomes its image.
              run: twin === '' ? id : Number(twin),
              twin: twin === '' ? null : id,
            })
          }
        />
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, mt: 2 }}>
          <Typography variant='body2' sx={{ mr: 'auto' }}>
            Place {at + 1} of {state.job.runs.length} on the rack
          </Typography>
          <Button variant='outlined' disabled={at === 0} onClick={() => onPlace(id, at - 1)}>
            Up
          </Button>
          <Button
            variant='outlined'
            disabled={at === state.job.runs.length - 1}
            onClick={() => onPlace(id, at + 1)}
          >
            Down
          </Button>
        </Box>
      </DialogContent>
      <DialogActions sx={{ px: 3, pb: 2, justifyContent: 'space-between' }}>
        <DeleteButton name={run.name} onDelete={() => void remove()} />
        <Button variant='contained' onClick={onClose}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
