// Renews docs/screenshots from the demo data: `node e2e/pictures.mjs` after `cargo xtask test` or `demo` has built all.
import { execFileSync, spawn } from 'node:child_process';
import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { chromium } from '@playwright/test';

const root = fileURLToPath(new URL('..', import.meta.url));
const port = 8396;
const data = await mkdtemp(join(tmpdir(), 'nook-bend-'));
const server = spawn(join(root, 'target/debug/nook-bend'), ['demo', '--port', String(port), '--data', data]);
await new Promise((resolve) => server.stdout.once('data', resolve));

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--use-angle=swiftshader',
    '--enable-unsafe-swiftshader',
    '--disable-background-networking',
  ],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });

async function stage(name, thing) {
  await page.getByRole('navigation', { name: 'Order of measuring' }).getByRole('button', { name }).click();
  await page.getByRole('button', { name: thing }).click();
}

const views = [
  ['jobs', '/', async () => {}],
  ['rack', '/jobs/1', async () => {}],
  ['measure', '/jobs/1/runs/1/measure', async () => {}],
  [
    'boxes',
    '/jobs/1/runs/1/measure',
    async () => {
      const order = page.getByRole('navigation', { name: 'Order of measuring' });
      await order.getByRole('button', { name: /^Boxes/ }).click();
      await page
        .getByRole('group', { name: 'Components' })
        .getByRole('button', { name: /charge cooler/ })
        .click();
    },
  ],
  ['in-the-way', '/jobs/1/runs/1/measure', () => stage(/^In the way/, /^fuse box lid/)],
  ['route', '/jobs/1/runs/1/route', async () => {}],
  [
    'ways',
    '/jobs/1/runs/1/route',
    async () => {
      await page.getByRole('button', { name: /^Ways round/ }).click();
      await page.getByRole('heading', { name: /ways fit/ }).waitFor({ timeout: 30_000 });
    },
  ],
  [
    'join',
    '/jobs/1/runs/38/join',
    () => page.getByRole('region', { name: 'What the joints take' }).waitFor(),
  ],
  ['weld', '/jobs/1/runs/38/weld', () => page.getByRole('region', { name: /^Seam/ }).waitFor()],
  [
    'prove',
    '/jobs/1/runs/39/prove',
    async () => {
      const tested = page.getByRole('region', { name: 'Leak test' });
      await tested.getByRole('button', { name: 'Watch the gauge' }).click();
      await tested.getByRole('button', { name: 'Shut it in' }).click();
      await tested.getByText(/Tight/).waitFor({ timeout: 60_000 });
      await page.getByRole('region', { name: 'Bench pad' }).evaluate((pad) => pad.scrollTo(0, 190));
    },
  ],
  ['log', '/jobs/1/log', async () => {}],
  [
    'shelf',
    '/jobs/1/stock',
    () =>
      page
        .getByRole('button', { name: /of Hot side charge pipe/ })
        .first()
        .click(),
  ],
  ['cut', '/jobs/1/runs/1/cut', () => page.getByRole('link', { name: 'Join' }).waitFor()],
  ['fit', '/jobs/1/runs/39/fit', () => page.getByRole('region', { name: 'First choice' }).waitFor()],
  [
    'finding',
    '/jobs/1/runs/1/route',
    async () => {
      await page.keyboard.press('n');
      await page.keyboard.press('n');
    },
  ],
  ['rack-phone', '/jobs/1', () => page.setViewportSize({ width: 390, height: 844 })],
  [
    'card',
    '/jobs/1/runs/1/cards',
    async () => {
      for (const does of ['They are scribed', 'Cut it is', 'Cut it is', 'Cut it is'])
        await page.getByRole('button', { name: does }).click();
    },
  ],
];
for (const [name, path, act] of views) {
  await page.goto(`http://127.0.0.1:${port}${path}`);
  await page.waitForTimeout(2500);
  await act();
  await page.waitForTimeout(1200);
  await page.screenshot({ path: join(root, `docs/screenshots/${name}.png`) });
}
// Two pages of the packet, by Debian's poppler-utils.
for (const [name, run, sheets, number] of [
  ['packet-run', 1, 'run', 2],
  ['packet-templates', 1, 'templates', 1],
]) {
  const file = join(data, `${name}.pdf`);
  const packet = await fetch(`http://127.0.0.1:${port}/api/jobs/1/runs/${run}/packet.pdf?sheets=${sheets}`);
  await writeFile(file, Buffer.from(await packet.arrayBuffer()));
  const [first, last, picture] = [String(number), String(number), join(root, `docs/screenshots/${name}`)];
  execFileSync('pdftoppm', ['-r', '90', '-f', first, '-l', last, '-png', '-singlefile', file, picture]);
}
await browser.close();
server.kill('SIGTERM');
