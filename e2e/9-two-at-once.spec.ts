import type { Page } from '@playwright/test';
import { pageOf, registerText, typeInBrowser } from './people.ts';
import { expect, test } from './test.ts';

// Two people at the same thing: nothing that one saved is undone by the other, nothing that was typed is lost.

/** Comes back to a window, again and again until what somebody else did is there: what is some seconds old is asked anew. */
const comeBackTo = (page: Page, seen: () => Promise<void>) =>
  expect(async () => {
    await page.evaluate(() => window.dispatchEvent(new Event('visibilitychange')));
    await seen();
  }).toPass();

test('two correct the metadata of one document: the second is warned, and applies her changes to his', async ({
  browser,
}) => {
  const author = await pageOf(browser, 'joren.adeyemi');
  const number = await registerText(author, 'Ice on the rope', 'It is scraped off.\n');
  await author.goto(`/d/${number}?side=metadata`);
  await author.getByRole('button', { name: 'Correct metadata' }).click();
  const his = author.getByRole('dialog');
  await his.getByLabel('Title').fill('Ice on the haul rope');

  const controller = await pageOf(browser, 'ines.varga');
  await controller.goto(`/d/${number}?side=metadata`);
  await controller.getByRole('button', { name: 'Correct metadata' }).click();
  const hers = controller.getByRole('dialog');
  await hers.getByLabel('Summary of the revision').fill('From the winter meeting');
  await hers.getByRole('button', { name: 'Save' }).click();
  await expect(hers).toBeHidden();

  await his.getByRole('button', { name: 'Save' }).click();
  await expect(
    his.getByText('Somebody else changed summary in the meantime. What you typed is still here.'),
  ).toBeVisible();
  await expect(his.getByRole('button', { name: 'Save' })).toBeDisabled();
  await expect(his.getByLabel('Title')).toHaveValue('Ice on the haul rope');
  await his.getByRole('button', { name: 'Apply mine to theirs' }).click();
  await expect(his.getByLabel('Summary of the revision')).toHaveValue('From the winter meeting');
  await expect(his.getByLabel('Title')).toHaveValue('Ice on the haul rope');
  await his.getByRole('button', { name: 'Save' }).click();
  await expect(his).toBeHidden();
  await author.goto(`/d/${number}?side=metadata`);
  await expect(author.getByRole('heading', { name: /Ice on the haul rope/ })).toBeVisible();
  await expect(author.getByText('From the winter meeting').first()).toBeVisible();
});

test('two change one type: what was typed survives, the same place is named, and leaving asks', async ({ browser }) => {
  const [one, other] = [await pageOf(browser, 'dagny.holm'), await pageOf(browser, 'dagny.holm')];
  for (const page of [one, other]) {
    await page.goto('/rules/types/PRO');
    await page.getByLabel('Example').fill(page === one ? 'Opening a line in the morning' : 'Closing a line at night');
  }
  await one.getByLabel('Name', { exact: true }).fill('Working procedure');
  await other.getByRole('button', { name: 'Preview effect' }).click();
  const dialog = other.getByRole('dialog');
  await dialog.getByLabel('Reason').fill('A better example');
  await dialog.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(dialog).toBeHidden();

  await comeBackTo(one, () => expect(one.getByText('You also changed Example.')).toBeVisible({ timeout: 1000 }));
  await expect(one.getByLabel('Example')).toHaveValue('Opening a line in the morning');
  await expect(one.getByRole('button', { name: 'Preview effect' })).toBeDisabled();
  await one.getByRole('link', { name: /^POL Policy/ }).click();
  await one.getByRole('dialog').getByRole('button', { name: 'Stay on page' }).click();
  await one.getByRole('button', { name: 'Apply mine to theirs' }).click();
  await one.getByRole('button', { name: 'Preview effect' }).click();
  const effect = one.getByRole('dialog');
  await expect(effect).toContainText('Closing a line at night');
  await expect(effect).toContainText('Opening a line in the morning');
  await effect.getByRole('button', { name: 'Cancel' }).click();
  await one.getByRole('button', { name: 'Discard' }).click();
  await expect(one.getByLabel('Example')).toHaveValue('Closing a line at night');
  await expect(one.getByLabel('Name', { exact: true })).toHaveValue('Procedure');
  await one.getByRole('link', { name: /^POL Policy/ }).click();
  await expect(one.getByLabel('Name', { exact: true })).toHaveValue('Policy');
});

test('two add to one look-up list: both entries are there', async ({ browser }) => {
  const [one, other] = [await pageOf(browser, 'dagny.holm'), await pageOf(browser, 'dagny.holm')];
  for (const [page, entry] of [
    [one, 'P-901\tSummit bar'],
    [other, 'P-902\tValley hall'],
  ] as const) {
    await page.goto('/rules/lists?lookup=project');
    const entries = page.getByLabel(/^Entries: code, name/);
    await entries.fill(`${await entries.inputValue()}\n${entry}`);
    await page.getByLabel('Reason').fill('A new project');
  }
  await one.getByRole('button', { name: 'Save list' }).click();
  await expect(one.getByText('List saved.')).toBeVisible();
  await other.getByRole('button', { name: 'Save list' }).click();
  await other.getByRole('button', { name: 'Apply mine to theirs' }).click();
  await expect(other.getByLabel(/^Entries: code, name/)).toHaveValue(/P-901[\s\S]*P-902/);
  await other.getByRole('button', { name: 'Save list' }).click();
  await expect(other.getByText('List saved.')).toBeVisible();
  await comeBackTo(one, () =>
    expect(one.getByLabel(/^Entries: code, name/)).toHaveValue(/P-901[\s\S]*P-902/, { timeout: 1000 }),
  );
});

test('a text is left a moment after the last letter, and is kept all the same', async ({ browser }) => {
  const page = await pageOf(browser, 'joren.adeyemi');
  const number = await typeInBrowser(page, 'Wind on the tower', 'It is measured.\n', 'At the top.');
  await page.getByRole('link', { name: /^Desk/ }).click();
  await expect(page).toHaveURL(/\/$/);
  await page.goto(`/d/${number}/edit`);
  await expect(page.locator('.cm-content')).toContainText('At the top.');

  // Without a connection it is not left without a word.
  await page.route('**/api/**', (route) => (route.request().method() === 'GET' ? route.continue() : route.abort()));
  await page.locator('.cm-content').click();
  await page.keyboard.press('Control+End');
  await page.keyboard.type(' And below.');
  await page.getByRole('button', { name: 'Leave', exact: true }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Not saved' })).toBeVisible();
  await page.getByRole('link', { name: /^Desk/ }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Stay on page' }).click();
  await page.unroute('**/api/**');
  await page.getByRole('button', { name: 'Leave', exact: true }).click();
  await page.waitForURL(new RegExp(`/d/${number}\\?rev=work$`));
  await page.goto(`/d/${number}/edit`);
  await expect(page.locator('.cm-content')).toContainText('At the top. And below.');
});

test('one text in two windows: the second window keeps nothing over the first unasked', async ({ browser }) => {
  const one = await pageOf(browser, 'joren.adeyemi');
  const number = await registerText(one, 'Fog at the station', 'It is waited for.\n');
  await one.goto(`/d/${number}?command=check%20out`);
  await one.getByText('Edit in the browser').click();
  await one.getByRole('dialog').getByRole('button', { name: 'Check out' }).click();
  await one.waitForURL(/\/edit$/);
  await expect(one.locator('.cm-content')).toContainText('It is waited for.');
  const other = await one.context().newPage();
  await other.goto(`/d/${number}/edit`);
  const write = async (page: Page, words: string) => {
    await page.locator('.cm-content').click();
    await page.keyboard.press('Control+End');
    await page.keyboard.type(words);
  };
  const isKept = (page: Page) => page.getByRole('status').filter({ hasText: 'visible to nobody else' });
  await write(one, 'Here first.');
  await expect(isKept(one)).toBeVisible();
  await write(other, 'There second.');
  await expect(other.getByText('saved in another window')).toBeVisible();
  await other.getByRole('button', { name: 'Use the saved text' }).click();
  await expect(other.locator('.cm-content')).toContainText('Here first.');
  await expect(other.locator('.cm-content')).not.toContainText('There second.');
  await write(other, ' There third.');
  await expect(isKept(other)).toBeVisible();
  await write(one, ' Here fourth.');
  await one.getByRole('button', { name: 'Keep my text' }).click();
  await expect(isKept(one)).toBeVisible();
  await one.reload();
  await expect(one.locator('.cm-content')).toContainText('Here first. Here fourth.');
});

test('a connection that fails while a form is open takes nothing away', async ({ browser }) => {
  const page = await pageOf(browser, 'joren.adeyemi');
  const number = await registerText(page, 'Rime on the grip', 'It is melted.\n');
  await page.goto(`/d/${number}?side=metadata`);
  await page.getByRole('button', { name: 'Correct metadata' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Title').fill('Rime on the grips');
  // A press beside the dialog takes nothing away either.
  await page.mouse.click(20, 400);
  await expect(dialog.getByLabel('Title')).toHaveValue('Rime on the grips');
  await page.route('**/api/**', (route) => route.abort());
  await comeBackTo(page, () =>
    expect(page.getByText('What you see may be out of date.')).toBeVisible({ timeout: 1000 }),
  );
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(dialog.getByText('What you typed is still here')).toBeVisible();
  await page.unroute('**/api/**');
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByRole('heading', { name: 'Rime on the grips' })).toBeVisible();
  await page.getByRole('button', { name: 'Correct metadata' }).click();
  await page.mouse.click(20, 400);
  await expect(dialog).toBeHidden();
  await page.getByRole('button', { name: 'Correct metadata' }).click();
  await dialog.getByLabel('Title').fill('Never mind');
  await page.keyboard.press('Escape');
  await expect(dialog).toBeHidden();
});

test('what is begun is not left without a word: a registration, and it goes on where one stays', async ({
  browser,
}) => {
  const page = await pageOf(browser, 'joren.adeyemi');
  await page.goto('/new?type=PRO');
  await page.getByRole('link', { name: /^Desk/ }).click();
  await expect(page).toHaveURL(/\/$/);
  await page.goto('/new?type=PRO');
  await page.getByLabel('Folder').selectOption({ label: 'Carriers / Grips' });
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles({
      name: 'Hail on the cabin.md',
      mimeType: 'text/markdown',
      buffer: Buffer.from('It is counted.\n'),
    });
  await expect(page.getByLabel('Title')).toHaveValue('Hail on the cabin');
  await page.getByRole('link', { name: /^Desk/ }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Stay on page' }).click();
  await expect(page.getByLabel('Title')).toHaveValue('Hail on the cabin');
  await page.getByRole('button', { name: /^Register THR-PRO-\d{4}/ }).click();
  await page.waitForURL(/\/d\/THR-PRO-\d{4}$/);
  await page.goto('/new?type=PRO');
  await page.getByLabel('Title').fill('Thunder');
  await page.getByRole('link', { name: /^Desk/ }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Leave page' }).click();
  await expect(page).toHaveURL(/\/$/);
});
