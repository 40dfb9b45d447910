import type { Page } from '@playwright/test';
import { pageOf } from './people.ts';
import { test } from './test.ts';

const SHOTS: [name: string, person: string, path: string][] = [
  ['desk', 'ines.varga', '/'],
  ['register', 'ines.varga', '/register?type=PRO'],
  ['find', 'rafael.osei', '/find?q=slip%20force'],
  ['document', 'ines.varga', '/d/THR-PRO-0118'],
  ['release', 'ines.varga', '/d/THR-SPC-0051/release'],
  ['registering', 'joren.adeyemi', '/new'],
  ['rounds', 'ines.varga', '/rounds'],
  ['change-note', 'ines.varga', '/d/THR-CHN-0002?tab=change'],
  ['horizon', 'ines.varga', '/horizon?whose=all'],
  ['team-reading', 'otto.brandvik', '/reading'],
  ['audit-trail', 'anselm.roth', '/trail?document=THR-PRO-0118'],
];

test('one picture of each main view', async ({ browser }) => {
  test.setTimeout(240_000);
  const take = async (
    name: string,
    person: string,
    path: string | ((rows: { link: string; number: string }[]) => { link: string } | undefined),
    prepare?: (page: Page) => Promise<void>,
  ) => {
    const page = await pageOf(browser, person);
    let target = path;
    if (typeof target !== 'string') {
      const desk = (await (await page.request.get('/api/desk')).json()) as { rows: { link: string; number: string }[] };
      target = target(desk.rows)?.link ?? '/';
    }
    await page.goto(target);
    await page.waitForLoadState('networkidle');
    await prepare?.(page);
    await page.evaluate('document.fonts.ready');
    await page.screenshot({ path: `docs/screenshots/${name}.png` });
    await page.context().close();
  };
  for (const [name, person, path] of SHOTS) await take(name, person, path);
  await take('phone', 'ines.varga', '/', async (page) => {
    await page.setViewportSize({ width: 390, height: 844 });
    await page.waitForLoadState('networkidle');
  });
  await take('types', 'dagny.holm', '/rules/types', async (page) => {
    await page.getByRole('link', { name: /^DWG Drawing/ }).click();
    await page.getByRole('button', { name: 'Number and name' }).click();
    await page.getByRole('textbox', { name: 'Numbering rule' }).fill('THR-PRO-{counter:4}');
    await page.getByText('THR-PRO-0001 could be read in two ways').first().waitFor();
  });
  await take('route', 'dagny.holm', '/rules/types', async (page) => {
    await page.getByRole('link', { name: /^SPC Specification/ }).click();
    await page.getByRole('button', { name: 'Route and readers' }).click();
    await page.getByRole('button', { name: /^Edit step 2, Check loads/ }).click();
  });
  await take('form-editor', 'dagny.holm', '/rules/forms', async (page) => {
    await page.getByRole('link', { name: /Incident or near miss/ }).click();
    await page.waitForLoadState('networkidle');
  });
  await take('markup', 'joren.adeyemi', '/d/THR-DWG-2207?rev=work&side=comments', async (page) => {
    await page
      .getByRole('button', { name: /a cloud on page/ })
      .first()
      .click();
    await page.getByRole('button', { name: 'Highlight', exact: true }).hover();
  });
  await take('comparison', 'ines.varga', '/d/THR-PRO-0118/compare', async (page) => {
    await page.getByText(/^1 of \d+$/).waitFor();
    await page.keyboard.press('.');
    await page.keyboard.press('.');
  });
  await take('decide-and-sign', 'lin.sato', (rows) =>
    rows.find(({ link, number }) => link.startsWith('/tasks/') && number === 'THR-PRO-0118'),
  );
  await take('read-and-sign', 'rafael.osei', (rows) => rows.find(({ link }) => link.startsWith('/reading/')));
});
