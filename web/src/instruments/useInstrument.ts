import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { answered, server } from '../api/client';
import { follow } from '../api/events';
import type { Field, InstrumentNews } from '../api/generated/schema';

/** How the instruments are; none where the server was started without. */
export function useInstruments() {
  return useQuery({
    queryKey: ['instruments'],
    refetchInterval: 4000,
    queryFn: () => answered(server.GET('/api/instruments')),
  });
}

interface Ears {
  onTaken: (value: number, figures: readonly number[]) => void;
  /** A reading that is impossible here, or a line that was damaged on its way. */
  onRefused: (why: string) => void;
}

/** While `field` is given, the next reading of its instrument is for it, as with a cable or a radio. */
export function useInstrument(field: Field | undefined, ears: Ears) {
  const latest = useRef(ears);
  latest.current = ears;
  useEffect(() => {
    if (!field) return;
    const stop = new AbortController();
    void follow<InstrumentNews>(`/api/instruments/listen?field=${field}`, stop.signal, (news) => {
      if (news.is === 'taken') latest.current.onTaken(news.value, news.figures);
      if (news.is === 'refused') latest.current.onRefused(`Refused: ${news.why}.`);
      if (news.is === 'garbled')
        latest.current.onRefused(`A line from the ${news.instrument} was lost: ${news.why}. Press again.`);
    });
    return () => stop.abort();
  }, [field]);
}
