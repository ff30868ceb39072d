import { defineConfig } from '@playwright/test';

const port = 8397;
/** Where paired devices ask, over TLS. */
const lanPort = 8399;

export default defineConfig({
  testDir: '.',
  fullyParallel: false,
  workers: 1,
  timeout: 240_000,
  expect: { timeout: 15_000 },
  reporter: 'list',
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--use-angle=swiftshader',
        '--enable-unsafe-swiftshader',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
      ],
    },
  },
  webServer: {
    // A folder of its own for every run, so that no job of another run is met.
    // What a search finds must not depend on how fast this machine is.
    env: { NOOK_BEND_SEARCH_SECONDS: '100' },
    command: `../target/debug/nook-bend demo --port ${port} --host 127.0.0.1 --host-port ${lanPort} --data "$(mktemp -d)"`,
    url: `http://127.0.0.1:${port}/api/jobs`,
    reuseExistingServer: false,
  },
});
