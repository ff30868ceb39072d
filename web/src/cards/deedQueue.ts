import { createStore, get, set } from 'idb-keyval';
import { useSyncExternalStore } from 'react';
import { author } from '../api/author';
import { answered, ServerProblem, server, words } from '../api/client';
import type { Deed, Done } from '../api/generated/schema';

/** A deed that the server has not got yet. */
export interface Waiting {
  job: number;
  deed: Deed;
  /** The stick it was done on, and what is left of that in mm; nothing where none is named. */
  stick?: { stick: number; left: number };
}

export interface QueueState {
  waiting: readonly Waiting[];
  /** Why nothing is sent: the server could not be reached last, or this device is not paired any more. */
  away: 'unreachable' | 'unpaired' | undefined;
  /** What the server refused last. */
  refused: string | undefined;
}

const KEPT = 'waiting';
/** How long until the server is tried again, in ms. */
const AGAIN = 4000;

let state: QueueState = { waiting: [], away: undefined, refused: undefined };
let loaded: Promise<void> | undefined;
let sending = false;
const watchers = new Set<() => void>();
const sent = new Set<(job: number) => void>();
/** Where what this device keeps is kept. */
export const store = typeof indexedDB === 'undefined' ? undefined : createStore('nook-bend', 'deeds');

function change(to: Partial<QueueState>) {
  state = { ...state, ...to };
  for (const watcher of watchers) watcher();
}

async function keep() {
  // A browser that keeps nothing still sends what it has while the page is open.
  if (store) await set(KEPT, state.waiting, store).catch(() => undefined);
}

function load(): Promise<void> {
  loaded ??= (async () => {
    const kept = store ? await get<Waiting[]>(KEPT, store).catch(() => undefined) : undefined;
    if (kept?.length) change({ waiting: [...kept, ...state.waiting] });
  })();
  return loaded;
}

function send({ job, deed, stick }: Waiting): Promise<unknown> {
  if (!stick)
    return answered(server.POST('/api/jobs/{id}/record', { params: { path: { id: job } }, body: deed }));
  const path = { id: job, stick: stick.stick };
  const body = { deed, left: stick.left };
  return answered(server.POST('/api/jobs/{id}/stock/sticks/{stick}/deeds', { params: { path }, body }));
}

/** Sends what waits, in its order, each again until the server has it: a deed has a name of its own and does no harm twice. */
export async function flush(): Promise<void> {
  if (sending) return;
  sending = true;
  try {
    await load();
    for (;;) {
      const first = state.waiting[0];
      if (!first) break;
      try {
        await send(first);
        change({ away: undefined });
      } catch (error) {
        const status = error instanceof ServerProblem ? error.problem.status : undefined;
        if (status === 0 || status === 401 || (status !== undefined && status >= 500)) {
          change({ away: status === 401 ? 'unpaired' : 'unreachable' });
          break;
        }
        change({ refused: words(error) });
      }
      change({ waiting: state.waiting.filter((one) => one.deed.id !== first.deed.id) });
      await keep();
      for (const tell of sent) tell(first.job);
    }
  } finally {
    sending = false;
  }
}

/** Notes that something was done: kept here until the server has it. */
export async function note(job: number, done: Done, stick?: Waiting['stick']): Promise<void> {
  await load();
  const deed: Deed = { id: crypto.randomUUID(), by: author, done };
  change({ waiting: [...state.waiting, { job, deed, ...(stick ? { stick } : {}) }], refused: undefined });
  await keep();
  void flush();
}

export const understood = () => change({ refused: undefined });

/** Calls back whenever a deed of a job has come to the server. */
export function whenSent(tell: (job: number) => void): () => void {
  sent.add(tell);
  return () => sent.delete(tell);
}

/** What waits, and whether the server is there. */
export function useQueue(): QueueState {
  return useSyncExternalStore(
    (watcher) => {
      watchers.add(watcher);
      void flush();
      const timer = setInterval(() => void (state.waiting.length > 0 && flush()), AGAIN);
      const online = () => void flush();
      window.addEventListener('online', online);
      return () => {
        watchers.delete(watcher);
        clearInterval(timer);
        window.removeEventListener('online', online);
      };
    },
    () => state,
  );
}
