import { expect, noSeriousFaults, ownDemo, test } from './bench';

test('a bend is made of an elbow off the shelf, marked for the saw, and the shelf says where it comes from', async ({
  page,
}) => {
  const { id, run } = await ownDemo(page);
  await page.goto(`/jobs/${id}/runs/${run}/route`);
  await page.getByRole('button', { name: /^Bend 2, / }).click();
  await page.getByRole('button', { name: 'Elbow', exact: true }).click();
  await expect(page.getByRole('button', { name: /^Bend 2, .*a bought elbow/ })).toBeVisible();
  await expect(page.getByText(/the sawn end looks to B/)).toBeVisible();
  await page.getByRole('button', { name: 'Towards A' }).click();
  await expect(page.getByText(/the sawn end looks to A/)).toBeVisible();

  // Another one, of the shelf: its legs are its own.
  await page.getByRole('combobox', { name: 'Which elbow' }).click();
  await page.getByRole('option', { name: /^E\d+: 90°/ }).click();
  await expect(page.getByLabel('Leg towards A')).toHaveValue('40.0');
  await page.getByRole('button', { name: 'Turn it end for end' }).click();
  await expect(page.getByLabel('Leg towards A')).toHaveValue('75.0');
  await noSeriousFaults(page);

  // Of one that is too small nothing can be made, and what mends it does.
  await page.getByLabel('Angle of the elbow').fill('30');
  await page.getByLabel('Angle of the elbow').press('Enter');
  await expect(page.getByText(/Nothing can be added to it/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/Nothing can be added to it/)).toHaveCount(0);

  await page.goto(`/jobs/${id}/runs/${run}/cut`);
  const beside = page.getByRole('region', { name: 'Cut beside the tube' });
  await expect(beside).toContainText('elbow of 90°');
  await page.goto(`/jobs/${id}/stock`);
  const elbows = page.getByRole('region', { name: 'Elbows', exact: true });
  await expect(elbows.getByText(/^E\d+$/)).toBeVisible();
  await noSeriousFaults(page);

  // One of no shelf and no shop is told; said to be sold, it is bought.
  const shelf = page.getByRole('complementary', { name: 'The shelf' });
  await shelf.getByRole('combobox', { name: 'Of which tube' }).click();
  await page.getByRole('option', { name: /63\.5/ }).click();
  await shelf
    .getByRole('button', { name: /^Take E\d+ off the shelf$/ })
    .first()
    .click();
  await expect(elbows.getByText('Not sold yet')).toBeVisible();
  for (const [label, value] of [
    ['Turns, °', '90'],
    ['Radius, mm', '95.25'],
    ['One leg, mm', '40'],
    ['Other leg, mm', '75'],
  ] as const) {
    await shelf.getByLabel(label, { exact: true }).fill(value);
  }
  await shelf.getByRole('button', { name: 'Put the elbow on' }).click();
  await expect(elbows.getByText(/^E\d+$/)).toBeVisible();
  await page.request.delete(`/api/jobs/${id}`);
});
