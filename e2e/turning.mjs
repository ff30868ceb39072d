// How long a frame takes while the bay is turned, in software WebGL: `node e2e/turning.mjs [binary]`. Prints the median
// and the worst of 60 frames for the demo and for a job of eight runs and 200 keep-outs made from it.
import { spawn } from 'node:child_process';
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { chromium } from '@playwright/test';

const root = fileURLToPath(new URL('..', import.meta.url));
const binary = process.argv[2] ?? join(root, 'target/debug/nook-bend');
const port = 8395;
const host = `http://127.0.0.1:${port}`;
const data = await mkdtemp(join(tmpdir(), 'nook-bend-'));
const server = spawn(binary, ['demo', '--port', String(port), '--data', data]);
await new Promise((resolve) => server.stdout.once('data', resolve));

const FRAMES = 60;
const KEEP_OUTS = 200;

/** The demo with its keep-outs again and again beside themselves. */
async function crowded() {
  const job = await (await fetch(`${host}/api/jobs/1/file`)).json();
  const body = job.job ?? job;
  const plain = body.keep_outs.filter((one) => one.shape.shape === 'box' && !(one.readings ?? []).length);
  for (let k = 0; body.keep_outs.length < KEEP_OUTS; k += 1) {
    const one = structuredClone(plain[k % plain.length]);
    const round = Math.floor(k / plain.length) + 1;
    one.id = body.next_id++;
    one.name = `${one.name} ${round + 1}`;
    one.shape.centre = one.shape.centre.map((c, axis) => c + [37, 53, 29][axis] * round);
    one.swing = null;
    body.keep_outs.push(one);
  }
  const sent = await fetch(`${host}/api/jobs/file`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/octet-stream' },
    body: JSON.stringify(job),
  });
  const state = await sent.json();
  if (!sent.ok) throw new Error(JSON.stringify(state));
  return state.id;
}

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--use-angle=swiftshader', '--enable-unsafe-swiftshader'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });

async function turn(id) {
  await page.goto(`${host}/jobs/${id}/runs/1/route`);
  await page.waitForSelector('canvas');
  await page.waitForTimeout(5000);
  return page.evaluate(async (frames) => {
    const canvas = document.querySelector('canvas');
    const gl = canvas.getContext('webgl2');
    const { left, top, width, height } = canvas.getBoundingClientRect();
    const send = (type, x) =>
      canvas.dispatchEvent(
        new PointerEvent(type, {
          pointerId: 1,
          bubbles: true,
          button: 0,
          buttons: 1,
          clientX: left + width / 2 + x,
          clientY: top + height * 0.9,
        }),
      );
    canvas.setPointerCapture = () => undefined;
    canvas.releasePointerCapture = () => undefined;
    send('pointerdown', 0);
    const took = [];
    for (let k = 1; k <= frames; k += 1) {
      send('pointermove', 3 * k);
      took.push(
        await new Promise((resolve) =>
          requestAnimationFrame((begun) => {
            gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
            resolve(performance.now() - begun);
          }),
        ),
      );
    }
    send('pointerup', 3 * frames);
    return took.sort((p, q) => p - q);
  }, FRAMES);
}

for (const [name, id] of [
  ['demo', 1],
  [`8 runs, ${KEEP_OUTS} keep-outs`, await crowded()],
]) {
  const took = await turn(id);
  console.log(
    `${name}: median ${took[FRAMES / 2].toFixed(1)} ms, worst ${took.at(-1).toFixed(1)} ms, best ${took[0].toFixed(1)} ms`,
  );
  if (process.env.PICTURE) await page.screenshot({ path: `${process.env.PICTURE}-${id}.png` });
}
await browser.close();
server.kill('SIGTERM');
