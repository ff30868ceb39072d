import { Box, Button, IconButton, Typography } from '@mui/material';
import { useEffect } from 'react';
import type { BayWorkup, KeepOut, KeepOutWorkup, Matched, Scan, ScanUnit } from '../api/generated/schema';
import { useScans } from '../api/hooks';
import { length, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';
import { PointFields } from './PointFields';

interface Props {
  bay: BayWorkup;
  kept: KeepOut;
  keepOut: KeepOutWorkup;
  drawing: Drawing;
}

export const unitNames: Record<ScanUnit, string> = {
  mm: 'Millimetres',
  cm: 'Centimetres',
  m: 'Metres',
  in: 'Inches',
};

/** A scan's unit and the points that put it in place. */
export function ScanDetail({ bay, kept, keepOut, drawing }: Props) {
  const { unit, picking, picked, pickOn, pick } = useBench();
  const scan = kept.shape as Extract<KeepOut['shape'], { shape: 'scan' }>;
  const matched = scan.matched ?? [];
  const scans = useScans();
  const keep = (change: Partial<Scan>) =>
    drawing.keep({
      step: 'measure',
      edit: 'change_keep_out',
      keep_out: kept.id,
      to: { set: 'shape', shape: { ...scan, ...change } },
    });

  // biome-ignore lint/correctness/useExhaustiveDependencies: one picked point is taken once
  useEffect(() => {
    if (picked?.keepOut !== kept.id) return;
    pick(undefined);
    void keep({ matched: [...matched, { scan: picked.scan, to: { is: 'point', at: picked.at } }] });
  }, [picked]);

  const datums = bay.datums.map((datum) => [String(datum.datum), datum.name] as const);
  const setTo = (index: number, to: Matched['to']) =>
    keep({ matched: matched.map((one, at) => (at === index ? { ...one, to } : one)) });
  return (
    <Box sx={{ mt: 1.25 }}>
      <Choice<ScanUnit>
        label="Unit of the file's numbers"
        width='100%'
        value={scan.unit ?? 'mm'}
        options={Object.entries(unitNames) as [ScanUnit, string][]}
        onChange={(next) => void keep({ unit: next })}
      />
      {scans.data && !scans.data.some((one) => one.id === scan.scan) && (
        <Typography role='alert' variant='body2' sx={{ mt: 1, color: token.fouls }}>
          Its triangles are not here: this job came from elsewhere. Bring the scan's file in again.
        </Typography>
      )}
      <Typography variant='h3' component='h4' sx={{ mt: 1.25 }}>
        Matched points
      </Typography>
      <Typography variant='body2' color='textSecondary' sx={{ lineHeight: 1.3 }}>
        {keepOut.scan?.problem
          ? `Not in place yet: ${keepOut.scan.problem}.`
          : matched.length === 0
            ? 'It lies as its file says. Match three points or more to put it in place.'
            : 'Each with how far it ends from where it should be.'}
      </Typography>
      {matched.map((one, index) => (
        <Box
          // biome-ignore lint/suspicious/noArrayIndexKey: matched points are named by their place
          key={index}
          sx={{ borderTop: `1px solid ${token.hairline}`, mt: 0.75, pt: 0.75 }}
        >
          <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
            <Choice
              label={`Point ${index + 1} is at`}
              width={190}
              value={one.to.is === 'datum' ? String(one.to.datum) : 'typed'}
              options={[['typed', 'typed coordinates'], ...datums]}
              onChange={(next) =>
                void setTo(
                  index,
                  next === 'typed'
                    ? { is: 'point', at: placeOf(bay, one.to) }
                    : { is: 'datum', datum: Number(next) },
                )
              }
            />
            <Box sx={{ ml: 'auto', fontSize: 14, fontWeight: 700 }}>
              {keepOut.scan?.residuals[index] ? `off ${length(keepOut.scan.residuals[index], unit)}` : '–'}
            </Box>
            <IconButton
              aria-label={`Take out matched point ${index + 1}`}
              onClick={() => void keep({ matched: matched.filter((_, at) => at !== index) })}
              sx={{ p: '2px', fontSize: 16 }}
            >
              ×
            </IconButton>
          </Box>
          {one.to.is === 'point' && (
            <PointFields
              label={`point ${index + 1}`}
              at={one.to.at}
              onKeep={(at) => setTo(index, { is: 'point', at })}
            />
          )}
        </Box>
      ))}
      <Button
        variant={picking === kept.id ? 'contained' : 'outlined'}
        onClick={() => pickOn(picking === kept.id ? undefined : kept.id)}
        sx={{ mt: 1 }}
      >
        {picking === kept.id ? 'Now click the point on the scan' : 'Match a point…'}
      </Button>
    </Box>
  );
}

function placeOf(bay: BayWorkup, to: Matched['to']): [number, number, number] {
  if (to.is === 'point') return to.at;
  const datum = bay.datums.find((one) => one.datum === to.datum);
  return (datum?.at.map((c) => c.mm) ?? [0, 0, 0]) as [number, number, number];
}
