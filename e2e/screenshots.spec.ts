import { type Page, test } from '@playwright/test';
import { pageOf } from './people.ts';

const SHOTS: [name: string, person: string, path: string][] = [
  ['desk', 'ines.varga', '/'],
  ['sent', 'joren.adeyemi', '/sent'],
  ['register', 'ines.varga', '/register?type=PRO'],
  ['in-force-on', 'ines.varga', '/register?on=2025-06-01'],
  ['find', 'rafael.osei', '/find?q=slip%20force'],
  ['document', 'ines.varga', '/d/THR-PRO-0118'],
  ['superseded', 'ines.varga', '/d/THR-PRO-0118?rev=A&side=facts'],
  ['readers', 'ines.varga', '/d/THR-PRO-0121?tab=readers'],
  ['release', 'ines.varga', '/d/THR-SPC-0051/release'],
  ['registering', 'joren.adeyemi', '/new?type=PRO'],
  ['team-reading', 'otto.brandvik', '/reading'],
  ['people', 'dagny.holm', '/people'],
  ['audit-trail', 'anselm.roth', '/trail?document=THR-PRO-0118'],
  ['outgoing-mail', 'dagny.holm', '/mail'],
  ['profile', 'joren.adeyemi', '/profile'],
];

test('one picture of each main view', async ({ browser, page: anonymous }) => {
  test.setTimeout(240_000);
  await anonymous.goto('/signin');
  await anonymous.getByText('This is a demo').waitFor();
  await anonymous.screenshot({ path: 'docs/screenshots/sign-in.png' });
  const take = async (
    name: string,
    person: string,
    path: string | ((links: string[]) => string | undefined),
    prepare?: (page: Page) => Promise<void>,
  ) => {
    const page = await pageOf(browser, person);
    let target = path;
    if (typeof target !== 'string') {
      const desk = (await (await page.request.get('/api/desk')).json()) as { rows: { link: string }[] };
      target = target(desk.rows.map((row) => row.link)) ?? '/';
    }
    await page.goto(target);
    await page.waitForLoadState('networkidle');
    await prepare?.(page);
    await page.evaluate('document.fonts.ready');
    await page.screenshot({ path: `docs/screenshots/${name}.png` });
    await page.context().close();
  };
  for (const [name, person, path] of SHOTS) await take(name, person, path);
  await take('rule-bench', 'dagny.holm', '/numbers?tab=bench', async (page) => {
    await page
      .getByLabel('Numbers, one a line')
      .fill(
        'THR-PRO-0117\nTHR-PRO-0118\nTHR-PRO-118\nTHR-PRO-0121\nTHR-PRO-0121\nTHR-FRM-0022\nTHR-SPC-0053\nTHR-WIN-0345\nTHR-WIN-0350\nTHR-DWG-2208\nTHR-DWG-9001\nTHR-MIN-26-004\nMEMO 7',
      );
    await page.getByRole('button', { name: 'Judge the list' }).click();
    await page.getByText('The summer timetable keeps its old records').waitFor();
  });
  await take('decide-and-sign', 'lin.sato', (links) => links.find((link) => link.startsWith('/tasks/')));
  await take('read-and-sign', 'rafael.osei', (links) => links.find((link) => link.startsWith('/reading/')));
});
