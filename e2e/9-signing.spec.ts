import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import { command, PASSWORD, pageOf } from './people.ts';
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

test('a PDF goes to people outside, comes back signed, and another program finds it valid', async ({ browser }) => {
  test.setTimeout(420_000);
  const page = await pageOf(browser, 'ines.varga');
  await page.goto('/d/THR-AGR-0012');
  await command(page, 'Send to be signed outside');
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name').fill('Ida Brenn');
  await dialog.getByLabel('Mail address').fill('ida.brenn@brennhof.example');
  await dialog.getByRole('button', { name: 'Send', exact: true }).click();
  await expect(page.getByText('Sent to the signing service.')).toBeVisible();
  // The clock hands it over and asks each minute.
  const untilShown = (what: ReturnType<typeof page.getByRole>) =>
    expect(async () => {
      await page.goto('/d/THR-AGR-0012?tab=route');
      await expect(what).toBeVisible({ timeout: 5_000 });
    }).toPass({ timeout: 180_000, intervals: [5_000] });
  const link = page.getByRole('link', { name: 'Page on which Ida Brenn signs' });
  await untilShown(link);
  const outside = await browser.newPage();
  await outside.goto((await link.getAttribute('href')) ?? '');
  await outside.getByRole('button', { name: 'Sign as Ida Brenn' }).click();
  await expect(outside.getByText('Ida Brenn has signed.')).toBeVisible();
  const file = page.getByRole('link', { name: /signed\.pdf$/ });
  await untilShown(file);
  await expect(page.getByText(/Signature of Ida Brenn/).locator('..')).toContainText(
    'unchanged since it was signed; trusted',
  );
  const signed = await page.request.get((await file.getAttribute('href')) ?? '');
  const dir = mkdtempSync(join(tmpdir(), 'signed-'));
  try {
    writeFileSync(join(dir, 'signed.pdf'), await signed.body());
    const judge = (name: string) => execFileSync('pdfsig', ['-nocert', join(dir, name)], { encoding: 'utf8' });
    expect(judge('signed.pdf')).toContain('Signature is Valid.');
    // Brought back with a letter changed, it is named so, here as there.
    const altered = Buffer.from(await signed.body());
    const at = altered.lastIndexOf('MediaBox');
    altered[at + 9] = (altered[at + 9] ?? 0) ^ 1;
    writeFileSync(join(dir, 'altered.pdf'), altered);
    expect(judge('altered.pdf')).toContain('Digest Mismatch');
    await command(page, 'Add a PDF signed outside');
    await dialog.locator('input[type=file]').setInputFiles(join(dir, 'altered.pdf'));
    await dialog.getByRole('button', { name: 'Add', exact: true }).click();
    await page.goto('/d/THR-AGR-0012?tab=route');
    await expect(page.getByText(/changed after it was signed/).first()).toBeVisible();
  } finally {
    rmSync(dir, { recursive: true, force: true });
  }
});
