import { pageOf } from './people.ts';
import { expect, test } from './test.ts';

/** Other ways in than one file: a template, an address, what arrived, sheets; and what is done with documents together. */
test.describe.configure({ mode: 'serial' });

let made = '';

test('a procedure is begun from a template and has its number in the file', async ({ browser }) => {
  const page = await pageOf(browser, 'joren.adeyemi');
  await page.goto('/new?type=PRO');
  await page.getByLabel('Folder').selectOption({ label: 'Carriers / Grips' });
  await page.getByRole('button', { name: 'Template', exact: true }).click();
  await page.getByLabel('File, begun from').selectOption({ label: 'Procedure (en), docx' });
  await page.getByLabel('Title', { exact: true }).fill('Grease of the grip springs');
  await page.getByLabel('Equipment').fill('GR-44');
  const register = page.getByRole('button', { name: /^Register THR-PRO-\d{4}$/ });
  await register.click();
  await page.waitForURL(/\/d\/THR-PRO-\d{4}/);
  made = /THR-PRO-\d{4}/.exec(page.url())?.[0] ?? '';
  await expect(page.getByTestId('viewer').getByText('Grease of the grip springs')).toBeVisible();
  await expect(page.getByTestId('viewer').getByText('Equipment: GR-44')).toBeVisible();
});

test('a film on the web is registered under its parent, with the sites where it applies', async ({ browser }) => {
  const page = await pageOf(browser, 'joren.adeyemi');
  await page.goto('/new?type=WIN');
  await page.getByLabel('Folder').selectOption({ label: 'Operations / Rescue' });
  await page.getByRole('button', { name: 'Web address' }).click();
  await page.getByLabel('Address of the page or video').fill('no address');
  await page.getByRole('button', { name: 'Use this address' }).click();
  await expect(page.getByText(/Start it with https/)).toBeVisible();
  await page.getByLabel('Address of the page or video').fill('https://films.tarnholt.example/evacuation');
  await page.getByRole('button', { name: 'Use this address' }).click();
  await page.getByLabel('Title', { exact: true }).fill('Evacuation of a cabin, film');
  await page.getByText('Parent, sites, confidentiality').click();
  await page.getByLabel('Parent').fill('THR-PRO-0121');
  await page.getByRole('option', { name: /THR-PRO-0121/ }).click();
  await page.getByRole('button', { name: 'Mid Holt' }).click();
  await page.getByRole('button', { name: /^Register THR-WIN-\d{4}$/ }).click();
  await page.waitForURL(/\/d\/THR-WIN-\d{4}/);
  await expect(page.getByRole('link', { name: 'https://films.tarnholt.example/evacuation' })).toBeVisible();
  await page.goto('/d/THR-PRO-0121?side=metadata');
  await expect(page.getByRole('link', { name: /Evacuation of a cabin, film/ }).first()).toBeVisible();
});

test('an incoming file is proposed, filed once, and set aside with a reason', async ({ browser }) => {
  const page = await pageOf(browser, 'ines.varga');
  await page.goto('/intake');
  const scan = page.getByRole('listitem').filter({ hasText: 'scan_0032.pdf' });
  await expect(scan.getByText('RPT Report')).toBeVisible();
  await expect(scan.getByText('Visual check of the track ropes', { exact: false })).toBeVisible();
  await scan.getByRole('link', { name: 'Register' }).click();
  await expect(page.getByText('from the intake folder: scan_0032.pdf')).toBeVisible();
  await page.getByLabel('Folder').selectOption({ label: 'Rope & drive / Track ropes' });
  await expect(page.getByLabel('Result')).toHaveValue('limits');
  await page.getByRole('button', { name: /^Register THR-RPT-\d{4}$/ }).click();
  await page.waitForURL(/\/intake/);
  await expect(page.getByText('scan_0032.pdf')).toHaveCount(0);
  const mail = page.getByRole('listitem').filter({ hasText: 'Answer of the authority.eml' });
  await mail.getByRole('button', { name: 'Set aside' }).click();
  await page.getByRole('dialog').getByLabel('Reason').fill('It is in the file of tower 9 already');
  await page.getByRole('dialog').getByRole('button', { name: 'Set aside' }).click();
  await expect(mail).toHaveCount(0);
  await page.getByRole('button', { name: 'Set aside', exact: true }).first().click();
  await expect(page.getByText('It is in the file of tower 9 already')).toBeVisible();
});

test('sheets of one document are looked at one by one', async ({ browser }) => {
  const page = await pageOf(browser, 'joren.adeyemi');
  await page.goto('/register?q=title:"cabin floor frame"');
  await page.getByRole('grid', { name: 'Documents' }).getByText('Cabin floor frame').dblclick();
  await page.goto('/d/THR-DWG-3001');
  await page.getByRole('button', { name: 'sheet 2 of 3, Welding' }).click();
  await expect(page.getByTestId('viewer').getByRole('img')).toHaveAttribute('alt', 'floor-2.svg');
});

test('marked documents are shown in a further folder and downloaded as a zip', async ({ browser }) => {
  const page = await pageOf(browser, 'ines.varga');
  await page.goto('/register?revisionScope=newest&q=grip');
  const grid = page.getByRole('grid', { name: 'Documents' });
  await grid.getByRole('checkbox').first().check();
  await page.getByRole('button', { name: 'Actions ▾' }).click();
  await page.getByRole('menuitem', { name: 'Add shortcut in another folder' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Folder').selectOption({ label: 'Stations' });
  await dialog.getByRole('button', { name: 'Add shortcuts' }).click();
  await expect(page.getByText('Shortcuts added for 1 document.')).toBeVisible();
  await page.goto('/register?revisionScope=newest&q=grip');
  await grid.getByRole('checkbox').first().check();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Actions ▾' }).click();
  await page.getByRole('menuitem', { name: 'Download package' }).click();
  expect((await download).suggestedFilename()).toMatch(/^documents-.*\.zip$/);
});

test('a draft is renumbered; its old number leads to it', async ({ browser }) => {
  const page = await pageOf(browser, 'ines.varga');
  await page.goto(`/d/${made}?command=renumber`);
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Reason').fill('Registered twice by mistake');
  await dialog.getByRole('button', { name: 'Renumber' }).click();
  await expect(page.getByText(/^The number is now THR-PRO-\d{4}\.$/)).toBeVisible();
  await page.goto(`/d/${made}`);
  await expect(page.getByText('Grease of the grip springs').first()).toBeVisible();
  await expect(page.getByText(made, { exact: true })).toHaveCount(0);
});

test('a document that never was in force is removed and restored', async ({ browser }) => {
  const page = await pageOf(browser, 'ines.varga');
  await page.goto(`/d/${made}?command=remove`);
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Reason').fill('A trial');
  await dialog.getByRole('button', { name: 'Remove document' }).click();
  await page.goto('/removed');
  const row = page.getByRole('row').filter({ hasText: 'Grease of the grip springs' });
  await expect(row).toBeVisible();
  await row.getByRole('link').click();
  await page.getByRole('button', { name: 'Restore' }).click();
  await page.getByRole('dialog').getByLabel('Reason').fill('Wanted after all');
  await page.getByRole('dialog').getByRole('button', { name: 'Restore' }).click();
  await expect(page.getByRole('dialog')).toBeHidden();
  await page.goto('/removed');
  await expect(page.getByText('Grease of the grip springs')).toHaveCount(0);
});

test('a classification is read in from a table, with what is wrong named by line', async ({ browser }) => {
  const page = await pageOf(browser, 'dagny.holm');
  await page.goto('/rules/organisation');
  await page.getByRole('button', { name: 'Import configuration' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.locator('input[type=file]').setInputFiles({
    name: 'classes.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(
      'Code;Name;Family;Group;Help;Like\nWTH;Weather report;Operation;Running;What the day brings;RPT\nBAD;;;;;\n',
    ),
  });
  await expect(dialog.getByText('Line 3: type BAD has no name; skipped')).toBeVisible();
  await dialog.getByLabel('Reason').fill('Edition 2026 of the classification');
  await dialog.getByRole('button', { name: /^Change 1$/ }).click();
  await expect(page.getByText('1 setting changed.')).toBeVisible();
  await expect(dialog).toBeHidden();
  await page.goto('/rules/types');
  await expect(page.getByRole('link', { name: /^PRO Procedure/ })).toBeVisible();
  await page.getByLabel('Find a type').fill('weather');
  await expect(page.getByRole('link', { name: /WTH Weather report/ })).toBeVisible();
});

test('a row is dragged onto a folder; what it would do is shown, and nothing is done before', async ({ browser }) => {
  const page = await pageOf(browser, 'ines.varga');
  await page.goto(`/register?scope=newest&q=title:"cabin floor frame"`);
  const row = page.getByRole('grid', { name: 'Documents' }).getByRole('row').filter({ hasText: 'Cabin floor frame' });
  await row.dragTo(page.getByRole('complementary', { name: 'Filters' }).getByRole('button', { name: 'Stations' }));
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText('Move or link 1 document to Stations')).toBeVisible();
  await dialog.getByRole('button', { name: 'Continue' }).click();
  await expect(page.getByRole('dialog').getByText('1 document changes')).toBeVisible();
  await page.getByRole('dialog').getByRole('button', { name: 'Cancel' }).click();
  await page.goto('/d/THR-DWG-3001');
  await expect(page.getByText('Carriers / Cabins', { exact: false }).first()).toBeVisible();
});
