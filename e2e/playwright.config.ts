import { defineConfig } from '@playwright/test';

const isRoot = process.getuid?.() === 0;

export default defineConfig({
  testDir: '.',
  outputDir: '../test-results',
  // Generous, for machines that do something else besides: what passes is not slower for it.
  timeout: 240_000,
  expect: { timeout: 45_000 },
  // Walks build on one another and on one demo: one after the other, in the order of their names. What has nothing to do with each
  // other runs side by side on applications of its own (tools/test.mjs).
  workers: 1,
  fullyParallel: false,
  reporter: [['list'], ['json']],
  use: {
    baseURL: process.env.BASE ?? 'http://127.0.0.1:4400',
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    timezoneId: 'Europe/Zurich',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        ...(isRoot ? ['--no-sandbox'] : []),
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
  projects: [
    { name: 'e2e', testMatch: /.*\.spec\.ts/, testIgnore: /screenshots/ },
    { name: 'screenshots', testMatch: /screenshots\.spec\.ts/ },
  ],
});
