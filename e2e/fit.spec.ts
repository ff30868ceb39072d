import { expect, noSeriousFaults, ownDemo, test } from './bench';

test('a pipe tried on: said roughly, measured finer, an act done, and taken back', async ({ page }) => {
  const { id } = await ownDemo(page, 'fit');
  await page.goto(`/jobs/${id}`);
  await page.getByRole('link', { name: 'Hot side charge pipe' }).click();
  await expect(page.getByText('Story rod')).toBeVisible();
  await page.keyboard.press('5');
  await expect(page.getByRole('heading', { name: 'Try it on' })).toBeVisible();
  await noSeriousFaults(page);

  // What is no length is refused where it stands, and nothing else is lost.
  const rough = page.getByRole('region', { name: 'How it lies at B' });
  await rough.getByLabel('Along it, mm').fill('a bit');
  await rough.getByLabel('Up and down, mm').fill('12');
  await rough.getByRole('button', { name: 'Say so' }).click();
  await expect(rough.getByText(/has no place in a length/)).toBeVisible();
  await expect(rough.getByLabel('Up and down, mm')).toHaveValue('12');
  await rough.getByLabel('Along it, mm').fill('9');
  await rough.getByRole('button', { name: 'Say so' }).click();
  const log = page.getByRole('region', { name: 'Measured and done' });
  await expect(log.getByText('At B, roughly: 12.0 mm low, 9.0 mm too long')).toBeVisible();
  await expect(page.getByRole('heading', { name: 'As it is' })).toBeVisible();
  const off = page.getByRole('region', { name: 'How its end lies at B' });
  await expect(off.getByText('mm low', { exact: false })).toBeVisible();

  // A feeler's reading is surer than what was said.
  await page.getByRole('button', { name: /^Measure finer/ }).click();
  await page.getByLabel('How much, mm').fill('14');
  await page.getByRole('button', { name: 'Add this reading' }).click();
  await expect(log.getByText('The gap at B, at the top seen from A: 14.0 mm')).toBeVisible();
  await noSeriousFaults(page);

  // An act that was done is noted, and what is known goes on from it.
  await page
    .getByRole('button', { name: /^Done: / })
    .first()
    .press('Enter');
  await expect(log.getByText('Done:')).toBeVisible();
  await log.getByRole('button', { name: /^Take back: At B, roughly/ }).press('Enter');
  await expect(log.getByText(/^At B, roughly/)).toBeHidden();
  await page.request.delete(`/api/jobs/${id}`);
});

test('a pipe under the car: what it touches, an end out of round, a feeler pressed', async ({ page }) => {
  const { id } = await ownDemo(page, 'fit by instruments');
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(`/jobs/${id}/runs/39`);
  await page.goto(`/jobs/${id}/runs/39/join`);
  await page.getByRole('link', { name: 'Try it on' }).click();
  await expect(page.getByRole('heading', { name: 'Try it on' })).toBeVisible();
  await page.getByRole('button', { name: /^Measure finer/ }).click();
  await noSeriousFaults(page);
  const what = async (name: string) => {
    await page.getByRole('combobox', { name: 'What' }).click();
    await page.getByRole('option', { name }).click();
  };
  const add = page.getByRole('button', { name: 'Add this reading' });
  const log = page.getByRole('region', { name: 'Measured and done' });

  await what('It touches');
  await add.click();
  await expect(log.getByText(/^It touches the /)).toBeVisible();
  await expect(page.getByRole('heading', { name: 'As it is' })).toBeVisible();

  // Half of a wall of 1.6 is filled, and no more.
  await what('Round or not');
  await page.getByLabel('How much, mm').fill('77.6');
  await page.getByLabel('Square to that, mm').fill('round');
  await add.click();
  await expect(page.getByText(/has no place in a length/)).toBeVisible();
  await page.getByLabel('Square to that, mm').fill('74.6');
  await add.click();
  await expect(page.getByRole('alert').filter({ hasText: '3.0 mm out of round' })).toBeVisible();

  // A stand-in loses a line now and then; then it is pressed again.
  await what('Gap at B');
  await page.getByLabel('How much, mm').focus();
  await expect(async () => {
    await page.getByRole('button', { name: 'Press the feeler' }).click();
    await expect(log.getByText(/^The gap at B, at the top/).first()).toBeVisible({ timeout: 2500 });
  }).toPass();
  await noSeriousFaults(page);
  await page.request.delete(`/api/jobs/${id}`);
});

test('practice feeds the chance, and what no drill shows is refused', async ({ page }) => {
  const { id } = await ownDemo(page, 'practice');
  await page.goto(`/jobs/${id}/runs/40/cut`);
  await page.getByRole('button', { name: 'Practise', exact: true }).click();
  const practice = page.getByRole('region', { name: 'Practice' });
  await practice.getByLabel('Lines apart, mm').fill('0.5 -0.5 40');
  await practice.getByRole('button', { name: 'Reckon with it' }).click();
  await expect(page.getByText(/Lines 40 mm apart are not each other/)).toBeVisible();
  await practice.getByLabel('Lines apart, mm').fill('0.2 -0.2 0 0.1 -0.3');
  await practice.getByLabel('Angles read, °').fill('45 45.1 44.9 45');
  await practice.getByRole('button', { name: 'Reckon with it' }).click();
  await expect(page.getByText('as practised')).toBeVisible();
  await noSeriousFaults(page);
  // The workshop is everybody's: it is left as it was.
  await page.getByRole('button', { name: 'Practised by' }).click();
  await page.getByLabel('Lines apart, mm').fill('');
  await page.getByLabel('Angles read, °').fill('');
  await page.getByRole('button', { name: 'Reckon with it' }).click();
  await expect(page.getByText('as is usual')).toBeVisible();
  await page.request.delete(`/api/jobs/${id}`);
});
