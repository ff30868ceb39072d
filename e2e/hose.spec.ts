import { readFile } from 'node:fs/promises';
import { expect, noSeriousFaults, test } from './bench';

test('a hose is given other fittings, cut, and built of moulded pieces and tube again', async ({ page }) => {
  const file = await readFile(new URL('../demo/pellow-van.json', import.meta.url), 'utf8');
  const made = await page.request.post('/api/jobs/file', { data: file });
  const { id } = await made.json();
  const job = JSON.parse(file).job;
  const called = (name: string) => job.runs.find((run: { name: string }) => run.name === name).id;

  await page.goto(`/jobs/${id}/runs/${called('Oil cooler hose')}/join`);
  const parts = page.getByRole('region', { name: 'Made up of' });
  await expect(parts).toContainText('-10 fitting of 90°');
  await expect(parts).toContainText('Neither swivels');
  const rod = page.getByRole('region', { name: 'Story rod' });
  await rod
    .getByRole('button', { name: /^Joint A|^End A|^A,/ })
    .first()
    .click();
  await page.getByRole('combobox', { name: 'Fitting at A' }).click();
  await page.getByRole('option', { name: '60°' }).click();
  const clock = page.getByLabel('Clock of the fitting at A');
  await clock.fill('120');
  await clock.press('Enter');
  await page.getByLabel('The fitting at A swivels').click();
  await expect(page.getByText('do not clock it at the vice')).toBeVisible();
  await noSeriousFaults(page);
  await page.getByRole('button', { name: 'All that joins and holds it' }).click();
  await expect(parts).toContainText('-10 fitting of 60°, swivelling');

  await page.goto(`/jobs/${id}/runs/${called('Oil cooler hose')}/cut`);
  await expect(page.getByText('between its cut ends')).toBeVisible();
  const href = await page.getByRole('link', { name: 'Hose, CSV' }).getAttribute('href');
  expect(await (await page.request.get(href ?? '')).text()).toContain('fitting of 60');
  await noSeriousFaults(page);

  await page.goto(`/jobs/${id}/runs/${called('Header hose')}/route`);
  await page.getByRole('combobox', { name: 'Built of' }).click();
  await page.getByRole('option', { name: 'Corrugated hose' }).click();
  await expect(rod).toContainText('of hose along');
  await page.goto(`/jobs/${id}/runs/${called('Header hose')}/join`);
  await expect(page.getByText(/corrugations lose/)).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.goto(`/jobs/${id}/runs/${called('Header hose')}/cut`);
  await expect(page.getByRole('region', { name: 'Made up of' })).toContainText('elbow of 90°');

  await page.goto(`/jobs/${id}/runs/${called('Header hose')}/route`);
  await page.getByRole('combobox', { name: 'Built of' }).click();
  await page.getByRole('option', { name: 'Rigid tube' }).click();
  await expect(page.getByRole('combobox', { name: 'Tube size' })).toBeVisible();
  await expect(rod).toContainText('of tube along');
  await page.request.delete(`/api/jobs/${id}`);
});
