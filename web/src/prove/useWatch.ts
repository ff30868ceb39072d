import { useEffect, useState } from 'react';
import { answered, server, words } from '../api/client';
import type { GaugeReading, TestKind, UnderTest } from '../api/generated/schema';
import { useInstrument, useInstruments } from '../instruments/useInstrument';

/** How often the gauge is asked, and how often what it showed is judged, in ms. */
const ASKED = 1000;
const JUDGED = 1500;

/** What a stand-in is shut in on. */
export interface ShutIn {
  bar: number;
  celsius: number;
  /** In bar a minute. */
  leak: number;
  /** In degrees a minute. */
  warms: number;
  /** How many times as fast as the clock its time goes. */
  faster: number;
}

const press = (instrument: string, aim: number[]) =>
  answered(server.POST('/api/instruments/press', { body: { instrument, aim } }));

/** Watches a pressure gauge: its readings since it was shut in, and how the test stands by them. */
export function useWatch(job: number, run: number, kind: TestKind) {
  const [watching, setWatching] = useState(false);
  const [readings, setReadings] = useState<GaugeReading[]>([]);
  const [judged, setJudged] = useState<UnderTest>();
  const [problem, setProblem] = useState<string>();
  const gauge = useInstruments().data?.find((one) => one.kind === 'manometer' && one.connected)?.name;

  const add = (reading: GaugeReading) =>
    setReadings((before) => {
      // A gauge that was shut in anew counts from nothing.
      const last = before.at(-1);
      return last && reading.seconds <= last.seconds ? [reading] : [...before, reading];
    });
  useInstrument(watching ? 'pressure' : undefined, {
    onTaken: (_, [seconds, bar, celsius]) => {
      if (seconds !== undefined && bar !== undefined && celsius !== undefined) add({ seconds, bar, celsius });
    },
    // A line that was lost is read again a second later.
    onRefused: () => undefined,
  });
  useEffect(() => {
    if (!watching || !gauge || judged?.verdict === 'pass' || judged?.verdict === 'fail') return;
    const timer = setInterval(() => void press(gauge, []).catch(() => undefined), ASKED);
    return () => clearInterval(timer);
  }, [watching, gauge, judged?.verdict]);
  const [asked, setAsked] = useState(0);
  useEffect(() => {
    if (!watching) return;
    const timer = setInterval(() => setAsked((before) => before + 1), JUDGED);
    return () => clearInterval(timer);
  }, [watching]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: judged now and again, not at every reading
  useEffect(() => {
    if (readings.length === 0) return;
    let gone = false;
    const ask = server.POST('/api/jobs/{id}/runs/{run}/prove/judge', {
      params: { path: { id: job, run } },
      body: { kind, readings },
    });
    answered(ask)
      .then((found) => !gone && setJudged(found))
      .catch((error) => !gone && setProblem(words(error)));
    return () => {
      gone = true;
    };
  }, [asked, watching, job, run, kind]);

  return {
    gauge,
    watching,
    readings,
    judged: readings.length > 0 ? judged : undefined,
    problem,
    clearProblem: () => setProblem(undefined),
    start: () => {
      setReadings([]);
      setJudged(undefined);
      setWatching(true);
    },
    stop: () => setWatching(false),
    /** A reading typed by hand. */
    add: (reading: GaugeReading) => {
      add(reading);
      setAsked((before) => before + 1);
    },
    shutIn: async ({ bar, celsius, leak, warms, faster }: ShutIn) => {
      if (!gauge) return;
      try {
        await press(gauge, [bar, celsius, leak, warms, faster]);
      } catch (error) {
        setProblem(words(error));
      }
    },
  };
}
