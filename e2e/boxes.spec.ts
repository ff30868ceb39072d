import { expect, noSeriousFaults, ownDemo, test } from './bench';

const pad = (page: import('@playwright/test').Page) => page.getByRole('region', { name: 'Bench pad' });

test('the cooler is moved as one, judged, placed by a search, and its bracket is drawn', async ({
  page,
  request,
}) => {
  const { id, run } = await ownDemo(page);
  await page.goto(`/jobs/${id}/runs/${run}/measure`);
  await page.getByRole('button', { name: /^Boxes/ }).click();
  const components = page.getByRole('group', { name: 'Components' });
  await expect(page.getByRole('region', { name: 'Findings' })).toContainText('shows 66 % of its face');
  await components.getByRole('button', { name: /charge cooler/ }).click();
  await expect(components).toContainText('66 %');
  await noSeriousFaults(page);

  // Up by typing: the body, both ports and the pipes on them go with it, and more of the face is seen.
  const bay = async () => (await request.get(`/api/jobs/${id}/bay`)).json();
  type Bay = { ports: { name: string; at: { mm: number }[] }[] };
  const height = (of: Bay) => of.ports.find((one) => one.name === 'cooler inlet')?.at[2]?.mm ?? 0;
  const before = height(await bay());
  await page.getByLabel('Up of charge cooler, typed').fill('12');
  await page.keyboard.press('Enter');
  await expect.poll(async () => height(await bay())).toBe(before + 12);
  await expect(components).toContainText('71 %');
  await expect(components.getByRole('button', { name: /charge cooler/ })).toContainText('up 12.0 mm');
  // Further than it goes is refused with the limits, and nothing is lost.
  await page.getByLabel('Up of charge cooler, typed').fill('300');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert').first()).toContainText('between -40 and 80');
  expect(height(await bay())).toBe(before + 12);
  await page.getByRole('button', { name: 'Understood' }).click();

  await page.getByRole('button', { name: 'Place it' }).click();
  await expect(page.getByText(/places, of \d+ judged/)).toBeVisible({ timeout: 120_000 });
  const offers = pad(page).getByRole('button', { name: /of pipe/ });
  await expect.poll(() => offers.count()).toBeGreaterThanOrEqual(4);
  await noSeriousFaults(page);
  const place = offers.filter({ hasNotText: 'As it stands' }).first();
  const words = (await place.textContent()) ?? '';
  await place.click();
  await expect.poll(async () => height(await bay())).not.toBe(before + 12);
  expect(words).toMatch(/mm (forward|back|up|down|left|right)/);
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(async () => height(await bay())).toBe(before);

  await pad(page)
    .getByRole('button', { name: /^left foot/ })
    .click();
  const [drawing] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Draw it 1:1' }).click(),
  ]);
  expect(drawing.suggestedFilename()).toContain('left foot bracket.svg');
  await expect(pad(page)).toContainText('Nothing but friction');
  await noSeriousFaults(page);
  await pad(page).getByRole('button', { name: 'Set it out on the car', exact: false }).first().click();
  await expect(pad(page)).toContainText(/hole in the car/i);
});
