import { readFile } from 'node:fs/promises';
import { addRun, beginJob, expect, noSeriousFaults, straightLength, test } from './bench';

test('two ports become a pipe, the pipe is shaped, and it goes to the saw', async ({ page }) => {
  await beginJob(page, 'Journey van');
  await noSeriousFaults(page);
  await addRun(page, 'Upper charge pipe');
  await expect(page.getByRole('button', { name: /^Bend 2,/ })).toBeVisible();
  await noSeriousFaults(page);

  // Another way round is taken with one press.
  await page.getByRole('button', { name: 'Ways round' }).click();
  await expect(page.getByRole('heading', { name: /ways fit/ })).toBeVisible();
  const ways = page.getByRole('region', { name: 'Ways round' });
  const other = ways.getByRole('button', { name: /Two bends/, pressed: false }).first();
  const name = (await other.locator('strong').textContent()) ?? '';
  await other.click();
  await expect(ways.getByRole('button', { name, pressed: true })).toBeVisible();
  await page.getByRole('button', { name: 'Shape' }).click();

  // A length typed as people say it; the rest follows, and undo brings the old one back.
  const before = await straightLength(page, 2);
  await page.getByRole('button', { name: /^Straight 2,/ }).click();
  await page.getByLabel('Length of straight 2').fill('3 3/8 in');
  await page.keyboard.press('Enter');
  await expect.poll(() => straightLength(page, 2)).toBe(85.7);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(() => straightLength(page, 2)).toBe(before);
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect.poll(() => straightLength(page, 2)).toBe(85.7);

  // A seat that is too short is found, and its button mends it.
  await page.getByRole('button', { name: /^Straight 1,/ }).click();
  await page.getByLabel('Length of straight 1').fill('20');
  await page.keyboard.press('Enter');
  const findings = page.getByRole('region', { name: 'Findings' });
  await findings.getByRole('button', { name: /20.0 mm of straight tube; the hose wants 38.0 mm/ }).click();
  await page.getByRole('button', { name: 'Make straight 1 38.0 mm long' }).click();
  await expect.poll(() => straightLength(page, 1)).toBe(38);
  // Nothing is wrong any more; what is left is a note of what is to be done first.
  await expect(findings.getByRole('button', { name: /the hose wants/ })).toHaveCount(0);
  await expect(findings.getByRole('button', { name: /to be rolled before/ })).toHaveCount(1);
  await expect(page.getByRole('button', { name: /(tight|cannot be): show the first/ })).toHaveCount(0);

  // Fewer seams, and the saw is set further over.
  await page.getByRole('button', { name: /^Bend 1,/ }).click();
  const seams = async () => {
    const label = await page.getByRole('button', { name: /^Bend 1,/ }).getAttribute('aria-label');
    return Number(label?.match(/(\d+) seams/)?.[1]);
  };
  const usual = await seams();
  await page.getByRole('button', { name: 'One seam fewer' }).click();
  await expect.poll(seams).toBe(usual - 1);

  await page.getByRole('link', { name: 'Join' }).click();
  const joints = page.getByRole('region', { name: 'What the joints take' });
  await joints.getByRole('button', { name: /^A, / }).click();
  await expect(page.getByRole('region', { name: 'End A' })).toContainText('Cut the hose');
  await noSeriousFaults(page);

  await page.getByRole('link', { name: 'Cut' }).click();
  const list = page.getByRole('table', { name: 'Cut list' });
  await expect(list.getByRole('row', { name: /^UC2 / })).toBeVisible();
  const pieces = (await list.getByRole('row').count()) - 1;
  await noSeriousFaults(page);
  const [csv] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Cut list, CSV' }).click(),
  ]);
  expect((await readFile(await csv.path(), 'utf8')).trim().split('\n')).toHaveLength(pieces + 1);
  const [svg] = await Promise.all([
    page.waitForEvent('download'),
    page
      .getByRole('link', { name: /^Template/ })
      .first()
      .click(),
  ]);
  // Round 63.5 mm tube with 0.1 mm paper: pi x 63.7, and 8 mm of paper at each side.
  expect(await readFile(await svg.path(), 'utf8')).toContain(`width="${(Math.PI * 63.7 + 16).toFixed(3)}mm"`);

  // The same figures in inches.
  await page.getByRole('button', { name: 'in', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Story rod' })).toContainText('in (');
  await page.getByRole('button', { name: 'mm', exact: true }).click();
});

test('what cannot be is refused in words, and nothing is lost', async ({ page }) => {
  await beginJob(page, 'Refusal van');
  const form = page.getByRole('dialog', { name: 'New run' });
  await form.getByLabel('Name of the run').fill('Refused');
  const od = form.getByLabel('Outside diameter');
  for (const [text, says] of [
    ['3//8', 'has no place in a length'],
    ['NaN', 'has no place in a length'],
  ] as const) {
    await od.fill(text);
    await od.press('Enter');
    await expect(form).toContainText(says);
  }
  await form.getByRole('button', { name: 'Add the run' }).click();
  await expect(form.getByRole('alert')).toContainText('nothing was added');
  for (const [label, text, says] of [
    ['Outside diameter', '-63.5', 'between 3 and 300 mm; -63.5 is outside'],
    ['Outside diameter', '20', ''],
    ['Wall', '11', 'leaves no bore'],
  ] as const) {
    await form.getByLabel(label, { exact: true }).fill(text);
    await form.getByLabel(label, { exact: true }).press('Enter');
    if (!says) continue;
    await form.getByRole('button', { name: 'Add the run' }).click();
    await expect(form.getByRole('alert')).toContainText(says);
  }
  await form.getByLabel('Wall', { exact: true }).fill('1.5');
  for (const label of ['Forward x, B', 'Left y, B', 'Up z, B'])
    await form.getByLabel(label, { exact: true }).fill('0');
  await form.getByRole('button', { name: 'Add the run' }).click();
  await expect(form.getByRole('alert')).toContainText('at least 1 mm apart');
  await expect(form.getByLabel('Name of the run')).toHaveValue('Refused');
});

test('a job is downloaded, deleted and taken in again the same', async ({ page, request }) => {
  const file = await (await request.get('/api/jobs/1/file')).body();
  await page.goto('/');
  await noSeriousFaults(page);
  await page
    .getByLabel('Job file')
    .setInputFiles({ name: 'cat.json', mimeType: 'application/json', buffer: Buffer.from('{"a":1}') });
  await expect(page.getByRole('alert')).toContainText('no job');
  await page
    .getByLabel('Job file')
    .setInputFiles({ name: 'van.json', mimeType: 'application/json', buffer: file });
  await expect(page.getByRole('link', { name: /^Pellow van/ })).toHaveCount(2);
  const link = page.getByRole('link', { name: /^Pellow van/ }).first();
  const copy = (await link.getAttribute('href'))?.split('/').at(-1);
  expect(await (await request.get(`/api/jobs/${copy}/file`)).body()).toEqual(file);
  await page
    .getByRole('button', { name: /^Delete Pellow van/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Really delete' }).click();
  await expect(page.getByRole('link', { name: /^Pellow van/ })).toHaveCount(1);
});
