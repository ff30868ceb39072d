import { useEffect, useState } from 'react';

/** Keeps the screen awake while the page is looked at; whether it does. */
export function useWakeLock(): boolean {
  const [awake, setAwake] = useState(false);
  useEffect(() => {
    let lock: WakeLockSentinel | undefined;
    let gone = false;
    const take = async () => {
      if (document.visibilityState !== 'visible' || !('wakeLock' in navigator)) return;
      try {
        lock = await navigator.wakeLock.request('screen');
        if (gone) void lock.release();
        else setAwake(true);
      } catch {
        setAwake(false);
      }
    };
    void take();
    document.addEventListener('visibilitychange', take);
    return () => {
      gone = true;
      document.removeEventListener('visibilitychange', take);
      void lock?.release();
    };
  }, []);
  return awake;
}
