import type { Page } from '@playwright/test';
import { command, goTo, PASSWORD, pageOf, pick } from './people.ts';
import { expect, test } from './test.ts';

/** One document from an unregistered file to a signed reading, by the people who do it. */
test.describe.configure({ mode: 'serial' });

let number = '';
const text = (body: string) => ({ name: 'brake check.md', mimeType: 'text/markdown', buffer: Buffer.from(body) });

test('an author registers a file and sees number, label and file name beforehand', async ({ browser }) => {
  const page = await pageOf(browser, 'joren.adeyemi');
  await page.goto('/');
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await page.keyboard.press('n');
  await expect(page.getByRole('heading', { name: 'Register a document' })).toBeVisible();
  await page.getByLabel('Find a type').fill('PRO');
  await page.keyboard.press('Enter');
  await page.getByLabel('Folder').selectOption({ label: 'Rope & drive / Drive station machinery' });
  await page
    .locator('input[type=file]')
    .setInputFiles(text('# Check of the service brake\n\nThe brake holds 1.5 times the load.'));
  await expect(page.getByLabel('Title')).toHaveValue('Check of the service brake');
  await page.getByLabel('Title').fill('Yearly check of the service brake');
  await page.getByLabel('Limit value').fill('1.5');
  const taking = page.getByRole('button', { name: /Register THR-PRO-\d{4}/ });
  await expect(taking).toBeEnabled();
  number = /THR-PRO-\d{4}/.exec((await taking.textContent()) ?? '')?.[0] ?? '';
  await expect(page.getByText(`${number}_A_Yearly-check-of-the-service-brake.md`)).toBeVisible();
  await page.getByRole('button', { name: 'Remove Joren Adeyemi' }).click();
  await pick(page, 'Owner', 'Otto Brandvik');
  await taking.click();
  await page.waitForURL(`/d/${number}`);
  await expect(page.getByText('Draft, version 1')).toBeVisible();
  await expect(page.getByText('The brake holds 1.5 times the load.')).toBeVisible();
});

test('checking out reserves it for everyone to see, and checking in makes version 2', async ({ browser }) => {
  const page = await pageOf(browser, 'joren.adeyemi');
  await goTo(page, number);
  await command(page, 'Check out');
  const download = page.waitForEvent('download');
  await page.getByRole('dialog').getByRole('button', { name: 'Check out' }).click();
  expect((await download).suggestedFilename()).toBe(`${number}_A_Yearly-check-of-the-service-brake.md`);
  const other = await pageOf(browser, 'mara.quill');
  await goTo(other, number);
  await expect(other.getByText('Joren Adeyemi has it checked out')).toBeVisible();
  await other.goto('/register?q=brake');
  await expect(other.getByText('out to Joren Adeyemi')).toBeVisible();
  await page.getByRole('button', { name: 'Check in' }).click();
  const dialog = page.getByRole('dialog');
  await dialog
    .locator('input[type=file]')
    .setInputFiles(text('# Check of the service brake\n\nThe brake holds 1.5 times the load.'));
  await dialog.getByLabel('Note on this version').fill('Limit checked');
  await dialog.getByRole('button', { name: 'Check in', exact: true }).click();
  await expect(dialog.getByText('The file is identical to version 1')).toBeVisible();
  await dialog
    .locator('input[type=file]')
    .setInputFiles(text('# Check of the service brake\n\nThe brake holds 1.8 times the load.'));
  await expect(dialog.getByText('brake check.md')).toBeVisible();
  await dialog.getByRole('button', { name: 'Check in', exact: true }).click();
  await expect(page.getByText('Draft, version 2')).toBeVisible();
});

/** Submits the draft to the one reviewer, and sees that it waits for him. */
const submitToReviewer = async (author: Page, number: string) => {
  await goTo(author, number);
  await author.getByRole('button', { name: 'Submit for review' }).click();
  await pick(author, 'Reviewers (at least 1)', 'Uwe Marten');
  await author.getByRole('dialog').getByRole('button', { name: 'Submit', exact: true }).click();
  await expect(author.getByText('Waiting for Uwe Marten')).toBeVisible();
};

test('the reviewer finds it on the Desk, comments and rejects; the words are on the author’s Desk', async ({
  browser,
}) => {
  const author = await pageOf(browser, 'joren.adeyemi');
  await submitToReviewer(author, number);
  const reviewer = await pageOf(browser, 'uwe.marten');
  await reviewer.goto('/');
  await reviewer.getByRole('link', { name: `Review: ${number}` }).click();
  await reviewer.getByRole('button', { name: 'Comments' }).click();
  await reviewer.getByLabel('Comment', { exact: true }).fill('Who measures, and with what?');
  await reviewer.getByRole('button', { name: 'Comment', exact: true }).click();
  await expect(reviewer.getByText('Who measures, and with what?')).toBeVisible();
  await reviewer.getByText('Reject', { exact: true }).click();
  await reviewer.getByRole('button', { name: 'Reject', exact: true }).click();
  await expect(reviewer.getByText('tells the author why you reject it')).toBeVisible();
  await reviewer.getByPlaceholder('Comment').fill('The gauge is missing');
  await reviewer.getByRole('button', { name: 'Reject', exact: true }).click();
  await reviewer.waitForURL('/');
  await author.goto('/');
  await expect(author.getByText('Returned by Uwe Marten: “The gauge is missing”').first()).toBeVisible();
});

test('sent again, reviewed and signed by owner and technical authority, it is approved', async ({ browser }) => {
  const author = await pageOf(browser, 'joren.adeyemi');
  await submitToReviewer(author, number);
  const reviewer = await pageOf(browser, 'uwe.marten');
  await reviewer.goto('/');
  await reviewer.getByRole('link', { name: `Review: ${number}` }).click();
  await reviewer.getByText('No objection', { exact: true }).click();
  await reviewer.getByRole('button', { name: 'No objection' }).click();
  await reviewer.waitForURL('/');
  for (const [name, person] of [
    ['otto.brandvik', 'Otto Brandvik'],
    ['lin.sato', 'Lin Sato'],
  ] as const) {
    const approver = await pageOf(browser, name);
    await approver.goto('/');
    await approver.getByRole('link', { name: `Decide: ${number}` }).click();
    await approver.getByText('Approve', { exact: true }).click();
    await approver.getByLabel('Sign-in name').fill(name);
    await approver.getByLabel(`Password of ${person}`).fill('wrong password');
    await approver.getByRole('button', { name: 'Sign approval of A' }).click();
    await expect(approver.getByText('Nothing was signed')).toBeVisible();
    await approver.getByLabel(`Password of ${person}`).fill(PASSWORD);
    await approver.getByRole('button', { name: 'Sign approval of A' }).click();
    await approver.waitForURL('/');
  }
  await author.goto('/submitted');
  await expect(author.getByText('all have decided').first()).toBeVisible();
  await goTo(author, number);
  await author.getByRole('tab', { name: 'Route' }).click();
  await expect(author.getByText('approved as owner', { exact: true })).toBeVisible();
  await expect(author.getByText('· intact')).toHaveCount(2);
});

test('the controller sees the preflight name what blocks, names readers, and releases', async ({ browser }) => {
  const reader = await pageOf(browser, 'rafael.osei');
  await reader.goto(`/d/${number}`);
  await expect(reader.getByText('or you may not see it')).toBeVisible();
  const page = await pageOf(browser, 'ines.varga');
  await page.goto('/');
  await page.getByRole('link', { name: `Release: ${number}` }).click();
  await expect(page.getByText('No readers are defined.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Release A' })).toBeDisabled();
  await page.getByRole('link', { name: 'Define readers' }).click();
  await page.getByRole('button', { name: 'Define readers' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: 'Grip fitters' }).click();
  await dialog.getByLabel('Instructions').fill('Mind the new limit.');
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Mind the new limit.')).toBeVisible();
  await page.goto(`/d/${number}/release`);
  await expect(page.getByText('Nothing blocks the release of A')).toBeVisible();
  await page.getByRole('button', { name: 'Release A' }).click();
  await expect(page.getByText('In force', { exact: true }).first()).toBeVisible();
});

test('a reader finds it on the Desk, reads it in the application and signs with the password', async ({ browser }) => {
  const page = await pageOf(browser, 'rafael.osei');
  await page.goto('/');
  await page.getByRole('link', { name: `Read: ${number}` }).click();
  await expect(page.getByText('Mind the new limit.')).toBeVisible();
  await expect(page.getByText('The brake holds 1.8 times the load.')).toBeVisible();
  await page.getByLabel('Remark to Otto Brandvik').fill('A photo would help');
  await page.getByLabel('Sign-in name').fill('rafael.osei');
  await page.getByLabel('Password of Rafael Osei').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign: read and understood' }).click();
  await page.waitForURL('/');
  await page.goto('/reading?view=mine');
  await expect(page.getByRole('listitem').filter({ hasText: number })).toContainText('signed');
  const owner = await pageOf(browser, 'otto.brandvik');
  await owner.goto(`/d/${number}?side=comments`);
  await expect(owner.getByText('A photo would help')).toBeVisible();
  await owner.goto('/reading');
  await expect(owner.getByRole('row', { name: /Rafael Osei/ })).toContainText('signed');
});

test('revised from an outside PDF, the old revision is superseded on release and is marked so', async ({ browser }) => {
  const author = await pageOf(browser, 'joren.adeyemi');
  await goTo(author, number);
  await command(author, 'Revise');
  const dialog = author.getByRole('dialog');
  await dialog.getByLabel('Reason').fill('New brake linings');
  await dialog.getByText('A new file').click();
  await dialog.locator('input[type=file]').setInputFiles({
    name: 'from outside.pdf',
    mimeType: 'application/pdf',
    buffer: pdf('The brake holds twice the load.'),
  });
  await dialog.getByRole('button', { name: 'Start revision B' }).click();
  await expect(author.getByText('Draft, version 1')).toBeVisible();
  await expect(author.getByText('1 page')).toBeVisible();
  const answers: [string, string | null][] = [
    ['uwe.marten', null],
    ['otto.brandvik', 'Otto Brandvik'],
    ['lin.sato', 'Lin Sato'],
  ];
  await author.getByRole('button', { name: 'Submit for review' }).click();
  await pick(author, 'Reviewers (at least 1)', 'Uwe Marten');
  await author.getByRole('dialog').getByRole('button', { name: 'Submit', exact: true }).click();
  await expect(author.getByText('Waiting for Uwe Marten')).toBeVisible();
  for (const [name, person] of answers) {
    const page = await pageOf(browser, name);
    await page.goto('/');
    await page.getByRole('link', { name: new RegExp(`(Review|Decide): ${number}`) }).click();
    await page.getByText(person ? 'Approve' : 'No objection', { exact: true }).click();
    if (person) {
      await page.getByLabel('Sign-in name').fill(name);
      await page.getByLabel(`Password of ${person}`).fill(PASSWORD);
    }
    await page.getByRole('button', { name: person ? 'Sign approval of B' : 'No objection' }).click();
    await page.waitForURL('/');
  }
  const controller = await pageOf(browser, 'ines.varga');
  await controller.goto(`/d/${number}/release`);
  await controller.getByRole('button', { name: 'Release B' }).click();
  await controller.waitForURL(`/d/${number}`);
  await controller.goto(`/d/${number}?rev=A`);
  await expect(controller.getByText('Superseded', { exact: true })).toBeVisible();
  await expect(controller.locator('.marked')).toHaveAttribute('data-mark', 'superseded');
});

/** The smallest PDF with a line of text. */
const pdf = (line: string): Buffer => {
  const objects = [
    '<</Type/Catalog/Pages 2 0 R>>',
    '<</Type/Pages/Kids[3 0 R]/Count 1>>',
    '<</Type/Page/Parent 2 0 R/MediaBox[0 0 595 842]/Contents 4 0 R/Resources<</Font<</F1 5 0 R>>>>>>',
    `<</Length ${line.length + 40}>>stream\nBT /F1 14 Tf 72 760 Td (${line}) Tj ET\nendstream`,
    '<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>',
  ];
  let body = '%PDF-1.4\n';
  const offsets = objects.map((object, i) => {
    const at = body.length;
    body += `${i + 1} 0 obj${object}endobj\n`;
    return at;
  });
  const start = body.length;
  body += `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${offsets.map((at) => `${String(at).padStart(10, '0')} 00000 n \n`).join('')}trailer<</Size ${objects.length + 1}/Root 1 0 R>>\nstartxref\n${start}\n%%EOF`;
  return Buffer.from(body);
};
