import { pageOf, pick } from './people.ts';
import { expect, test } from './test.ts';

/** The organisation configures what it needs, and registers by it. */
test.describe.configure({ mode: 'serial' });

const md = (name: string, text = name) => ({ name, mimeType: 'text/markdown', buffer: Buffer.from(`# ${text}`) });

test('a type is set up from nothing, refused while its numbers could be those of another, and then used', async ({
  browser,
}) => {
  const admin = await pageOf(browser, 'dagny.holm');
  await admin.goto('/rules/types/new');
  await admin.getByLabel('Code').fill('nit');
  await admin.getByLabel('Name').fill('Night order');
  await admin.getByLabel('Family').fill('Operation');
  await admin.getByLabel('Group').fill('Running');
  await admin.getByLabel('Example').fill('Night run on New Year');
  await admin.getByRole('button', { name: 'Number and name' }).click();
  await admin.getByRole('textbox', { name: 'Numbering rule' }).fill('THR-PRO-{counter:4}');
  await expect(admin.getByText(/THR-PRO-0001 could be read in two ways/).first()).toBeVisible();
  await expect(admin.getByRole('button', { name: 'Add type' })).toBeDisabled();
  await admin.getByRole('textbox', { name: 'Numbering rule' }).fill('THR-{type}-{year}-{counter:2}');
  await expect(admin.getByText(/^THR-NIT-\d{4}-01$/)).toBeVisible();
  await admin.getByRole('button', { name: 'Fields', exact: true }).click();
  await admin.getByRole('button', { name: 'Add field' }).click();
  await admin.getByLabel('Label').fill('Last run at');
  await expect(admin.getByLabel('Key')).toHaveValue('lastRunAt');
  await admin.getByLabel('Pattern').fill('[0-2][0-9]:[0-5][0-9]');
  await admin.getByLabel('Validation message').fill('a time such as 23:30');
  await admin.getByLabel('Required for submission').check();
  await admin.getByRole('button', { name: 'Route and readers' }).click();
  await admin.getByLabel('Copy the route of').selectOption({ label: 'POL Policy' });
  await expect(admin.getByLabel('Step', { exact: true }).first()).not.toHaveValue('');
  await admin.getByRole('button', { name: 'Add type' }).click();
  const dialog = admin.getByRole('dialog');
  await dialog.getByLabel('Reason').fill('Night runs are ordered in writing');
  await dialog.getByRole('button', { name: 'Add type' }).click();
  await expect(admin.getByRole('link', { name: 'NIT Night order' })).toBeVisible();

  const author = await pageOf(browser, 'joren.adeyemi');
  await author.goto('/new');
  await author.getByLabel('Find a type').fill('night');
  await author.keyboard.press('Enter');
  await author.getByLabel('Folder').selectOption({ label: 'Operations / Daily operation' });
  await author.locator('input[type=file]').setInputFiles(md('new year night.md'));
  await author.getByLabel('Last run at').fill('half past');
  await expect(author.getByText('“Last run at” must be a time such as 23:30.')).toBeVisible();
  await author.getByLabel('Last run at').fill('23:30');
  const taking = author.getByRole('button', { name: /Register THR-NIT-\d{4}-01/ });
  await taking.click();
  await author.waitForURL(/\/d\/THR-NIT-\d{4}-01/);
});

test('a new mandatory field shows the affected documents first; the change stays on record with its reason', async ({
  browser,
}) => {
  const admin = await pageOf(browser, 'dagny.holm');
  await admin.goto('/rules/types');
  await admin.getByLabel('Find a type').fill('procedure');
  await admin.getByRole('link', { name: /^PRO Procedure/ }).click();
  await admin.getByRole('button', { name: 'Fields', exact: true }).click();
  await admin.getByRole('button', { name: 'Add field' }).click();
  await admin.getByLabel('Label').fill('Risk class');
  await admin.getByLabel('Kind').selectOption('choice');
  await admin.getByLabel('Options').fill('low Low\nhigh High');
  await admin.getByLabel('Required for submission').check();
  await admin.getByLabel('Revision field').uncheck();
  await admin.getByLabel('Default value').selectOption('fixed');
  await admin.getByLabel('Value', { exact: true }).selectOption('low');
  await admin.getByRole('button', { name: 'Preview effect' }).click();
  const dialog = admin.getByRole('dialog');
  await expect(dialog.getByText(/Risk class.*documents have no value/)).toBeVisible();
  await expect(dialog.getByRole('button', { name: 'Save' })).toBeDisabled();
  await dialog.getByLabel('Reason').fill('The authority asks for it');
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(dialog).toBeHidden();
  await admin.getByRole('button', { name: 'Editions' }).click();
  await expect(admin.getByText('The authority asks for it')).toBeVisible();
  await admin.goto('/d/THR-PRO-0112?side=metadata');
  await expect(admin.getByText('Risk class')).toBeVisible();
  await expect(admin.getByText('Low', { exact: true })).toBeVisible();
});

test('an option that depends on another is offered below it only', async ({ browser }) => {
  const admin = await pageOf(browser, 'dagny.holm');
  await admin.goto('/rules/lists?choices=place');
  const options = admin.getByLabel('Options');
  await options.fill(`${await options.inputValue()}\nWIEN\tWien\tXX`);
  await admin.getByLabel('Reason').fill('A new place');
  await admin.getByRole('button', { name: 'Save list' }).click();
  await expect(admin.getByText('WIEN refers to XX, which the parent list does not contain.')).toBeVisible();
  await options.fill((await options.inputValue()).replace('\tXX', '\tAT'));
  await admin.getByRole('button', { name: 'Save list' }).click();
  await expect(admin.getByText('9 options')).toBeVisible();

  const author = await pageOf(browser, 'joren.adeyemi');
  await author.goto('/new?type=DWG');
  await author.getByLabel('Region').selectOption('ALP');
  await expect(author.getByLabel('Country').locator('option')).toHaveText(['–', 'Switzerland', 'Austria', 'Italy']);
  await author.getByLabel('Country').selectOption('AT');
  await expect(author.getByLabel('Place').locator('option')).toHaveText(['–', 'Oberlauf', 'Wien']);
  await author.getByLabel('Place').selectOption('WIEN');
  await author.getByLabel('Country').selectOption('CH');
  await expect(author.getByLabel('Place')).toHaveValue('');
});

test('thirty files dropped at once become documents, each with its own number, and what is known is asked once', async ({
  browser,
}) => {
  const author = await pageOf(browser, 'joren.adeyemi');
  await author.goto('/new?type=RPT');
  await author.getByLabel('Folder').selectOption({ label: 'Rope & drive / Haul rope' });
  const files = Array.from({ length: 29 }, (_, i) =>
    md(`rope section ${i + 1}.md`, `Section ${i + 1} of ${Date.now()}`),
  );
  await author.locator('input[type=file]').setInputFiles([...files, md('THR-PRO-0112_C_Daily.md')]);
  await expect(author.getByRole('heading', { name: 'Register 30 files' })).toBeVisible();
  await expect(author.getByText('1 file is already known')).toBeVisible();
  await author.getByLabel('Equipment of rope section 1.md').fill('Haul rope');
  await author.getByLabel('Equipment of rope section 1.md').press('Control+d');
  await expect(author.getByLabel('Equipment of rope section 29.md')).toHaveValue('Haul rope');
  await author.getByRole('button', { name: 'Register 29' }).click();
  await expect(author.getByText('29 are done. Nothing left to register.')).toBeVisible({ timeout: 60_000 });
  await author
    .getByRole('link', { name: /THR-RPT-\d{4}/ })
    .first()
    .click();
  await expect(author.getByText('Draft, version 1')).toBeVisible();
});

test('marked documents change together after one has seen what it does, and back again', async ({ browser }) => {
  const page = await pageOf(browser, 'ines.varga');
  await page.goto('/register?type=PRO');
  await page.getByLabel('Select THR-PRO-0112').click();
  await page.getByLabel('Select THR-PRO-0118').click({ modifiers: ['Shift'] });
  await expect(page.getByText(/rows selected/)).toBeVisible();
  await page.getByRole('button', { name: 'Change', exact: true }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('What to change').selectOption('keywords');
  await dialog.getByLabel('Add').fill('winter check,');
  await expect(dialog.getByText(/documents change/)).toBeVisible();
  await expect(dialog.getByText('winter check').first()).toBeVisible();
  await dialog.getByLabel('Reason').fill('Looked at before the winter');
  await dialog.getByRole('button', { name: /^Change \d+$/ }).click();
  await expect(dialog).toBeHidden();
  await page.goto('/register?q=keyword:winter');
  await expect(page.getByRole('row')).not.toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('No matching documents')).toBeVisible();
});

test('a field of a type names the assignees; a group follows from the facts about people', async ({ browser }) => {
  const admin = await pageOf(browser, 'dagny.holm');
  await admin.goto('/rules/types');
  await admin.getByRole('link', { name: 'WPT Permit to work' }).click();
  await admin.getByRole('button', { name: 'Fields', exact: true }).click();
  await admin.getByRole('button', { name: 'Add field' }).click();
  await admin.getByLabel('Label').fill('Shift lead');
  await admin.getByLabel('Kind').selectOption({ label: 'person' });
  await admin.getByRole('button', { name: 'Route and readers' }).click();
  // The answer is slow here: what is chosen next must wait for it, and must not be overwritten by it.
  await admin.route('**/api/rules/types/*', async (route) => {
    await new Promise((done) => setTimeout(done, 700));
    await route.continue();
  });
  await admin.getByLabel('Copy the route of').selectOption({ label: 'PRO Procedure' });
  await admin.getByRole('button', { name: /^Edit step 2,/ }).click();
  await admin.getByLabel('Add assignee').selectOption({ label: 'the person named in Shift lead' });
  await admin.getByRole('button', { name: 'Preview effect' }).click();
  const dialog = admin.getByRole('dialog');
  await expect(dialog).toContainText('the person named in Shift lead');
  await dialog.getByLabel('Reason').fill('Whoever leads the shift answers for the permit');
  await dialog.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(dialog).toBeHidden();

  const author = await pageOf(browser, 'joren.adeyemi');
  await author.goto('/new?type=WPT');
  await author.getByLabel('Folder').selectOption({ label: 'Carriers / Grips' });
  await author.locator('input[type=file]').first().setInputFiles(md('Night work.md'));
  await pick(author, 'Shift lead', 'Rafael Osei');
  await author.getByRole('button', { name: /^Register THR-WPT-\d{4}/ }).click();
  await author.waitForURL(/\/d\/THR-WPT-\d{4}$/);
  await author.getByRole('button', { name: 'Submit for review' }).click();
  const send = author.getByRole('dialog');
  await send.getByPlaceholder('Type a name').fill('Georg');
  await author.getByRole('option', { name: /Georg Milde/ }).click();
  await send.getByRole('button', { name: 'Submit', exact: true }).click();
  await expect(send).toBeHidden();
  await author.getByText('Route', { exact: true }).click();
  await expect(author.getByText('Rafael Osei: waiting')).toBeVisible();

  await admin.goto('/rules/organisation');
  await admin.getByRole('button', { name: 'Add' }).nth(3).click();
  await dialog.getByLabel('Code').fill('HALL');
  await dialog.getByLabel('Name').fill('Hall crew');
  await dialog.getByRole('button', { name: 'Add' }).click();
  await expect(dialog).toBeHidden();
  await admin.getByRole('button', { name: 'Edit group rules' }).click();
  await admin.getByLabel('Group', { exact: true }).selectOption({ label: 'Hall crew' });
  await dialog.getByText('Works hall', { exact: true }).click();
  await expect(dialog.getByText(/^Today \d+: /)).toBeVisible();
  await dialog.getByLabel('Reason').fill('All of the works hall');
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(dialog).toBeHidden();
  await expect(admin.getByText('who is in Works hall').first()).toBeVisible();
});
