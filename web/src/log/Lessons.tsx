import { Box, Button, IconButton, Typography } from '@mui/material';
import { useState } from 'react';
import type { JobState, WorkStep, Workup } from '../api/generated/schema';
import { useKeepSaying } from '../api/workshop';
import { Choice } from '../kit/Choice';
import { Fold } from '../kit/Fold';
import { NotDone } from '../kit/NotDone';
import { PlainField } from '../kit/PlainField';
import { token } from '../theme';
import { useLessons } from './useLog';

interface Props {
  state: JobState;
  workup: Workup;
  step: WorkStep;
}

/** What was learnt before and matters here. */
export function Lessons({ state, workup, step }: Props) {
  const all = useLessons(state, workup.run).filter((one) => one.lesson.step === step);
  const { keep, problem, understood } = useKeepSaying();
  if (all.length === 0) return null;
  return (
    <>
      {problem && <NotDone problem={problem} onUnderstood={understood} />}
      <Box
        component='ul'
        aria-label='Learnt before'
        sx={{ m: 0, mb: 1, p: 0, listStyle: 'none', borderLeft: `4px solid ${token.dye}` }}
      >
        {all.map(({ at, lesson }) => (
          <Box component='li' key={at} sx={{ display: 'flex', alignItems: 'center', gap: 0.5, pl: 1.25 }}>
            <Typography variant='body2' sx={{ flex: 1 }}>
              {lesson.text}
            </Typography>
            <IconButton
              size='small'
              aria-label={`Forget: ${lesson.text}`}
              onClick={() => void keep({ edit: 'remove_lesson', at })}
            >
              ×
            </IconButton>
          </Box>
        ))}
      </Box>
    </>
  );
}

/** A line to add to what was learnt. */
export function NoteLesson({ workup, step }: Omit<Props, 'state'>) {
  const { tube } = workup.decisions;
  const { keep, isPending, problem, understood } = useKeepSaying();
  const [text, setText] = useState('');
  const [about, setAbout] = useState<'any' | 'metal'>('any');
  const good = text.trim().length >= 3 && text.trim().length <= 300;
  const add = async () => {
    const material = about === 'metal' ? { material: tube.material } : {};
    if (await keep({ edit: 'add_lesson', lesson: { text: text.trim(), step, ...material } })) setText('');
  };
  return (
    <Fold name='What was learnt' label='Note a lesson' aside='it returns where it matters'>
      {problem && <NotDone problem={problem} onUnderstood={understood} />}
      <Box
        component='form'
        onSubmit={(event) => {
          event.preventDefault();
          if (good) void add();
        }}
        sx={{ display: 'grid', gap: 1.25, mt: 1.25, mb: 1 }}
      >
        <PlainField
          label='In a sentence'
          value={text}
          onChange={setText}
          placeholder='Bead it before it is welded'
        />
        <Box sx={{ display: 'flex', gap: 1 }}>
          <Choice
            label='It returns for'
            value={about}
            options={[
              ['any', 'every run'],
              ['metal', 'this metal'],
            ]}
            onChange={setAbout}
            width={150}
          />
          <Button type='submit' variant='outlined' disabled={!good || isPending} sx={{ flex: 1 }}>
            Keep it
          </Button>
        </Box>
      </Box>
    </Fold>
  );
}
