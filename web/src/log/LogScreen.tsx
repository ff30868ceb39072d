import { Box, Button, Link, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { whoText } from '../api/author';
import type { JobState, LoggedDeed } from '../api/generated/schema';
import { useJobNews } from '../api/useJobNews';
import { Head } from '../head/Head';
import { rackAt, stepNames } from '../head/steps';
import { sentence, type Unit, useBench } from '../kit/bench';
import { ChangedElsewhere } from '../kit/ChangedElsewhere';
import { PlainField } from '../kit/PlainField';
import { useKeys } from '../kit/useKeys';
import { token } from '../theme';
import { Spent } from './Spent';
import { useLog } from './useLog';

/** So many lines are shown until more are asked for. */
const SHOWN = 100;

/** What was done on a job: searched, exported, and what it took beside what was planned. */
export function LogScreen({ state }: { state: JobState }) {
  const unit = useBench((bench) => bench.unit);
  const go = useNavigate();
  const others = useJobNews(state.id);
  const { data } = useLog(state);
  const [sought, setSought] = useState('');
  const [shown, setShown] = useState(SHOWN);
  useEffect(() => {
    document.title = `Log of ${state.job.name} · Nook Bend`;
  }, [state.job.name]);
  useKeys((event) => {
    if (event.key !== '0') return false;
    go(rackAt(state.id));
    return true;
  });
  // Lines are only ever added, the latest first: counted from the oldest each keeps its number. Two may say the same.
  const all = data?.lines ?? [];
  const numbered = all.map((line, at) => ({ ...line, number: all.length - at }));
  const lines = numbered.filter((line) => holds(line, sought, unit));
  return (
    <>
      <Head state={state} place='log' />
      <Box component='main' sx={{ px: { xs: 1.5, sm: 3 }, py: 1.5, maxWidth: 1280, mx: 'auto' }}>
        <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 2, mb: 1.5 }}>
          <Typography variant='h1'>The log</Typography>
          <Typography variant='body2' color='textSecondary'>
            {data?.lines.length ?? 0} entries{data && data.spoilt > 0 ? `, ${data.spoilt} pieces spoilt` : ''}
          </Typography>
          <Box sx={{ ml: 'auto', display: 'flex', gap: 2 }}>
            <Link href={`/api/jobs/${state.id}/log.csv`}>CSV</Link>
            <Link href={`/api/jobs/${state.id}/record`}>JSON</Link>
            <Link href={`/api/jobs/${state.id}/history.pdf`}>PDF</Link>
          </Box>
        </Box>
        <Box
          sx={{
            display: 'grid',
            gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 1fr) 420px' },
            gap: 4,
            alignItems: 'start',
          }}
        >
          <Box component='section' aria-label='Entries'>
            <Box sx={{ mb: 1.5, display: 'grid' }}>
              <PlainField
                label='Look for'
                value={sought}
                onChange={setSought}
                placeholder='welded, N4, Bench phone'
              />
            </Box>
            <Box component='ol' aria-label='What was done' sx={{ m: 0, p: 0, listStyle: 'none' }}>
              {lines.slice(0, shown).map((line) => (
                <Box
                  component='li'
                  key={line.number}
                  sx={{
                    display: 'grid',
                    gridTemplateColumns: { xs: 'auto 1fr auto', sm: '128px 64px minmax(0, 1fr) auto' },
                    columnGap: 1.5,
                    py: 0.5,
                    borderTop: `1px solid ${token.hairline}`,
                    fontSize: 15,
                  }}
                >
                  <Box component='span' sx={{ color: token.inkSoft, whiteSpace: 'nowrap' }}>
                    {when(line.at)}
                  </Box>
                  <Box component='span' sx={{ color: token.inkSoft }}>
                    {stepNames[line.step]}
                  </Box>
                  <Box
                    component='span'
                    sx={{ gridColumn: { xs: '1 / -1', sm: 'auto' }, order: { xs: 1, sm: 0 } }}
                  >
                    {sentence(line.words, unit)}
                    {line.picture != null && (
                      <Link href={`/api/pictures/${line.picture}`} sx={{ display: 'block', mt: 0.5 }}>
                        <Box
                          component='img'
                          src={`/api/pictures/${line.picture}`}
                          alt={sentence(line.words, unit)}
                          loading='lazy'
                          sx={{ maxWidth: 280, maxHeight: 200, display: 'block' }}
                        />
                      </Link>
                    )}
                  </Box>
                  <Box component='span' sx={{ color: token.inkSoft }}>
                    {whoText(line.who)}
                  </Box>
                </Box>
              ))}
            </Box>
            {data && lines.length === 0 && (
              <Typography variant='body2'>
                {data.lines.length === 0
                  ? 'Nothing was done yet. What is ticked on the bench cards, read at a fit, welded and checked stands here, and stays.'
                  : 'Nothing of what was done says that.'}
              </Typography>
            )}
            {lines.length > shown && (
              <Button variant='outlined' onClick={() => setShown(shown + 4 * SHOWN)} sx={{ mt: 1 }}>
                {lines.length - shown} earlier ones
              </Button>
            )}
          </Box>
          {data && <Spent job={state.id} log={data} />}
        </Box>
      </Box>
      <ChangedElsewhere news={others} />
    </>
  );
}

/** Every word that is sought, in any order. */
function holds(line: LoggedDeed, sought: string, unit: Unit): boolean {
  const text =
    `${when(line.at)} ${stepNames[line.step]} ${sentence(line.words, unit)} ${whoText(line.who)}`.toLowerCase();
  return sought
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}

/** Day and minute, where this device is. */
function when(at: string): string {
  const time = new Date(at);
  const two = (figure: number) => String(figure).padStart(2, '0');
  return `${time.getFullYear()}-${two(time.getMonth() + 1)}-${two(time.getDate())} ${two(time.getHours())}:${two(time.getMinutes())}`;
}
