import { execFile } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { command, pageOf, registerText, typeInBrowser } from './people.ts';
import { expect, test } from './test.ts';

// Working with one's own program or here, marking up, answering, linking.

const run = promisify(execFile);

/** Draws from one place of the viewer to another, in parts of its size. */
const draw = async (page: Page, from: [number, number], to: [number, number]) => {
  const box = await page.getByTestId('viewer').boundingBox();
  if (!box) throw new Error('the viewer is not there');
  const at = ([x, y]: [number, number]) => [box.x + box.width * x, box.y + box.height * y] as const;
  await page.mouse.move(...at(from));
  await page.mouse.down();
  await page.mouse.move(...at(to), { steps: 4 });
  await page.mouse.up();
};

test('a drawing is marked up, its mark answered, given to somebody and resolved', async ({ browser }) => {
  const reviewer = await pageOf(browser, 'georg.milde');
  await reviewer.goto('/d/THR-DWG-2207?rev=work&side=comments');
  await reviewer.getByRole('button', { name: 'Cloud', exact: true }).click();
  await draw(reviewer, [0.2, 0.7], [0.5, 0.9]);
  const words = reviewer.getByLabel('Comment on this mark');
  await words.fill('The title block lacks the scale.');
  await reviewer.getByRole('button', { name: 'Add comment' }).click();
  await expect(reviewer.getByText('The title block lacks the scale.')).toBeVisible();

  const author = await pageOf(browser, 'joren.adeyemi');
  await author.goto('/d/THR-DWG-2207?rev=work&side=comments');
  const thread = author.getByRole('listitem').filter({ hasText: 'The title block lacks the scale.' }).first();
  await thread.getByRole('button', { name: 'Reply' }).click();
  await thread.getByLabel('Reply').fill('It comes with the next version.');
  await thread.getByRole('button', { name: 'Reply' }).click();
  // In the list, not in the field that is still being sent: what comes into the list moves the buttons below it.
  await expect(thread.getByRole('listitem').filter({ hasText: 'It comes with the next version.' })).toBeVisible();
  await thread.getByRole('button', { name: 'Resolve' }).click();
  await thread.getByLabel('How it was resolved').fill('Scale added');
  await thread.getByRole('button', { name: 'Resolve' }).click();
  await expect(thread.getByText('“Scale added”')).toBeVisible();
  // The tick is kept in the address, and follows a moment after the press.
  await author.getByLabel('Open only').click();
  await expect(author.getByLabel('Open only')).toBeChecked();
  await expect(author.getByText('“Scale added”')).toBeHidden();
});

test('the last mark is undone, and words of a text are commented on in place', async ({ browser }) => {
  const page = await pageOf(browser, 'joren.adeyemi');
  await page.goto('/d/BRH%2026-0388?side=comments');
  await page.getByRole('button', { name: 'Box', exact: true }).click();
  await draw(page, [0.3, 0.3], [0.5, 0.4]);
  await expect(page.getByText('a box on page 1')).toBeVisible();
  await page.getByRole('button', { name: 'Undo last mark' }).click();
  await expect(page.getByText('a box on page 1')).toBeHidden();

  const number = await registerText(
    page,
    'Grease of the jaws',
    '# Grease\n\nThe jaws are greased every month by the fitter.\n',
  );
  await page.goto(`/d/${number}?side=comments`);
  await page.getByText('greased every month').click({ clickCount: 3 });
  await expect(page.getByLabel('Comment on the selected text')).toBeVisible();
  await page.getByLabel('Comment on the selected text').fill('Every two weeks in winter?');
  await page.getByRole('button', { name: 'Comment', exact: true }).click();
  await expect(page.locator('blockquote, button').filter({ hasText: 'The jaws are greased' }).first()).toBeVisible();
});

test('a text is edited in the browser: kept while it is written, checked in as one version', async ({ browser }) => {
  const page = await pageOf(browser, 'joren.adeyemi');
  const number = await typeInBrowser(
    page,
    'Snow on the platform',
    '# Snow\n\nThe platform is cleared.\n',
    'Sand is spread afterwards.',
  );
  await expect(page.getByRole('article').getByText('Sand is spread afterwards.')).toBeVisible();
  await expect(page.getByRole('status').filter({ hasText: 'visible to nobody else' })).toBeVisible();
  // A window that is closed loses nothing.
  await page.reload();
  await expect(page.locator('.cm-content')).toContainText('Sand is spread afterwards.');
  await page.getByRole('button', { name: 'Check in' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText('Saved on the network drive')).toBeVisible();
  await dialog.getByLabel('Note on this version').fill('Sand');
  await dialog.getByRole('button', { name: 'Check in', exact: true }).click();
  await expect(dialog).toBeHidden();
  await page.goto(`/d/${number}`);
  await expect(page.getByTestId('viewer')).toContainText('Sand is spread afterwards.');
});

test('a program of the desk signs in with its own password, opens a document, saves it and gives it back', async ({
  browser,
  baseURL,
}) => {
  const page = await pageOf(browser, 'joren.adeyemi');
  const number = await registerText(page, 'Torque on the network drive', '# Torque\n\nAt 20 N m.\n');
  await page.goto('/profile');
  await page.getByLabel('Application', { exact: true }).fill('Command line');
  await page.getByRole('button', { name: 'Create password' }).click();
  const password = (await page.locator('b.select-all').textContent()) ?? '';
  const dir = mkdtempSync(join(tmpdir(), 'desk-'));
  const { hostname, port } = new URL(baseURL ?? '');
  writeFileSync(join(dir, '.netrc'), `machine ${hostname}\nlogin joren.adeyemi\npassword ${password}\n`, {
    mode: 0o600,
  });
  writeFileSync(join(dir, 'new.md'), '# Torque\n\nAt 25 N m, saved by a program.\n');
  const name = `${number}_A_Torque-on-the-network-drive.md`;
  writeFileSync(
    join(dir, 'script'),
    ['cd Carriers/Grips', `lock ${name}`, `put new.md ${name}`, `unlock ${name}`, 'quit', ''].join('\n'),
  );
  const { stdout } = await run('sh', ['-c', `cadaver http://${hostname}:${port}/webdav/ < script`], {
    cwd: dir,
    env: { ...process.env, HOME: dir },
  });
  expect(stdout).not.toMatch(/failed/i);
  rmSync(dir, { recursive: true });
  await page.goto(`/d/${number}?tab=versions`);
  await expect(page.getByRole('cell', { name: 'Saved on the network drive' })).toBeVisible();
  await page.goto(`/d/${number}`);
  await expect(page.getByTestId('viewer')).toContainText('saved by a program');
  await command(page, 'Open in desktop application');
  await expect(page.getByRole('dialog')).toContainText(`/webdav/Carriers/Grips/${name}`);
});

test('a document is linked to another one and to an item outside, and what a change reaches is walked', async ({
  browser,
}) => {
  const page = await pageOf(browser, 'joren.adeyemi');
  await page.goto('/d/THR-PRO-0122?tab=citations');
  await page.getByRole('button', { name: 'Add link' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('combobox', { name: 'Which document' }).fill('PRO 118');
  await dialog.getByRole('listbox').getByRole('option').first().click();
  await dialog.getByText('Pinned to the revision in force now').click();
  await dialog.getByRole('button', { name: 'Add link' }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByRole('region', { name: 'Links' })).toContainText('pinned');
  await page.goto('/d/THR-PRO-0118?tab=citations');
  await expect(page.getByRole('region', { name: 'Links' })).toContainText('GR-44');
  await page
    .getByRole('link', { name: /^THR-PRO-0122/ })
    .first()
    .click();
  await page.waitForURL(/THR-PRO-0122/);
});

/** A scan of one sheet with some words, as a scanner of 150 points to the inch gives it. */
const scanOf = (words: string) =>
  sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="1240" height="900"><rect width="1240" height="900" fill="#fff"/><text x="120" y="220" font-size="60" font-family="sans-serif">${words}</text></svg>`,
    ),
  )
    .flatten({ background: '#ffffff' })
    .withMetadata({ density: 150 })
    .tiff({ compression: 'lzw' })
    .toBuffer();

test('an old paper is scanned twice: its words are found, and what differs is seen', async ({ browser }) => {
  test.setTimeout(180_000);
  const page = await pageOf(browser, 'joren.adeyemi');
  await page.goto('/new?type=PRO');
  await page.getByLabel('Folder').selectOption({ label: 'Carriers / Grips' });
  const scan = async (name: string, words: string) => ({ name, mimeType: 'image/tiff', buffer: await scanOf(words) });
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles(await scan('Acceptance of tower.tif', 'Tower 9, 12 March 1998'));
  await expect(page.getByLabel('Title')).toHaveValue('Acceptance of tower');
  await page.getByRole('button', { name: /^Register THR-PRO-\d{4}/ }).click();
  await page.waitForURL(/\/d\/THR-PRO-\d{4}$/);
  const number = page.url().split('/').at(-1) ?? '';
  await expect(page.locator('[data-page="1"] canvas')).toBeVisible({ timeout: 60_000 });
  // Where it is not read yet there are no words to compare, and what is seen is shown at once.
  const untilRead = () =>
    expect(async () => {
      await page.reload();
      await expect(page.getByText(/Its text was read from the image .* confidence \d+ %/)).toBeVisible({
        timeout: 2000,
      });
    }).toPass({ timeout: 60_000 });
  await untilRead();
  await command(page, 'Check out');
  await page.getByRole('dialog').getByText('Reserve only').click();
  await page.getByRole('dialog').getByRole('button', { name: 'Check out' }).click();
  await page.getByRole('button', { name: 'Check in' }).click();
  const dialog = page.getByRole('dialog');
  await dialog
    .locator('input[type=file]')
    .first()
    .setInputFiles(await scan('again.tif', 'Tower 9, 14 March 1998'));
  await dialog.getByLabel('Note on this version').fill('Scanned again');
  await dialog.getByRole('button', { name: 'Check in', exact: true }).click();
  await expect(page.getByText('Draft, version 2')).toBeVisible();
  await untilRead();
  await page.goto(`/d/${number}/compare`);
  await page.getByText('Appearance').click();
  await expect(page.getByText('1 difference')).toBeVisible({ timeout: 60_000 });
  await page.goto('/find?q=%22march+1998%22');
  await expect(page.getByRole('link', { name: new RegExp(number) }).first()).toBeVisible();
});

test('an office file is seen as sheets and as pages', async ({ browser }) => {
  const page = await pageOf(browser, 'ines.varga');
  await page.goto('/d/THR-FRM-0019');
  await expect(page.getByRole('cell', { name: 'Gust km/h' })).toBeVisible();
  await page.getByRole('button', { name: 'Pages', exact: true }).click();
  await expect(page.locator('[data-page="1"] canvas')).toBeVisible({ timeout: 60_000 });
  await page.getByLabel('Find in pages').fill('remark');
  await expect(page.getByRole('status').filter({ hasText: '1/1' })).toBeVisible();
});
