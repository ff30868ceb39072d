import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { bendAngle, expect, noSeriousFaults, straightLength, test } from './bench';

/** Opens a demo job of its own on the hot side charge pipe, in the Route step. */
async function openHotSide(page: Page) {
  const file = await readFile(new URL('../demo/pellow-van.json', import.meta.url), 'utf8');
  const made = await page.request.post('/api/jobs/file', { data: file });
  const { id } = await made.json();
  await page.goto(`/jobs/${id}/runs/1/route`);
  await expect(page.getByRole('heading', { name: 'Hot side charge pipe' })).toBeVisible();
}

test('what is too near is found, shown along the rod, and mended with one press', async ({ page }) => {
  await openHotSide(page);
  const rod = page.getByRole('region', { name: 'Story rod' });
  await expect(rod).toContainText('alternator');
  const findings = page.getByRole('region', { name: 'Findings' });
  await expect(findings).toContainText('into the drive belt with the engine rolled');
  await noSeriousFaults(page);
  await findings.getByRole('button', { name: /into the drive belt/ }).click();
  const here = page.getByRole('region', { name: 'Findings here' });
  await here
    .getByRole('button', { name: /^(Raise|Move|Drop|Turn|Bend) / })
    .first()
    .click();
  await expect(page.getByRole('region', { name: 'Bench pad' })).not.toContainText('into the drive belt');
});

test('ways round are looked for, weighed, taken and kept beside', async ({ page }) => {
  await openHotSide(page);
  await page.getByRole('button', { name: 'Ways round' }).click();
  await expect(page.getByRole('heading', { name: /ways fit/ })).toBeVisible({ timeout: 120_000 });
  const ways = page.getByRole('region', { name: 'Ways round' });
  expect(await ways.getByRole('button', { pressed: false }).count()).toBeGreaterThanOrEqual(6);
  await noSeriousFaults(page);

  // Another school puts another way first.
  const first = () => ways.getByRole('button').first().locator('strong').textContent();
  const balanced = await first();
  await page.getByRole('combobox', { name: 'Ranked' }).click();
  await page.getByRole('option', { name: 'Most room', exact: true }).click();
  await expect.poll(first).not.toBe(balanced);

  // Taken, it fits: nothing of the pipe cannot be.
  await ways.getByRole('button').first().click();
  await expect(page.getByRole('button', { name: /cannot be: show/ })).toHaveCount(0);
  await ways.getByRole('button', { name: 'Keep it beside' }).click();
  await page.getByRole('button', { name: /^Beside/ }).click();
  for (const box of await page.getByRole('checkbox').all()) await box.check();
  await expect(page.getByRole('table')).toContainText('Roomy');
  await noSeriousFaults(page);

  // What is asked changes what is found, and a search can be called off.
  await page.getByRole('button', { name: 'Ways round' }).click();
  await page.getByRole('button', { name: 'Steer' }).click();
  await page.getByRole('combobox', { name: 'Bends' }).click();
  await page.getByRole('option', { name: 'Up to 3 bends' }).click();
  await expect(page.getByText('1 asked')).toBeVisible();
  await expect(page.getByRole('heading', { name: /ways? fits?|Nothing fits/ })).toBeVisible({
    timeout: 120_000,
  });
  for (const name of await ways.getByRole('button').locator('strong').allTextContents()) {
    expect(name).not.toMatch(/Four|Five/);
  }
});

test('a way is shaped by hand, with something held and what holds it said', async ({ page }) => {
  await openHotSide(page);
  await page.getByRole('button', { name: /^Straight 3,/ }).click();
  const held = await straightLength(page, 3);
  await page.getByRole('button', { name: 'Hold it while the rest is shaped' }).first().click();
  await expect(page.getByRole('button', { name: 'Let it go' })).toBeVisible();

  // Bending more elsewhere leaves the held straight alone.
  await page.getByRole('button', { name: /^Bend 2,/ }).click();
  const angle = await bendAngle(page, 2);
  await page.keyboard.press(']');
  await expect.poll(() => bendAngle(page, 2)).toBeCloseTo(angle + 1, 5);
  expect(await straightLength(page, 3)).toBe(held);

  // Split, and there is a bend more; merged, it is back.
  await page.getByRole('button', { name: 'Split in two' }).click();
  await expect(page.getByRole('button', { name: /^Bend 5,/ })).toBeVisible();
  await page.getByRole('button', { name: 'Merge with 3' }).click();
  await expect(page.getByRole('button', { name: /^Bend 5,/ })).toHaveCount(0);

  // A straight dragged shorter than its hose needs stops there and says so.
  const straight = page.getByRole('button', { name: /^Straight 1,/ });
  const box = await straight.boundingBox();
  if (!box) throw new Error('the first straight is on the rod');
  await page.mouse.move(box.x + box.width - 6, box.y + 10);
  await page.mouse.down();
  await page.mouse.move(box.x - 200, box.y + 10, { steps: 8 });
  await expect(page.getByRole('status').filter({ hasText: 'Held by' })).toBeVisible();
  await page.mouse.up();
  await expect.poll(() => straightLength(page, 1)).toBe(38);
});

test('flow is weighed by size, and the pipe goes to other programs', async ({ page }) => {
  await openHotSide(page);
  await page.getByRole('button', { name: 'Flow' }).click();
  await page.getByRole('combobox', { name: 'How the flow is said' }).click();
  await page.getByRole('option', { name: 'By power' }).click();
  await page.getByRole('textbox', { name: 'Power' }).fill('400');
  await page.keyboard.press('Enter');
  await expect(page.getByText('0.301 kg/s')).toBeVisible();
  await page.getByRole('button', { name: /^Mach/ }).click();
  await expect(page.getByText('Keep it below 0.3')).toBeVisible();
  await noSeriousFaults(page);

  await page.getByRole('button', { name: 'Shape' }).click();
  const fetched = async (name: string) => {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name }).click(),
    ]);
    return readFile(await download.path(), 'utf8');
  };
  expect(await fetched('STEP')).toContain('TOROIDAL_SURFACE');
  const table = await fetched('Bender table');
  const before = await straightLength(page, 2);
  await page.getByLabel('A bender table to read').setInputFiles({
    name: 'table.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(table),
  });
  // Kept before the next is read, or its success clears the refusal of that.
  await expect(page.getByText(/^Taken\./)).toBeVisible();
  await expect.poll(async () => Math.abs((await straightLength(page, 2)) - before)).toBeLessThan(1);
  await page.getByLabel('A bender table to read').setInputFiles({
    name: 'table.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(table.replace(/^1,[^,]*/m, '1,900')),
  });
  await expect(page.getByRole('alert')).toContainText('off port B');
});
