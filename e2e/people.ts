import AxeBuilder from '@axe-core/playwright';
import { type Browser, expect, type Page, type Request } from '@playwright/test';

export const PASSWORD = 'ropeway-demo';

/** Nobody goes to another address while a command is under way: what is asked of the server is answered first. */
const waitsForCommands = (page: Page): void => {
  const commands = new Set<Request>();
  page.on('request', (request) => request.method() !== 'GET' && commands.add(request));
  for (const end of ['requestfinished', 'requestfailed'] as const)
    page.on(end as 'requestfinished', (request) => commands.delete(request));
  const goto = page.goto.bind(page);
  page.goto = async (...to) => {
    await expect.poll(() => [...commands].map((request) => `${request.method()} ${request.url()}`)).toEqual([]);
    return goto(...to);
  };
};

/** A page of a person who is signed in, in a browser context of their own. */
export const pageOf = async (browser: Browser, name: string): Promise<Page> => {
  const context = await browser.newContext();
  const page = await context.newPage();
  const answer = await page.request.post('/api/session', { data: { name, password: PASSWORD } });
  expect(answer.status()).toBe(200);
  waitsForCommands(page);
  return page;
};

/** Opens a document by its number in the find line, as people do. */
export const goTo = async (page: Page, number: string): Promise<void> => {
  await page.goto('/');
  await page.getByRole('search').getByRole('combobox').fill(number);
  await page.keyboard.press('Enter');
  await page.waitForURL(/\/d\//);
};

/** Chooses a command from the document's menu. */
export const command = async (page: Page, name: string): Promise<void> => {
  await page.getByRole('button', { name: /^Actions ▾/ }).click();
  await page.getByRole('option', { name, exact: false }).first().click();
};

/** Picks somebody by the first letters of the name. */
export const pick = async (page: Page, label: string, name: string): Promise<void> => {
  await page.getByRole('combobox', { name: label }).fill(name.slice(0, 6));
  await page.getByRole('option', { name }).click();
};

/** Registers a Markdown file as a procedure and gives its number. */
export const registerText = async (page: Page, title: string, text: string): Promise<string> => {
  await page.goto('/new?type=PRO');
  await page.getByLabel('Folder').selectOption({ label: 'Carriers / Grips' });
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles({ name: `${title}.md`, mimeType: 'text/markdown', buffer: Buffer.from(text) });
  await expect(page.getByLabel('Title')).not.toHaveValue('');
  await page.getByLabel('Title').fill(title);
  await page.getByRole('button', { name: /^Register THR-PRO-\d{4}/ }).click();
  await page.waitForURL(/\/d\/THR-PRO-\d{4}$/);
  return page.url().split('/').at(-1) ?? '';
};

/** What axe finds against WCAG 2.2 AA on a page, each with the first places. */
export const axeFindings = async (name: string, page: Page): Promise<string[]> => {
  // A notice that comes or goes is transparent for a moment, and has no contrast that could be judged.
  await page.waitForFunction(() =>
    document
      .getAnimations()
      .every((one) => one.playState !== 'running' || one.effect?.getTiming().iterations === Infinity),
  );
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
    .exclude('iframe')
    .analyze();
  return violations.map(({ id, nodes }) => {
    const places = nodes.map((node) => node.target.join(' ')).slice(0, 3);
    return `${name}: ${id} ${places.join(' | ')}`;
  });
};

/** Registers a text, checks it out to be edited in the browser, and types at its end; gives its number. */
export const typeInBrowser = async (page: Page, title: string, text: string, typed: string): Promise<string> => {
  const number = await registerText(page, title, text);
  await page.goto(`/d/${number}?command=check%20out`);
  await page.getByText('Edit in the browser').click();
  await page.getByRole('dialog').getByRole('button', { name: 'Check out' }).click();
  await page.waitForURL(/\/edit$/);
  await page.locator('.cm-content').click();
  await page.keyboard.press('Control+End');
  await page.keyboard.type(typed);
  return number;
};
