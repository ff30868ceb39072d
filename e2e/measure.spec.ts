import type { Page } from '@playwright/test';
import { expect, noSeriousFaults, test } from './bench';

const MEASURE = '/jobs/1/runs/1/measure';

/** A small STL of a wedge, as text, in mm. */
function wedge(): string {
  const corners = [
    [0, 0, 0],
    [120, 0, 0],
    [0, 90, 0],
    [0, 0, 60],
  ];
  const faces = [
    [0, 2, 1],
    [0, 1, 3],
    [0, 3, 2],
    [1, 2, 3],
  ];
  const facet = (face: number[]) =>
    `facet normal 0 0 0\nouter loop\n${face.map((at) => `vertex ${corners[at]?.join(' ')}`).join('\n')}\nendloop\nendfacet`;
  return `solid wedge\n${faces.map(facet).join('\n')}\nendsolid wedge\n`;
}

const pad = (page: Page) => page.getByRole('region', { name: 'Bench pad' });
const stage = (page: Page, name: RegExp) =>
  page.getByRole('navigation', { name: 'Order of measuring' }).getByRole('button', { name });

test('a reading that looks wrong is named, set aside, and the mouth is good again', async ({ page }) => {
  await page.goto(MEASURE);
  await expect(pad(page)).toContainText('One reading looks wrong');
  const findings = pad(page).getByRole('region', { name: 'Findings' }).first();
  await expect(findings).toContainText(/the tape from slam panel, right \(24\.\d mm too much\) looks wrong/);
  await noSeriousFaults(page);
  await findings.getByRole('button', { name: 'Set the tape from slam panel, right aside' }).click();
  await expect(pad(page)).toContainText(/Within \d+\.\d mm.*95 times in 100/);
  await expect(page.getByLabel('tape from slam panel, right counts')).not.toBeChecked();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(pad(page)).toContainText('One reading looks wrong');
});

test('a port is measured from nothing by keyboard alone, and drops its guess when the readings fix it', async ({
  page,
}) => {
  await page.goto('/jobs/1/runs/38/measure');
  const row = pad(page).getByRole('button', { name: /A · cooler outlet/ });
  await row.focus();
  await page.keyboard.press('Enter');
  await expect(pad(page)).toContainText('As typed. Nothing is measured yet.');
  const figure = page.getByLabel('Figure of the new reading');
  await figure.focus();
  // Each tape starts from the next datum on its own.
  for (const [index, mm] of ['1064', '791.5', '844', '408'].entries()) {
    await page.keyboard.type(mm);
    await page.keyboard.press('Enter');
    await expect(pad(page).getByRole('table', { name: 'Readings' }).getByRole('row')).toHaveCount(index + 2);
  }
  await expect(pad(page)).toContainText(/95 times in 100|wrong|trusted|Not fixed/);
  await expect(pad(page)).toContainText('Its place follows from what is read or sawn.');
  await figure.fill('3//8');
  await page.keyboard.press('Enter');
  await expect(pad(page).getByRole('alert').first()).toContainText('has no place in a length');
});

test('the field with the focus takes the next reading of its instrument', async ({ page, request }) => {
  await page.goto('/jobs/1/runs/40/measure');
  await pad(page)
    .getByRole('button', { name: /A · radiator bottom neck/ })
    .click();
  await page.getByRole('combobox', { name: 'Kind of reading' }).click();
  await page.getByRole('option', { name: 'Caliper across' }).click();
  await page.getByLabel('Figure of the new reading').focus();
  const rows = pad(page).getByRole('table', { name: 'Readings' }).getByRole('row');
  // A stand-in loses a line now and then, as a radio does; then it is pressed again.
  await expect(async () => {
    await page.getByRole('button', { name: 'Press the caliper' }).click();
    await expect(rows.filter({ hasText: 'caliper' })).not.toHaveCount(0, { timeout: 2500 });
  }).toPass();
  await expect(page.getByLabel('caliper, read').first()).toHaveValue(/^3\d\.\d/);
  // The tape pressed for a diameter is refused with its reason, and kept in the log.
  await expect(async () => {
    await request.post('/api/instruments/press', { data: { instrument: 'tape', aim: [512] } });
    await expect(pad(page).getByRole('alert').first()).toContainText('this field takes an outside diameter', {
      timeout: 2500,
    });
  }).toPass();
  const log = (await (await request.get('/api/instruments/log')).json()) as {
    outcome: string;
    line: string;
  }[];
  expect(log.some((line) => line.outcome === 'refused' && line.line.startsWith('READ'))).toBe(true);
  expect(log.some((line) => line.outcome === 'taken')).toBe(true);
});

test('something in the way is added, sized and given its gap, and a scan comes in', async ({ page }) => {
  await page.goto(MEASURE);
  await stage(page, /^In the way/).click();
  await noSeriousFaults(page);
  await page.getByRole('button', { name: 'Add…' }).click();
  await page.getByRole('menuitem', { name: 'Cylinder' }).click();
  await page.getByLabel('What it is').fill('washer bottle');
  await page.keyboard.press('Enter');
  await expect(pad(page).getByRole('button', { name: /^washer bottle/ })).toBeVisible();
  await page.getByLabel('Diameter').fill('4 1/2 in');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Diameter')).toHaveValue('114.3');
  await page.getByLabel('Gap to a pipe').fill('18');
  await page.keyboard.press('Enter');
  await expect(pad(page)).toContainText('as you chose');

  await page.getByRole('button', { name: 'Bring in a scan…' }).click();
  const form = page.getByRole('dialog', { name: 'Bring in a scan or a part' });
  const choose = (name: string, text: string) =>
    form.getByLabel('Scan file').setInputFiles({ name, mimeType: 'model/stl', buffer: Buffer.from(text) });
  await choose('half.stl', wedge().slice(0, 200));
  await form.getByRole('button', { name: 'Bring it in' }).click();
  await expect(form.getByRole('alert')).toContainText('Nothing was taken');
  await choose('bracket.stl', wedge());
  await form.getByRole('button', { name: 'Bring it in' }).click();
  await expect(form).not.toBeVisible();
  await expect(pad(page)).toContainText('It lies as its file says. Match three points or more');
  await noSeriousFaults(page);
});

test('mounts, turning parts, missing boxes and datum points are said and shown', async ({ page }) => {
  await page.goto(MEASURE);
  await stage(page, /^Moves/).click();
  const moves = page.getByRole('list', { name: 'How far mouths move' });
  await expect(moves).toContainText('compressor outlet');
  await page.getByRole('button', { name: 'Solid' }).click();
  await expect(pad(page)).toContainText('Metal to metal');
  await expect(moves.getByText('compressor outlet').locator('..')).toContainText(/\d\.\d mm/);
  await page.getByRole('slider', { name: 'Engine shown rolled by' }).press('ArrowRight');
  await expect(page.getByRole('region', { name: 'Bay' })).toContainText('engine shown rolled');
  await page.getByLabel('Turn of thermostat neck, typed').fill('55');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('between -40 and 40');
  await noSeriousFaults(page);
  await page.getByRole('button', { name: 'Understood' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();

  await stage(page, /^Boxes/).click();
  await expect(pad(page)).toContainText(/condenser is not in place yet/i);
  await pad(page)
    .getByRole('button', { name: /condenser is not in place yet/i })
    .click();
  await page.getByRole('button', { name: 'It is in place now' }).first().click();
  await expect(pad(page)).not.toContainText(/condenser is not in place yet/i);
  await noSeriousFaults(page);

  await stage(page, /^Datums/).click();
  await page.getByRole('button', { name: 'Add a datum' }).click();
  await page.getByLabel('Name of the datum').fill('wiper spindle');
  await page.keyboard.press('Enter');
  await expect(pad(page).getByRole('button', { name: /^wiper spindle/ })).toBeVisible();
  await noSeriousFaults(page);
  await page.getByRole('button', { name: 'Files…' }).click();
  const [table] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: 'Save: Datum points, CSV' }).click(),
  ]);
  expect(table.suggestedFilename()).toContain('datum points');
});
