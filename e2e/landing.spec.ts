import { expect, noSeriousFaults, ownDemo, test } from './bench';

test('before metal is cut: the chance that a pipe lands, what would raise it, and taking that', async ({
  page,
}) => {
  const { id } = await ownDemo(page, 'landing');
  await page.goto(`/jobs/${id}`);
  const row = page
    .getByRole('listitem')
    .filter({ has: page.getByRole('link', { name: 'Top coolant line' }) });
  await expect(row.getByText(/of 100 land/)).toBeVisible();
  await page.getByRole('link', { name: 'Top coolant line' }).click();
  await page.getByRole('link', { name: 'Cut', exact: false }).first().click();

  const landing = page.getByRole('region', { name: 'Will it land?' });
  const chance = async () =>
    Number(
      (
        await landing
          .getByText(/^\d+ of 100$/)
          .first()
          .textContent()
      )?.split(' ')[0],
    );
  await expect(landing.getByText(/Most of what is off comes from/)).toBeVisible();
  const before = await chance();
  await noSeriousFaults(page);

  // What is promised is what it comes to.
  const onCar = landing.getByRole('listitem').filter({ hasText: 'Tack it on the car' });
  const promised = Number((await onCar.getByText(/^\d+$/).first().textContent()) ?? Number.NaN);
  expect(promised).toBeGreaterThan(before);
  await onCar.getByRole('button', { name: /^Do it so/ }).press('Enter');
  await expect(landing.getByText('it is tacked on the car', { exact: false })).toBeVisible();
  await expect.poll(chance).toBe(promised);
  await landing.getByRole('button', { name: /^Not so/ }).press('Enter');
  await expect.poll(chance).toBe(before);
  await page.request.delete(`/api/jobs/${id}`);
});
