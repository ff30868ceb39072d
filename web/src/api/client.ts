import createClient from 'openapi-fetch';
import { authorHeader } from './author';
import type { Problem, paths } from './generated/schema';

/** The server, typed by its own description. */
export const server = createClient<paths>({ baseUrl: window.location.origin, headers: authorHeader });

/** A refusal or failure, as the server worded it. */
export class ServerProblem extends Error {
  readonly problem: Problem;

  constructor(problem: Problem) {
    super(problem.at && problem.at !== '.' ? `${problem.detail} (at ${problem.at})` : problem.detail);
    this.problem = problem;
  }
}

export const unreachable: Problem = {
  type: '/problems/unreachable',
  title: 'No answer',
  status: 0,
  detail: 'Nook Bend does not answer. Start it again; everything kept is still there.',
};

/** The data of an answer, or its problem thrown. */
export async function answered<T>(
  asked: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  const answer = await asked.catch(() => {
    throw new ServerProblem(unreachable);
  });
  if (!answer.response.ok) {
    const problem = answer.error as Problem | undefined;
    throw new ServerProblem(problem?.detail ? problem : { ...unreachable, detail: 'The server failed.' });
  }
  return answer.data as T;
}

/** What went wrong, in words. */
export function words(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}

/** A file as the body of a request, byte for byte: the server knows what spreadsheets write. */
export function asItIs(file: File) {
  return { body: file as unknown as string, bodySerializer: (body: unknown) => body as BodyInit };
}
