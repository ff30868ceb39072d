import { expect, noSeriousFaults, ownDemo, test } from './bench';

test.use({ viewport: { width: 390, height: 844 }, connectionIsCut: true });

test('what is ticked without a connection is kept on the phone and sent when it is back', async ({
  page,
  context,
  request,
}) => {
  const { id, run } = await ownDemo(page);
  const deeds = async () =>
    (await (await request.get(`/api/jobs/${id}/record`)).json()).deeds.length as number;
  // What the browser plays does not hold for the first moments of a page that is loaded anew: what would send is cut as well.
  const sends = '**/api/jobs/*/record';
  const cut = async () => {
    await context.route(sends, (route) => route.abort('internetdisconnected'));
    await context.setOffline(true);
  };
  const mend = async () => {
    await context.setOffline(false);
    await context.unroute(sends);
  };
  await page.goto(`/jobs/${id}/runs/${run}/cards`);
  await page.getByRole('button', { name: 'They are scribed' }).click();
  await expect.poll(deeds).toBe(1);
  await cut();
  for (const number of [1, 2, 3]) {
    await expect(page.getByText(`cut ${number} of`)).toBeVisible();
    await page.getByRole('button', { name: 'Cut it is' }).click();
  }
  await expect(page.getByRole('status').filter({ hasText: 'No connection' })).toContainText(
    '3 acts are kept here',
  );
  expect(await deeds()).toBe(1);
  await mend();
  await expect.poll(deeds, { timeout: 30_000 }).toBe(4);
  await expect(page.getByText('No connection')).toHaveCount(0);

  // Kept through a reload without a connection, which shows the cards all the same.
  await page.evaluate(async () => void (await navigator.serviceWorker.ready));
  await page.reload();
  await expect(page.getByText('cut 4 of')).toBeVisible();
  await cut();
  await page.getByRole('button', { name: 'Cut it is' }).click();
  await expect(page.getByText('1 act is kept here')).toBeVisible();
  await page.reload();
  await expect(page.getByText('cut 5 of')).toBeVisible();
  await expect(page.getByText('1 act is kept here')).toBeVisible();
  expect(await deeds()).toBe(4);
  await mend();
  await expect.poll(deeds, { timeout: 30_000 }).toBe(5);
  await expect(page.getByText('cut 5 of')).toBeVisible();
  await page.request.delete(`/api/jobs/${id}`);
});

test('a stick of the shelf is sawn cut by cut, and what is spoilt is planned again from what is left of it', async ({
  page,
}) => {
  const { id } = await ownDemo(page);
  const sticks = async () => {
    const { workshop } = await (await page.request.get('/api/workshop')).json();
    return new Map<number, number>(
      workshop.sticks.map((one: { id: number; length: number }) => [one.id, one.length]),
    );
  };
  const before = await sticks();
  await page.goto(`/jobs/${id}/stock`);
  const link = page.getByRole('link', { name: /^Bench cards of S\d+$/ }).first();
  const stick = Number((await link.getAttribute('aria-label'))?.match(/\d+$/)?.[0]);
  await link.click();
  await page.getByRole('button', { name: 'I have it' }).click();
  await page.getByRole('button', { name: 'They are scribed' }).click();
  const head = page.getByRole('heading', { level: 1 });
  const pastWaste = async () => {
    await expect(
      page.getByRole('button', { name: /^(It is off|Cut it is|They are scribed)$/ }),
    ).toBeVisible();
    if ((await head.textContent()) === `S${stick}`)
      await page.getByRole('button', { name: 'It is off' }).click();
    await expect(head).not.toHaveText(`S${stick}`);
  };
  await pastWaste();
  const first = (await head.textContent()) ?? '';
  const told = await page.getByText(/is left then/).textContent();
  const left = Number(told?.match(/([\d.]+) mm is left/)?.[1]);
  await noSeriousFaults(page);
  await page.getByRole('button', { name: 'Cut it is' }).click();
  await expect.poll(async () => (await sticks()).get(stick)).toBeCloseTo(left, 0);

  // The cards that were begun stay as they were, whatever is planned meanwhile.
  await page.reload();
  await expect(page.getByText(/^[1-9]\d* of \d+ done$/)).toBeVisible();
  await expect(async () => {
    if ((await head.textContent()) !== first) await page.keyboard.press('ArrowLeft');
    await expect(head).toHaveText(first, { timeout: 500 });
  }).toPass();
  await page.getByRole('button', { name: 'Not after all' }).click();
  await expect.poll(async () => (await sticks()).get(stick)).toBe(before.get(stick));
  await page.getByRole('button', { name: 'Went wrong' }).click();
  const wrong = page.getByRole('region', { name: 'What went wrong' });
  await wrong.getByRole('textbox', { name: /^Left of the stick/ }).fill(String(left - 20));
  await wrong.getByRole('button', { name: 'It is scrap' }).click();
  await expect.poll(async () => (await sticks()).get(stick)).toBeCloseTo(left - 20, 0);
  const plan = await (await page.request.get(`/api/jobs/${id}/stock`)).json();
  expect(plan.scrap.spoilt).toBe(1);
  expect(JSON.stringify(plan.tubes)).toContain(`"${first}"`);
  // The shelf is every job's: other journeys find it as it was.
  const { revision } = await (await page.request.get('/api/workshop')).json();
  const whole = { edit: 'set_stick', stick, length: before.get(stick) };
  const headers = { 'If-Match': `"${revision}"` };
  expect((await page.request.post('/api/workshop/edits', { data: whole, headers })).ok()).toBe(true);
  await page.request.delete(`/api/jobs/${id}`);
});
