import { useEffect, useState } from 'react';

/** Beats in one turn: one for every handle's width of a crank's circle. */
export const BEATS = 8;
const TICK = { seconds: 0.06, low: 660, high: 990, loud: 0.4 };

/** A beat that is heard under a helmet: so many to a turn, the first of each higher. */
export function useBeat(secondsPerTurn: number) {
  const [on, setOn] = useState(false);
  useEffect(() => {
    if (!on) return;
    const audio = new AudioContext();
    const every = secondsPerTurn / BEATS;
    let next = audio.currentTime + 0.1;
    let beat = 0;
    // Beats are laid out ahead of time: a timer alone would limp.
    const lay = () => {
      while (next < audio.currentTime + 1) {
        const sound = audio.createOscillator();
        const loud = audio.createGain();
        sound.frequency.value = beat % BEATS === 0 ? TICK.high : TICK.low;
        loud.gain.value = TICK.loud;
        sound.connect(loud).connect(audio.destination);
        sound.start(next);
        sound.stop(next + TICK.seconds);
        next += every;
        beat += 1;
      }
    };
    lay();
    const timer = setInterval(lay, 250);
    return () => {
      clearInterval(timer);
      void audio.close();
    };
  }, [on, secondsPerTurn]);
  return { on, toggle: () => setOn(!on) };
}
