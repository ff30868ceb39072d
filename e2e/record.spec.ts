import { readFile } from 'node:fs/promises';
import { expect, noSeriousFaults, test } from './bench';

test('a piece that is cut keeps its name through edit and undo, and the saw is the workshop\u2019s', async ({
  page,
}) => {
  const file = await readFile(new URL('../demo/pellow-van.json', import.meta.url), 'utf8');
  const made = await page.request.post('/api/jobs/file', { data: file });
  const { id } = await made.json();
  await page.goto(`/jobs/${id}/runs/1/cut`);
  const list = page.getByRole('table', { name: 'Cut list' });
  const cut = (name: string) => list.getByRole('checkbox', { name: `${name} is cut` });
  await cut('H3').click();
  await expect(cut('H3')).toBeChecked();
  await noSeriousFaults(page);

  // Another mark: what is cut is called as it is marked, the others anew; undo takes the mark back and not the cut.
  const state = await (await page.request.get(`/api/jobs/${id}`)).json();
  const mark = { step: 'job', edit: 'set_mark', run: 1, mark: 'QX' };
  const header = { 'If-Match': `"${state.revision}"` };
  expect((await page.request.post(`/api/jobs/${id}/edits`, { data: mark, headers: header })).ok()).toBe(true);
  await expect(cut('QX1')).toBeVisible();
  await expect(cut('H3')).toBeChecked();
  await cut('H3').click();
  await expect(cut('QX3')).not.toBeChecked();

  // Cut, and then wanted otherwise: the cut list says so, until the piece is set aside.
  await cut('QX2').click();
  await expect(cut('QX2')).toBeChecked();
  const now = await (await page.request.get(`/api/jobs/${id}`)).json();
  const route = { step: 'route', edit: 'set_radius', run: 1, radius: 80 };
  const ifNow = { 'If-Match': `"${now.revision}"` };
  expect((await page.request.post(`/api/jobs/${id}/edits`, { data: route, headers: ifNow })).ok()).toBe(true);
  const told = page.getByRole('region', { name: 'Findings' });
  await expect(told).toContainText(/QX2 is cut .* the pipe now wants/);
  await told.getByRole('button', { name: 'Set it aside' }).click();
  await expect(told).toHaveCount(0);
  await expect(cut('QX2')).not.toBeChecked();

  // A new blade: this job is made with it, and so is the next one.
  const kerf = page.getByRole('textbox', { name: 'Kerf of the saw' });
  await kerf.fill('1/16 in');
  await kerf.press('Enter');
  await expect(kerf).toHaveValue('1.6');
  const workshop = await (await page.request.get('/api/workshop')).json();
  expect(workshop.workshop.saws[0].kerf).toBeCloseTo(1.5875, 6);
  const next = await (await page.request.post('/api/jobs', { data: { name: 'Next van' } })).json();
  expect(next.job.saw.kerf).toBeCloseTo(1.5875, 6);

  // Another job, made with the old blade, says that the saw is another now.
  const other = await (await page.request.post('/api/jobs/file', { data: file })).json();
  await page.goto(`/jobs/${other.id}/runs/1/cut`);
  await page.getByRole('button', { name: /Cold saw now cuts 1\.6 mm: use it here/ }).click();
  await expect(page.getByRole('textbox', { name: 'Kerf of the saw' })).toHaveValue('1.6');
});
