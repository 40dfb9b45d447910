import { axeFindings, command, PASSWORD, pageOf, registerText } from './people.ts';
import { expect, test } from './test.ts';

// Forms and their records, rules that start rounds, own states, and an edit that goes through several hands.

const WIDTHS = [
  { width: 1280, height: 800 },
  { width: 820, height: 1180 },
  { width: 390, height: 844 },
];

test('an administrator makes a form that branches, and tries it as a reader would', async ({ browser }) => {
  const admin = await pageOf(browser, 'dagny.holm');
  await admin.goto('/rules/forms?form=new');
  await admin.getByLabel('Name', { exact: true }).fill('Lost property');
  await admin.getByLabel('Code').fill('LOST');
  await admin.getByRole('button', { name: 'Quality & safety' }).click();
  const section = admin.getByRole('group', { name: 'Section 1' });
  await section.getByLabel('Title of the section').fill('What was found');
  await section.getByRole('button', { name: 'Add question' }).click();
  await section.getByLabel('Question', { exact: true }).fill('Is it worth anything');
  await section.getByLabel('Answer', { exact: true }).selectOption('Yes or no');
  await section.getByLabel('Must be answered').check();
  await section.getByRole('button', { name: 'Add question' }).click();
  await section.getByLabel('Question', { exact: true }).fill('How much');
  await section.getByLabel('Answer', { exact: true }).selectOption('Number');
  await section.getByLabel('Asked').last().selectOption('Where “Is it worth anything”');
  await section.getByLabel('Value').selectOption('Yes');
  await admin.getByText('Preview', { exact: true }).click();
  await expect(admin.getByLabel(/^How much/)).toBeHidden();
  await admin.getByLabel('Is it worth anything').selectOption('yes');
  await expect(admin.getByLabel(/^How much/)).toBeVisible();
  await admin.getByText('Edit', { exact: true }).click();
  await admin.getByLabel('Reason').fill('Asked for each week');
  await admin.getByRole('button', { name: 'Save version' }).click();
  await expect(admin.getByText('Version 1 saved.')).toBeVisible();
});

test('a record is kept as a draft, sent with a file, and read by whoever gets it', async ({ browser }) => {
  const reader = await pageOf(browser, 'rafael.osei');
  await reader.goto('/forms');
  await reader.getByRole('link', { name: 'Fill in Lost property' }).click();
  await reader.getByLabel('Is it worth anything').selectOption('yes');
  await reader.getByLabel(/^How much/).fill('20');
  await reader.getByRole('button', { name: 'Save draft' }).click();
  await expect(reader.getByText('Draft saved.')).toBeVisible();
  await reader.goto('/forms');
  await reader.getByRole('link', { name: 'Continue Lost property' }).click();
  await expect(reader.getByLabel(/^How much/)).toHaveValue('20');
  await reader.getByRole('button', { name: 'Next' }).click();
  await reader
    .locator('input[type=file]')
    .setInputFiles({ name: 'umbrella.txt', mimeType: 'text/plain', buffer: Buffer.from('red, wooden handle') });
  await expect(reader.getByRole('button', { name: 'Remove umbrella.txt' })).toBeVisible();
  await reader.getByRole('button', { name: 'Send', exact: true }).click();
  await expect(reader.getByText(/^Sent as LOST-\d{4}-0001\.$/)).toBeVisible();

  const quality = await pageOf(browser, 'anselm.roth');
  await quality.goto('/forms');
  await quality.getByRole('link', { name: /^LOST-\d{4}-0001$/ }).click();
  await expect(quality.getByText('umbrella.txt')).toBeVisible();
  const pdf = await quality.request.get(
    (await quality.getByRole('link', { name: 'Open as PDF' }).getAttribute('href')) ?? '',
  );
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');
});

test('a rule is tried on what happened, and starts a round when it happens again', async ({ browser }) => {
  const admin = await pageOf(browser, 'dagny.holm');
  await admin.goto('/rules/rounds?rule=new');
  await admin.getByLabel('Name', { exact: true }).fill('Other equipment');
  await admin.getByLabel('Type of document').selectOption('WIN Work instruction');
  await admin.getByLabel('Route').selectOption('Information of the owner');
  await admin.getByRole('combobox', { name: /In the name of/ }).fill('Ines');
  await admin.getByRole('option', { name: /Ines Varga/ }).click();
  await admin.getByRole('button', { name: 'Try on the last 30 days' }).click();
  await expect(admin.getByText(/^Would have started/)).toBeVisible();
  await admin.getByLabel('Reason').fill('Owners want to know');
  await admin.getByRole('button', { name: 'Save rule' }).click();
  await expect(admin.getByText('Rule saved.')).toBeVisible();
  await expect(admin.getByRole('heading', { name: 'Other equipment' })).toBeVisible();
});

test('an author says what a draft waits for; the register shows it and finds by it', async ({ browser }) => {
  const author = await pageOf(browser, 'joren.adeyemi');
  await author.goto('/d/THR-PRO-0123?rev=work');
  await command(author, 'Set state');
  const dialog = author.getByRole('dialog');
  await dialog.getByRole('button', { name: 'Set state' }).click();
  await expect(author.getByText('Draft: waiting for test').first()).toBeVisible();
  await author.goto('/register?q=state%3A%22waiting+for+test%22');
  await expect(author.getByText(/Draft: waiting for test/).first()).toBeVisible();
  await expect(author.getByRole('link', { name: 'THR-PRO-0123' }).first()).toBeVisible();
});

test('an edit goes through three hands: each sees what changed, and the last signs the last state', async ({
  browser,
}) => {
  test.setTimeout(300_000);
  const admin = await pageOf(browser, 'dagny.holm');
  const { types } = await (await admin.request.get('/api/rules/types')).json();
  const type = types.find((one: { code: string }) => one.code === 'PRO');
  const { people: reviewers } = await (await admin.request.get('/api/people/names?find=Georg')).json();
  const { people: second } = await (await admin.request.get('/api/people/names?find=Zora')).json();
  const { people: third } = await (await admin.request.get('/api/people/names?find=Mara')).json();
  const step = (name: string, personId: string, more: object) => ({
    name,
    kind: 'review',
    assignees: [{ by: 'person', personId }],
    rule: { kind: 'all' },
    workingDays: 3,
    onReject: 'draft',
    editing: true,
    ...more,
  });
  const detail = await (await admin.request.get(`/api/rules/types/${type.id}`)).json();
  const saved = await admin.request.put(`/api/rules/types/${type.id}`, {
    data: {
      rule: {
        ...detail.rule,
        furtherRoutes: [
          ...detail.rule.furtherRoutes.filter(
            (one: { route: { name: string } }) => one.route.name !== 'Through several hands',
          ),
          {
            route: {
              name: 'Through several hands',
              steps: [
                step('First hand', reviewers[0].id, {}),
                step('Second hand', second[0].id, {}),
                step('Third hand', third[0].id, { kind: 'approval', meaning: 'approved', editing: false }),
              ],
              keepsDecisions: true,
            },
            taken: { by: 'choice', mayChoose: 'author' },
          },
        ],
      },
      reason: 'Edits add up',
      rowVersion: detail.rowVersion,
      from: null,
      fill: [],
    },
  });
  expect(saved.status(), await saved.text()).toBe(200);

  const author = await pageOf(browser, 'joren.adeyemi');
  const number = await registerText(author, 'Grip check by hand', '# Grip check\n\nLook at the grip.');
  const sent = await author.request.post(`/api/documents/${number}/submit`, {
    data: { seen: '*', message: 'Please add what is missing.', chosen: [], route: 'Through several hands' },
  });
  expect(sent.status(), await sent.text()).toBe(200);

  const edit = async (name: string, words: string, sees: RegExp | undefined) => {
    const page = await pageOf(browser, name);
    await page.goto('/');
    await page
      .getByRole('link', { name: new RegExp(`${number}$`) })
      .first()
      .click();
    await expect(page.getByText('You may edit')).toBeVisible();
    if (sees) await expect(page.getByText(sees).first()).toBeVisible();
    const task = page.url();
    const out = await page.request.post(`/api/documents/${number}/check-out`, {
      data: { seen: '*', note: '', expectedBack: null },
    });
    expect(out.status(), await out.text()).toBe(200);
    await page.getByRole('link', { name: 'Edit in browser' }).click();
    await page.locator('.cm-content').click();
    await page.keyboard.press('Control+End');
    await page.keyboard.type(words);
    await expect(page.getByRole('article').getByText(words.trim())).toBeVisible();
    await page.getByRole('button', { name: 'Check in' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Note on this version').fill('Added what was missing');
    await dialog.getByRole('button', { name: 'Check in', exact: true }).click();
    await expect(dialog).toBeHidden();
    await page.goto(task);
    await expect(page.getByText(words.trim()).first()).toBeVisible();
    await page.keyboard.press('1');
    await page.getByRole('button', { name: 'No objection' }).click();
    await expect(page).toHaveURL(/\/$/);
  };
  await edit('georg.milde', ' Turn it by hand.', undefined);
  await edit('zora.blum', ' Write the play down.', /Turn it by hand/);

  const approver = await pageOf(browser, 'mara.quill');
  await approver.goto('/');
  await approver
    .getByRole('link', { name: new RegExp(`${number}$`) })
    .first()
    .click();
  await expect(approver.getByText('Write the play down.').first()).toBeVisible();
  await approver.getByText('Approve', { exact: true }).click();
  await approver.getByLabel('Sign-in name').fill('mara.quill');
  await approver.getByLabel('Password of Mara Quill').fill(PASSWORD);
  await approver.getByRole('button', { name: /^Sign approval of/ }).click();
  await expect(approver.getByText(new RegExp(`${number} .* is approved`))).toBeVisible();
  const shown = await (await author.request.get(`/api/documents/${number}?rev=work`)).json();
  expect([shown.revision.state, shown.revision.versions]).toEqual(['approved', 3]);
});

test('these views can be used at any width', async ({ browser }) => {
  test.setTimeout(300_000);
  const admin = await pageOf(browser, 'dagny.holm');
  const reader = await pageOf(browser, 'rafael.osei');
  const { forms, records } = await (await reader.request.get('/api/forms')).json();
  for (const size of WIDTHS) {
    for (const [page, address] of [
      [admin, '/rules/forms'],
      [admin, '/rules/rounds'],
      [reader, '/forms'],
      [reader, `/forms/${forms[0].id}`],
      [reader, `/records/${records[0].id}`],
    ] as const) {
      await page.setViewportSize(size);
      await page.goto(address);
      await expect(page.getByRole('heading').first()).toBeVisible();
      expect(await axeFindings(`${address} at ${size.width}`, page)).toEqual([]);
      const wide = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
      expect(wide, `${address} at ${size.width} px is too wide`).toBeLessThanOrEqual(0);
    }
  }
});
