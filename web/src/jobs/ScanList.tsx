import { Box, Typography } from '@mui/material';
import { words } from '../api/client';
import { useDeleteScan, useScans } from '../api/hooks';
import { token } from '../theme';
import { DeleteButton } from './DeleteButton';

/** The scans that are kept, and what room they take; one that no job leans on can go. */
export function ScanList() {
  const scans = useScans();
  const remove = useDeleteScan();
  if (!scans.data?.length) return null;
  const room = (bytes: number) =>
    bytes < 1e6 ? `${Math.ceil(bytes / 1e3)} kB` : `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`;
  const some = (count: number, what: string) => `${count.toLocaleString()} ${what}${count === 1 ? '' : 's'}`;
  return (
    <Box component='section' aria-labelledby='scans' sx={{ mt: 5 }}>
      <Typography id='scans' variant='h2' sx={{ mb: 1 }}>
        Scans kept here
      </Typography>
      {remove.error && (
        <Typography role='alert' sx={{ p: 1, mb: 1, bgcolor: token.foulsPaper, color: token.fouls }}>
          {words(remove.error)}
        </Typography>
      )}
      <Box component='ul' sx={{ listStyle: 'none', p: 0, m: 0 }}>
        {scans.data.map((scan) => (
          <Box
            component='li'
            key={scan.id}
            sx={{
              display: 'flex',
              alignItems: 'center',
              gap: 1.5,
              px: 2,
              py: 0.75,
              minHeight: 48,
              bgcolor: token.sheet,
              border: `1px solid ${token.hairline}`,
              mb: '-1px',
            }}
          >
            <Box sx={{ flex: 1, minWidth: 0, overflowWrap: 'anywhere' }}>
              <Typography component='span' sx={{ fontWeight: 700 }}>
                {scan.name}
              </Typography>{' '}
              <Typography component='span' variant='body2' color='textSecondary'>
                {some(scan.triangles, 'triangle')}, {room(scan.bytes)}, used by{' '}
                {scan.jobs === 0 ? 'no job' : some(scan.jobs, 'job')}
              </Typography>
            </Box>
            {scan.jobs === 0 && <DeleteButton name={scan.name} onDelete={() => remove.mutate(scan.id)} />}
          </Box>
        ))}
      </Box>
    </Box>
  );
}
