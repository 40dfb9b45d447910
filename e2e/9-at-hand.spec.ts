import type { Page } from '@playwright/test';
import { axeFindings, pageOf } from './people.ts';
import { expect, test } from './test.ts';

// What each person keeps at hand: favourites, the cards of the Desk, the find line, the filter and the columns of the register.

const desk = async (page: Page) => {
  await page.goto('/');
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
};

test('a document is kept at hand, sorted on the Desk and let go again', async ({ browser }) => {
  const page = await pageOf(browser, 'rafael.osei');
  for (const number of ['THR-PRO-0112', 'THR-PRO-0118']) {
    await page.goto(`/d/${number}`);
    await page.getByRole('button', { name: 'Add to favourites' }).click();
    await expect(page.getByRole('button', { name: 'Remove from favourites' })).toBeVisible();
  }
  await desk(page);
  const card = page.getByRole('region', { name: 'Favourites' });
  await expect(card.getByRole('link')).toHaveText([/THR-PRO-0112/, /THR-PRO-0118/]);
  await card.getByRole('button', { name: 'Edit' }).click();
  await card.getByRole('button', { name: 'Move THR-PRO-0118 up' }).click();
  await expect(card.getByRole('link')).toHaveText([/THR-PRO-0118/, /THR-PRO-0112/]);
  await page.reload();
  await expect(card.getByRole('link')).toHaveText([/THR-PRO-0118/, /THR-PRO-0112/]);
  expect(await axeFindings('desk with favourites', page)).toEqual([]);
  await card.getByRole('button', { name: 'Edit' }).click();
  await card.getByRole('button', { name: 'Remove THR-PRO-0112 from your favourites' }).click();
  await expect(card.getByRole('link')).toHaveText([/THR-PRO-0118/]);
});

test('the cards of the Desk are in the order of the person, also on a phone', async ({ browser }) => {
  const page = await pageOf(browser, 'ines.varga');
  await page.setViewportSize({ width: 390, height: 844 });
  await desk(page);
  await page.getByRole('button', { name: 'Edit cards' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('checkbox', { name: 'Reviews due' }).uncheck();
  await dialog.getByRole('button', { name: 'Move Release up' }).click();
  expect(await axeFindings('cards of the desk', page)).toEqual([]);
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Cards saved.')).toBeVisible();
  await expect(page.getByRole('region', { name: 'Reviews due' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Edit cards' }).click();
  await dialog.getByRole('button', { name: 'Restore usual order' }).click();
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('region', { name: 'Reviews due' })).toBeVisible();
});

test('the find line lists what can be done with the document, and leads to it', async ({ browser }) => {
  const page = await pageOf(browser, 'ines.varga');
  await page.goto('/d/THR-AGR-0003');
  await expect(page.getByRole('button', { name: 'Actions' })).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.keyboard.type('permanent');
  await expect(page.getByRole('option')).toHaveText(['Go to or search for permanent', 'Copy permanent address']);
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('filing');
  await page.getByRole('option', { name: 'Filing plan' }).click();
  await expect(page).toHaveURL(/\/rules\/filing/);
});

test('the register is filtered with what is offered, takes either side, and keeps the width of a column', async ({
  browser,
}) => {
  const page = await pageOf(browser, 'ines.varga');
  await page.goto('/register');
  const line = page.getByRole('combobox', { name: 'Filter by words or field:value' });
  await line.click();
  await expect(page.getByText('“or” takes either side')).toBeVisible();
  await page.getByRole('option', { name: /^type:/ }).click();
  await page.keyboard.type('PRO or type:WIN');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/q=type/);
  // What was shown before stays until the new rows are there.
  const others = async () => {
    const numbers = await page.getByRole('row').locator('.num').allInnerTexts();
    return numbers.filter((text) => /^[A-Z]{3}-[A-Z]{3}-/.test(text) && !/-(PRO|WIN)-/.test(text));
  };
  await expect.poll(others).toEqual([]);
  await expect(page.getByRole('row').first()).toBeVisible();
  await line.fill('type:PRO or');
  await line.press('Enter');
  await expect(page.getByText(/needs a condition on each side/)).toBeVisible();
  await page.goto('/register');
  const edge = page.getByRole('separator', { name: 'Width of Owner' });
  const width = Number(await edge.getAttribute('aria-valuenow'));
  await edge.focus();
  await edge.press('ArrowRight');
  await expect(edge).toHaveAttribute('aria-valuenow', String(width - 8));
  await page.reload();
  await expect(edge).toHaveAttribute('aria-valuenow', String(width - 8));
  await edge.dblclick();
  await expect(edge).toHaveAttribute('aria-valuenow', String(width));
  expect(await axeFindings('register with columns', page)).toEqual([]);
});
