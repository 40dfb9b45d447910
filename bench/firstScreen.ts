// What a browser meets: the weight of the first screen over the wire, and how long the register takes from a click to its rows.
import { existsSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';
import { type Browser, chromium, type Page } from '@playwright/test';
import { createHttp } from '../packages/server/src/http.ts';
import { PASSWORD, type TestOrganisation } from '../packages/server/src/tests/organisation.ts';
import { quantile, rate } from './measure.ts';

const WEB = fileURLToPath(new URL('../dist/web', import.meta.url));
const CLICKS = 9;

/** Notes when the heading of the page is there. As text, like all that runs in the page: the loader of this program adds to functions. */
const NOTE_THE_HEADING = `new MutationObserver((_, observer) => {
  if (!document.querySelector('main h1')) return;
  window.headingAt = performance.now();
  observer.disconnect();
}).observe(document, { childList: true, subtree: true })`;

/** The scripts that came before the heading and after it: how many, and their bytes over the wire as the browser counts them. */
const SCRIPTS = `(() => {
  const scripts = performance.getEntriesByType('resource').filter((one) => /\\.m?js$/.test(one.name));
  const sum = (of) => ({ requests: of.length, bytes: of.reduce((all, one) => all + one.transferSize, 0) });
  return {
    before: sum(scripts.filter((one) => one.startTime <= window.headingAt)),
    after: sum(scripts.filter((one) => one.startTime > window.headingAt)),
  };
})()`;
type Scripts = Record<'before' | 'after', { requests: number; bytes: number }>;

const signIn = async (page: Page, base: string) => {
  await page.goto(`${base}/signin`);
  await page.getByLabel('Sign-in name').fill('controller');
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.waitForURL(`${base}/`);
  await page.locator('main h1').waitFor();
};

/** The Desk of somebody who is signed in and has never been here with this browser: what comes until it can be read, and after. */
const firstScreen = async (browser: Browser, base: string, size: number) => {
  const signedIn = await browser.newContext();
  await signIn(await signedIn.newPage(), base);
  const fresh = await browser.newContext({ storageState: await signedIn.storageState() });
  const page = await fresh.newPage();
  await page.addInitScript(NOTE_THE_HEADING);
  await page.goto(`${base}/`);
  await page.getByRole('combobox').waitFor();
  await page.waitForLoadState('networkidle');
  const { before, after } = await page.evaluate<Scripts>(SCRIPTS);
  rate('first screen: JavaScript over the wire', size, before.bytes / 1024, 0, '≤ 150 kB', 'kB');
  rate('first screen: requests for JavaScript', size, before.requests, 0, '–', 'requests');
  rate('fetched after it, for what opens on a press', size, after.bytes / 1024, 0, '–', 'kB');
  await signedIn.close();
  return page;
};

const CLICK_TO_ROWS = `new Promise((resolve) => {
  const began = performance.now();
  const look = () =>
    document.querySelector('[role="row"][aria-rowindex="1"]')
      ? resolve(performance.now() - began)
      : requestAnimationFrame(look);
  [...document.querySelectorAll('nav a')].find((a) => a.textContent.startsWith('Register')).click();
  requestAnimationFrame(look);
})`;

/** The time from the click on Register to the first row that can be read, each time from another place. */
const rowsAfterClick = async (page: Page): Promise<number> => {
  await page.getByRole('link', { name: /^Desk/ }).click();
  await page.getByRole('heading', { level: 1 }).waitFor();
  await page.waitForTimeout(400);
  return page.evaluate<number>(CLICK_TO_ROWS);
};

/** Measures with the built interface; without a build there is nothing to measure, which is said. */
export const inTheBrowser = async (organisation: TestOrganisation, size: number): Promise<void> => {
  if (!existsSync(`${WEB}/index.html`)) {
    process.stdout.write('first screen: not measured, because the interface is not built (npm run build)\n');
    return;
  }
  const app = { ...organisation.app, config: { ...organisation.app.config, webDir: WEB, checkAnswers: false } };
  const server = createHttp(app).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
  try {
    const page = await firstScreen(browser, base, size);
    await rowsAfterClick(page);
    const times: number[] = [];
    for (let i = 0; i < CLICKS; i++) times.push(await rowsAfterClick(page));
    rate('register: from the click to its rows (worst of 9)', size, quantile(times, 1), 0, '≤ 300 ms', 'ms');
    rate('register: from the click to its rows (median)', size, quantile(times, 0.5), 0, '–', 'ms');
  } finally {
    await browser.close();
    server.closeAllConnections();
    server.close();
  }
};
