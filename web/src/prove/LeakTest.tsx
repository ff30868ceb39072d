import { Box, Button, Typography } from '@mui/material';
import { whoText } from '../api/author';
import type { TestDone, TestWorkup, Verdict } from '../api/generated/schema';
import { NotDone } from '../kit/NotDone';
import { token } from '../theme';
import { GaugeStandIn } from './GaugeStandIn';
import { PressurePlot } from './PressurePlot';
import { ReadByEye } from './ReadByEye';
import { useWatch } from './useWatch';

interface Props {
  job: number;
  run: number;
  test: TestWorkup;
  onNote: (test: TestDone) => Promise<boolean>;
}

/** A word, a shape and a colour for each verdict. */
export const looks: Record<
  Verdict,
  { word: string; shape: string; ink: string; paper: string; edge: string }
> = {
  pass: { word: 'Pass', shape: '✓', ink: token.ink, paper: token.sheet, edge: token.dye },
  fail: { word: 'Fail', shape: '■', ink: token.fouls, paper: token.foulsPaper, edge: token.fouls },
  wait: { word: 'Wait', shape: '…', ink: token.ink, paper: token.strawPaper, edge: token.straw },
};

/** Whether it is tight: shut in, watched, and judged as soon as that is sure. */
export function LeakTest({ job, run, test, onNote }: Props) {
  const watch = useWatch(job, run, test.kind);
  const { judged, readings } = watch;
  const decided = judged && judged.verdict !== 'wait' && !judged.refused;
  const { last } = test;
  const now = readings.at(-1);
  const note = async () => {
    const kept = await onNote({ kind: test.kind, bar: test.bar, of: test.of, readings: [...readings] });
    if (kept) watch.stop();
  };
  return (
    <Box component='section' aria-label='Leak test' sx={{ mb: 1.5 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between', gap: 1 }}>
        <Typography variant='h2' component='h3'>
          {test.kind === 'air' ? 'Leak test with air' : 'Pressure test, cold, with liquid'}
        </Typography>
        <Box sx={{ fontSize: 20, fontWeight: 700, whiteSpace: 'nowrap' }}>{test.bar.toFixed(2)} bar</Box>
      </Box>
      <Typography variant='body2' color='textSecondary'>
        Never more than {test.never.toFixed(2)}: {test.limited_by}.
      </Typography>
      {last && !watch.watching && (
        <Said
          verdict={last.changed.length > 0 ? 'wait' : last.verdict}
          words={
            last.changed.length > 0
              ? `Void: since then ${last.changed.join(' and ')} changed. Test it again.`
              : `${last.words} Noted by ${whoText(last.who)}.`
          }
          void_={last.changed.length > 0}
        />
      )}
      {watch.problem && <NotDone problem={watch.problem} onUnderstood={watch.clearProblem} />}
      {watch.watching ? (
        <>
          <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', mt: 0.5 }} aria-live='off'>
            <Box sx={{ fontSize: 30, fontWeight: 700 }}>{now ? now.bar.toFixed(3) : '–'} bar</Box>
            <Box sx={{ fontSize: 18 }}>{now ? `${now.celsius.toFixed(1)} °C` : ''}</Box>
            <Box sx={{ fontSize: 18, ml: 'auto' }}>{now ? clock(now.seconds) : ''}</Box>
          </Box>
          {judged ? (
            <Said verdict={judged.refused ? 'fail' : judged.verdict} words={judged.words} />
          ) : (
            <Said verdict='wait' words='Shut the supply off; the first readings come then.' />
          )}
          <PressurePlot
            readings={readings}
            label={
              now
                ? `${readings.length} readings, ${now.bar.toFixed(3)} bar after ${clock(now.seconds)}`
                : 'No readings yet'
            }
          />
          <Box sx={{ display: 'flex', gap: 1, mb: 1 }}>
            <Button variant='main' disabled={!decided} onClick={() => void note()} sx={{ flex: 1 }}>
              Note the result
            </Button>
            <Button variant='outlined' onClick={watch.stop}>
              Break it off
            </Button>
          </Box>
          {watch.gauge ? (
            <GaugeStandIn bar={test.bar} onShutIn={watch.shutIn} />
          ) : (
            <Typography variant='body2' color='textSecondary'>
              No pressure gauge answers: read one by eye.
            </Typography>
          )}
          <ReadByEye from={now} onRead={watch.add} />
        </>
      ) : (
        <>
          <Box component='ol' sx={{ m: 0, my: 0.75, pl: 2.5, fontSize: 14, lineHeight: 1.4 }}>
            {test.steps.map((step) => (
              <li key={step}>{step}.</li>
            ))}
          </Box>
          <Button variant={last?.verdict === 'pass' ? 'outlined' : 'main'} fullWidth onClick={watch.start}>
            Watch the gauge
          </Button>
        </>
      )}
    </Box>
  );
}

/** Minutes and seconds. */
function clock(seconds: number): string {
  const whole = Math.round(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}

function Said({ verdict, words, void_ = false }: { verdict: Verdict; words: string; void_?: boolean }) {
  const { word, shape, ink, paper, edge } = looks[verdict];
  return (
    <Box
      role='status'
      sx={{ my: 0.75, px: 1.25, py: 0.5, bgcolor: paper, borderLeft: `4px solid ${edge}`, color: ink }}
    >
      <Typography variant='body2'>
        <strong>{void_ ? '▲ Void' : `${shape} ${word}`}</strong> {words}
      </Typography>
    </Box>
  );
}
