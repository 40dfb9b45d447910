import type { Page } from '@playwright/test';
import { axeFindings, pageOf } from './people.ts';
import { expect, test } from './test.ts';

// What the controller and supervisors do with rounds that wait: see why, hand over, and find where it takes long.

const WIDTHS = [
  { width: 1280, height: 800 },
  { width: 820, height: 1180 },
  { width: 390, height: 844 },
];

const openRounds = async (page: Page, query = '') => {
  await page.goto(`/rounds${query}`);
  await expect(page.getByRole('heading', { level: 1 })).toContainText(/open rounds?/);
};
const rowOf = (page: Page, number: string) =>
  page.getByRole('list', { name: 'Rounds' }).getByRole('listitem').filter({ hasText: number });

test('an approver falls ill: one dialog enters the absence and hands over what waits', async ({ browser }) => {
  const page = await pageOf(browser, 'lin.sato');
  await openRounds(page);
  const row = rowOf(page, 'THR-DWG-2207');
  await expect(row).toContainText('Georg Milde');
  await expect(row).toContainText('Check the drawing');
  await page.getByRole('button', { name: 'Add absence' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Person').fill('Georg');
  await dialog.getByText('Georg Milde').click();
  await dialog.getByLabel('Last day').fill('+10wd');
  await dialog.getByLabel('Deputy').fill('Sven');
  await dialog.getByText('Sven Calder').click();
  await expect(dialog.getByText(/Reassign the .*open assignments? to Sven Calder/)).toBeVisible();
  expect(await axeFindings('entering an absence', page)).toEqual([]);
  await dialog.getByRole('button', { name: 'Add absence' }).click();
  await expect(page.getByText('Absence added.')).toBeVisible();
  await expect(row).toContainText('Sven Calder');
  await page.goto('/d/THR-DWG-2207?rev=work&tab=route');
  await expect(page.getByText(/reassigned Check the drawing from Georg Milde to Sven Calder/)).toBeVisible();
  await expect(page.getByText(/^Likely done by/)).toBeVisible();
});

test('many rounds are extended and one is reassigned; what cannot be is named', async ({ browser }) => {
  const page = await pageOf(browser, 'ines.varga');
  await openRounds(page, '?only=overdue');
  await page.getByLabel('Select THR-WIN-0322 B').check();
  await page.getByLabel('Select THR-WIN-0328 B').check();
  await page.getByRole('button', { name: 'Extend due day' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Reason').fill('Frost closed the line for a week');
  await dialog.getByRole('button', { name: 'Extend due day' }).click();
  await expect(page.getByText('Due day moved in 2 rounds.')).toBeVisible();
  await expect(rowOf(page, 'THR-WIN-0322')).toHaveCount(0);

  await openRounds(page, '?q=THR-WIN-0328');
  await expect(rowOf(page, 'THR-WIN-0328')).toContainText(/absent until .*, no deputy/);
  await page.getByLabel('Select THR-WIN-0328 B').check();
  await page.getByRole('button', { name: 'Skip step' }).click();
  await expect(dialog).toContainText('The only approval cannot be skipped');
  await dialog.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('button', { name: 'Reassign' }).click();
  await dialog.getByLabel('To').fill('Paul');
  await dialog.getByText('Paul Esker').click();
  await dialog.getByLabel('Reason').fill('Vera is ill');
  await dialog.getByRole('button', { name: 'Reassign' }).click();
  await expect(page.getByText('Reassigned.')).toBeVisible();
  await expect(rowOf(page, 'THR-WIN-0328')).toContainText('Paul Esker');
  // Who is asked now finds it on the Desk.
  const paul = await pageOf(browser, 'paul.esker');
  await paul.goto('/');
  await expect(paul.getByRole('link', { name: /THR-WIN-0328/ }).first()).toBeVisible();
});

test('a supervisor sees the rounds of the team', async ({ browser }) => {
  const page = await pageOf(browser, 'otto.brandvik');
  await page.goto('/');
  await page.getByRole('link', { name: 'Rounds' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(/open rounds?/);
  const reader = await pageOf(browser, 'rafael.osei');
  await reader.goto('/');
  await expect(reader.getByRole('link', { name: 'Register' }).first()).toBeVisible();
  await expect(reader.getByRole('link', { name: 'Rounds' })).toHaveCount(0);
});

test('bottlenecks lead from a figure to the answers behind it', async ({ browser }) => {
  const page = await pageOf(browser, 'ines.varga');
  await page.goto('/rounds?view=bottlenecks');
  await page.getByRole('button', { name: 'By person' }).click();
  await page.getByRole('button', { name: 'Mara Quill' }).click();
  const behind = page.getByRole('region', { name: 'Answers behind Mara Quill' });
  await expect(behind.getByRole('row').nth(1)).toContainText('Mara Quill');
  await page.reload();
  await expect(behind).toBeVisible();
  expect(await axeFindings('bottlenecks', page)).toEqual([]);
});

test('a route is tried on the documents of its type before it is saved', async ({ browser }) => {
  const page = await pageOf(browser, 'dagny.holm');
  await page.goto('/rules/types');
  await page.getByRole('link', { name: /WIN Work instruction/ }).click();
  await page.getByRole('button', { name: 'Route and readers' }).click();
  await page.getByRole('button', { name: 'Try this route' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText(/^All \d+ documents that you see would pass/)).toBeVisible();
  await expect(dialog.getByText(/Approve as technical authority: Lin Sato · likely done on/).first()).toBeVisible();
  expect(await axeFindings('trying a route', page)).toEqual([]);
  await dialog.getByRole('button', { name: 'Close' }).click();
  // Without the authority only the owner would approve, who writes some of them.
  await page.getByRole('button', { name: /^Edit step 3,/ }).click();
  await page.getByRole('group', { name: 'Step 3' }).getByRole('button', { name: 'Remove', exact: true }).click();
  await page.getByRole('button', { name: 'Try this route' }).click();
  await expect(dialog.getByText(/^Only the owner approves/)).toBeVisible();
});

test('a route is laid out by keys and by drag, with a condition that is pressed or typed', async ({ browser }) => {
  const page = await pageOf(browser, 'dagny.holm');
  await page.goto('/rules/types');
  await page.getByRole('link', { name: /SPC Specification/ }).click();
  await page.getByRole('button', { name: 'Route and readers' }).click();
  const names = () =>
    page
      .getByRole('button', { name: /^Edit step/ })
      .evaluateAll((cards) => cards.map((card) => card.getAttribute('aria-label')?.replace(/^Edit step \d, /, '')));
  const [review, loads, owner, authority] = [
    'Review for content',
    'Check loads',
    'Approve as owner',
    'Approve as technical authority',
  ];
  await expect.poll(names).toEqual([review, loads, owner, authority]);
  await page.getByRole('button', { name: `Move “${review}”` }).focus();
  // Each key counts once what it did is said.
  const said = (where: string) => expect(page.getByText(`“${review}” is now ${where} of 4.`)).toHaveCount(1);
  await page.keyboard.press('Space');
  await said('1');
  await page.keyboard.press('ArrowDown');
  await said('2');
  await page.keyboard.press('Space');
  await expect.poll(names).toEqual([loads, review, owner, authority]);
  const handle = (name: string) => page.getByRole('button', { name: `Move “${name}”` });
  const [from, to] = [await handle(authority).boundingBox(), await handle(owner).boundingBox()];
  if (!from || !to) throw new Error('the handles are not in sight');
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2, { steps: 8 });
  await page.mouse.up();
  await expect.poll(names).toEqual([loads, review, authority, owner]);
  await page.getByRole('button', { name: `Edit step 1, ${loads}` }).click();
  const step = page.getByRole('group', { name: 'Step 1' });
  await expect(step.getByLabel('Condition as text')).toHaveValue('folder:Structures');
  await step.getByRole('button', { name: 'Add condition' }).click();
  await step.getByRole('button', { name: 'major', exact: true }).click();
  await expect(step.getByLabel('Condition as text')).toHaveValue('folder:Structures change:major');
  await step.getByLabel('Condition as text').fill('change:major change:minor');
  await page.getByRole('button', { name: 'Try this route' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText('“Check loads” is never asked: no document can meet its condition.')).toBeVisible();
  await dialog.getByRole('button', { name: 'Close' }).click();
  for (const size of WIDTHS) {
    await page.setViewportSize(size);
    expect(await axeFindings(`a route at ${size.width}`, page)).toEqual([]);
  }
});

test('several reviews are gone through and decided together', async ({ browser }) => {
  const page = await pageOf(browser, 'sven.calder');
  await page.goto('/');
  await page.getByRole('button', { name: 'Choose several' }).click();
  await page.getByRole('button', { name: 'Choose all' }).click();
  await page.getByRole('link', { name: /^Decide \d tasks together$/ }).click();
  const strip = page.getByRole('navigation', { name: 'Tasks to go through' });
  await expect(strip.getByText('looked at', { exact: true })).toHaveCount(1, { timeout: 60_000 });
  const decide = page.getByRole('button', { name: /^Decide \d tasks$/ });
  await expect(decide).toBeDisabled();
  for (const size of WIDTHS) {
    await page.setViewportSize(size);
    expect(await axeFindings(`several tasks at ${size.width}`, page)).toEqual([]);
  }
  await page.setViewportSize({ width: 1280, height: 800 });
  const tasks = await strip.getByRole('listitem').count();
  for (let i = 1; i < tasks; i++) {
    await page.getByRole('button', { name: 'Next task' }).click();
    await expect(strip.getByText('looked at', { exact: true })).toHaveCount(i + 1, { timeout: 60_000 });
  }
  await expect(page.getByText('You have looked at all of them.')).toBeVisible();
  await decide.click();
  await expect(page.getByText(`${tasks} decisions saved.`)).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Nothing is waiting for you' })).toBeVisible();
});

test('a document on hold is red wherever it is met, until the hold is lifted', async ({ browser }) => {
  const page = await pageOf(browser, 'ines.varga');
  await page.goto('/d/THR-FRM-0004?command=put+on+hold');
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Reason').fill('The old form of the interlock is in it');
  await dialog.getByLabel('Until then').fill('Use the paper form in the cabin');
  await dialog.getByRole('button', { name: 'Put on hold' }).click();
  const notice = page.getByRole('region', { name: 'On hold: do not use' });
  await expect(notice).toContainText('Use the paper form in the cabin');
  for (const size of WIDTHS) {
    await page.setViewportSize(size);
    expect(await axeFindings(`a document on hold at ${size.width}`, page)).toEqual([]);
  }
  await page.setViewportSize({ width: 1280, height: 800 });
  const reader = await pageOf(browser, 'rafael.osei');
  await reader.goto('/register?q=state:%22on%20hold%22');
  await expect(reader.getByText('On hold: do not use').first()).toBeVisible();
  await expect(reader.getByText('THR-FRM-0004').first()).toBeVisible();
  // In the search, and where a change note affects one that is held in the demo.
  await reader.goto('/find?q=rescue%20drill%20record');
  await expect(reader.getByRole('main').getByText('On hold: do not use')).toBeVisible();
  await page.goto('/d/THR-CHN-0005?tab=change');
  await expect(page.getByRole('table').getByText('On hold: do not use')).toBeVisible();
  await page.goto('/d/THR-FRM-0004?command=lift+hold');
  await dialog.getByLabel('Reason').fill('The form is the right one after all');
  await dialog.getByRole('button', { name: 'Lift hold' }).click();
  await expect(page.getByText('Hold lifted.')).toBeVisible();
  await expect(notice).toBeHidden();
});

test('rounds are read at every width, without anything beside the window', async ({ browser }) => {
  const page = await pageOf(browser, 'ines.varga');
  for (const size of WIDTHS) {
    await page.setViewportSize(size);
    for (const query of ['', '?view=bottlenecks&by=month']) {
      await page.goto(`/rounds${query}`);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      await page.waitForLoadState('networkidle');
      const beside = await page.evaluate('document.documentElement.scrollWidth - innerWidth');
      expect([size.width, query, beside]).toEqual([size.width, query, 0]);
      expect(await axeFindings(`rounds${query} at ${size.width}`, page)).toEqual([]);
    }
  }
});
