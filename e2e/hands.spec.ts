import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { expect, noSeriousFaults, ownDemo, straightLength, test } from './bench';

const HOT_SIDE = '/jobs/1/runs/1/route';

async function grab(page: Page, name: RegExp) {
  const box = await page.getByRole('button', { name }).boundingBox();
  if (!box) throw new Error(`${name} is not on the screen`);
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  return { x, y };
}

test('dragging a straight previews, letting go keeps, and undo takes it back', async ({ page, request }) => {
  await page.goto(HOT_SIDE);
  await expect(page.getByRole('button', { name: /^Straight 3,/ })).toBeVisible();
  const before = await straightLength(page, 3);
  const kept = async () => (await (await request.get('/api/jobs/1')).json()).revision as number;
  const revision = await kept();
  const { x, y } = await grab(page, /^Straight 3,/);
  await page.mouse.move(x + 25, y, { steps: 6 });
  await expect.poll(() => straightLength(page, 3)).toBeGreaterThan(before + 10);
  expect(await kept()).toBe(revision);
  await page.mouse.up();
  await expect.poll(kept).toBe(revision + 1);
  const after = await straightLength(page, 3);
  expect(after).toBeGreaterThan(before + 10);
  await page.keyboard.press('u');
  await expect.poll(() => straightLength(page, 3)).toBe(before);
});

test('a port is dragged by its arrow in the bay and the pipe follows', async ({ page, request }) => {
  const { id, run } = await ownDemo(page);
  await page.goto(`/jobs/${id}/runs/${run}/measure`);
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await page.getByRole('button', { name: /^End B,/ }).click();
  await noSeriousFaults(page);
  const port = async () => (await (await request.get(`/api/jobs/${id}`)).json()).job.runs[0].b.at as number[];
  const before = await port();
  // Seen from the top x runs right and y up, and the names stand 46 mm behind their mouths: two of them give the scale.
  const anchor = async (selector: string) => {
    const box = await page.locator(selector).boundingBox();
    if (!box) throw new Error(`${selector} is not on the screen`);
    return { x: box.x + box.width / 2, y: box.y - 10 };
  };
  type End = { at: { mm: number }[]; out: number[] };
  const [a, b] = (await (await request.get(`/api/jobs/${id}/runs/${run}/workup`)).json()).ends as [End, End];
  const behind = (of: End) => (of.at[0]?.mm ?? 0) - 46 * (of.out[0] ?? 0);
  const [here, there] = [await anchor('.bay-label-lit'), await anchor('.bay-label:not(.bay-label-lit)')];
  const perMm = (there.x - here.x) / (behind(a) - behind(b));
  const mouth = { x: here.x + 46 * (b.out[0] ?? 0) * perMm, y: here.y - 46 * (b.out[1] ?? 0) * perMm };
  // The arrow points to where there is room to see it: here, back.
  await page.mouse.move(mouth.x - 40, mouth.y);
  await page.waitForTimeout(300);
  await page.mouse.down();
  await Promise.all([
    page.waitForRequest(
      (sent) => sent.url().endsWith('/preview') && (sent.postData() ?? '').includes('move_port'),
    ),
    page.mouse.move(mouth.x - 70, mouth.y, { steps: 4 }),
  ]);
  expect(await port()).toEqual(before);
  await page.mouse.up();
  await expect.poll(async () => (await port())[0]).toBeLessThan(before[0] ?? 0);
  expect((await port()).slice(1)).toEqual(before.slice(1));
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(port).toEqual(before);
});

test('the bench is worked by keyboard alone', async ({ page }) => {
  await page.goto('/');
  await page
    .getByRole('link', { name: /^Pellow van/ })
    .first()
    .focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('list', { name: 'Runs' }).getByRole('listitem')).toHaveCount(10);
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^End A,/ })).toBeVisible();
  const bench = page.getByRole('region', { name: 'Bench pad' });
  await page.keyboard.press('ArrowRight');
  await expect(bench).toContainText('End A');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await expect(bench).toContainText('Bend 1 of 4');
  const angle = async () => Number((await page.getByLabel('Angle of bend 1').inputValue()).replace('°', ''));
  const before = await angle();
  await page.keyboard.press(']');
  await expect.poll(angle).toBeCloseTo(before + 1, 1);
  await page.keyboard.press('ArrowRight');
  const straight = await straightLength(page, 2);
  await page.keyboard.press('Shift+ArrowRight');
  await expect.poll(() => straightLength(page, 2)).toBeCloseTo(straight + 1, 1);
  await page.keyboard.press('u');
  await page.keyboard.press('u');
  await page.keyboard.press('n');
  await expect(bench.getByRole('region', { name: 'Findings here' })).toContainText('Cannot be');
  await expect(page.getByRole('button', { name: 'Back', exact: true })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Back', exact: true })).toHaveCount(0);
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.keyboard.press('4');
  await expect(page.getByRole('table', { name: 'Cut list' })).toBeVisible();
  await page.keyboard.press('0');
  await expect(page.getByRole('list', { name: 'Runs' })).toBeVisible();
});

test('the server dies in the middle of a drag and everything kept is there again', async ({ page }) => {
  const port = 8398;
  const data = await mkdtemp(join(tmpdir(), 'nook-bend-'));
  const start = async (): Promise<ChildProcess> => {
    const server = spawn('../target/debug/nook-bend', ['demo', '--port', String(port), '--data', data]);
    await new Promise<void>((resolve) => server.stdout.once('data', () => resolve()));
    return server;
  };
  const foreign = `http://127.0.0.1:${port}${HOT_SIDE}`;
  let server = await start();
  const second = await page.context().newPage();
  await second.goto(foreign);
  await second.getByRole('button', { name: /^Straight 2,/ }).click();
  await second.getByLabel('Length of straight 2').fill('111');
  await second.keyboard.press('Enter');
  await expect.poll(() => straightLength(second, 2)).toBe(111);
  const { x, y } = await grab(second, /^Straight 2,/);
  await second.mouse.move(x + 20, y, { steps: 5 });
  server.kill('SIGKILL');
  await second.mouse.move(x + 30, y, { steps: 5 });
  await second.mouse.up();
  await expect(second.getByRole('alert')).toContainText('does not answer');
  server = await start();
  await second.reload();
  await expect.poll(() => straightLength(second, 2)).toBe(111);
  server.kill('SIGTERM');
  await second.close();
});
