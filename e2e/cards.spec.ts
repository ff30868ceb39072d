import { expect, noSeriousFaults, ownDemo, test } from './bench';

test.use({ viewport: { width: 390, height: 844 } });

test('what is ticked without a connection is kept on the phone and sent when it is back', async ({
  page,
  context,
  request,
}) => {
  const { id, run } = await ownDemo(page);
  const deeds = async () =>
    (await (await request.get(`/api/jobs/${id}/record`)).json()).deeds.length as number;
  await page.goto(`/jobs/${id}/runs/${run}/cards`);
  await page.getByRole('button', { name: 'They are scribed' }).click();
  await expect.poll(deeds).toBe(1);
  await context.setOffline(true);
  for (const number of [1, 2, 3]) {
    await expect(page.getByText(`cut ${number} of`)).toBeVisible();
    await page.getByRole('button', { name: 'Cut it is' }).click();
  }
  await expect(page.getByRole('status').filter({ hasText: 'No connection' })).toContainText(
    '3 acts are kept here',
  );
  expect(await deeds()).toBe(1);
  await context.setOffline(false);
  await expect.poll(deeds, { timeout: 30_000 }).toBe(4);
  await expect(page.getByText('No connection')).toHaveCount(0);

  // Kept through a reload without a connection, which shows the cards all the same.
  await page.evaluate(async () => void (await navigator.serviceWorker.ready));
  await page.reload();
  await expect(page.getByText('cut 4 of')).toBeVisible();
  await context.setOffline(true);
  await page.getByRole('button', { name: 'Cut it is' }).click();
  await expect(page.getByText('1 act is kept here')).toBeVisible();
  await page.reload();
  await expect(page.getByText('cut 5 of')).toBeVisible();
  await expect(page.getByText('1 act is kept here')).toBeVisible();
  expect(await deeds()).toBe(4);
  await context.setOffline(false);
  await expect.poll(deeds, { timeout: 30_000 }).toBe(5);
  await expect(page.getByText('cut 5 of')).toBeVisible();
  await page.request.delete(`/api/jobs/${id}`);
});
