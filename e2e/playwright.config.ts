import { defineConfig } from '@playwright/test';

/** The application that `tools/test.mjs` started, in Debian's Chromium, drawn in software. */
export default defineConfig({
  testDir: process.env.VARRUP_SHOTS ? './shots' : './tests',
  timeout: 120_000,
  expect: { timeout: 20_000 },
  // As many as there are cores. What looks at lists of all that there is comes first and one by one.
  workers: process.env.VARRUP_SHOTS ? 1 : 2,
  retries: 0,
  projects: process.env.VARRUP_SHOTS
    ? [{ name: 'pictures' }]
    : [
        { name: 'lists', grep: /@lists/, workers: 1 },
        { name: 'desk', grepInvert: /@lists/, fullyParallel: true },
      ],
  outputDir: '../test-results',
  use: {
    baseURL: process.env.VARRUP_ADDRESS,
    viewport: { width: 1280, height: 800 },
    actionTimeout: 20_000,
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: process.env.VARRUP_CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--use-angle=swiftshader',
        '--enable-unsafe-swiftshader',
        // Without a graphics card all but the stage is drawn and put together quicker by the page itself: a test takes half the time.
        '--disable-accelerated-2d-canvas',
        '--disable-gpu-rasterization',
        '--disable-gpu-compositing',
        '--disable-background-networking',
        '--no-first-run',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
