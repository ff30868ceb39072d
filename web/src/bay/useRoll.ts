import { useEffect } from 'react';
import type { BayWorkup } from '../api/generated/schema';
import { useBench } from '../kit/bench';

/** Once to and fro, ms. */
const ROUND = 5000;

/** Rolls the engine to and fro once, as far as its mounts let it, and puts it back. */
export function useRoll(mounts: BayWorkup['mounts']) {
  const { playing, setPlaying, setRoll } = useBench();
  const [least = 0, most = 0] = mounts?.rolls ?? [];
  useEffect(() => {
    if (!playing) return;
    let frame = 0;
    const begun = performance.now();
    const turn = (now: number) => {
      const share = (now - begun) / ROUND;
      if (share >= 1) return setPlaying(false);
      const swing = Math.sin(2 * Math.PI * share);
      setRoll(swing >= 0 ? swing * most : -swing * least);
      frame = requestAnimationFrame(turn);
    };
    frame = requestAnimationFrame(turn);
    return () => cancelAnimationFrame(frame);
  }, [playing, least, most, setPlaying, setRoll]);
}
