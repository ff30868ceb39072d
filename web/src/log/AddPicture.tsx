import { Box, Button, Typography } from '@mui/material';
import { useRef, useState } from 'react';
import { answered, asItIs, server, words } from '../api/client';
import type { RunSpent, WorkStep } from '../api/generated/schema';
import { useDeed } from '../api/record';
import { FileInput } from '../kit/FileInput';
import { NotDone } from '../kit/NotDone';
import { PlainField } from '../kit/PlainField';
import { RunAndStep } from './RunAndStep';

interface Props {
  job: number;
  runs: readonly RunSpent[];
}

/** A picture for the log: PNG or JPEG, kept by its content. */
export function AddPicture({ job, runs }: Props) {
  const { mutateAsync, isPending } = useDeed(job);
  const file = useRef<HTMLInputElement>(null);
  const [run, setRun] = useState(runs[0]?.run);
  const [step, setStep] = useState<WorkStep>('weld');
  const [note, setNote] = useState('');
  const [problem, setProblem] = useState<string>();
  const mine = runs.find((one) => one.run === run);
  if (!mine) return null;
  const add = async (picture: File) => {
    try {
      const { id } = await answered(server.POST('/api/pictures', asItIs(picture)));
      const said = note.trim() ? { note: note.trim() } : {};
      await mutateAsync({ deed: 'pictured', run: mine.run, step, picture: id, ...said });
      setNote('');
      setProblem(undefined);
    } catch (error) {
      setProblem(words(error));
    }
  };
  return (
    <Box component='section' aria-label='A picture' sx={{ mt: 2.5, display: 'grid', gap: 1 }}>
      <Typography variant='h2'>A picture</Typography>
      {problem && <NotDone problem={problem} onUnderstood={() => setProblem(undefined)} />}
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 108px', gap: 1, mt: 0.75 }}>
        <RunAndStep runs={runs} run={mine.run} step={step} onRun={setRun} onStep={setStep} />
      </Box>
      <PlainField label='What it shows' value={note} onChange={setNote} />
      <Button variant='outlined' disabled={isPending} onClick={() => file.current?.click()}>
        Choose a PNG or JPEG
      </Button>
      <FileInput ref={file} label='Picture' accept='image/png,image/jpeg' onFile={(one) => void add(one)} />
    </Box>
  );
}
