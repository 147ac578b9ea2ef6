import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: 'e2e',
  // The longest are run by npm run soak alone.
  ...(process.env.VIATICUM_SOAK ? {} : { grepInvert: /@soak/ }),
  // No measure of speed: a machine whose processor others use half the time passes too.
  timeout: 360_000,
  expect: { timeout: 40_000 },
  // A machine that stalls for seconds is met by one second try; npm test names the tests that needed it.
  retries: 1,
  fullyParallel: false,
  workers: Number(process.env.VIATICUM_E2E_WORKERS || 2),
  reporter: [['list'], ['json', { outputFile: 'test-results/browser.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    // A step that cannot be done is not waited for as long as a whole test may take.
    actionTimeout: 60_000,
    trace: 'on-first-retry',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--disable-dev-shm-usage',
        '--no-sandbox',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
