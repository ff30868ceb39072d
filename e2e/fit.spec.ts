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
