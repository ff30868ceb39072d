import { readFile } from 'node:fs/promises';
import { expect, noSeriousFaults, test } from './bench';

test('a bleed is let in where air stays, and a bung is put in, turned and moved, with its template', async ({
  page,
}) => {
  const file = await readFile(new URL('../demo/pellow-van.json', import.meta.url), 'utf8');
  const made = await page.request.post('/api/jobs/file', { data: file });
  const { id } = await made.json();
  await page.goto(`/jobs/${id}/runs/2/join`);
  const list = page.getByRole('region', { name: 'What is let in' });
  await expect(list).toContainText('bled');
  await list.getByRole('button', { name: /Bleed/ }).click();
  await page.getByRole('button', { name: 'Take it out' }).click();
  await expect(list).toContainText('air stays there');
  await list.getByRole('button', { name: 'Bleed it' }).click();
  await expect(list).toContainText('bled');

  await page.goto(`/jobs/${id}/runs/38/join`);
  await page.getByRole('button', { name: 'Pressure bung' }).click();
  const station = page.getByLabel('Station for the pressure bung');
  await station.fill('420');
  await station.press('Enter');
  await expect(page.getByRole('heading', { name: /^Pressure sensor bung on straight/ })).toBeVisible();
  await noSeriousFaults(page);
  const rod = page.getByRole('region', { name: 'Story rod' });
  await expect(rod.getByRole('button', { name: /^Pressure sensor bung.*90° from up/ })).toBeVisible();
  const clock = page.getByLabel('Clock of the branch');
  await clock.fill('30');
  await clock.press('Enter');
  await expect(rod.getByRole('button', { name: /^Pressure sensor bung.*30° from up/ })).toBeVisible();
  // As wide as the tube it cannot be, and says so; taken back it has a template again.
  const template = page.getByRole('link', { name: 'Template 1:1 (SVG)' });
  const od = page.getByLabel('Outside diameter of the branch');
  await od.fill('70');
  await od.press('Enter');
  await expect(page.getByText('too wide for it')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('too wide for it')).toHaveCount(0);
  const href = await template.getAttribute('href');
  const svg = await (await page.request.get(href ?? '')).text();
  expect(svg).toContain('id="hole"');
  expect(svg).toContain('id="cope"');
  await page.request.delete(`/api/jobs/${id}`);
});
