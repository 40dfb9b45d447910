import { axeFindings, command, PASSWORD, pageOf } from './people.ts';
import { expect, test } from './test.ts';

// Rounds and signatures outside a route, orders, a note made while revising, and the table of signatories.

const WIDTHS = [
  { width: 1280, height: 800 },
  { width: 820, height: 1180 },
  { width: 390, height: 844 },
];

test('an author asks two people about what is in force; one answers, and it stays in force', async ({ browser }) => {
  const author = await pageOf(browser, 'joren.adeyemi');
  await author.goto('/d/THR-FRM-0013');
  await command(author, 'Start an ad hoc round');
  const dialog = author.getByRole('dialog');
  await dialog.getByLabel('What the round is for').fill('Tools at hand');
  await dialog.getByRole('combobox', { name: /Who is asked/ }).fill('Sven');
  await dialog.getByRole('option', { name: /Sven Calder/ }).click();
  await dialog.getByRole('button', { name: 'Start round' }).click();
  await expect(author.getByRole('heading', { name: /: Tools at hand, running/ })).toBeVisible();
  const asked = await pageOf(browser, 'sven.calder');
  await asked.goto('/');
  await asked.locator('li, tr', { hasText: 'THR-FRM-0013' }).getByRole('link', { name: 'Review' }).first().click();
  await expect(asked.getByText('Ad hoc round: Tools at hand')).toBeVisible();
  await asked.keyboard.press('1');
  await asked.getByRole('button', { name: 'No objection' }).click();
  await expect(asked).toHaveURL(/\/$/);
  await author.reload();
  await expect(author.getByRole('heading', { name: /: Tools at hand, done/ })).toBeVisible();
  await expect(author.getByText('In force').first()).toBeVisible();
});

test('a witness signs outside a round, and it shows on the tab Route', async ({ browser }) => {
  const witness = await pageOf(browser, 'anselm.roth');
  await witness.goto('/d/THR-FRM-0021');
  await command(witness, 'Sign outside a round');
  const dialog = witness.getByRole('dialog');
  await dialog.getByLabel('Meaning of the signature').selectOption('Witnessed');
  for (const link of await dialog
    .getByRole('listitem')
    .filter({ hasText: /not opened/i })
    .getByRole('link')
    .all()) {
    const [opened] = await Promise.all([witness.waitForEvent('popup'), link.click()]);
    await opened.close();
  }
  await witness.bringToFront();
  await dialog.getByLabel('Sign-in name').fill('anselm.roth');
  await dialog.getByLabel(/^Password of/).fill(PASSWORD);
  await expect(dialog.getByRole('button', { name: 'Sign', exact: true })).toBeEnabled();
  await dialog.getByRole('button', { name: 'Sign', exact: true }).click();
  await expect(witness.getByText('Signed.')).toBeVisible();
  await witness.goto('/d/THR-FRM-0021?tab=route');
  await expect(witness.getByText('Witnessed')).toBeVisible();
});

test('a controller orders a revision; it is on the Desk of whoever writes it', async ({ browser }) => {
  const controller = await pageOf(browser, 'ines.varga');
  await controller.goto('/d/THR-FRM-0004');
  await command(controller, 'Order a revision');
  const dialog = controller.getByRole('dialog');
  await dialog.getByRole('combobox', { name: 'Who writes it' }).fill('Joren');
  await dialog.getByRole('option', { name: /Joren Adeyemi/ }).click();
  await dialog.getByLabel('By', { exact: true }).fill('+10wd');
  await dialog.getByLabel('Why, and what it must say').fill('The field for the wind is missing');
  await dialog.getByRole('button', { name: 'Send order' }).click();
  await expect(controller.getByText(/^Order ORD-\d{4}-\d{4} sent/)).toBeVisible();
  await expect(controller.getByText(/A revision is ordered from Joren Adeyemi/)).toBeVisible();
  const author = await pageOf(browser, 'joren.adeyemi');
  await author.goto('/');
  await expect(author.getByText(/The field for the wind is missing/)).toBeVisible();
  await author.goto('/changes?show=orders');
  const row = author.locator('li', { hasText: 'The field for the wind is missing' });
  await row.getByRole('button', { name: 'Reject' }).click();
  await author.getByRole('dialog').getByLabel('Reason').fill('Being built into the next form');
  await author.getByRole('dialog').getByRole('button', { name: 'Reject' }).click();
  await expect(row).toBeHidden();
});

test('what is ordered is above the register, and is registered under the number that is kept', async ({ browser }) => {
  const author = await pageOf(browser, 'joren.adeyemi');
  await author.goto('/register');
  await author.getByText(/ordered and not registered yet/).click();
  await author.getByRole('link', { name: 'Rescue from a cabin at night' }).click();
  await expect(author.getByLabel('Title', { exact: true })).toHaveValue('Rescue from a cabin at night');
  await expect(author.getByLabel('Number', { exact: true })).toHaveValue('THR-TRN-0001');
});

test('an author makes a change note while revising', async ({ browser }) => {
  const author = await pageOf(browser, 'joren.adeyemi');
  await author.goto('/d/THR-FRM-0008');
  await command(author, 'Revise');
  const dialog = author.getByRole('dialog');
  await dialog.getByLabel('Reason').fill('New column');
  await dialog.getByLabel(/^Change note/).selectOption({ label: 'Make a new change note' });
  const made = dialog.getByRole('group', { name: 'New change note' });
  await made.getByLabel('Title of the note').fill('A column for the wind');
  for (const select of await made.getByRole('combobox').all()) await select.selectOption({ index: 1 });
  for (const text of await made.getByRole('textbox').all())
    if ((await text.inputValue()) === '') await text.fill('Asked for by the crew');
  await dialog.getByRole('button', { name: /^Start revision/ }).click();
  await expect(author.getByRole('link', { name: /THR-CHN-\d{4} A column for the wind/ })).toBeVisible();
});

test('an administrator changes who approves, in two types at once, from a day on', async ({ browser }) => {
  const admin = await pageOf(browser, 'dagny.holm');
  await admin.goto('/rules/signatories');
  const table = admin.getByRole('table');
  for (const code of ['FRM', 'POL']) {
    const row = table.getByRole('row', { name: new RegExp(`^${code} `) }).first();
    await row.getByRole('button').last().click();
  }
  await expect(admin.getByRole('status').filter({ hasText: '2 cells chosen' })).toBeVisible();
  await admin.getByRole('button', { name: 'Change who is asked' }).click();
  const dialog = admin.getByRole('dialog');
  await dialog.getByLabel('What happens to those asked now').selectOption('add');
  await dialog.getByRole('combobox', { name: 'Add person' }).fill('Lin');
  await dialog.getByRole('option', { name: /Lin Sato/ }).click();
  await dialog.getByLabel('Reason').fill('Two pairs of eyes');
  await dialog.getByLabel('Applies from').fill('+20wd');
  await dialog.getByRole('button', { name: 'Plan change' }).click();
  await expect(table.getByText(/^changes on /).first()).toBeVisible();
  await admin.getByRole('button', { name: 'History' }).click();
  await expect(admin.getByText('Two pairs of eyes').first()).toBeVisible();
});

test('these views can be used at any width', async ({ browser }) => {
  test.setTimeout(300_000);
  const admin = await pageOf(browser, 'dagny.holm');
  const controller = await pageOf(browser, 'ines.varga');
  for (const size of WIDTHS) {
    for (const [page, address] of [
      [admin, '/rules/signatories'],
      [controller, '/changes?show=orders'],
      [controller, '/d/THR-PRO-0114?tab=route'],
    ] as const) {
      await page.setViewportSize(size);
      await page.goto(address);
      await expect(page.getByRole('heading', { level: 1 }).first()).toBeVisible();
      expect(await axeFindings(`${address} at ${size.width}`, page)).toEqual([]);
      const wide = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
      expect(wide, `${address} at ${size.width} px is too wide`).toBeLessThanOrEqual(0);
    }
  }
});
