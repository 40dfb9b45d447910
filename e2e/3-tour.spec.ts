import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Browser, Page } from '@playwright/test';
import { PASSWORD } from './people.ts';
import { expect, test } from './test.ts';

/** The tour of the README, click by click, from the sign-in page on. */

const ROOT = join(import.meta.dirname, '..');

/** Signs in by choosing a person on the sign-in page of the demo. */
const enterAs = async (browser: Browser, name: string): Promise<Page> => {
  const page = await (await browser.newContext({ acceptDownloads: true })).newPage();
  await page.goto('/');
  await page.getByRole('region', { name: 'People in this demo' }).getByRole('button', { name }).click();
  await expect(page.getByRole('navigation').getByRole('link', { name: /Desk/ })).toBeVisible();
  return page;
};

const goTo = async (page: Page, typed: string) => {
  await page.keyboard.press('Control+k');
  await page.keyboard.type(typed);
  await page.keyboard.press('Enter');
};

test('1 Lin Sato signs the approval that waits on her Desk', async ({ browser }) => {
  const page = await enterAs(browser, 'Lin Sato');
  await page.getByRole('link', { name: 'Decide: THR-PRO-0118' }).click();
  await expect(page.getByRole('heading', { name: 'Approve as technical authority' })).toBeVisible();
  await expect(page.getByText('Otto Brandvik').first()).toBeVisible();
  // What changed since the revision in force opens first, the whole text is one press away.
  await expect(page.getByRole('button', { name: 'Changes', exact: true })).toHaveAttribute('aria-pressed', 'true');
  await expect(page.getByRole('region', { name: 'Compared text' })).toContainText(/6\.2\s*6\.8/);
  await page.getByRole('button', { name: 'Text', exact: true }).click();
  await expect(page.getByTestId('viewer')).toBeVisible();
  await page.getByText('Approve', { exact: true }).click();
  await page.getByLabel('Sign-in name').fill('lin.sato');
  await page.getByLabel('Password of Lin Sato').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign approval of C' }).click();
  await expect(page.getByText('THR-PRO-0118 C is approved')).toBeVisible();
  await goTo(page, 'pro 118');
  await page.waitForURL(/THR-PRO-0118/);
  await expect(page.getByText('2 signatures cover it, intact')).toBeVisible();
});

test('2 Ines Varga releases what is approved, and the former revision is superseded', async ({ browser }) => {
  const page = await enterAs(browser, 'Ines Varga');
  await page.getByRole('link', { name: 'Release: THR-SPC-0051' }).click();
  await expect(page.getByText('Nothing blocks the release of F')).toBeVisible();
  await page.getByRole('button', { name: /^Release/ }).click();
  await page.waitForURL(/\/d\/THR-SPC-0051$/);
  await expect(page.getByText('brought F into force, which supersedes E')).toBeVisible();
  await page.goto('/d/THR-SPC-0051?rev=E');
  await expect(page.getByRole('img', { name: /Revision E/ }).first()).toBeVisible();
  await expect(page.getByText('Superseded').first()).toBeVisible();
});

test('3 the register as it was a year ago', async ({ browser }) => {
  const page = await enterAs(browser, 'Ines Varga');
  await page
    .getByRole('navigation')
    .getByRole('link', { name: /Register/ })
    .click();
  await page.getByRole('button', { name: 'Newest' }).click();
  await expect(page).toHaveURL(/revisionScope=newest/);
  await page.getByRole('button', { name: /In force on/ }).click();
  await page.getByRole('button', { name: 'A year ago' }).click();
  await expect(page).toHaveURL(/on=\d{4}-/);
  await expect(page.getByText(/in force on \d+ \w{3} \d{4}/)).toBeVisible();
  await page.goBack();
  await expect(page).not.toHaveURL(/on=/);
});

test('4 the find line goes to a number, and shows passages for words', async ({ browser }) => {
  const page = await enterAs(browser, 'Ines Varga');
  await goTo(page, 'pro 118');
  await page.waitForURL(/THR-PRO-0118/);
  await goTo(page, 'slip force');
  await page.waitForURL(/\/find/);
  await expect(page.locator('mark', { hasText: /slip/i }).first()).toBeVisible();
});

test('5 a superseded revision is readable with its mark', async ({ browser }) => {
  const page = await enterAs(browser, 'Ines Varga');
  await page.goto('/d/THR-PRO-0118?rev=A');
  await expect(page.getByRole('img', { name: /Revision A/ }).first()).toBeVisible();
  await expect(page.locator('.marked').first()).toHaveAttribute('data-mark', 'superseded');
});

test('6 Joren Adeyemi begins to register, and follows what he sent', async ({ browser }) => {
  const page = await enterAs(browser, 'Joren Adeyemi');
  await page.keyboard.press('n');
  await page.getByLabel('Find a type').fill('WIN');
  await page.keyboard.press('Enter');
  await page.getByLabel('Folder').selectOption({ label: 'Rope & drive / Drive station machinery' });
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'drive belt.md', mimeType: 'text/markdown', buffer: Buffer.from('# Belt of the drive') });
  await expect(page.getByText(/THR-WIN-\d{4}_A_Belt-of-the-drive\.md/)).toBeVisible();
  await page.getByRole('navigation').getByRole('link', { name: /Desk/ }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Leave page' }).click();
  await page.getByRole('link', { name: /Submitted by me/ }).click();
  await expect(page.getByText('THR-PRO-0118').first()).toBeVisible();
});

test('7 Rafael Osei reads and signs', async ({ browser }) => {
  const page = await enterAs(browser, 'Rafael Osei');
  const reading = page.getByRole('link', { name: /^Read: / }).first();
  const number = ((await reading.getAttribute('aria-label')) ?? '').replace('Read: ', '');
  await reading.click();
  await expect(page.getByRole('heading', { name: /Read/ }).first()).toBeVisible();
  await expect(page.getByText(/about \d+ minute/).first()).toBeVisible();
  await page.getByLabel('Sign-in name').fill('rafael.osei');
  await page.getByLabel('Password of Rafael Osei').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign: read and understood' }).click();
  await expect(page.getByText(`Signed: you have read ${number}`)).toBeVisible();
});

test('8 Otto Brandvik looks at his team and reminds the late', async ({ browser }) => {
  const page = await enterAs(browser, 'Otto Brandvik');
  await page
    .getByRole('navigation')
    .getByRole('link', { name: /Reading/ })
    .click();
  await page.getByRole('button', { name: 'Remind overdue readers' }).click();
  await expect(page.getByText(/Reminder sent to \d+ (person|people)/)).toBeVisible();
});

test('9 Anselm Roth exports the trail; a changed character is found at its event', async ({ browser }, info) => {
  const page = await enterAs(browser, 'Anselm Roth');
  await page.getByRole('link', { name: /Audit trail/ }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Export for verification' }).click();
  const whole = info.outputPath('audit-trail.jsonl');
  await (await download).saveAs(whole);
  const verify = (file: string) =>
    spawnSync('npx', ['tsx', 'tools/verify-trail.ts', file], { cwd: ROOT, encoding: 'utf8' });
  const intact = verify(whole);
  expect([intact.status, intact.stdout]).toEqual([0, expect.stringContaining('Intact up to event')]);
  const lines = readFileSync(whole, 'utf8').split('\n');
  const at = lines.findIndex((line, i) => i > 300 && line.includes('"reason":"'));
  const { seq } = JSON.parse(lines[at] ?? '{}') as { seq: number };
  lines[at] = (lines[at] ?? '').replace('"reason":"', '"reason":"X');
  const changed = info.outputPath('changed.jsonl');
  writeFileSync(changed, lines.join('\n'));
  const broken = verify(changed);
  expect(broken.status).not.toBe(0);
  expect(broken.stdout + broken.stderr).toContain(`event ${seq}`);
});

test('10 Dagny Holm sees people, their mails, and a profile', async ({ browser }) => {
  const page = await enterAs(browser, 'Dagny Holm');
  await page.getByRole('link', { name: 'People' }).click();
  await expect(page.getByText(/\d+ people, as of today/)).toBeVisible();
  await page.getByRole('link', { name: 'Outgoing mail' }).click();
  await expect(page.getByText(/Signed|is waiting for you|Reminder|released|read/i).first()).toBeVisible();
  await page.goto('/profile');
  await expect(page.getByText('One summary a day')).toBeVisible();
});
