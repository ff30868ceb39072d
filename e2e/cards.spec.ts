import { expect, noSeriousFaults, ownDemo, test } from './bench';

test.use({ viewport: { width: 390, height: 844 } });

test('from the rack to a run’s cards: cuts are ticked one by one, one goes wrong, and the computer sees it', async ({
  page,
  browser,
}) => {
  const { id, run } = await ownDemo(page);
  const computer = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await computer.goto(`/jobs/${id}/runs/${run}/cut`);
  const ticked = computer.getByRole('checkbox', { checked: true });
  await expect(computer.getByRole('table', { name: 'Cut list' })).toBeVisible();
  await expect(ticked).toHaveCount(0);

  await page.goto(`/jobs/${id}`);
  await page
    .getByRole('list', { name: 'Runs' })
    .getByRole('link', { name: /Hot side/ })
    .click();
  await page.getByRole('link', { name: 'Bench cards' }).click();
  await expect(page.getByText('scribe the stick')).toBeVisible();
  await noSeriousFaults(page);
  await page.getByRole('button', { name: 'They are scribed' }).click();
  await expect(page.getByText(/cut 1 of \d+/)).toBeVisible();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('H1');
  await noSeriousFaults(page);
  await page.getByRole('button', { name: 'Cut it is' }).click();
  await expect(page.getByText(/cut 2 of \d+/)).toBeVisible();
  await expect(ticked).toHaveCount(1);

  // Taken back from the card itself, and done again.
  await page.getByRole('button', { name: 'Back', exact: true }).click();
  await page.getByRole('button', { name: 'Not after all' }).click();
  await expect(ticked).toHaveCount(0);
  await page.getByRole('button', { name: 'Cut it is' }).click();
  await expect(ticked).toHaveCount(1);

  // One comes out too long: what it came to is kept, and the computer says what that does to the pipe.
  await page.getByRole('button', { name: 'Went wrong' }).click();
  const wrong = page.getByRole('region', { name: 'What went wrong' });
  await noSeriousFaults(page);
  await wrong.getByRole('textbox', { name: /^Longest line/ }).fill('33 bananas');
  await wrong.getByRole('button', { name: 'Keep it so' }).click();
  await expect(wrong.getByRole('alert')).toBeVisible();
  await wrong.getByRole('textbox', { name: /^Longest line/ }).fill('115');
  await wrong.getByRole('button', { name: 'Keep it so' }).click();
  await expect(ticked).toHaveCount(2);
  await expect(computer.getByRole('region', { name: 'Findings' })).toContainText(
    /H2 is cut 1\d\d\.\d mm long/,
  );
  await computer.context().close();
  await page.request.delete(`/api/jobs/${id}`);
});

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

  // Kept through a reload that comes before the server is reached.
  await context.setOffline(true);
  await page.getByRole('button', { name: 'Cut it is' }).click();
  await expect(page.getByText('1 act is kept here')).toBeVisible();
  await context.setOffline(false);
  await page.reload();
  await expect.poll(deeds, { timeout: 30_000 }).toBe(5);
  await expect(page.getByText('cut 5 of')).toBeVisible();
  await page.request.delete(`/api/jobs/${id}`);
});
