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
  await expect(out.getByRole('status')).toHaveText('It comes out up, straight.', { timeout: 120_000 });
  await out.getByRole('button', { name: 'Show it' }).click();
  await expect(out.getByRole('button', { name: 'Put it back' })).toBeVisible();
  await noSeriousFaults(page);
  await out.getByRole('button', { name: 'Put it back' }).click();
  await expect(out.getByRole('button', { name: 'Put it back' })).toHaveCount(0);

  // What stops another is told, and how much is missing.
  await page.goto(`/jobs/${id}/runs/42/join`);
  await out.getByRole('button', { name: 'Try the pipe' }).click();
  await expect(out.getByRole('status')).toContainText('the down pipe stops it', { timeout: 120_000 });
  await expect(out.getByRole('status')).toContainText('less all round it would come out');

  // A search that takes its time is called off.
  await page.goto(`/jobs/${id}/runs/1/join`);
  await out.getByRole('button', { name: 'Try the pipe' }).click();
  await out.getByRole('button', { name: 'Call it off' }).click();
  await expect(out.getByRole('button', { name: 'Try the pipe' })).toBeVisible();

  // In parts that a bench holds: proposed, drawn and put in, and each part can be tried.
  const part = page.getByRole('region', { name: 'Where should it part' });
  await part.getByLabel('Longest part').fill('650');
  await part.getByLabel('Longest part').press('Enter');
  await part.getByRole('button', { name: 'Propose' }).click();
  await expect(part.getByRole('status')).toContainText('to part it', { timeout: 40_000 });
  const offers = part.getByRole('list', { name: 'Ways to part it' });
  await offers.getByRole('button', { name: 'Show it' }).first().click();
  await expect(offers.getByRole('button', { name: 'Put it back' })).toBeVisible();
  await noSeriousFaults(page);
  await offers.getByRole('button', { name: 'Part it' }).first().click();
  await expect(out.getByRole('button', { name: 'Try section 2' })).toBeVisible();

  // The whole vehicle's order, on the rack.
  await page.goto(`/jobs/${id}`);
  const whole = page.getByRole('region', { name: 'The whole vehicle' });
  await whole.getByRole('button', { name: 'In which order does it come apart?' }).click();
  const order = whole.getByRole('list', { name: 'What comes off, in turn' });
  await expect(order.getByRole('listitem').first()).toBeVisible({ timeout: 120_000 });
  await expect(whole.getByRole('list', { name: 'What stays' })).toContainText('the down pipe stops it');
  await noSeriousFaults(page);

  // The other journeys count the jobs there are.
  await page.request.delete(`/api/jobs/${id}`);
});
