import { del, get, set } from 'idb-keyval';
import { useEffect, useState } from 'react';
import type { StickDeck } from '../api/generated/schema';
import { store } from './deedQueue';

/** A stick that was begun: its cards as they were then, and which of them are done. */
export interface StickInHand {
  deck: StickDeck;
  done: boolean[];
  /** The job's revision when it was begun. */
  revision: number;
}

/** What of a stick is begun on this device: nothing yet known (undefined), not begun (null), or its cards. */
export function useStickInHand(job: number, stick: number) {
  const [hand, setHand] = useState<StickInHand | null>();
  const key = `stick ${job} ${stick}`;
  useEffect(() => {
    let gone = false;
    const kept = store ? get<StickInHand>(key, store).catch(() => undefined) : Promise.resolve(undefined);
    void kept.then((found) => !gone && setHand(found ?? null));
    return () => {
      gone = true;
    };
  }, [key]);
  const take = (now: StickInHand) => {
    setHand(now);
    // A browser that keeps nothing still has it while the page is open.
    if (store) void set(key, now, store).catch(() => undefined);
  };
  const letGo = () => {
    setHand(null);
    if (store) void del(key, store).catch(() => undefined);
  };
  return { hand, take, letGo };
}
