import { readFile } from 'node:fs/promises';
import { expect, noSeriousFaults, test } from './bench';

test('a pipe is parted half-way by a coupler, which moves, is sawn for, and comes out again', async ({
  page,
}) => {
  const file = await readFile(new URL('../demo/pellow-van.json', import.meta.url), 'utf8');
  const made = await page.request.post('/api/jobs/file', { data: file });
  const { id } = await made.json();
  await page.goto(`/jobs/${id}/runs/1/route`);
  const rod = page.getByRole('region', { name: 'Story rod' });
  await rod.getByRole('button', { name: /^Straight 4,/ }).click();
  await page.getByRole('button', { name: 'Part it with a coupler' }).click();

  // It is picked on the rod, by keyboard, and stands where it is typed.
  const coupler = rod.getByRole('button', { name: /^Coupler on straight 4, cut 76/ });
  await coupler.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Coupler on straight 4' })).toBeVisible();
  const place = page.getByRole('textbox', { name: 'Middle of the joint from bend 3' });
  await place.fill('3 in');
  await place.press('Enter');
  await expect(place).toHaveValue('76.2');
  await noSeriousFaults(page);

  // Dragged along the rod it previews, and is kept where it is let go.
  const box = await coupler.boundingBox();
  if (!box) throw new Error('the coupler is not drawn');
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 60, box.y + box.height / 2, { steps: 6 });
  await page.mouse.up();
  await expect(place).not.toHaveValue('76.2');

  // Two tubes: the saw and the one who puts them together are told.
  await page.getByRole('link', { name: 'Cut' }).click();
  await expect(page.getByText(/a gap of 12\.0 mm, in a hose of 76\.0 mm/)).toBeVisible();
  const list = await page.request.get(`/api/jobs/${id}/runs/1/cut-list.csv`);
  expect(await list.text()).toMatch(/,12\.00,76\.00,/);
  const step = await page.request.get(`/api/jobs/${id}/runs/1/pipe/step`);
  // Two tubes, beside the hoses and clamps that are named for what they are.
  expect((await step.text()).match(/MANIFOLD_SOLID_BREP\('[^',]*',/g)).toHaveLength(2);

  // Pulled through another way round it stays; it goes when it is taken out.
  await page.getByRole('link', { name: 'Join' }).click();
  await page.getByRole('button', { name: 'Take it out' }).click();
  await expect(rod.getByRole('button', { name: /^Coupler on straight/ })).toHaveCount(0);
});
