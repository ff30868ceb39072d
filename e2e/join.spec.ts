import { readFile } from 'node:fs/promises';
import { expect, noSeriousFaults, test } from './bench';

test('joints take the engine’s movement: one is over, is mended, another is put along, held and taken from a shelf', async ({
  page,
}) => {
  const file = await readFile(new URL('../demo/pellow-van.json', import.meta.url), 'utf8');
  const made = await page.request.post('/api/jobs/file', { data: file });
  const { id } = await made.json();
  await page.goto(`/jobs/${id}/runs/38/join`);
  const rod = page.getByRole('region', { name: 'Story rod' });
  const list = page.getByRole('region', { name: 'What the joints take' });
  await expect(list.getByRole('button')).toHaveCount(3);
  await expect(list.getByRole('button', { name: /throttle/ })).toContainText(/10\d %/);
  await noSeriousFaults(page);

  // The worst pose is shown in the bay, and put back.
  await list.getByRole('button', { name: /throttle/ }).click();
  await expect(page.getByText('pushed sideways')).toBeVisible();
  await page.getByRole('button', { name: 'Show it', exact: true }).last().click();
  await expect(page.getByRole('region', { name: 'Bay' })).toContainText('engine shown rolled');
  await page.getByRole('button', { name: 'Back to rest' }).click();
  await expect(page.getByRole('region', { name: 'Bay' })).not.toContainText('engine shown rolled');

  // What would help was tried, and helps.
  await page.getByRole('button', { name: 'Put a hump coupler at A' }).click();
  await expect(page.getByText('pushed sideways')).toHaveCount(0);
  await page.getByRole('button', { name: 'All that joins and holds it' }).click();
  await expect(list.getByRole('button', { name: /throttle/ })).not.toContainText(/1\d\d %/);

  // A kind that may not be on this pipe says why; one that may is dragged onto the rod.
  const palette = page.getByRole('region', { name: 'Put one along the pipe' });
  await palette.getByRole('button', { name: /Bellows/ }).click();
  await expect(palette).toContainText('exhausts only');
  const straight = await rod.getByRole('button', { name: /^Straight 2,/ }).boundingBox();
  const svg = await rod.locator('svg[role=group]').boundingBox();
  if (!straight || !svg) throw new Error('the rod is not drawn');
  await palette.getByRole('button', { name: /O-ring sleeve/ }).dragTo(rod.locator('svg[role=group]'), {
    targetPosition: {
      x: straight.x - svg.x + straight.width * 0.8,
      y: straight.y - svg.y + straight.height / 2,
    },
  });
  await expect(page.getByRole('heading', { name: /^O-ring sleeve on straight/ })).toBeVisible();
  await expect(rod.getByRole('button', { name: /^O-ring sleeve on straight/ })).toBeVisible();

  // Its latch is held at a clock, and let go again.
  const clock = page.getByRole('textbox', { name: /^Clock of O-ring sleeve/ });
  await clock.fill('90');
  await clock.press('Enter');
  await expect(page.getByRole('button', { name: 'Let it turn', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Let it turn', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Let it turn', exact: true })).toHaveCount(0);

  // A part of the catalogue, and one of the builder's own.
  await page.getByRole('combobox', { name: /^Part of O-ring sleeve/ }).click();
  await page.getByRole('option', { name: 'O-ring sleeve 63, long ferrules' }).click();
  await expect(page.getByText('costs 66')).toBeVisible();
  await page.getByRole('button', { name: /A part of your own/ }).click();
  await page.getByRole('textbox', { name: /^Name of the part/ }).fill('sleeve off the shelf');
  const aside = page.getByRole('textbox', { name: 'Sideways, mm' });
  await aside.fill('3,5');
  await page.getByRole('button', { name: 'Use this part' }).click();
  await expect(page.getByText('1.5° · 3.5 · 8 mm')).toBeVisible();
  await noSeriousFaults(page);

  // Typed, a joint stands where it is said.
  await page.getByRole('button', { name: 'All that joins and holds it' }).click();
  await palette.getByRole('button', { name: /V-band, metal/ }).click();
  const station = palette.getByRole('textbox', { name: /^Station for/ });
  await station.fill('200');
  await station.press('Enter');
  await expect(page.getByRole('heading', { name: /^V-band on straight/ })).toBeVisible();

  // Those who put it together are told by name.
  await page.getByRole('link', { name: 'Cut' }).click();
  await expect(page.getByText(/the sleeve off the shelf, .* of the centre line/)).toBeVisible();

  // The other journeys count the jobs there are.
  await page.request.delete(`/api/jobs/${id}`);
});
