import type { Page } from '@playwright/test';
import { axeFindings, goTo, PASSWORD, pageOf } from './people.ts';
import { expect, test } from './test.ts';

test('signing in with the password, and the demo people on the sign-in page', async ({ page }) => {
  await page.goto('/register');
  await page.waitForURL(/\/signin/);
  await page.getByLabel('Sign-in name').fill('ines.varga');
  await page.getByLabel('Password').fill('not it');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByText('Check your sign-in name and password.')).toBeVisible();
  await page.getByRole('button', { name: /Yuki Tanabe/ }).click();
  await page.waitForURL('/register');
  await page.getByRole('button', { name: /Yuki Tanabe/ }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await page.waitForURL('/signin');
});

test('an administrator enters a person, who sets the first password by the link in the mail', async ({ browser }) => {
  const admin = await pageOf(browser, 'dagny.holm');
  await admin.goto('/people');
  await admin.getByRole('button', { name: 'Add person' }).click();
  const dialog = admin.getByRole('dialog');
  await dialog.getByLabel('Name', { exact: true }).fill('Ebba Stone');
  await expect(dialog.getByLabel('Sign-in name')).toHaveValue('ebba.stone');
  await dialog.getByLabel('Mail address').fill('ebba.stone@tarnholt.example');
  await dialog.getByLabel('Department').selectOption({ label: 'Operations' });
  await dialog.getByRole('button', { name: 'Add and send link' }).click();
  await expect(admin.getByRole('row', { name: /Ebba Stone/ })).toContainText('no password set yet');
  await expect
    .poll(
      async () => {
        await admin.goto('/mail');
        return admin
          .getByRole('button', { name: /Welcome to the controlled documents/ })
          .first()
          .textContent();
      },
      { timeout: 60_000 },
    )
    .toContain('sent');
  await admin
    .getByRole('button', { name: /Welcome to the controlled documents/ })
    .first()
    .click();
  const href = await admin.frameLocator('iframe').getByRole('link', { name: 'Set my password' }).getAttribute('href');
  const fresh = await (await browser.newContext()).newPage();
  await fresh.goto(new URL(href ?? '').pathname);
  await fresh.getByLabel('New password').fill('seven quiet cabins');
  await fresh.getByLabel('Repeat password').fill('seven quiet cabins');
  await fresh.getByRole('button', { name: 'Set password' }).click();
  await fresh.getByRole('link', { name: 'Go to sign-in' }).click();
  await fresh.getByLabel('Sign-in name').fill('ebba.stone');
  await fresh.getByLabel('Password').fill('seven quiet cabins');
  await fresh.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(fresh.getByRole('heading', { level: 1 })).toBeVisible();
});

test('the register: scopes, facets, folders, keyboard, preview, and a day in the past', async ({ browser }) => {
  const page = await pageOf(browser, 'ines.varga');
  await page.goto('/register');
  await page.getByRole('button', { name: /^Carriers \d/ }).click();
  await expect(page).toHaveURL(/area=/);
  await page.getByRole('button', { name: /^Procedure \d/ }).click();
  await expect(page.getByRole('row')).toHaveCount(3);
  const grid = page.getByRole('grid', { name: 'Documents' });
  await grid.focus();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('complementary', { name: 'Preview' })).toContainText('Waiting for Lin Sato');
  await expect(page.getByRole('complementary', { name: 'Preview' })).toContainText('Changed since B');
  await page.keyboard.press('Enter');
  await page.waitForURL(/THR-PRO-0118/);
  await page.goBack();
  await expect(page.getByRole('row')).toHaveCount(3);
  await page.getByRole('button', { name: 'All revisions' }).click();
  await expect(page.getByRole('row')).toHaveCount(5);
  await expect(page.getByRole('row').first()).toContainText('Otto Brandvik');
  // Without its preview the table has room for one column more.
  await page.keyboard.press('p');
  await expect(page.getByRole('complementary', { name: 'Preview' })).toBeHidden();
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('menuitem', { name: 'Area' }).click();
  await expect(page.getByRole('row').first()).toContainText('Carriers');
  await page.goto('/register?q=grip&on=2025-02-01');
  await expect(page.getByText('in force on 1 Feb 2025')).toBeVisible();
  await page.goto('/d/THR-PRO-0112?on=2025-12-01');
  await expect(page.getByText('As in force on')).toBeVisible();
  await expect(page.getByRole('img', { name: /Revision C/ }).first()).toBeVisible();
});

test('the register as pictures: by key, marked, and how a document looks while the pointer rests on its number', async ({
  browser,
}) => {
  const page = await pageOf(browser, 'joren.adeyemi');
  await page.goto('/register?type=DWG');
  await page.getByRole('button', { name: /^Carriers \d/ }).click();
  await page.getByRole('button', { name: 'Thumbnails' }).click();
  await expect(page).toHaveURL(/view=pictures/);
  const grid = page.getByRole('grid', { name: 'Documents' });
  await expect(grid.getByRole('img', { name: 'First page of THR-DWG-3001' })).toBeVisible();
  await grid.focus();
  await page.keyboard.press('Space');
  await expect(page.getByLabel('Select THR-DWG-3001')).toBeChecked();
  await page.keyboard.press('Enter');
  await page.waitForURL(/THR-DWG-3001/);
  await page.goto('/register?type=DWG&q=frame');
  await page.getByRole('link', { name: 'THR-DWG-3001' }).hover();
  await expect(page.locator('body > div img[alt="First page of THR-DWG-3001"]')).toBeVisible();
  await page.mouse.move(5, 5);
  await expect(page.locator('body > div img[alt="First page of THR-DWG-3001"]')).toHaveCount(0);
});

test('the find line goes to a number in any usual form, else shows passages', async ({ browser }) => {
  const page = await pageOf(browser, 'rafael.osei');
  await goTo(page, 'pro 118');
  await expect(page).toHaveURL(/THR-PRO-0118/);
  await page.keyboard.press('Control+k');
  await page.keyboard.type('dye penetrant');
  await page.keyboard.press('Enter');
  await page.waitForURL(/\/find/);
  await expect(page.locator('mark').first()).toBeVisible();
  await expect(page.getByRole('link', { name: /THR-PRO-0118/ })).toBeVisible();
});

test('the deputy finds the tasks of the absent approver', async ({ browser }) => {
  const page = await pageOf(browser, 'uwe.marten');
  await page.goto('/');
  await expect(page.getByText('acting for Mara Quill')).toBeVisible();
});

test('the profile: name, mails, absence; and the supervisor’s look at the team', async ({ browser }) => {
  const page = await pageOf(browser, 'otto.brandvik');
  await page.goto('/profile');
  await page.getByText('One summary a day').click();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Saved.')).toBeVisible();
  await page.goto('/reading');
  await expect(page.getByRole('heading', { name: /Your team has read \d+ %/ })).toBeVisible();
  await page.getByRole('button', { name: 'Ilya Voss' }).click();
  await expect(page.getByRole('dialog')).toContainText('THR-POL-0002');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Remind overdue readers' }).click();
  await expect(page.getByText(/Reminder sent to \d+/)).toBeVisible();
});

test('the audit trail by document, the history, who has opened it, and the export', async ({ browser }) => {
  const page = await pageOf(browser, 'anselm.roth');
  await page.goto('/trail?document=THR-PRO-0118');
  await expect(page.getByText('signed: approved as owner').first()).toBeVisible();
  await page
    .getByRole('button', { name: /Show event .* in full/ })
    .first()
    .click();
  await expect(page.locator('pre')).toContainText('"prev"');
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Export for verification' }).click();
  expect((await download).suggestedFilename()).toBe('audit-trail.jsonl');
  await page.goto('/d/THR-PRO-0118?tab=usage');
  await expect(page.getByText(/times opened or downloaded/)).toBeVisible();
});

test('refused and empty states are designed: no right, no document, nothing found', async ({ browser }) => {
  const page = await pageOf(browser, 'noor.castellan');
  await page.goto('/');
  await expect(page.getByText('Nothing is waiting for you')).toBeVisible();
  await page.goto('/d/THR-PRO-0118');
  await expect(page.getByText('Nothing was found at this address, or you may not see it.')).toBeVisible();
  await page.goto('/new');
  await expect(page.getByText('You may not register documents')).toBeVisible();
  await page.goto('/trail');
  await expect(page.getByText('You need the right to audit.')).toBeVisible();
});

/** A view, and what is pressed there before one looks. */
const VIEWS: [person: string, path: string, ...press: RegExp[]][] = [
  ['ines.varga', '/'],
  ['joren.adeyemi', '/submitted'],
  ['ines.varga', '/register'],
  ['ines.varga', '/d/THR-PRO-0118'],
  ['ines.varga', '/d/THR-PRO-0118?tab=readers&side=metadata'],
  ['ines.varga', '/d/THR-PRO-0118?tab=route&side=comments'],
  ['ines.varga', '/d/THR-PRO-0118?tab=versions'],
  ['ines.varga', '/d/THR-PRO-0118?tab=citations'],
  ['ines.varga', '/d/THR-PRO-0118/compare'],
  ['ines.varga', '/d/THR-PRO-0118/compare', /^Both sides/],
  ['joren.adeyemi', '/checked-out'],
  ['ines.varga', '/d/THR-SPC-0051/release'],
  ['joren.adeyemi', '/new?type=PRO'],
  ['otto.brandvik', '/reading'],
  ['dagny.holm', '/people'],
  ['dagny.holm', '/mail'],
  ['dagny.holm', '/system'],
  ['dagny.holm', '/numbers'],
  ['dagny.holm', '/numbers?tab=bench'],
  ['dagny.holm', '/numbers?tab=reserved'],
  ['dagny.holm', '/rules/organisation'],
  ['dagny.holm', '/rules/types', /^DWG Drawing/],
  ['dagny.holm', '/rules/types', /^DWG Drawing/, /^Number and name$/],
  ['dagny.holm', '/rules/types', /^DWG Drawing/, /^Fields$/, /^Project/],
  ['dagny.holm', '/rules/types', /^DWG Drawing/, /^Labels and life cycle$/],
  ['dagny.holm', '/rules/types', /^DWG Drawing/, /^Editions$/],
  ['dagny.holm', '/rules/lists?choices=place'],
  ['dagny.holm', '/rules/lists?lookup=project'],
  ['dagny.holm', '/rules/filing', /Oberlauf/],
  ['dagny.holm', '/rules/blueprints?blueprint=new'],
  ['ines.varga', '/rules/blueprints', /^Ropeway line/],
  ['ines.varga', '/imports', /^reports before/],
  ['ines.varga', '/imports/check'],
  ['ines.varga', '/removed'],
  ['ines.varga', '/intake'],
  ['dagny.holm', '/rules/templates'],
  ['dagny.holm', '/rules/templates', /^Add template/],
  ['dagny.holm', '/rules/types', /^PRO Procedure/, /^Route and readers/],
  ['dagny.holm', '/rules/types', /^PRO Procedure/, /^Files and retention/],
  ['dagny.holm', '/rules/organisation', /^Edit branding/],
  ['dagny.holm', '/rules/organisation', /^Edit group rules/],
  ['joren.adeyemi', '/register?view=pictures'],
  ['joren.adeyemi', '/d/THR-FRM-0019?command=metadata%20in%20the%20file'],
  ['joren.adeyemi', '/d/THR-DWG-3001?command=rename%20file'],
  ['ines.varga', '/d/THR-DWG-3001?side=metadata', /^Correct metadata/],
  ['joren.adeyemi', '/d/THR-DWG-2207?rev=work&side=comments', /^Cloud$/],
  ['joren.adeyemi', '/d/BRH%2026-0388?side=comments', /^Page thumbnails$/],
  ['joren.adeyemi', '/d/THR-PRO-0118?tab=citations'],
  ['joren.adeyemi', '/d/THR-PRO-0122?command=on%20the%20network%20drive'],
  ['ines.varga', '/d/THR-FRM-0019'],
  ['ines.varga', '/d/THR-MAI-0311'],
  ['anselm.roth', '/trail'],
  ['rafael.osei', '/profile'],
  ['rafael.osei', '/find?q=rope'],
];
/** The views in parts, each a walk of its own: one that hangs is seen before all the others were looked at. */
const PARTS = 8;
for (let part = 0; part < PARTS; part++)
  test(`axe finds nothing on any main view, part ${part + 1}`, async ({ browser, page: anonymous }) => {
    test.setTimeout(300_000);
    const findings: string[] = [];
    if (part === 0) {
      await anonymous.goto('/signin');
      await expect(anonymous.getByText('Demo with invented data')).toBeVisible();
      findings.push(...(await axeFindings('/signin', anonymous)));
    }
    const signedIn = new Map<string, Page>();
    for (const [person, path, ...press] of VIEWS.filter((_, i) => i % PARTS === part)) {
      const page = signedIn.get(person) ?? (await pageOf(browser, person));
      signedIn.set(person, page);
      await page.goto(path);
      await page.waitForLoadState('networkidle');
      for (const name of press) {
        await page
          .getByRole('link', { name })
          .or(page.getByRole('button', { name }))
          .or(page.getByRole('treeitem', { name }))
          .first()
          .click();
        await page.waitForLoadState('networkidle');
      }
      findings.push(...(await axeFindings(path, page)));
    }
    expect(findings).toEqual([]);
  });

test('a password of the demo opens nothing when it is wrong', async ({ request }) => {
  expect(
    (await request.post('/api/session', { data: { name: 'mara.quill', password: `${PASSWORD}x` } })).status(),
  ).toBe(401);
});
