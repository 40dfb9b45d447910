import type { Browser, Page } from '@playwright/test';
import { axeFindings, command, PASSWORD, pageOf } from './people.ts';
import { expect, test } from './test.ts';

// A change note from what it affects to its closing: revised together, released together, each task finished by whom it is given to.

test.describe.configure({ mode: 'serial' });
const NOTE = 'THR-CHN-0003';
const FORMS = ['THR-FRM-0007', 'THR-FRM-0012'];
const WIDTHS = [
  { width: 1280, height: 800 },
  { width: 820, height: 1180 },
  { width: 390, height: 844 },
];

const openNote = async (page: Page) => {
  await page.goto('/changes');
  await page.getByRole('link', { name: new RegExp(NOTE) }).click();
  await expect(page.getByRole('region', { name: 'Affected documents' })).toBeVisible();
};
const tick = async (page: Page) => {
  for (const number of FORMS) await page.getByRole('checkbox', { name: `Select ${number}` }).check();
};

test('an author names what a change affects, and revises it together under the note', async ({ browser }) => {
  const page = await pageOf(browser, 'joren.adeyemi');
  await openNote(page);
  await page.getByRole('button', { name: 'Add documents' }).click();
  const dialog = page.getByRole('dialog');
  for (const number of FORMS) {
    await dialog.getByRole('combobox', { name: 'Documents' }).fill(number);
    await dialog.getByRole('option', { name: new RegExp(number) }).click();
    await expect(dialog.getByRole('button', { name: `Remove ${number} from the note` })).toBeVisible();
  }
  await dialog.getByRole('button', { name: 'Add documents' }).click();
  await expect(page.getByText('2 documents added')).toBeVisible();
  await page.getByRole('button', { name: 'Edit what changes in THR-WIN-0336' }).click();
  await dialog.getByText('Nothing changes in it').click();
  await dialog.getByLabel('Why nothing changes').fill('It names the channel of the day only');
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('no change needed').first()).toBeVisible();

  await tick(page);
  await page.getByRole('button', { name: 'Revise 2 documents' }).click();
  await dialog.getByLabel('Reason').fill('Channel 4');
  await dialog.getByRole('button', { name: 'Revise' }).click();
  await expect(page.getByText('2 revisions started')).toBeVisible();
  await tick(page);
  await page.getByRole('button', { name: 'Submit 2 documents' }).click();
  await dialog.getByRole('combobox', { name: 'Reviewers' }).fill('Sven');
  await dialog.getByRole('option', { name: /Sven Calder/ }).click();
  await dialog.getByRole('button', { name: 'Submit' }).click();
  await expect(page.getByText('2 documents submitted')).toBeVisible();
  await page.goto(`/d/${FORMS[0]}?rev=work`);
  await expect(page.getByRole('link', { name: new RegExp(`${NOTE} Rescue team on radio channel 4`) })).toBeVisible();
});

test('a reader suggests a change; it is answered, and the reader sees what became of it', async ({ browser }) => {
  const reader = await pageOf(browser, 'rafael.osei');
  await reader.goto('/d/THR-FRM-0007');
  await command(reader, 'Suggest a change');
  // The type has a form: what is asked follows from the answers, and all of it comes with the request.
  await reader.getByLabel('Where in the document').fill('First line');
  await reader.getByLabel('What is wrong or missing').fill('It still names channel 2');
  await reader.getByRole('button', { name: 'Next' }).click();
  await reader.getByLabel('Why it has to change').selectOption('It is wrong');
  await reader.getByLabel('Is it dangerous as it is').selectOption('yes');
  await reader.getByLabel('What do you do until it is changed').fill('Say the channel aloud');
  await reader.getByRole('button', { name: 'Next' }).click();
  await reader.getByRole('button', { name: 'Send', exact: true }).click();
  await expect(reader.getByText(/^Sent as CR-/)).toBeVisible();
  const controller = await pageOf(browser, 'ines.varga');
  await controller.goto('/changes?show=requests');
  const sent = controller.locator('li', { hasText: 'It still names channel 2' });
  await sent.getByRole('link', { name: 'All answers' }).click();
  await expect(controller.getByText('It is wrong', { exact: true })).toBeVisible();
  await controller.goBack();
  await sent.getByRole('button', { name: /^Answer/ }).click();
  const answer = controller.getByRole('dialog');
  await answer.getByRole('combobox', { name: 'Change note' }).selectOption(NOTE);
  await answer.getByRole('button', { name: 'Save answer' }).click();
  await expect(controller.getByText('Answer saved')).toBeVisible();
  await reader.goto('/changes?show=requests');
  await expect(
    reader.locator('li', { hasText: 'It still names channel 2' }).getByText(`part of ${NOTE}`),
  ).toBeVisible();
  for (const size of WIDTHS) {
    await controller.setViewportSize(size);
    expect(await axeFindings(`change requests at ${size.width}`, controller)).toEqual([]);
  }
});

/** Goes through everything that waits for somebody, and decides it. */
const decideAll = async (browser: Browser, name: string) => {
  const page = await pageOf(browser, name);
  await page.goto('/');
  await page.getByRole('button', { name: 'Choose several' }).click();
  for (const number of FORMS) await page.getByRole('checkbox', { name: new RegExp(number) }).check();
  await page.getByRole('link', { name: 'Decide 2 tasks together' }).click();
  const strip = page.getByRole('navigation', { name: 'Tasks to go through' });
  await expect(strip.getByText('looked at', { exact: true })).toHaveCount(1, { timeout: 60_000 });
  await page.getByRole('button', { name: 'Next task' }).click();
  await expect(page.getByText('You have looked at all of them.')).toBeVisible({ timeout: 60_000 });
  return page;
};

test('the reviewer and the approver decide both, each with one password', async ({ browser }) => {
  const reviewer = await decideAll(browser, 'sven.calder');
  await reviewer.getByRole('button', { name: 'Decide 2 tasks' }).click();
  await expect(reviewer.getByText('2 decisions saved.')).toBeVisible();
  const approver = await decideAll(browser, 'uwe.marten');
  await approver.getByLabel('Sign-in name').fill('uwe.marten');
  await approver.getByLabel('Password of Uwe Marten').fill(PASSWORD);
  await approver.getByRole('button', { name: 'Sign 2 approvals' }).click();
  await expect(approver.getByText(/^2 (decisions|signatures)/)).toBeVisible();
});

test('people finish the tasks that a change brings', async ({ browser }) => {
  for (const [person, what] of [
    ['otto.brandvik', 'Set channel 4 on all 24 radios'],
    ['petra.lindqvist', 'Have the channel confirmed by the valley rescue'],
  ] as const) {
    const page = await pageOf(browser, person);
    await page.goto('/');
    await page.locator('li', { hasText: what }).getByRole('link', { name: /^Open/ }).click();
    await page
      .locator('li', { hasText: what })
      .getByRole('button', { name: /^Finish task/ })
      .click();
    await page.getByRole('dialog').getByRole('textbox', { name: 'Result' }).fill('Done and tried');
    await page.getByRole('dialog').getByRole('button', { name: 'Finish task' }).click();
    await expect(page.getByText('Task finished')).toBeVisible();
  }
});

test('the controller releases both at one instant; the note is closed and stays as it is', async ({ browser }) => {
  const page = await pageOf(browser, 'ines.varga');
  await openNote(page);
  for (const size of WIDTHS) {
    await page.setViewportSize(size);
    expect(await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)).toBeLessThanOrEqual(0);
    expect(await axeFindings(`${NOTE} at ${size.width}`, page)).toEqual([]);
  }
  await page.setViewportSize({ width: 1280, height: 800 });
  await tick(page);
  await page.getByRole('button', { name: 'Release 2 documents together' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Release' }).click();
  await expect(page.getByText('2 documents released together')).toBeVisible();
  await expect(page.getByText('Agreed. 3 of 3 documents are dealt with. No task is open.')).toBeVisible();
  await page.getByRole('button', { name: 'Close change note' }).click();
  await page.getByRole('dialog').getByLabel('Result').fill('The rescue team is on channel 4.');
  await page.getByRole('dialog').getByRole('button', { name: 'Close change note' }).click();
  await expect(page.getByText(/Closed by Ines Varga/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Add documents' })).toHaveCount(0);
  await page.goto(`/d/${FORMS[0]}`);
  await command(page, 'Revise');
  const note = page.getByRole('dialog').getByLabel('Change note');
  await expect(note).toBeVisible();
  await expect(note.getByRole('option', { name: new RegExp(NOTE) })).toHaveCount(0);
});

test('the change notes are listed, and each leads on, at every width', async ({ browser }) => {
  const page = await pageOf(browser, 'anselm.roth');
  await page.goto('/changes');
  await expect(page.getByRole('heading', { name: 'Change notes' })).toBeVisible();
  await expect(page.getByText(NOTE).first()).not.toBeAttached();
  await page.getByText('All notes', { exact: true }).click();
  await expect(page.getByText(NOTE).first()).toBeAttached();
  for (const size of WIDTHS) {
    await page.setViewportSize(size);
    expect(await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)).toBeLessThanOrEqual(0);
    expect(await axeFindings(`change notes at ${size.width}`, page)).toEqual([]);
  }
});
