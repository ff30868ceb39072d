import { Box } from '@mui/material';
import { useEffect, useRef, useState } from 'react';
import type { JobLine } from '../api/generated/schema';
import { useRack } from '../api/hooks';
import { Counts } from '../rack/Counts';
import { RackStick, reachOf } from '../rack/RackStick';

/** Pixels the sticks of a job take beside each other at most. */
const WIDE = 480;
/** Pixels per millimetre at most, so that one short pipe is not blown up. */
const MOST = 0.16;
const HIGH = 20;

/** A job's runs as little sticks to one scale, and how much is wrong; worked out once it is seen. */
export function LittleRods({ job }: { job: JobLine }) {
  const box = useRef<HTMLDivElement>(null);
  const seen = useSeen(box);
  const rack = useRack(job.id, job.changed, seen);
  const rods = (rack.data?.runs ?? []).flatMap((run) => (run.rod ? [{ ...run, rod: run.rod }] : []));
  const length = rods.reduce((sum, run) => sum + reachOf(run.rod), 0);
  const perMm = Math.min(MOST, WIDE / Math.max(length, 1));
  return (
    <Box
      ref={box}
      sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 1, minHeight: HIGH + 4, py: 0.25 }}
    >
      {rods.map((run) => (
        <RackStick key={run.run} rod={run.rod} name={run.name} perMm={perMm} height={HIGH} small />
      ))}
      {rack.data && <Counts counts={rack.data.counts} />}
    </Box>
  );
}

/** Whether an element has been on the screen. */
function useSeen(of: React.RefObject<HTMLElement | null>): boolean {
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    if (!of.current || seen) return;
    const watch = new IntersectionObserver(([entry]) => entry?.isIntersecting && setSeen(true));
    watch.observe(of.current);
    return () => watch.disconnect();
  }, [of, seen]);
  return seen;
}
