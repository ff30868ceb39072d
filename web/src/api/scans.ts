import { ServerProblem } from './client';
import type { ScanNews } from './generated/schema';

type Done = Extract<ScanNews, { is: 'done' }>;

/** Sends a scan file and follows the news of it until it is here; throws why it was not taken. */
export async function bringIn(
  file: File,
  signal: AbortSignal,
  onNews: (news: ScanNews) => void,
): Promise<Done> {
  const answer = await fetch(`/api/scans?name=${encodeURIComponent(file.name)}`, {
    method: 'POST',
    body: file,
    headers: { 'Content-Type': 'application/octet-stream' },
    signal,
  });
  if (!answer.ok || !answer.body) throw new Error('Nook Bend does not take the file.');
  const reader = answer.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = '';
  for (;;) {
    const { done, value } = await reader.read();
    if (done) throw new Error('Nook Bend stopped before the scan was in. Try again.');
    rest += value;
    // Events are parted by an empty line; each here is one line of data.
    const events = rest.split('\n\n');
    rest = events.pop() ?? '';
    for (const event of events) {
      const data = event.split('\n').find((line) => line.startsWith('data:'));
      if (!data) continue;
      const news = JSON.parse(data.slice(5)) as ScanNews;
      if (news.is === 'refused') throw new ServerProblem(news.problem);
      onNews(news);
      if (news.is === 'done') return news;
    }
  }
}
