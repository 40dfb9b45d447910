// The application on a phone and on a tablet: nothing is wider than the screen, and what one needs is reached with the thumb.
import type { Page } from '@playwright/test';
import { axeFindings, pageOf } from './people.ts';
import { expect, test } from './test.ts';

const SCREENS = [
  { name: 'phone', width: 390, height: 844 },
  { name: 'tablet', width: 820, height: 1180 },
];
const VIEWS: [person: string, path: string][] = [
  ['ines.varga', '/'],
  ['joren.adeyemi', '/submitted'],
  ['ines.varga', '/register'],
  ['ines.varga', '/d/THR-PRO-0118'],
  ['ines.varga', '/d/THR-PRO-0118?side=comments'],
  ['ines.varga', '/d/THR-PRO-0118/compare'],
  ['ines.varga', '/d/THR-SPC-0051/release'],
  ['rafael.osei', '/reading'],
  ['rafael.osei', '/find?q=rope'],
  ['rafael.osei', '/profile'],
];

for (const { name, width, height } of SCREENS)
  test(`every view for everyday work fits on a ${name}`, async ({ browser }) => {
    test.setTimeout(180_000);
    const findings: string[] = [];
    const signedIn = new Map<string, Page>();
    for (const [person, path] of VIEWS) {
      const page = signedIn.get(person) ?? (await pageOf(browser, person));
      signedIn.set(person, page);
      await page.setViewportSize({ width, height });
      await page.goto(path);
      await page.waitForLoadState('networkidle');
      const wide = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
      if (wide > 0) findings.push(`${path}: ${wide} px too wide`);
      findings.push(...(await axeFindings(path, page)));
    }
    expect(findings).toEqual([]);
  });

const CONFIGURATION = [
  '/rules/organisation',
  '/rules/types?type=DWG',
  '/rules/types/DWG?tab=number',
  '/rules/types/DWG?tab=fields',
  '/rules/types/DWG?tab=route',
  '/rules/lists',
  '/rules/filing',
  '/rules/blueprints',
  '/rules/templates',
  '/numbers',
  '/numbers?tab=bench',
  '/numbers?tab=reserved',
  '/people',
  '/trail',
  '/mail',
  '/system',
];

test('the configuration and the evidence fit on a phone, and no field is too narrow to be read', async ({
  browser,
}) => {
  test.setTimeout(180_000);
  const page = await pageOf(browser, 'dagny.holm');
  await page.setViewportSize({ width: 390, height: 844 });
  const findings: string[] = [];
  for (const path of CONFIGURATION) {
    await page.goto(path);
    await page.waitForLoadState('networkidle');
    const wide = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
    if (wide > 0) findings.push(`${path}: ${wide} px too wide`);
    const narrow = await page
      .locator('main input:not([type=checkbox]):not([type=radio]):not([type=file]):not([type=color]), main select')
      .evaluateAll((fields) =>
        fields.map((field) => field.getBoundingClientRect().width).filter((w) => w > 2 && w < 70),
      );
    if (narrow.length > 0) findings.push(`${path}: fields of ${narrow.map(Math.round).join(', ')} px`);
  }
  expect(findings).toEqual([]);
});

test('on a phone a reader goes from the Desk to what is to be read, and to all other places', async ({ browser }) => {
  const page = await pageOf(browser, 'rafael.osei');
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto('/');
  await page
    .getByRole('link', { name: /^Read: / })
    .first()
    .click();
  await expect(page.getByRole('button', { name: 'Sign: read and understood' })).toBeInViewport();
  const bar = page.getByRole('navigation', { name: 'Kanonos' });
  await bar.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'People' }).click();
  await expect(page.getByRole('heading', { name: 'People' })).toBeVisible();
  await bar.getByRole('link', { name: 'Register' }).click();
  await page.getByRole('button', { name: 'Filters' }).click();
  const filters = page.getByRole('complementary', { name: 'Filters' });
  await filters.getByRole('button', { name: /^Drawing/ }).click();
  await filters.getByRole('button', { name: 'Show documents' }).click();
  await expect(filters).toBeHidden();
  await expect(page.getByRole('row').first()).toContainText('THR-DWG-');
});
