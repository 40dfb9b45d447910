import { readFileSync } from 'node:fs';
import AxeBuilder from '@axe-core/playwright';
import { pageOf, pick } from './people.ts';
import { expect, test } from './test.ts';

/** How the organisation numbers: rules, the rule bench, reserved numbers and their use. */

test('the rule bench gives each line its verdict, filters, lists gaps, and exports', async ({ browser }, info) => {
  const page = await pageOf(browser, 'dagny.holm');
  await page.goto('/');
  await page.getByRole('navigation').getByRole('link', { name: 'Numbers' }).click();
  await page.getByRole('button', { name: 'Rule bench' }).click();
  await page
    .getByLabel('Numbers, one per line')
    .fill('THR-PRO-0118\nTHR-PRO-118\nTHR-FRM-0022\nTHR-SPC-0053\nTHR-WIN-0990\nTHR-WIN-0990\nMEMO 7');
  await page.getByRole('button', { name: 'Check list' }).click();
  const lines = page.getByRole('region', { name: 'Lines' });
  await expect(lines.getByText('Grip overhaul and slip-force test')).toBeVisible();
  await expect(lines.getByText('counter (from character 9) needs 4 digits, has 3')).toBeVisible();
  await expect(lines.getByText('The summer timetable keeps its old records')).toBeVisible();
  await expect(lines.getByText(/for Joren Adeyemi until/)).toBeVisible();
  await expect(lines.getByText('the same as line 5')).toBeVisible();
  await page.getByRole('button', { name: 'Malformed 1' }).click();
  await expect(lines.getByRole('listitem')).toHaveCount(1);
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export CSV' }).click();
  const file = info.outputPath('judged.csv');
  await (await download).saveAs(file);
  expect(readFileSync(file, 'utf8')).toContain('2,THR-PRO-118,Malformed,');
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
});

test('a list of 100,000 lines is judged beside the page, with how far it is', async ({ browser }) => {
  const page = await pageOf(browser, 'dagny.holm');
  await page.goto('/numbers?tab=bench');
  const list = Array.from({ length: 100_000 }, (_, i) => `THR-WIN-${String(5000 + i).padStart(4, '0')}`).join('\n');
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'list.csv', mimeType: 'text/csv', buffer: Buffer.from(`${list}\n`) });
  await expect(page.getByRole('button', { name: 'Valid, not given 100,000' })).toBeVisible({ timeout: 60_000 });
  await expect(page.getByRole('button', { name: 'Export CSV' })).toBeEnabled({ timeout: 60_000 });
  await expect(page.getByText('5000–104999')).toBeVisible();
});

test('a block is reserved, its author uses a number by naming it, and the rest is void when it ends', async ({
  browser,
}) => {
  const admin = await pageOf(browser, 'dagny.holm');
  await admin.goto('/numbers?tab=reserved');
  await admin.getByRole('button', { name: 'Reserve numbers' }).click();
  const dialog = admin.getByRole('dialog');
  await dialog.getByLabel('Type').selectOption({ label: 'RPT Report' });
  await dialog.getByLabel('Folder').selectOption({ label: 'Rope & drive / Haul rope' });
  await dialog.getByLabel('How many').fill('3');
  await dialog.getByLabel('Until').fill('2099-12-31');
  await pick(admin, 'For', 'Joren Adeyemi');
  await dialog.getByLabel('Reason').fill('Reports of the rope tests');
  await dialog.getByRole('button', { name: 'Reserve 3 numbers' }).click();
  const row = admin.getByRole('row', { name: /Reports of the rope tests/ });
  await expect(row.getByText('3 of 3')).toBeVisible();
  const number = /THR-RPT-\d{4}/.exec((await row.textContent()) ?? '')?.[0] ?? '';

  const author = await pageOf(browser, 'joren.adeyemi');
  await author.goto('/new');
  await author.getByLabel('Find a type').fill('RPT');
  await author.keyboard.press('Enter');
  await author.getByLabel('Folder').selectOption({ label: 'Rope & drive / Haul rope' });
  await author.locator('input[type=file]').setInputFiles({
    name: 'rope test.md',
    mimeType: 'text/markdown',
    buffer: Buffer.from('# Test of the haul rope\n\nNothing was found.'),
  });
  await author.getByLabel('Number', { exact: true }).selectOption({ label: `${number}, reserved for you` });
  await author.getByRole('button', { name: `Register ${number}` }).click();
  await author.waitForURL(`/d/${number}`);

  await admin.reload();
  await expect(row.getByText('2 of 3')).toBeVisible();
  await row.getByRole('button', { name: 'End reservation' }).click();
  await dialog.getByLabel('Reason').fill('The tests are done');
  await dialog.getByRole('button', { name: 'End reservation' }).click();
  await expect(
    admin.getByRole('region', { name: 'List of void numbers' }).getByText('The tests are done').first(),
  ).toBeVisible();
});

test('who may not administer finds no such page in the rail and is refused at its address', async ({ browser }) => {
  const page = await pageOf(browser, 'rafael.osei');
  await page.goto('/');
  await expect(page.getByRole('navigation').getByRole('link', { name: 'Numbers' })).toHaveCount(0);
  await page.goto('/numbers');
  await expect(page.getByText(/administer/)).toBeVisible();
});
