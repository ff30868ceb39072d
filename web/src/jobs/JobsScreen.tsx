import { Box, Button, Container, Link as MuiLink, TextField, Typography } from '@mui/material';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { answered, server, words } from '../api/client';
import { jobsKey, useJobs } from '../api/hooks';
import { Head } from '../head/Head';
import { token } from '../theme';
import { JobRow } from './JobRow';
import { ScanList } from './ScanList';

/** All jobs: open one, begin one, take one in as a file or out again. */
export function JobsScreen() {
  const jobs = useJobs();
  const go = useNavigate();
  const cache = useQueryClient();
  const [name, setName] = useState('');
  const picker = useRef<HTMLInputElement>(null);
  const refresh = () => cache.invalidateQueries({ queryKey: jobsKey });
  const create = useMutation({
    mutationFn: () => answered(server.POST('/api/jobs', { body: { name } })),
    onSuccess: (state) => go(`/jobs/${state.id}`),
  });
  const upload = useMutation({
    mutationFn: (file: File) =>
      answered(
        server.POST('/api/jobs/file', {
          body: '',
          bodySerializer: () => file,
          headers: { 'Content-Type': 'application/octet-stream' },
        }),
      ),
    onSettled: refresh,
  });
  const remove = useMutation({
    mutationFn: (id: number) => answered(server.DELETE('/api/jobs/{id}', { params: { path: { id } } })),
    onSettled: refresh,
  });
  const recover = useMutation({
    mutationFn: (id: number) => answered(server.POST('/api/jobs/{id}/recover', { params: { path: { id } } })),
    onSettled: refresh,
  });
  const problem = create.error ?? upload.error ?? remove.error ?? recover.error ?? jobs.error;

  function submit(event: FormEvent) {
    event.preventDefault();
    if (name.trim()) create.mutate();
  }

  return (
    <>
      <Head />
      <Container component='main' maxWidth='md' sx={{ py: 4 }}>
        <Typography variant='h1' sx={{ mb: 0.5 }}>
          Jobs
        </Typography>
        <Typography color='textSecondary' sx={{ mb: 2 }}>
          One job for each vehicle: its ports, its pipes, what is in the way.
        </Typography>
        {problem && (
          <Typography role='alert' sx={{ p: 1, mb: 2, bgcolor: token.foulsPaper, color: token.fouls }}>
            {words(problem)}
          </Typography>
        )}
        {jobs.data?.length === 0 && (
          <Typography sx={{ p: 2, mb: 2, bgcolor: token.sheet, border: `1px solid ${token.hairline}` }}>
            No job yet. Name your vehicle below, or open a job file somebody gave you.
          </Typography>
        )}
        <Box component='ul' sx={{ listStyle: 'none', p: 0, m: 0, mb: 3 }}>
          {jobs.data?.map((job) => (
            <JobRow
              key={job.id}
              job={job}
              onDelete={() => remove.mutate(job.id)}
              onRecover={() => recover.mutate(job.id)}
            />
          ))}
        </Box>
        <Box component='form' onSubmit={submit} sx={{ display: 'flex', gap: 1, alignItems: 'flex-start' }}>
          <TextField
            label='Name of a new job'
            value={name}
            onChange={(event) => setName(event.target.value)}
            sx={{ width: 340 }}
            slotProps={{ inputLabel: { shrink: true }, htmlInput: { maxLength: 80, autoComplete: 'off' } }}
          />
          <Button
            type='submit'
            variant='main'
            disabled={!name.trim() || create.isPending}
            sx={{ height: 36 }}
          >
            Begin it
          </Button>
          <Box sx={{ flex: 1 }} />
          <Button variant='outlined' onClick={() => picker.current?.click()} sx={{ height: 36 }}>
            Open a job file…
          </Button>
          <input
            ref={picker}
            type='file'
            accept='.json,application/json'
            aria-label='Job file'
            hidden
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) upload.mutate(file);
              event.target.value = '';
            }}
          />
        </Box>
        <ScanList />
        <Typography variant='body2' color='textSecondary' sx={{ mt: 5 }}>
          Nook Bend plans and computes; it certifies nothing. Rules on changing vehicles differ by place, and
          an inspection may be required. For scripts: <MuiLink href='/docs/index.html'>the API</MuiLink>.
        </Typography>
      </Container>
    </>
  );
}
