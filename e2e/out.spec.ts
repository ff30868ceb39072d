import { readFile } from 'node:fs/promises';
import { expect, noSeriousFaults, test } from './bench';

test('a pipe is taken out: the way is found, shown in the bay and put back, and what stops another is told', async ({
  page,
}) => {
  const file = await readFile(new URL('../demo/pellow-van.json', import.meta.url), 'utf8');
  const made = await page.request.post('/api/jobs/file', { data: file });
  const { id } = await made.json();
  await page.goto(`/jobs/${id}/runs/39/join`);
  const out = page.getByRole('region', { name: 'Does it come out' });
  await out.getByRole('button', { name: 'Try the pipe' }).click();
  await expect(out.getByRole('status')).toHaveText('It comes out up, straight.', { timeout: 30_000 });
  await out.getByRole('button', { name: 'Show it' }).click();
  await expect(out.getByRole('button', { name: 'Put it back' })).toBeVisible();
  await noSeriousFaults(page);
  await out.getByRole('button', { name: 'Put it back' }).click();
  await expect(out.getByRole('button', { name: 'Put it back' })).toHaveCount(0);

  // What stops another is told, and how much is missing.
  await page.goto(`/jobs/${id}/runs/42/join`);
  await out.getByRole('button', { name: 'Try the pipe' }).click();
  await expect(out.getByRole('status')).toContainText('the down pipe stops it', { timeout: 30_000 });
  await expect(out.getByRole('status')).toContainText('less all round it would come out');

  // The other journeys count the jobs there are.
  await page.request.delete(`/api/jobs/${id}`);
});
