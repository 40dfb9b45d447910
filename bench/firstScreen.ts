// What a browser meets: the weight of the first screen over the wire, and how long the register takes from a click to its rows.
import { existsSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';
import { type Browser, type CDPSession, chromium, type Page } from '@playwright/test';
import { createHttp } from '../packages/server/src/http.ts';
import { PASSWORD, type TestOrganisation } from '../packages/server/src/tests/organisation.ts';
import { quantile, rate } from './measure.ts';

const WEB = fileURLToPath(new URL('../dist/web', import.meta.url));
const CLICKS = 9;

/** Bytes of scripts that have come over the wire so far, as the browser counts them, and their requests. */
const countScripts = async (session: CDPSession) => {
  const scripts = new Set<string>();
  const counted = { bytes: 0, requests: 0 };
  await session.send('Network.enable');
  session.on('Network.responseReceived', ({ requestId, type }) => {
    if (type === 'Script') scripts.add(requestId);
  });
  session.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    if (!scripts.has(requestId)) return;
    counted.bytes += encodedDataLength;
    counted.requests++;
  });
  return counted;
};

const signIn = async (page: Page, base: string) => {
  await page.goto(`${base}/signin`);
  await page.getByLabel('Sign-in name').fill('controller');
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.waitForURL(`${base}/`);
  await page.getByRole('heading', { level: 1 }).waitFor();
};

/** The Desk of somebody who is signed in and has never been here with this browser: what comes until it can be read, and after. */
const firstScreen = async (browser: Browser, base: string, size: number) => {
  const signedIn = await browser.newContext();
  await signIn(await signedIn.newPage(), base);
  const fresh = await browser.newContext({ storageState: await signedIn.storageState() });
  const page = await fresh.newPage();
  const counted = await countScripts(await fresh.newCDPSession(page));
  await page.goto(`${base}/`);
  await page.getByRole('heading', { level: 1 }).waitFor();
  const { bytes, requests } = counted;
  await page.waitForLoadState('networkidle');
  await page.getByRole('combobox').waitFor();
  rate('first screen: JavaScript over the wire', size, bytes / 1024, 0, '≤ 150 kB', 'kB');
  rate('first screen: requests for JavaScript', size, requests, 0, '–', 'requests');
  rate('fetched after it, for what opens on a press', size, (counted.bytes - bytes) / 1024, 0, '–', 'kB');
  await signedIn.close();
  return page;
};

/** As text, because what the loader of this program adds to functions is not known in the page. */
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
  await page.getByRole('link', { name: /^Reading/ }).click();
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
