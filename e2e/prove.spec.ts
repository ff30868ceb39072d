import type { Locator } from '@playwright/test';
import { expect, noSeriousFaults, ownDemo, test } from './bench';

/** The demo's intake pipe: nothing is wrong with it. */
const INTAKE = 39;

test('a run goes from the rack to its signature by keyboard alone, and a later change voids that', async ({
  page,
}) => {
  const { id } = await ownDemo(page);
  const press = async (button: Locator) => {
    await expect(button).toBeEnabled();
    await button.focus();
    await page.keyboard.press('Enter');
  };
  const pad = page.getByRole('region', { name: 'Bench pad' });
  await page.goto(`/jobs/${id}`);
  await press(page.getByRole('link', { name: /Intake pipe/ }).first());
  await expect(pad).toBeVisible();
  await pad.focus();

  // Welded seam by seam, in the order that pulls least.
  await page.keyboard.press('6');
  const seams = page.getByRole('list', { name: 'Seams in the order they are welded' });
  await expect(seams.getByRole('listitem')).toHaveCount(9);
  await noSeriousFaults(page);
  for (let left = 9; left > 0; left -= 1) {
    await expect(pad.getByText(`${9 - left} of 9 seams`)).toBeVisible();
    await press(pad.getByRole('button', { name: /^Seam \d+ is welded$/ }));
  }
  await expect(pad.getByRole('heading', { name: 'All of it is welded' })).toBeVisible();

  // Tight: the simulated gauge is shut in and watched until it is sure.
  await page.keyboard.press('7');
  const wanting = pad.getByRole('list', { name: 'What is wanting' });
  await expect(wanting).toContainText('It was not tested yet');
  const tested = pad.getByRole('region', { name: 'Leak test' });
  await press(tested.getByRole('button', { name: 'Watch the gauge' }));
  await press(tested.getByRole('button', { name: 'Shut it in' }));
  await expect(tested.getByRole('status')).toContainText('Tight', { timeout: 90_000 });
  await noSeriousFaults(page);
  await press(tested.getByRole('button', { name: 'Note the result' }));
  await expect(tested.getByRole('status')).toContainText(/Pass.*Noted by/);

  // Everything it has is checked; its maker's torque is typed in with one.
  await expect(wanting).toHaveText('10 things are not checked yet.');
  const clamp = pad.getByRole('listitem').filter({ hasText: 'Hump coupler at A' });
  await press(clamp.getByRole('button', { name: 'With Nm' }));
  await clamp.getByRole('textbox').fill('4.5');
  await press(clamp.getByRole('button', { name: /^It is so/ }));
  await expect(clamp).toContainText('4.5 Nm');
  const open = pad.getByRole('button', { name: /^It is so/ });
  for (let left = 9; left > 0; left -= 1) {
    await expect(open).toHaveCount(left);
    await press(open.first());
  }
  const sign = pad.getByRole('region', { name: 'Signature' });
  await press(sign.getByRole('button', { name: /^Sign it as/ }));
  await expect(sign).toContainText('It is done');

  // A tube of another wall: what was signed is not this pipe any more, and it is said what changed.
  const { revision } = await (await page.request.get(`/api/jobs/${id}`)).json();
  const tube = { material: 'aluminium6061', od: 76.2, wall: 2 };
  const edit = { step: 'spec', edit: 'set_tube', run: INTAKE, tube };
  const headers = { 'If-Match': `"${revision}"` };
  expect((await page.request.post(`/api/jobs/${id}/edits`, { data: edit, headers })).ok()).toBe(true);
  await page.reload();
  await expect(sign).toContainText('void: since then its tube changed');
  await expect(wanting).toContainText('Since it was tested, its tube changed');
  const forged = { of: '0123456789abcdef', revision: revision + 1 };
  const deed = {
    id: crypto.randomUUID(),
    by: 'Me',
    done: { deed: 'signed', run: INTAKE, signature: forged },
  };
  const refused = await page.request.post(`/api/jobs/${id}/record`, { data: deed });
  expect(refused.status()).toBe(422);
  expect((await refused.json()).detail).toContain('It cannot be signed');
  await page.request.delete(`/api/jobs/${id}`);
});

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 } });

  test('a seam is welded and a leak is found', async ({ page }) => {
    const { id } = await ownDemo(page);
    await page.goto(`/jobs/${id}/runs/${INTAKE}/weld`);
    await page.getByRole('button', { name: /^Seam \d+ is welded$/ }).click();
    await expect(page.getByText('1 of 9 seams')).toBeVisible();
    await noSeriousFaults(page);
    await page.goto(`/jobs/${id}/runs/${INTAKE}/prove`);
    const tested = page.getByRole('region', { name: 'Leak test' });
    await tested.getByRole('button', { name: 'Watch the gauge' }).click();
    const leak = tested.getByRole('textbox', { name: /It leaks/ });
    await leak.fill('0.06');
    await leak.press('Enter');
    await tested.getByRole('button', { name: 'Shut it in' }).click();
    await expect(tested.getByRole('status')).toContainText('It leaks', { timeout: 90_000 });
    await noSeriousFaults(page);
    await tested.getByRole('button', { name: 'Note the result' }).click();
    await expect(page.getByRole('list', { name: 'What is wanting' })).toContainText(
      'It did not pass its test',
    );
    await page.request.delete(`/api/jobs/${id}`);
  });
});
