import { addRun, beginJob, expect, noSeriousFaults, straightLength, test } from './bench';

test('what one browser changes shows in the other at once, and each undoes its own', async ({
  page,
  browser,
}) => {
  await beginJob(page, 'Shared van');
  await addRun(page, 'Upper charge pipe');
  const other = await (await browser.newContext()).newPage();
  await other.goto(page.url());
  const undo = (who: typeof page) => who.getByRole('button', { name: 'Undo' });
  await expect(undo(page)).toBeEnabled();
  // The other has done nothing yet.
  await expect(other.getByRole('button', { name: /^Straight 2,/ })).toBeVisible();
  await expect(undo(other)).toBeDisabled();

  const before = await straightLength(page, 2);
  await other.getByRole('button', { name: /^Straight 2,/ }).click();
  await other.getByLabel('Length of straight 2').fill('91');
  await other.keyboard.press('Enter');
  await expect.poll(() => straightLength(page, 2)).toBe(91);
  await expect(page.getByRole('status').filter({ hasText: 'Changed in another window' })).toBeVisible();
  await noSeriousFaults(page);

  // The pipe that was added here has been shaped there since: it is not taken away beneath the other.
  await undo(page).click();
  await expect(page.getByRole('alert').filter({ hasText: 'Not done' })).toContainText(
    '“Upper charge pipe” has been changed again by somebody else since',
  );
  await undo(other).click();
  await expect.poll(() => straightLength(page, 2)).toBe(before);
  await expect.poll(() => straightLength(other, 2)).toBe(before);

  // A job that is deleted is gone for both.
  await other.goto('/');
  await other.getByRole('button', { name: 'Delete Shared van' }).click();
  await other.getByRole('button', { name: 'Really delete' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'it may have been deleted' })).toBeVisible();
  await other.context().close();
});

test('a scan that no job uses can be deleted from the list of jobs', async ({ page, request }) => {
  const tetrahedron = 'v 0 0 0\nv 90 0 0\nv 0 90 0\nv 0 0 90\nf 1 3 2\nf 1 2 4\nf 1 4 3\nf 2 3 4\n';
  await request.post('/api/scans?name=left-over.obj', { data: tetrahedron });
  await page.goto('/');
  const scans = page.getByRole('region', { name: 'Scans kept here' });
  const row = scans.getByRole('listitem').filter({ hasText: 'left-over.obj' });
  await expect(row).toContainText('4 triangles');
  await expect(row).toContainText('used by no job');
  // The demo's own is used, so it cannot go.
  await expect(scans.getByRole('button', { name: 'Delete reservoir.ply' })).toHaveCount(0);
  await noSeriousFaults(page);
  await row.getByRole('button', { name: 'Delete left-over.obj' }).click();
  await row.getByRole('button', { name: 'Really delete' }).click();
  await expect(row).toHaveCount(0);
});
