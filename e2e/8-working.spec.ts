import { execFileSync } from 'node:child_process';
import type { Page } from '@playwright/test';
import { pageOf } from './people.ts';
import { expect, test } from './test.ts';

// Working on a document: versions, what they changed, and the way back.

const text = (limit: string, more = '') => ({
  name: 'spring pack.md',
  mimeType: 'text/markdown',
  buffer: Buffer.from(
    `# Spring pack\n\nThe pack is pressed to 40 mm and the force is read.\n\nBelow ${limit} it is replaced and the old one destroyed.\n${more}`,
  ),
});
let made = '';

const checkIn = async (page: Page, file: ReturnType<typeof text>, note: string) => {
  await page.goto(`/d/${made}?command=check%20out`);
  const handedOut = page.waitForEvent('download');
  await page.getByRole('dialog').getByRole('button', { name: 'Check out' }).click();
  await handedOut;
  await page.getByRole('button', { name: 'Check in' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.locator('input[type=file]').first().setInputFiles(file);
  await dialog.getByLabel('Note on this version').fill(note);
  await dialog.getByRole('button', { name: 'Check in', exact: true }).click();
  await expect(page.getByText(/^Version \d+ is checked in\.$/).last()).toBeVisible();
  await expect(dialog).toBeHidden();
};

test('an author sees what each version changed, compares two, and goes back to the older one', async ({ browser }) => {
  const page = await pageOf(browser, 'joren.adeyemi');
  await page.goto('/new?type=PRO');
  await page.getByLabel('Folder').selectOption({ label: 'Carriers / Grips' });
  await page.locator('input[type=file]').first().setInputFiles(text('12 kN'));
  await expect(page.getByLabel('Title')).toHaveValue('Spring pack');
  await page.getByRole('button', { name: /^Register THR-PRO-\d{4}/ }).click();
  await page.waitForURL(/\/d\/THR-PRO-\d{4}$/);
  made = page.url().split('/').at(-1) ?? '';
  await checkIn(page, text('13 kN', '\nBoth fitters sign the record.\n'), 'Limit raised');
  await page.goto(`/d/${made}?tab=versions`);
  for (const n of [0, 1])
    await page
      .getByRole('checkbox', { name: /^Select version/ })
      .nth(n)
      .check();
  await page.getByRole('button', { name: 'Compare version 1 with 2' }).click();
  await expect(page.getByRole('status')).toContainText('6 words added, 1 word removed');
  // The first change is in sight at once.
  await expect(page.getByText('1 of 2')).toBeVisible();
  await expect(page.locator('[data-place="1"]').first()).toBeInViewport();
  await expect(page.getByRole('button', { name: /^Changed/ }).first()).toHaveAttribute('aria-current', 'true');
  await page.keyboard.press('.');
  await expect(page.getByText('2 of 2')).toBeVisible();
  await page.getByRole('button', { name: 'Changes only' }).click();
  await expect(
    page.getByText('2 unchanged paragraphs').or(page.getByText('1 unchanged paragraph')).first(),
  ).toBeVisible();
  const [report] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export PDF' }).click(),
  ]);
  expect(report.suggestedFilename()).toBe(`${made} A, version 1 to A, version 2.pdf`);
  const said = execFileSync('pdftotext', [await report.path(), '-'], { encoding: 'utf8' });
  for (const words of ['6 words added, 1 word removed', 'Both fitters sign the record.', 'Joren Adeyemi'])
    expect(said).toContain(words);
  const address = page.url();
  await page.goto(`/d/${made}?tab=versions`);
  await page.getByRole('button', { name: /^Actions of version .*1$/ }).click();
  await page.getByRole('menuitem', { name: 'Make newest' }).click();
  await expect(page.getByText('Version 3 is now the newest.')).toBeVisible();
  // The link that was shared still shows the same pair.
  await page.goto(address);
  await expect(page.getByRole('status')).toContainText('6 words added, 1 word removed');
});

test('two documents that are out are checked in together, each file to the one that it belongs to', async ({
  browser,
}) => {
  const page = await pageOf(browser, 'joren.adeyemi');
  const out: { number: string; name: string }[] = [];
  for (const name of ['first of two.md', 'second of two.md']) {
    await page.goto('/new?type=WIN');
    await page.getByLabel('Folder').selectOption({ label: 'Carriers / Grips' });
    await page
      .locator('input[type=file]')
      .first()
      .setInputFiles({ ...text('1 kN'), name });
    await page.getByRole('button', { name: /^Register THR-WIN-\d{4}/ }).click();
    await page.waitForURL(/\/d\/THR-WIN-\d{4}$/);
    const number = page.url().split('/').at(-1) ?? '';
    await page.goto(`/d/${number}?command=check%20out`);
    const handedOut = page.waitForEvent('download');
    await page.getByRole('dialog').getByRole('button', { name: 'Check out' }).click();
    out.push({ number, name: (await handedOut).suggestedFilename() });
  }
  await page.getByRole('link', { name: /^Desk/ }).click();
  await page.getByRole('link', { name: 'Checked out' }).click();
  await page.getByLabel('Changed files').setInputFiles(out.map(({ name }, i) => ({ ...text(`${i + 2} kN`), name })));
  const dialog = page.getByRole('dialog');
  for (const { number, name } of out) await expect(dialog.getByLabel(`Document of ${name}`)).toHaveValue(number);
  await dialog.getByLabel('Note on all versions').fill('Limits corrected');
  await dialog.getByRole('button', { name: 'Check in 2' }).click();
  await expect(dialog.getByText('gets a new version')).toHaveCount(2);
  await dialog.getByRole('button', { name: 'Finish' }).click();
  await expect(page.getByText(out[0]?.number ?? '')).toHaveCount(0);
});

test('a check-out is taken over with a reason, and the former holder sees by whom', async ({ browser }) => {
  const author = await pageOf(browser, 'joren.adeyemi');
  await author.goto(`/d/${made}?command=check%20out`);
  const handedOut = author.waitForEvent('download');
  await author.getByRole('dialog').getByRole('button', { name: 'Check out' }).click();
  await handedOut;
  const page = await pageOf(browser, 'ines.varga');
  await page.goto('/checked-out');
  await page.getByRole('row').filter({ hasText: made }).getByRole('link', { name: 'Take over' }).click();
  await page.getByRole('dialog').getByLabel('Reason').fill('The audit is tomorrow');
  await page.getByRole('dialog').getByRole('button', { name: 'Take over' }).click();
  await expect(page.getByText('The document is checked out to you.')).toBeVisible();
  await author.goto(`/d/${made}`);
  await expect(author.getByText('Ines Varga has it checked out')).toBeVisible();
});
