import { addDays } from '@kanonos/core';
import { changes, page, registerDocument, release, rounds } from '@kanonos/server';
import { type Context, decideNext, idOf, upload } from './context.ts';
import { fromText } from './text/fileOf.ts';

type DemoTask = {
  what: string;
  who: string;
  /** Days from today until it is due. */
  due?: number;
  before?: 'release' | 'closure';
  /** What came out of it; a task without is open. */
  result?: string;
};
type DemoNote = {
  text: string;
  title: string;
  class: 'MIN' | 'MAJ' | 'SAF';
  cause: string;
  asked: string;
  author: string;
  daysAgo: number;
  /** How far it has come. */
  ending: 'draft' | 'in review' | 'agreed' | 'closed';
  affected: { number: string; what: string; noChange?: string }[];
  tasks: DemoTask[];
  /** Documents whose revision is begun under it, and how far that goes. */
  revised?: { numbers: string[]; until: 'draft' | 'in force' };
};

const NOTES: readonly DemoNote[] = [
  {
    text: 'change-keys',
    title: 'New locks in the stations',
    class: 'MIN',
    cause: 'Two keys of Mid Holt are missing',
    asked: 'One system with cards for the three stations',
    author: 'joren.adeyemi',
    daysAgo: 46,
    ending: 'closed',
    affected: [{ number: 'THR-WIN-0331', what: 'Cards in place of keys' }],
    tasks: [{ what: 'Collect the old keys', who: 'petra.lindqvist', result: '38 of 40 came back, two stay lost' }],
    revised: { numbers: ['THR-WIN-0331'], until: 'in force' },
  },
  {
    text: 'change-wind',
    title: 'Wind stop ten minutes earlier above tower 9',
    class: 'SAF',
    cause: 'The gauge on tower 9 reads gusts later than the one on Skarn Peak',
    asked: 'Clear the line on the reading of Skarn Peak',
    author: 'joren.adeyemi',
    daysAgo: 18,
    ending: 'agreed',
    affected: [
      { number: 'THR-WIN-0337', what: 'Compare both gauges each month' },
      { number: 'THR-WIN-0332', what: 'Both readings must be below the limit before opening' },
      { number: 'THR-SPC-0024', what: '', noChange: 'It asks for one reading a minute already' },
    ],
    tasks: [
      { what: 'Show both readings in the drive station', who: 'otto.brandvik', due: 6, before: 'release' },
      { what: 'Tell both shifts', who: 'petra.lindqvist', due: 3, result: 'Done in the morning talk of both shifts' },
    ],
    revised: { numbers: ['THR-WIN-0337', 'THR-WIN-0332'], until: 'draft' },
  },
  {
    text: 'change-radio',
    title: 'Rescue team on radio channel 4',
    class: 'MIN',
    cause: 'Channel 2 is also used by the ski school',
    asked: 'Move the rescue team to channel 4',
    author: 'joren.adeyemi',
    daysAgo: 15,
    ending: 'agreed',
    affected: [{ number: 'THR-WIN-0336', what: 'Channel 4 in steps 2 and 5' }],
    tasks: [
      { what: 'Set channel 4 on all 24 radios', who: 'otto.brandvik', due: -2 },
      { what: 'Have the channel confirmed by the valley rescue', who: 'petra.lindqvist', due: 8 },
    ],
  },
  {
    text: 'change-grip-springs',
    title: 'Spring packs below 406 mm are exchanged',
    class: 'SAF',
    cause: 'Old packs lose their margin when there is ice on the rope',
    asked: 'Exchange them before the season; the free length becomes a limit',
    author: 'joren.adeyemi',
    daysAgo: 12,
    ending: 'agreed',
    affected: [
      { number: 'THR-RPT-0459', what: '', noChange: 'A report of a trial stays as it was written' },
      { number: 'THR-PRO-0114', what: 'Name the free length where the pack is looked at' },
    ],
    tasks: [
      { what: 'Order 40 packs of lot 26/3', who: 'otto.brandvik', result: 'Ordered, delivery in week 51' },
      { what: 'Exchange the packs of the steep spans first', who: 'otto.brandvik', due: 20 },
    ],
  },
  {
    text: 'change-rescuers',
    title: 'A second rescuer in each cabin',
    class: 'MAJ',
    cause: 'One rescuer alone needed eleven minutes for a cabin',
    asked: 'Two rescuers for each cabin',
    author: 'joren.adeyemi',
    daysAgo: 4,
    ending: 'in review',
    affected: [{ number: 'THR-FRM-0021', what: 'Room for two names' }],
    tasks: [],
  },
  {
    text: 'change-gear-oil',
    title: 'Another oil for the main gear',
    class: 'MIN',
    cause: 'The maker no longer supplies the oil',
    asked: 'Rinse the gear and fill in the substitute',
    author: 'joren.adeyemi',
    daysAgo: 2,
    ending: 'draft',
    affected: [],
    tasks: [],
  },
];

type DemoRequest = {
  number: string;
  by: string;
  daysAgo: number;
  place: string;
  what: string;
  proposal?: string;
  /** What became of it; open without. */
  answer?: { answer: 'reject' | 'merge' | 'note'; words: string; into?: 'first' | string };
};

const REQUESTS: readonly DemoRequest[] = [
  {
    number: 'THR-WIN-0336',
    by: 'rafael.osei',
    daysAgo: 13,
    place: 'Step 5',
    what: 'The ski school talks on channel 2; one does not understand tower 9.',
    proposal: 'Channel 4',
    answer: { answer: 'note', words: 'Part of the change of the channel.', into: 'THR-CHN-0003' },
  },
  {
    number: 'THR-WIN-0336',
    by: 'bo.lindahl',
    daysAgo: 12,
    place: 'Steps 2 and 5',
    what: 'Channel 2 is not free in the season.',
    answer: { answer: 'merge', words: 'Somebody else has suggested the same.', into: 'first' },
  },
  {
    number: 'THR-PRO-0114',
    by: 'rafael.osei',
    daysAgo: 9,
    place: 'Section 4',
    what: 'Allow the exchange with three people when the line stands still.',
    answer: { answer: 'reject', words: 'Four people stay: the fourth watches the rope.' },
  },
  {
    number: 'THR-PRO-0112',
    by: 'bo.lindahl',
    daysAgo: 3,
    place: 'Table of limits',
    what: 'The table does not say whether the diameter is measured at rest or under load.',
    proposal: 'Measured at rest, between towers 1 and 2',
  },
  {
    number: 'THR-PRO-0120',
    by: 'yuki.tanabe',
    daysAgo: 1,
    place: '',
    what: 'A photo of the display with both gauges would help at night.',
  },
];

/** What readers suggest, and what was answered the day after. */
const planRequests = (c: Context): void => {
  const sent: { id: string; number: string }[] = [];
  for (const [i, one] of REQUESTS.entries()) {
    c.add(c.at(one.daysAgo, 160 + i), async () => {
      const { number, by, place, what, proposal = '' } = one;
      sent[i] = await changes.suggestChange(c.app, await c.as(by), number, { place, what, proposal, uploadId: null });
    });
    const { answer } = one;
    if (!answer) continue;
    c.add(c.at(one.daysAgo - 1, 165 + i), async () => {
      const into = answer.into === 'first' ? (sent[0]?.number ?? '') : (answer.into ?? null);
      const { words } = answer;
      await changes.answerRequest(c.app, await c.as('ines.varga'), sent[i]?.id ?? '', {
        answer: answer.answer,
        words,
        into,
      });
    });
  }
};

/** Lays the change notes on the line of time. */
export const planChangeNotes = (c: Context): void => {
  planRequests(c);
  for (const [i, note] of NOTES.entries()) {
    const minute = 95 + i * 9;
    const state = { ref: '' };
    const D = note.daysAgo;
    c.add(c.at(D, minute), () => begin(c, note, state));
    if (note.ending === 'draft') continue;
    c.add(c.at(D - 1, minute), async () => {
      const by = await c.as(note.author);
      await rounds.submit(c.app, by, state.ref, { seen: '*', message: 'For agreement', chosen: [] });
    });
    if (note.ending === 'in review') continue;
    c.add(c.at(D - 3, minute), () => decideNext(c, state.ref, 'positive'));
    c.add(c.at(D - 4, minute), async () => void (await releaseNow(c, state.ref)));
    for (const [n, task] of note.tasks.entries()) c.add(c.at(D - 5, minute + n), () => give(c, note, state.ref, task));
    if (note.revised) planRevisions(c, note, state, minute);
    if (note.ending === 'closed')
      c.add(c.at(D - 24, minute + 40), async () =>
        changes.closeNote(c.app, await c.as(note.author), state.ref, {
          result: 'All locks are replaced; the cards are handed out.',
        }),
      );
  }
};

const begin = async (c: Context, note: DemoNote, state: { ref: string }) => {
  const author = await c.as(note.author);
  const registered = await registerDocument(
    c.app,
    author,
    {
      typeId: c.types.get('CHN') ?? '',
      folderId: c.folders.get('6/changes') ?? '',
      title: note.title,
      metadata: { class: note.class, cause: note.cause, asked: note.asked },
      uploadId: await upload(c, author, await fromText(note.text, `${note.text}.md`)(1)),
      summary: 'First issue.',
      ownerId: idOf(c.ids, note.author),
      note: 'First version',
    },
    null,
  );
  state.ref = registered.number;
  for (const { number, what, noChange } of note.affected) {
    await changes.addAffected(c.app, author, state.ref, { numbers: [number], way: 'picked', what });
    if (noChange)
      await changes.changeAffected(c.app, author, state.ref, number, { what: '', noChangeReason: noChange });
  }
};

const releaseNow = async (c: Context, ref: string) =>
  release.release(c.app, await c.as('ines.varga'), ref, { seen: '*', on: null, name: null, password: null });

const give = async (c: Context, note: DemoNote, ref: string, task: DemoTask) => {
  const author = await c.as(note.author);
  const { id } = await changes.addTask(c.app, author, ref, {
    what: task.what,
    assigneeId: idOf(c.ids, task.who),
    dueOn: task.due === undefined ? null : addDays(c.day, task.due),
    before: task.before ?? 'closure',
  });
  if (task.result) await changes.doneTask(c.app, await c.as(task.who), ref, id, { result: task.result, uploadIds: [] });
};

/** Revisions under a note begin together; where they come into force, all at one instant. */
const planRevisions = (c: Context, note: DemoNote, state: { ref: string }, minute: number): void => {
  const { numbers, until } = note.revised ?? { numbers: [], until: 'draft' };
  const D = note.daysAgo;
  const members = async () => {
    const seen = [];
    for (const number of numbers) {
      const { id, stateTag } = await page.documentPage(c.app, await c.as('ines.varga'), number, { rev: 'work' });
      seen.push({ id, seen: stateTag });
    }
    return seen;
  };
  c.add(c.at(D - 6, minute), async () => {
    const begun = await release.reviseSet(c.app, await c.as(note.author), {
      documents: await members(),
      changeNote: state.ref,
      changeKind: 'minor',
      reason: note.title,
    });
    if (!begun.done) throw new Error(`${state.ref}: ${JSON.stringify(begun.documents)}`);
  });
  if (until === 'draft') return;
  for (const number of numbers) {
    c.add(c.at(D - 7, minute), async () => {
      const by = await c.as(note.author);
      const chosen = [idOf(c.ids, 'sven.calder')];
      await rounds.submit(c.app, by, number, { seen: '*', message: '', chosen });
    });
    for (let i = 0; i < 3; i++) c.add(c.at(D - 9 - i, minute), () => decideNext(c, number, 'positive'));
  }
  c.add(c.at(D - 14, minute), async () => {
    const released = await release.releaseSet(c.app, await c.as('ines.varga'), {
      documents: await members(),
      on: null,
    });
    if (!released.done) throw new Error(`${state.ref}: ${JSON.stringify(released.documents)}`);
  });
};
