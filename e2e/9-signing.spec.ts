import AxeBuilder from '@axe-core/playwright';
import { PASSWORD, pageOf } from './people.ts';
import { expect, test } from './test.ts';

// What a signature covers is seen before it is given; what keeps the system from its work is seen by who can mend it.

test('a drawing of three sheets is signed when every sheet was opened', async ({ browser }) => {
  const author = await pageOf(browser, 'joren.adeyemi');
  const { people } = await (await author.request.get('/api/people/names?find=Otto')).json();
  const sent = await author.request.post('/api/documents/THR-DWG-3001/submit', {
    data: { seen: '*', message: 'Three sheets belong together.', chosen: [people[0].id] },
  });
  expect(sent.status()).toBe(200);

  const reviewer = await pageOf(browser, 'otto.brandvik');
  await reviewer.goto('/');
  await reviewer.getByRole('link', { name: 'Review: THR-DWG-3001' }).click();
  await reviewer.getByText('No objection', { exact: true }).click();
  await reviewer.getByRole('button', { name: 'No objection' }).click();
  await reviewer.waitForURL('/');

  const page = await pageOf(browser, 'lin.sato');
  await page.goto('/');
  await page.getByRole('link', { name: 'Decide: THR-DWG-3001' }).click();
  const files = page.getByRole('tablist', { name: 'Files' }).getByRole('tab');
  await expect(files).toHaveCount(3);
  await expect(files.nth(0)).toContainText('Opened');
  await expect(files.nth(2)).toContainText('Not opened');
  await page.getByText('Approve', { exact: true }).click();
  await page.getByLabel('Sign-in name').fill('lin.sato');
  await page.getByLabel('Password of Lin Sato').fill(PASSWORD);
  const sign = page.getByRole('button', { name: 'Sign approval of P01' });
  await expect(sign).toBeDisabled();
  const left = page.getByRole('status').filter({ hasText: 'Your signature covers 3 files' });
  await expect(left).toContainText('floor-2.svg');
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'])
    .analyze();
  expect(violations.map((one) => `${one.id}: ${one.nodes.map((node) => node.target).join(' ')}`)).toEqual([]);

  await left.getByRole('button', { name: 'floor-2.svg' }).click();
  await expect(files.nth(1)).toHaveAttribute('aria-selected', 'true');
  await expect(files.nth(1)).not.toContainText('Not opened');
  await expect(sign).toBeDisabled();
  await files.nth(2).click();
  await expect(left).toBeHidden();
  await sign.click();
  await expect(page.getByText('THR-DWG-3001 P01 is approved')).toBeVisible();
});

test('an administrator looks at what keeps the system from its work', async ({ browser }) => {
  const page = await pageOf(browser, 'dagny.holm');
  await page.goto('/');
  await page.getByRole('navigation').getByRole('link', { name: 'System' }).click();
  await expect(page.getByRole('heading', { name: 'System', level: 1 })).toBeVisible();
  await expect(page.getByText('No failed background work.')).toBeVisible();
  const reader = await pageOf(browser, 'rafael.osei');
  await reader.goto('/system');
  await expect(reader.getByRole('heading', { name: 'System', level: 1 })).toBeHidden();
});
