import { Box, Button, Link as MuiLink, Typography } from '@mui/material';
import { Link } from 'react-router';
import type { JobLine } from '../api/generated/schema';
import { token } from '../theme';
import { DeleteButton } from './DeleteButton';
import { LittleRods } from './LittleRods';

interface Props {
  job: JobLine;
  onDelete: () => void;
  onRecover: () => void;
}

/** A job in the list; one that cannot be opened says why, and what is left of it can be had. */
export function JobRow({ job, onDelete, onRecover }: Props) {
  const { unreadable } = job;
  return (
    <Box
      component='li'
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 1.5,
        px: 2,
        py: 1.25,
        bgcolor: token.sheet,
        border: `1px solid ${token.hairline}`,
        borderLeft: unreadable ? `4px solid ${token.fouls}` : undefined,
        mb: '-1px',
      }}
    >
      <Box sx={{ flex: 1, minWidth: 0 }}>
        {unreadable ? (
          <Typography sx={{ fontSize: 18, fontWeight: 700 }}>{job.name}</Typography>
        ) : (
          <MuiLink
            component={Link}
            to={`/jobs/${job.id}`}
            underline='hover'
            sx={{ fontSize: 18, fontWeight: 700 }}
          >
            {job.name}
          </MuiLink>
        )}
        {unreadable && (
          <Typography variant='body2' sx={{ color: token.fouls }}>
            Cannot be opened. {unreadable.why}
          </Typography>
        )}
        {!unreadable && job.runs > 0 && <LittleRods job={job} />}
        <Typography variant='body2' color='textSecondary'>
          {job.runs === 1 ? '1 run' : `${job.runs} runs`}, changed {new Date(job.changed).toLocaleString()}
        </Typography>
      </Box>
      {unreadable?.damaged && (
        <Button
          variant='main'
          onClick={onRecover}
          aria-label={`Go back to the last sound state of ${job.name}`}
        >
          Go back to its last sound state
        </Button>
      )}
      <Button
        variant='outlined'
        href={`/api/jobs/${job.id}/${unreadable ? 'raw' : 'file'}`}
        aria-label={`Download ${job.name}`}
      >
        Download{unreadable && ' as kept'}
      </Button>
      <DeleteButton name={job.name} onDelete={onDelete} />
    </Box>
  );
}
