import { EventSourceParserStream } from 'eventsource-parser/stream';
import { authorHeader } from './author';
import { ServerProblem, unreachable } from './client';
import type { Problem } from './generated/schema';

/** What the server tells as events, one after the other; throws its problem when it refuses. */
export async function* events<T>(path: string, init: RequestInit = {}): AsyncGenerator<T> {
  const answer = await fetch(path, { ...init, headers: { ...authorHeader, ...init.headers } }).catch(() => {
    throw new ServerProblem(unreachable);
  });
  if (!answer.ok || !answer.body) {
    const problem = (await answer.json().catch(() => undefined)) as Problem | undefined;
    throw new ServerProblem(problem?.detail ? problem : unreachable);
  }
  const told = answer.body.pipeThrough(new TextDecoderStream()).pipeThrough(new EventSourceParserStream());
  const reader = told.getReader();
  try {
    for (;;) {
      const { done, value } = await reader.read();
      if (done) return;
      yield JSON.parse(value.data) as T;
    }
  } finally {
    await reader.cancel().catch(() => undefined);
  }
}

/** How long to wait before asking again, in ms. */
const AGAIN = 1000;

/** Listens for as long as the signal is not aborted, and asks again when the connection breaks. */
export async function follow<T>(path: string, signal: AbortSignal, tell: (news: T) => void): Promise<void> {
  while (!signal.aborted) {
    try {
      for await (const news of events<T>(path, { signal })) {
        if (signal.aborted) return;
        tell(news);
      }
    } catch (error) {
      // What is not there any more will not come back.
      if (error instanceof ServerProblem && error.problem.status === 404) return;
    }
    await new Promise((resolve) => setTimeout(resolve, AGAIN));
  }
}
