import type { Page } from '@playwright/test';
import { addRun, beginJob, expect, noSeriousFaults, ownDemo, test } from './bench';

const rows = (page: Page) => page.getByRole('list', { name: 'Runs' }).getByRole('listitem');

test('a new job leads from its empty rack to a first pipe, and no address is undefined', async ({ page }) => {
  const addresses: string[] = [];
  page.on('framenavigated', (frame) => addresses.push(frame.url()));
  await page.goto('/');
  await page.getByLabel('Name of a new job').fill('Rack van');
  await page.getByRole('button', { name: 'Begin it' }).click();
  await expect(page.getByRole('heading', { name: 'An empty rack' })).toBeVisible();
  await noSeriousFaults(page);
  const steps = page.getByRole('list', { name: 'What to begin with' }).getByRole('heading');
  await expect(steps).toContainText(['Datums', 'Big boxes', 'The first two mouths', 'What is in the way']);
  await page.getByRole('link', { name: 'Place the boxes' }).click();
  await expect(page.getByRole('button', { name: /^Boxes/ })).toHaveAttribute('aria-current', 'step');
  await page.keyboard.press('0');
  await page.getByRole('button', { name: 'Add the first run' }).click();
  // The whole form is on the screen.
  const add = page.getByRole('button', { name: 'Add the run' });
  await expect(add).toBeInViewport();
  await expect(page.getByLabel('Rides on, B')).toBeInViewport();
  await addRun(page, 'Upper charge pipe');
  expect(page.url()).toMatch(/runs\/\d+\/route$/);
  await page.keyboard.press('0');
  await expect(rows(page)).toHaveCount(1);

  // The next run begins at a mouth that is measured.
  await page.keyboard.press('a');
  const form = page.getByRole('dialog', { name: 'New run' });
  await form.getByLabel('Name of the run').fill('Second pipe');
  await form.getByRole('combobox', { name: 'Measured already, A' }).click();
  await page.getByRole('option', { name: /^inlet: 63.5 mm \(UC B\)/ }).click();
  await expect(form.getByLabel('Up z, A')).toHaveValue('310.0');
  await form.getByRole('button', { name: 'Add the run' }).click();
  await expect(page.getByRole('heading', { name: 'Second pipe' })).toBeVisible();
  expect(addresses.filter((address) => address.includes('undefined'))).toEqual([]);
});

test('the rack says what is wrong and mends it, by keyboard, in the order the builder hangs it', async ({
  page,
  request,
}) => {
  await page.goto('/jobs/1');
  await expect(rows(page)).toHaveCount(10);
  await noSeriousFaults(page);
  const top = rows(page).filter({ hasText: 'Top coolant line' });
  await expect(top.getByRole('img', { name: /Join cannot be/ })).toBeVisible();
  await top.getByRole('button', { name: 'Use a 34.0 mm to 38.1 mm reducer' }).click();
  await expect(top.getByRole('img', { name: /Join done/ })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).hover();
  await expect(page.getByRole('tooltip')).toContainText('Undo: joint B of Top coolant line');
  await page.keyboard.press('u');
  await expect(top.getByRole('img', { name: /Join cannot be/ })).toBeVisible();

  const order = async () => {
    const { job } = await (await request.get('/api/jobs/1')).json();
    return (job.runs as { name: string }[]).map(({ name }) => name).slice(0, 2);
  };
  const [first, second] = await order();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Alt+ArrowDown');
  await expect.poll(order).toEqual([second, first]);
  await page.keyboard.press('u');
  await expect.poll(order).toEqual([first, second]);

  await page.getByRole('button', { name: 'Name, mark and place of Intake pipe' }).click();
  const naming = page.getByRole('dialog', { name: 'Intake pipe' });
  await naming.getByLabel('Mark').fill('h');
  await naming.getByLabel('Mark').press('Enter');
  await expect(naming.getByRole('alert')).toContainText('H');
  await naming.getByLabel('Mark').fill('ip');
  await naming.getByLabel('Mark').press('Enter');
  await noSeriousFaults(page);
  await naming.getByRole('button', { name: 'Close' }).click();
  await expect(rows(page).filter({ hasText: 'Intake pipe' })).toContainText('IP');
  await page.keyboard.press('u');

  await page.getByRole('link', { name: 'Show it: Heater line, right' }).click();
  await expect(page.getByRole('region', { name: 'Findings here' })).toContainText('into the down pipe');
  await page.setViewportSize({ width: 390, height: 844 });
  await expect(page.getByRole('region', { name: 'Findings', exact: true })).toContainText(
    '5.7 mm into the down pipe',
  );
  await noSeriousFaults(page);
  await page.getByRole('link', { name: 'Rack' }).click();
  await expect(rows(page)).toHaveCount(10);
  await noSeriousFaults(page);
});

test('the bay is asked: a distance between two things, layers, the roll, another run', async ({ page }) => {
  const { id, run } = await ownDemo(page);
  await page.goto(`/jobs/${id}/runs/${run}/route`);
  await expect(page.locator('.bay-label-fouls').first()).toBeVisible();
  await page.keyboard.press('d');
  const distance = page.getByRole('region', { name: 'Distance' });
  await distance.getByRole('combobox', { name: 'From' }).click();
  await page.getByRole('option', { name: 'charge cooler', exact: true }).click();
  await distance.getByRole('combobox', { name: 'To' }).click();
  await page.getByRole('option', { name: 'radiator', exact: true }).click();
  await expect(distance.getByRole('status')).toContainText('15.5 mm between charge cooler and radiator.');
  await noSeriousFaults(page);
  await distance.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('button', { name: 'Layers' }).click();
  await page.getByRole('checkbox', { name: 'The other runs (o)' }).uncheck();
  await noSeriousFaults(page);
  await page.keyboard.press('Escape');
  await page.keyboard.press('o');
  await page.getByRole('button', { name: 'Layers' }).click();
  await expect(page.getByRole('checkbox', { name: 'The other runs (o)' })).toBeChecked();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Roll', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Bay' })).toContainText('engine shown rolled');
  await expect(page.getByRole('button', { name: 'Roll', exact: true, pressed: false })).toBeVisible({
    timeout: 15_000,
  });
  // A finding is a line that opens on press, and the bay turns to it.
  await page
    .getByRole('region', { name: 'Findings' })
    .getByRole('button', { name: /into the drive belt/ })
    .click();
  await expect(page.getByRole('heading', { name: 'Straight 4 of 5' })).toBeVisible();
  await page.getByRole('button', { name: 'Back', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Hot side charge pipe' })).toBeVisible();
});

test('a list of jobs shows their sticks and what is wrong', async ({ page, request }) => {
  await beginJob(page, 'Listed van');
  await page.goto('/');
  const demo = page.getByRole('listitem').filter({ has: page.getByRole('link', { name: /^Pellow van/ }) });
  await expect(
    demo.first().getByRole('img', { name: /^Intake pipe, 491 mm of tube, 2 bends/ }),
  ).toBeVisible();
  // What other journeys left in it counts too.
  const { counts } = await (await request.get('/api/jobs/1/rack')).json();
  expect(counts.errors).toBeGreaterThanOrEqual(4);
  await expect(demo.first()).toContainText(`${counts.errors} cannot be`);
  await noSeriousFaults(page);
});
