import { readFile } from 'node:fs/promises';
import AxeBuilder from '@axe-core/playwright';
import { test as base, expect, type Page } from '@playwright/test';

/** A page that fails its test on any error of its own or any request that leaves the machine. */
export const test = base.extend<{ connectionIsCut: boolean }>({
  // A journey that cuts the connection; what was under way then fails without saying why.
  connectionIsCut: [false, { option: true }],
  page: async ({ page, baseURL, connectionIsCut }, use) => {
    const wrong: string[] = [];
    page.on('pageerror', (error) => wrong.push(error.message));
    page.on('console', (message) => {
      // The server's refusals and a lost connection are part of some journeys; the browser reports them on its own.
      const text = message.text();
      const told =
        /status of 4|ERR_INTERNET_DISCONNECTED/.test(text) || (connectionIsCut && /ERR_FAILED/.test(text));
      if (message.type() === 'error' && !told) wrong.push(text);
    });
    page.on('request', (request) => {
      const { protocol, origin } = new URL(request.url());
      if (protocol === 'http:' && origin !== baseURL) wrong.push(`asked ${request.url()}`);
    });
    await use(page);
    expect(wrong).toEqual([]);
  },
});

export { expect };

export async function noSeriousFaults(page: Page) {
  const found = await new AxeBuilder({ page }).analyze();
  const serious = found.violations.filter(({ impact }) => impact === 'serious' || impact === 'critical');
  expect(serious.map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.html).join(' | ')}`)).toEqual([]);
}

/** The demo as a job of a test's own, under another name: its number, and its first run's. */
export async function ownDemo(page: Page, name = 'Borrowed van'): Promise<{ id: number; run: number }> {
  const file = JSON.parse(await readFile(new URL('../demo/pellow-van.json', import.meta.url), 'utf8'));
  file.job.name = name;
  const made = await page.request.post('/api/jobs/file', { data: file });
  const { id } = await made.json();
  return { id, run: file.job.runs[0].id };
}

/** Begins a job through the interface and opens its form for the first run. */
export async function beginJob(page: Page, name: string) {
  await page.goto('/');
  await page.getByLabel('Name of a new job').fill(name);
  await page.getByRole('button', { name: 'Begin it' }).click();
  await page.getByRole('button', { name: 'Add the first run' }).click();
}

/** Fills the form for a charge pipe between two ports at right angles and adds it. */
export async function addRun(page: Page, name: string) {
  const form = page.getByRole('dialog', { name: 'New run' });
  const type = async (label: string, text: string) => {
    await form.getByLabel(label, { exact: true }).fill(text);
    await form.getByLabel(label, { exact: true }).press('Enter');
  };
  await form.getByLabel('Name of the run').fill(name);
  await type('Forward x, B', '520');
  await type('Left y, B', '260 mm');
  await type('Up z, B', '310');
  await type('Heading, left of forward, B', '0');
  await type('Pitch, above level, B', '-90');
  await form.getByRole('button', { name: 'Add the run' }).click();
  await expect(page.getByRole('heading', { name, exact: true })).toBeVisible();
}

/** The angle of a bend in degrees, as the rod says it. */
export async function bendAngle(page: Page, number: number): Promise<number> {
  const label = await page
    .getByRole('button', { name: new RegExp(`^Bend ${number},`) })
    .getAttribute('aria-label');
  return Number(label?.match(/, (-?[\d.]+)°/)?.[1]);
}

/** The length written on a straight of the story rod, in mm. */
export async function straightLength(page: Page, number: number): Promise<number> {
  const label = await page
    .getByRole('button', { name: new RegExp(`^Straight ${number},`) })
    .getAttribute('aria-label');
  return Number(label?.match(/, (-?[\d.]+) mm/)?.[1]);
}
