import { ServerProblem } from './client';
import { events } from './events';
import type { ScanNews } from './generated/schema';

type Done = Extract<ScanNews, { is: 'done' }>;

/** Sends a scan file and follows the news of it until it is here; throws why it was not taken. */
export async function bringIn(
  file: File,
  signal: AbortSignal,
  onNews: (news: ScanNews) => void,
): Promise<Done> {
  const sent = {
    method: 'POST',
    body: file,
    headers: { 'Content-Type': 'application/octet-stream' },
    signal,
  };
  for await (const news of events<ScanNews>(`/api/scans?name=${encodeURIComponent(file.name)}`, sent)) {
    if (news.is === 'refused') throw new ServerProblem(news.problem);
    onNews(news);
    if (news.is === 'done') return news;
  }
  throw new Error('Nook Bend stopped before the scan was in. Try again.');
}
