import { readFile } from 'node:fs/promises';
import { expect, noSeriousFaults, test } from './bench';

test('a pipe is held: a span that rings is told, the fewest supports are put on, one is moved, mended, set out and taken off', async ({
  page,
}) => {
  const file = await readFile(new URL('../demo/pellow-van.json', import.meta.url), 'utf8');
  const made = await page.request.post('/api/jobs/file', { data: file });
  const { id } = await made.json();

  // The oil feed rides on the engine, and rings.
  await page.goto(`/jobs/${id}/runs/43/join`);
  const holds = page.getByRole('region', { name: 'What holds it' });
  await expect(holds).toContainText('which the engine fires at');
  await expect(page.getByText(/ring at \d+ Hz, met at \d+ rpm/)).toBeVisible();
  await holds.getByRole('button', { name: 'Propose the fewest' }).click();
  await expect(holds.getByRole('status')).toHaveText('1 put on.');
  await expect(page.getByText(/ring at \d+ Hz/)).toHaveCount(0);
  await holds.getByRole('button', { name: 'Propose the fewest' }).click();
  await expect(holds.getByRole('status')).toContainText('holds as it is');

  // The heater line stands on a floor rib, and its holes are set out on the car.
  await page.goto(`/jobs/${id}/runs/41/join`);
  const rod = page.getByRole('region', { name: 'Story rod' });
  await holds.getByRole('button', { name: /Paired clamps/ }).click();
  await expect(page.getByRole('heading', { name: /^Pair of cushioned clamps on straight 2/ })).toBeVisible();
  await expect(page.getByText('to the left floor rib').first()).toBeVisible();
  await page.getByRole('button', { name: /^Set it out/ }).click();
  await expect(page.getByText('hole 1 in the body')).toBeVisible();
  await noSeriousFaults(page);

  // Moved to a bend's end it is told, and moved clear again.
  const middle = page.getByRole('textbox', { name: 'Middle of the support from bend 1' });
  await middle.fill('10');
  await middle.press('Enter');
  await expect(page.getByText(/lies over the end of bend 1/)).toBeVisible();
  await page.getByRole('button', { name: 'Move it clear' }).click();
  await expect(page.getByText(/lies over the end of bend 1/)).toHaveCount(0);

  // With the keys from part to part, and off.
  await rod.getByRole('button', { name: /^Pair of cushioned clamps/ }).press('Enter');
  await page.getByRole('button', { name: 'Take it off' }).click();
  await expect(rod.getByRole('button', { name: /^Pair of cushioned clamps/ })).toHaveCount(0);
  await expect(page.getByText(/ring at \d+ Hz/)).toBeVisible();

  // One is dragged onto the rod, turned and held at a height.
  const palette = page.getByRole('region', { name: 'Put one along the pipe' });
  const straight = await rod.getByRole('button', { name: /^Straight 2,/ }).boundingBox();
  const svg = await rod.locator('svg[role=group]').boundingBox();
  if (!straight || !svg) throw new Error('the rod is not drawn');
  await palette.getByRole('button', { name: 'Welded tab' }).dragTo(rod.locator('svg[role=group]'), {
    targetPosition: {
      x: straight.x - svg.x + straight.width * 0.3,
      y: straight.y - svg.y + straight.height / 2,
    },
  });
  await expect(page.getByRole('heading', { name: /^Welded tab on straight 2/ })).toBeVisible();
  await expect(page.getByText(/it finds nothing on the body/)).toBeVisible();
  const height = page.getByRole('textbox', { name: 'Height of the stand-off' });
  await height.fill('40');
  await height.press('Enter');
  await expect(page.getByText(/it finds nothing on the body/)).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Let it reach' })).toBeVisible();

  // An open end is told with where and which way it looks.
  await rod.getByRole('button', { name: /^End B/ }).click();
  await page.getByRole('combobox', { name: 'Joint at B' }).click();
  await page.getByRole('option', { name: 'Open end' }).click();
  await expect(page.getByText(/End B is open/)).toBeVisible();

  // The other journeys count the jobs there are.
  await page.request.delete(`/api/jobs/${id}`);
});
