import { axeFindings, PASSWORD, pageOf } from './people.ts';
import { expect, test } from './test.ts';

// The periodic review by the owner of a document: from the Desk to each outcome, and what follows from it.

const WIDTHS = [
  { width: 1280, height: 800 },
  { width: 820, height: 1180 },
  { width: 390, height: 844 },
];

test('an owner confirms a document by signature, and the next review follows', async ({ browser }) => {
  const page = await pageOf(browser, 'lin.sato');
  await page.goto('/');
  const row = page.getByRole('listitem').filter({ hasText: 'THR-SPC-0036' });
  await row.getByRole('link', { name: 'Review' }).click();
  await expect(page.getByRole('heading', { name: /^Review of revision/ })).toBeVisible();
  await expect(page.getByRole('region', { name: /^Use since/ })).toContainText('Openings');
  for (const size of WIDTHS) {
    await page.setViewportSize(size);
    expect(await axeFindings(`a review at ${size.width}`, page)).toEqual([]);
    expect(await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)).toBeLessThanOrEqual(0);
  }
  await page.setViewportSize({ width: 1280, height: 800 });
  const sign = page.getByRole('button', { name: 'Sign and confirm' });
  await expect(sign).toBeDisabled();
  for (const file of await page.getByRole('form').or(page.locator('form')).getByRole('link').all()) {
    const opened = page.context().waitForEvent('page');
    await file.click();
    await (await opened).close();
  }
  await expect(sign).toBeEnabled();
  await page.getByLabel('Comment').fill('Compared with the drawing of the maker');
  const name = page.getByLabel('Sign-in name');
  if (await name.isVisible()) await name.fill('lin.sato');
  await page.getByLabel(/^Password/).fill(PASSWORD);
  await sign.click();
  await expect(page.getByText(/^Confirmed\. Next review on /)).toBeVisible();
  await expect(page.getByText(/reviewed it and confirmed it as it is/)).toBeVisible();
  await page.goto('/d/THR-SPC-0036/review');
  await expect(page.getByRole('region', { name: 'Earlier reviews' })).toContainText(
    'Compared with the drawing of the maker',
  );
});

test('a review that asks for a change leads to the revision with what was said', async ({ browser }) => {
  const page = await pageOf(browser, 'lin.sato');
  await page.goto('/d/THR-SPC-0035/review');
  await page.getByRole('radio', { name: /^Minor change/ }).check();
  await page.getByLabel('What has to change, and why').fill('The bolt has another name');
  await page.getByRole('button', { name: 'Record and revise' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByLabel('Reason')).toHaveValue('The bolt has another name');
  await expect(dialog.getByRole('radio', { name: /^minor/i })).toBeChecked();
  await dialog.getByRole('button', { name: /^Start revision/ }).click();
  await expect(page.getByText(/started as a draft/)).toBeVisible();
  // It stays due until that revision is in force.
  await page.goto('/d/THR-SPC-0035/review');
  await expect(page.getByRole('region', { name: 'Earlier reviews' })).toContainText('Minor change needed');
});

test('a review is postponed within the limit of its type, and the page says until when', async ({ browser }) => {
  const page = await pageOf(browser, 'petra.lindqvist');
  await page.goto('/d/THR-FRM-0006');
  await page.getByRole('link', { name: 'Review' }).click();
  await page.getByRole('radio', { name: /^Postpone/ }).check();
  await page.getByLabel('To', { exact: true }).fill('31 dec 2040');
  await page.getByRole('textbox', { name: 'Reason' }).fill('The winter opening comes first');
  await page.getByRole('button', { name: 'Postpone review' }).click();
  const refusal = await page.getByText(/^Enter a date up to /).textContent();
  const latest = refusal?.replace(/^Enter a date up to (.*)\.$/, '$1');
  await page.getByLabel('To', { exact: true }).fill(latest ?? '');
  await page.getByRole('button', { name: 'Postpone review' }).click();
  await expect(page.getByText(`Postponed to ${latest}.`)).toBeVisible();
});

test('the horizon shows the months ahead at every width, and leads to what is to be done', async ({ browser }) => {
  const page = await pageOf(browser, 'ines.varga');
  await page.goto('/horizon?whose=all');
  await expect(page.getByRole('heading', { level: 1 })).toContainText(/\d+ things due by /);
  const list = page.getByRole('list', { name: 'Horizon' });
  await expect(list).toContainText('Comes into force');
  await expect(list).toContainText('Review, overdue');
  for (const size of WIDTHS) {
    await page.setViewportSize(size);
    expect(await axeFindings(`the horizon at ${size.width}`, page)).toEqual([]);
    expect(await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)).toBeLessThanOrEqual(0);
  }
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.getByLabel('Person').selectOption({ label: 'Petra Lindqvist' });
  await expect(list.getByRole('listitem').first()).toContainText('Petra Lindqvist');
  await list.getByRole('listitem').filter({ hasText: 'THR-FRM-0021' }).getByRole('link').click();
  await expect(page.getByRole('heading', { name: /^Review of revision/ })).toBeVisible();
});

test('weeks with too many reviews are levelled after confirmation', async ({ browser }) => {
  const page = await pageOf(browser, 'lin.sato');
  await page.goto('/horizon?ahead=6&hours=1');
  await page.getByRole('button', { name: 'Level reviews' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText(/more than 1 hour;/)).toBeVisible();
  expect(await axeFindings('levelling', page)).toEqual([]);
  const first = dialog.getByRole('listitem').first();
  const number = (await first.locator('.num').textContent()) ?? '';
  const to = (await first.locator('b').textContent()) ?? '';
  await dialog.getByRole('button', { name: /^Move \d+ reviews?$/ }).click();
  await expect(page.getByText(/reviews? moved\./)).toBeVisible();
  await expect(page.getByRole('listitem').filter({ hasText: number })).toContainText(to);
});
