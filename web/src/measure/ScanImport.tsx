import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  LinearProgress,
  Typography,
} from '@mui/material';
import { useRef, useState } from 'react';
import { words } from '../api/client';
import type { ScanNews, ScanStep, ScanUnit } from '../api/generated/schema';
import { bringIn } from '../api/scans';
import { useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';
import { unitNames } from './ScanDetail';

interface Props {
  drawing: Drawing;
  onClose: () => void;
}

const steps: Record<ScanStep, string> = {
  reading: 'Reading the file',
  joining: 'Making equal corners one',
  thinning: 'Making a light copy to draw',
  keeping: 'Putting it on disk',
};
const order = Object.keys(steps) as ScanStep[];

/** Brings a scanned or modelled part in, tells how far it is, and can be stopped. */
export function ScanImport({ drawing, onClose }: Props) {
  const selectMade = useBench((bench) => bench.selectMade);
  const [unit, setUnit] = useState<ScanUnit>('mm');
  const [file, setFile] = useState<File>();
  const [news, setNews] = useState<ScanNews>();
  const [problem, setProblem] = useState<string>();
  const stop = useRef<AbortController>(undefined);
  const working = news?.is === 'progress';

  async function begin() {
    if (!file) return;
    setProblem(undefined);
    setNews({ is: 'progress', step: 'reading', share: 0 });
    stop.current = new AbortController();
    try {
      const done = await bringIn(file, stop.current.signal, setNews);
      const name = file.name.replace(/\.[^.]+$/, '').slice(0, 80) || 'scan';
      const shape = { shape: 'scan', scan: done.id, unit, matched: [] } as const;
      const kept = await drawing.keep({
        step: 'measure',
        edit: 'add_keep_out',
        name,
        kind: 'still_metal',
        rides: 'body',
        shape: { ...shape, matched: [] },
      });
      if (kept) {
        selectMade(kept);
        onClose();
      }
    } catch (error) {
      setProblem(stop.current.signal.aborted ? 'Stopped. Nothing was kept.' : words(error));
    }
    setNews(undefined);
  }

  const close = () => {
    stop.current?.abort();
    onClose();
  };
  const at = news?.is === 'progress' ? order.indexOf(news.step) : 0;
  const share = news?.is === 'progress' ? ((at + news.share) / order.length) * 100 : 0;
  return (
    <Dialog open onClose={close} maxWidth='xs' fullWidth aria-labelledby='scan-title'>
      <DialogTitle id='scan-title'>Bring in a scan or a part</DialogTitle>
      <DialogContent>
        <Typography variant='body2' color='textSecondary' sx={{ mb: 1.5 }}>
          STL, OBJ or PLY, up to 2 million triangles. All of it is measured against; the screen shows a light
          copy.
        </Typography>
        <Box sx={{ display: 'grid', gap: 2, pt: 0.5 }}>
          <Button component='label' variant='outlined' sx={{ justifyContent: 'flex-start' }}>
            {file ? file.name : 'Choose a file…'}
            <input
              type='file'
              hidden
              accept='.stl,.obj,.ply'
              aria-label='Scan file'
              onChange={(event) => setFile(event.target.files?.[0])}
            />
          </Button>
          <Choice<ScanUnit>
            label="Unit of the file's numbers"
            width='100%'
            value={unit}
            options={Object.entries(unitNames) as [ScanUnit, string][]}
            onChange={setUnit}
          />
        </Box>
        {working && (
          <Box sx={{ mt: 2 }}>
            <LinearProgress variant='determinate' value={share} aria-label='How far the scan is' />
            <Typography variant='body2' sx={{ mt: 0.5 }}>
              {steps[news.step]}
            </Typography>
          </Box>
        )}
        {problem && (
          <Typography role='alert' sx={{ mt: 1.5, p: 1, bgcolor: token.foulsPaper, color: token.fouls }}>
            {problem}
          </Typography>
        )}
      </DialogContent>
      <DialogActions sx={{ px: 3, pb: 2 }}>
        <Button onClick={close}>{working ? 'Stop' : 'Cancel'}</Button>
        <Button variant='main' disabled={!file || working} onClick={() => void begin()}>
          Bring it in
        </Button>
      </DialogActions>
    </Dialog>
  );
}
