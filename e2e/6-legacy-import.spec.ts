import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { legacyImport, zipOf } from '../packages/demo/src/legacyImport.ts';
import { pageOf } from './people.ts';
import { expect, test } from './test.ts';

/** Legacy documents comes in by a list with faults, which are mended and sent again; folders of clients are put in order. */
test.describe.configure({ mode: 'serial' });

const stock = legacyImport();
let refused = '';

/** Uploads the files of the list and has every line checked. */
const checkLines = async (page: Page) => {
  await page.getByLabel('Files in the list').setInputFiles({
    name: 'old reports.zip',
    mimeType: 'application/zip',
    buffer: Buffer.from(zipOf(stock.files)),
  });
  await expect(page.getByText(/19\d file names/)).toBeVisible();
  await page.getByRole('button', { name: 'Check all lines' }).click();
};

test('a list is judged line by line, and what is right is taken over with its files', async ({ browser }) => {
  const page = await pageOf(browser, 'ines.varga');
  await page.goto('/imports');
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'old reports.csv', mimeType: 'text/csv', buffer: Buffer.from(stock.csv) });
  await page.waitForURL(/\/imports\/[0-9a-f-]{36}/);
  // Columns with these headings were laid down before; they are read the same way.
  await expect(page.getByText('12 of 12 recognised')).toBeVisible();
  await checkLines(page);
  await expect(page.getByText('scan 0075.md is not among the uploaded files.').first()).toBeVisible();
  await expect(page.getByText('There is no person called Hugo Wendt.').first()).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Export refused lines as CSV' }).click();
  refused = await readFile((await (await download).path()) ?? '', 'utf8');
  await page.getByRole('button', { name: /^Import \d+$/ }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Reason').fill('The cupboard of the works hall is emptied');
  await dialog.getByRole('button', { name: 'Import' }).click();
  await expect(page.getByText(/· done ·/)).toBeVisible({ timeout: 45_000 });
  await page.goto('/d/THR-RPT-0101');
  await expect(page.getByText('are not yet verified')).toBeVisible();
  await expect(page.getByText('Measured as laid down; nothing beyond its limit.')).toBeVisible();
});

test('the refused lines, mended, come in by the columns that were laid down before', async ({ browser }) => {
  const page = await pageOf(browser, 'ines.varga');
  const mended = refused
    .replace('Hugo Wendt', 'Otto Brandvik')
    .replace('Rope & drive / Attic', 'Rope & drive / Haul rope')
    .replace(',lost,', ',valid,');
  await page.goto('/imports');
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'mended.csv', mimeType: 'text/csv', buffer: Buffer.from(mended) });
  await page.waitForURL(/\/imports\/[0-9a-f-]{36}/);
  await page.getByLabel('Meaning of Report no.').selectOption({ label: 'Number' });
  await page.getByRole('button', { name: 'Save columns' }).click();
  await checkLines(page);
  const take = page.getByRole('button', { name: /^Import [1-9]\d*$/ });
  await take.click();
  await page.getByRole('dialog').getByLabel('Reason').fill('Mended');
  await page.getByRole('dialog').getByRole('button', { name: 'Import' }).click();
  await expect(page.getByText(/· done ·/)).toBeVisible({ timeout: 45_000 });
});

test('what came in is looked at and confirmed', async ({ browser }) => {
  const page = await pageOf(browser, 'ines.varga');
  await page.goto('/imports/check');
  await page.getByLabel('Select THR-RPT-0101').check();
  await page.getByRole('button', { name: 'Confirm 1' }).click();
  await expect(page.getByText('1 document verified.')).toBeVisible();
  await page.goto('/d/THR-RPT-0101');
  await expect(page.getByText('are not yet verified')).toBeHidden();
});

test('a project document is filed by rule with its client, twice in one folder', async ({ browser }) => {
  const author = await pageOf(browser, 'joren.adeyemi');
  const register = async (name: string, project: string) => {
    await author.goto('/new?type=ACC');
    await author.getByPlaceholder('Type a code or name').fill(project);
    await author.getByRole('listbox').getByRole('option').first().click();
    await expect(author.getByText('Projects / Oberlauf Bergbahnen / End')).toBeVisible();
    await author
      .locator('input[type=file]')
      .setInputFiles({ name, mimeType: 'text/markdown', buffer: Buffer.from(`# ${name} ${Math.random()}`) });
    await expect(author.getByLabel('Title')).not.toHaveValue('');
    await author.getByRole('button', { name: /Register THR-ACC-\d{4}/ }).click();
    await author.waitForURL(/\/d\/THR-ACC-\d{4}/);
  };
  await register('acceptance of the lake line.md', 'P-2502');
  await register('acceptance of the station.md', 'P-2503');
  const page = await pageOf(browser, 'ines.varga');
  await page.goto('/rules/filing');
  await page
    .getByRole('treeitem', { name: /^Collapse Oberlauf Bergbahnen|Oberlauf Bergbahnen/ })
    .first()
    .click();
  await expect(page.getByRole('treeitem', { name: /^End/ })).toHaveCount(1);
  await page.getByRole('treeitem', { name: /^End/ }).click();
  await expect(page.getByRole('link', { name: '2 documents' })).toBeVisible();
  await page.getByLabel('State').selectOption('closed');
  await page.getByRole('button', { name: 'Preview effect' }).click();
  await page.getByRole('dialog').getByLabel('Reason').fill('The lake line is handed over');
  await page.getByRole('dialog').getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('treeitem', { name: /End closed/ })).toBeVisible();
  await author.goto('/new?type=ACC');
  await author.getByPlaceholder('Type a code or name').fill('P-2502');
  await author.getByRole('listbox').getByRole('option').first().click();
  await author
    .locator('input[type=file]')
    .setInputFiles({ name: 'overdue.md', mimeType: 'text/markdown', buffer: Buffer.from('# late') });
  await author.getByRole('button', { name: /Register THR-ACC-\d{4}/ }).click();
  await expect(author.getByText(/The folder End is closed/)).toBeVisible();
});

test('a project is laid out twice for one client: its folder is used again, and what comes later is added', async ({
  browser,
}) => {
  const page = await pageOf(browser, 'ines.varga');
  await page.goto('/rules/blueprints');
  await page.getByRole('link', { name: /Ropeway line/ }).click();
  const layOut = async (code: string) => {
    await page.getByPlaceholder('Type a code or name').fill(code);
    await page.getByRole('listbox').getByRole('option').first().click();
    await expect(page.getByLabel('Folders', { exact: true }).getByText('Acceptance')).toBeVisible();
    await page.getByRole('button', { name: 'Create project' }).click();
  };
  await layOut('P-2511');
  await expect(page.getByText(/folders created, THR-MIN-\d{4}-\d{3}, THR-RSK-\d{4} registered/)).toBeVisible();
  await expect(page.getByText('Fjellstø Taubane, Ridge line overhaul')).toBeVisible();
  await page.getByLabel('client').fill('FJELLSTØ taubane');
  await page.getByLabel('project', { exact: true }).fill('Second ridge line');
  await expect(page.getByText('exists already')).toHaveCount(1);
  await page.getByRole('button', { name: 'Create project' }).click();
  await expect(page.getByText('FJELLSTØ taubane, Second ridge line')).toBeVisible();
  const admin = await pageOf(browser, 'dagny.holm');
  await admin.goto('/rules/blueprints');
  await admin.getByRole('link', { name: /Ropeway line/ }).click();
  await admin.getByRole('link', { name: 'Edit blueprint' }).click();
  await admin.getByRole('treeitem', { name: /Acceptance/ }).click();
  await admin.getByRole('button', { name: 'Add folder' }).click();
  await admin.getByLabel('Folder name').fill('Handover');
  const start = admin.getByRole('treeitem', { name: /^Start/ });
  await admin.getByRole('treeitem', { name: /^Handover/ }).dragTo(start, { targetPosition: { x: 90, y: 2 } });
  await admin.getByRole('treeitem', { name: /^Agreements/ }).dragTo(start);
  await admin.getByRole('button', { name: 'Undo' }).click();
  await admin.getByRole('button', { name: 'Outline' }).click();
  await expect(admin.getByLabel('Outline', { exact: true })).toHaveValue(
    /First meeting of \{project\}\n {4}Handover\n {4}Start\n[\s\S]*\n {4}Agreements\n {4}Acceptance$/,
  );
  await admin.getByLabel('Reason').fill('Handover was forgotten');
  await admin.getByRole('button', { name: 'Save blueprint' }).click();
  await page.reload();
  // The one of the demo and the two of this walk.
  await expect(page.getByText('is missing Handover')).toHaveCount(3);
  await page.getByRole('button', { name: 'Add missing folders' }).first().click();
  await expect(page.getByText('is missing Handover')).toHaveCount(2);
});
