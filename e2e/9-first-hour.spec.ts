import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, Page } from '@playwright/test';
import { simpleParser } from 'mailparser';
import { SMTPServer } from 'smtp-server';
import { axeFindings, pick } from './people.ts';
import { expect, test } from './test.ts';

// The first hour of another organisation: from an empty start to a document that is registered, reviewed, approved, released and
// signed by its reader, in the browser alone.

test.describe.configure({ mode: 'serial' });

const DATA = join(tmpdir(), `kanonos-first-hour-${process.pid}`);
/** A small PNG of one colour. */
const LOGO = 'iVBORw0KGgoAAAANSUhEUgAAAAgAAAAECAIAAAA8r+mnAAAAEUlEQVR4nGPgDk3GihioJwEAuGAYYdldeb0AAAAASUVORK5CYII=';
const SECRETS = { ada: 'lantern-of-the-harbour-7', nils: 'gravel-under-the-bridge-3' };
let server: ChildProcess;
let link = '';
let base = '';
let number = '';

test.beforeAll(async () => {
  test.setTimeout(300_000);
  mkdirSync(DATA, { recursive: true });
  server = spawn('node', ['tools/start.mjs', '--empty', '--data', DATA, '--port', '4493'], {
    cwd: join(import.meta.dirname, '..'),
  });
  let output = '';
  server.stderr?.on('data', (text) => {
    output += String(text);
  });
  await new Promise<void>((resolve, reject) => {
    server.stdout?.on('data', (text) => {
      output += String(text);
      if (output.includes('Kanonos is ready at')) resolve();
    });
    server.once('exit', () => reject(new Error(`the empty start ended: ${output.slice(-2000)}`)));
  });
  link = /http:\S+\/password\/\S+/.exec(output)?.[0] ?? '';
  base = new URL(link).origin;
});

test.afterAll(async () => {
  server.removeAllListeners('exit');
  const ended = new Promise((resolve) => server.once('exit', resolve));
  server.kill('SIGTERM');
  await ended;
  rmSync(DATA, { recursive: true, force: true });
});

/** Sets a password by a link and signs in. */
const enter = async (browser: Browser, by: string, name: string, password: string): Promise<Page> => {
  const page = await (await browser.newContext({ baseURL: base })).newPage();
  await page.goto(by);
  await page.getByLabel('New password').fill(password);
  await page.getByLabel('Repeat password').fill(password);
  await page.getByRole('button', { name: 'Set password' }).click();
  await page.getByRole('link', { name: 'Go to sign-in' }).click();
  await signIn(page, name, password);
  return page;
};

const signIn = async (page: Page, name: string, password: string) => {
  await page.getByLabel('Sign-in name').fill(name);
  await page.getByLabel('Password').fill(password);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('navigation').getByRole('link', { name: /^Desk/ })).toBeVisible();
};

const pageAs = async (browser: Browser, name: string, password: string): Promise<Page> => {
  const page = await (await browser.newContext({ baseURL: base })).newPage();
  await page.goto('/signin');
  await signIn(page, name, password);
  return page;
};

/** The link in the mail that the stand-in received for an address. */
const linkFor = async (address: string): Promise<string> => {
  let found = '';
  await expect
    .poll(async () => {
      for (const name of readdirSync(join(DATA, 'mail')).filter((one) => one.endsWith('.eml'))) {
        const mail = await simpleParser(readFileSync(join(DATA, 'mail', name)));
        if (JSON.stringify(mail.to ?? '').includes(address))
          found = /http:\S+\/password\/[\w-]+/.exec(mail.text ?? '')?.[0] ?? found;
      }
      return found;
    })
    .toContain('/password/');
  return found;
};

test('the one-time link opens the first steps, and the organisation gets its name and calendar', async ({
  browser,
}) => {
  const page = await enter(browser, link, 'administrator', SECRETS.ada);
  await page.waitForURL('/setup?step=organisation');
  await expect(page.getByText('0 of 6 done')).toBeVisible();
  await page.getByLabel('Name').fill('Brook Laboratories');
  await page.getByLabel('Code').fill('brk');
  await page.getByLabel('Country').selectOption({ label: 'Germany' });
  await page.getByLabel('Region').selectOption({ label: 'Bayern' });
  await page.getByRole('button', { name: /^Add \d+ holidays to the calendar/ }).click();
  await page
    .getByLabel('Logo', { exact: true })
    .setInputFiles({ name: 'brook.png', mimeType: 'image/png', buffer: Buffer.from(LOGO, 'base64') });
  await expect(page.getByText('brook.png')).toBeVisible();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('1 of 6 done')).toBeVisible();
  expect((await page.request.get('/api/organisation/logo')).headers()['content-type']).toContain('image/');
  await page.getByRole('button', { name: 'Next step: Your account' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Ada Brook');
  await page.getByLabel('Mail address').fill('ada@brook.example');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('2 of 6 done')).toBeVisible();
  // Left and resumed: the Desk shows what is done, and leads on.
  await page.goto('/');
  await expect(page.getByRole('region', { name: 'First steps' })).toContainText('2 of 6 done');
  await page.getByRole('link', { name: 'Continue first steps' }).click();
  await expect(page.getByRole('heading', { name: 'Starting configuration' })).toBeVisible();
});

test('a starting configuration is looked at, trimmed and taken over', async ({ browser }) => {
  const page = await pageAs(browser, 'administrator', SECRETS.ada);
  await page.goto('/setup?step=configuration');
  await page.getByText('Medical or laboratory quality').click();
  await expect(page.getByText('BRK-SOP-0001')).toBeVisible();
  await page.getByRole('checkbox', { name: /Equipment file/ }).uncheck();
  await page.getByRole('checkbox', { name: 'Head of laboratory', exact: true }).check();
  expect(await axeFindings('starting configuration', page)).toEqual([]);
  await page.getByRole('button', { name: 'Use this configuration with 6 types' }).click();
  await expect(page.getByText('3 of 6 done')).toBeVisible();
  await page.goto('/rules/types');
  await expect(page.getByRole('link', { name: /Operating procedure/ })).toBeVisible();
  await expect(page.getByRole('link', { name: /Equipment file/ })).toHaveCount(0);
});

test('departments and people come in from lines; wrong ones stay with their reason; mail is tried', async ({
  browser,
}) => {
  const page = await pageAs(browser, 'administrator', SECRETS.ada);
  await page.goto('/setup?step=people');
  await page.getByLabel('Code of the department').fill('LAB');
  await page.getByLabel('Department', { exact: true }).fill('Laboratory');
  await page.getByRole('button', { name: 'Add department' }).click();
  await expect(page.getByText('LAB Laboratory')).toBeVisible();
  await page
    .getByLabel('People from a spreadsheet or CSV file')
    .first()
    .fill('Nils Berg; nils@brook.example; LAB; QA + STAFF\nNobody; not an address; LAB');
  await expect(page.getByText('Enter a mail address such as')).toBeVisible();
  await page.getByRole('button', { name: 'Add 1 person' }).click();
  await expect(page.getByText('2 people in the organisation')).toBeVisible();
  await expect(page.getByRole('row', { name: /Nobody/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /Nils Berg/ })).toHaveCount(0);
  await page.goto('/setup?step=mail');
  await expect(page.getByText('No mail server is set.')).toBeVisible();
  await page.getByRole('button', { name: 'Send test mail' }).click();
  await expect(page.getByText('A test mail is on its way to ada@brook.example.')).toBeVisible();
});

test('a mail server is set in the browser once it answers, and a test mail goes through it', async ({ browser }) => {
  const taken: string[] = [];
  const mails = new SMTPServer({
    disabledCommands: ['AUTH', 'STARTTLS'],
    onData: (stream, session, done) => {
      stream.resume();
      stream.on('end', () => {
        taken.push(session.envelope.rcptTo.map(({ address }) => address).join());
        done();
      });
    },
  });
  await new Promise<void>((resolve) => mails.listen(0, '127.0.0.1', resolve));
  const { port } = mails.server.address() as AddressInfo;
  const page = await pageAs(browser, 'administrator', SECRETS.ada);
  await page.goto('/setup?step=mail');
  await page.getByLabel('Host').fill('127.0.0.1');
  await page.getByLabel('Port').fill('9');
  await page.getByLabel('Encryption').selectOption({ label: 'None, usually port 25' });
  await page.getByLabel('Sender').fill('documents@brook.example');
  await page.getByRole('button', { name: 'Save mail server' }).click();
  await expect(page.getByText(/The mail server did not accept the connection/)).toBeVisible();
  await page.getByLabel('Port').fill(String(port));
  expect(await axeFindings('mail server', page)).toEqual([]);
  await page.getByRole('button', { name: 'Save mail server' }).click();
  await expect(page.getByText(`smtp://127.0.0.1:${port}`)).toBeVisible();
  await page.getByRole('button', { name: 'Send test mail' }).click();
  await expect.poll(() => taken, { timeout: 60_000 }).toContain('ada@brook.example');
  // The others of this walk get their links through the stand-in.
  await page.getByRole('button', { name: 'Remove mail server' }).click();
  await expect(page.getByText('No mail server is set.')).toBeVisible();
  await new Promise<void>((resolve) => mails.close(resolve));
});

test('the first document is registered and submitted by the route of its type', async ({ browser }) => {
  // Only people who have set their password can be asked.
  await enter(browser, await linkFor('nils@brook.example'), 'nils.berg', SECRETS.nils);
  const page = await pageAs(browser, 'administrator', SECRETS.ada);
  await page.goto('/setup?step=documents');
  await page.getByRole('link', { name: 'Register documents' }).click();
  await page.getByLabel('Find a type').fill('SOP');
  await page.keyboard.press('Enter');
  await page.getByLabel('Folder').selectOption({ label: 'Quality system / Procedures' });
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles({
      name: 'sop1.md',
      mimeType: 'text/markdown',
      buffer: Buffer.from('# Reception of samples\n\nEvery sample is labelled within five minutes.\n'),
    });
  await expect(page.getByLabel('Title')).toHaveValue('Reception of samples');
  await page.getByRole('button', { name: 'Register BRK-SOP-0001' }).click();
  await page.waitForURL('/d/BRK-SOP-0001');
  number = 'BRK-SOP-0001';
  await page.getByRole('button', { name: 'Submit for review' }).click();
  await pick(page, 'Reviewers (at least 1)', 'Nils Berg');
  await page.getByRole('dialog').getByRole('button', { name: 'Submit', exact: true }).click();
  await expect(page.getByText('Waiting for Nils Berg')).toBeVisible();
});

/** Approves a step with a signature. */
const approve = async (page: Page, { name, person, password }: { name: string; person: string; password: string }) => {
  await page.goto('/');
  await page.getByRole('link', { name: `Decide: ${number}` }).click();
  await page.getByText('Approve', { exact: true }).click();
  await page.getByLabel('Sign-in name').fill(name);
  await page.getByLabel(`Password of ${person}`).fill(password);
  await page.getByRole('button', { name: 'Sign approval of A' }).click();
  await page.waitForURL('/');
};

test('it is reviewed, approved, released, read and signed, and the steps are finished', async ({ browser }) => {
  const nils = await pageAs(browser, 'nils.berg', SECRETS.nils);
  await nils.goto('/');
  await nils.getByRole('link', { name: `Review: ${number}` }).click();
  await nils.getByText('No objection', { exact: true }).click();
  await nils.getByRole('button', { name: 'No objection' }).click();
  await nils.waitForURL('/');
  const ada = await pageAs(browser, 'administrator', SECRETS.ada);
  await approve(ada, { name: 'administrator', person: 'Ada Brook', password: SECRETS.ada });
  await approve(nils, { name: 'nils.berg', person: 'Nils Berg', password: SECRETS.nils });
  await ada.goto('/');
  await ada.getByRole('link', { name: `Release: ${number}` }).click();
  await expect(ada.getByText('Nothing blocks the release of A')).toBeVisible();
  await ada.getByRole('button', { name: 'Release A' }).click();
  await expect(ada.getByText('In force', { exact: true }).first()).toBeVisible();
  await nils.goto('/');
  await nils.getByRole('link', { name: `Read: ${number}` }).click();
  await expect(nils.getByText('labelled within five minutes')).toBeVisible();
  await nils.getByLabel('Password of Nils Berg').fill(SECRETS.nils);
  await nils.getByRole('button', { name: 'Sign: read and understood' }).click();
  await nils.waitForURL('/');
  await ada.goto('/setup');
  await expect(ada.getByText('6 of 6 done')).toBeVisible();
  await ada.getByRole('button', { name: 'Finish first steps' }).click();
  await ada.goto('/');
  await expect(ada.getByRole('heading', { level: 1 })).toBeVisible();
  await expect(ada.getByRole('region', { name: 'First steps' })).toHaveCount(0);
});

test('a backup taken meanwhile comes back elsewhere, with its people, its document and its signature', async ({
  browser,
}) => {
  test.setTimeout(300_000);
  const [folder, restored] = [`${DATA}-backup`, `${DATA}-restored`];
  const tool = (...words: string[]) =>
    spawnSync('node', ['tools/backup.mjs', ...words], { cwd: join(import.meta.dirname, '..'), encoding: 'utf8' });
  expect(tool('backup', '--data', DATA, '--to', folder).stdout).toContain('events and the stored files');
  // What is there is not written over.
  expect(tool('restore', '--from', folder, '--data', DATA).stderr).toContain('holds an installation already');
  expect(tool('restore', '--from', folder, '--data', restored).stdout).toContain('Restored into');
  const again = spawn('node', ['tools/start.mjs', '--data', restored, '--port', '4494'], {
    cwd: join(import.meta.dirname, '..'),
  });
  try {
    await new Promise<void>((resolve, reject) => {
      again.stdout.on('data', (text) => String(text).includes('Kanonos is ready at') && resolve());
      again.once('exit', () => reject(new Error('the restored installation ended')));
    });
    const page = await (await browser.newContext({ baseURL: 'http://127.0.0.1:4494' })).newPage();
    await page.goto('/signin');
    await signIn(page, 'nils.berg', SECRETS.nils);
    await page.goto(`/d/${number}`);
    await expect(page.getByText('In force', { exact: true }).first()).toBeVisible();
    await expect(page.getByText(/signatures? covers? it, intact|signatures cover it, intact/)).toBeVisible();
  } finally {
    again.removeAllListeners('exit');
    const ended = new Promise((resolve) => again.once('exit', resolve));
    again.kill('SIGTERM');
    await ended;
    for (const dir of [folder, restored]) rmSync(dir, { recursive: true, force: true });
  }
});
