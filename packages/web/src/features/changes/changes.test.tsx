import {
  type Affected,
  api,
  type ChangeNote,
  type ChangeRequest,
  type ChangeTask,
  type NewNote,
} from '@kanonos/contract';
import { screen, waitFor, within } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { documentPage, fieldOf } from '../../testing/fixtures.ts';
import { at, lastSent, renderPage } from '../../testing/renderPage.tsx';
import { ChangeNoteField } from './ChangeNoteField.tsx';
import { ChangeNotePanel } from './ChangeNotePanel.tsx';
import { ChangeNotesPage } from './ChangeNotesPage.tsx';
import { SuggestChangeDialog } from './SuggestChangeDialog.tsx';

const NOTE = 'THR-CHN-0002';
const affected = (id: string, number: string, changes: Partial<Affected> = {}): Affected => ({
  id,
  number,
  title: `Title of ${number}`,
  way: 'picked',
  what: '',
  noChangeReason: null,
  standing: 'not begun',
  inForce: { label: 'A', since: '2026-05-04T08:00:00.000Z', mark: 'in force' },
  revision: null,
  stateTag: `tag ${id}`,
  may: { revise: true, submit: false, release: false },
  ...changes,
});
const approved = (id: string, number: string) =>
  affected(id, number, {
    standing: 'approved',
    revision: { label: 'B', state: 'approved', mark: 'open', summary: 'New limit', reason: 'x', plannedOn: null },
    may: { revise: false, submit: false, release: true },
  });
const task = (changes: Partial<ChangeTask> = {}): ChangeTask => ({
  id: 't1',
  n: 1,
  what: 'Tell both shifts',
  assignee: { id: 'p1', name: 'Otto Brandvik' },
  dueOn: '2026-12-06',
  overdue: false,
  before: 'release',
  state: 'open',
  result: '',
  files: [],
  endedBy: null,
  endedAt: null,
  mine: false,
  ...changes,
});
const note = (changes: Partial<ChangeNote> = {}): ChangeNote => ({
  affected: [affected('a', 'THR-WIN-0332'), affected('b', 'THR-WIN-0337')],
  hidden: 0,
  tasks: [task()],
  isAgreed: true,
  closed: null,
  open: [{ code: 'change_note_tasks_open', params: { number: NOTE, count: 1 } }],
  mayChange: true,
  ...changes,
});
const draw = (data: ChangeNote, more: Record<string, unknown> = {}) =>
  renderPage(<ChangeNotePanel number={NOTE} />, {
    [at(api.changes.note, { document: NOTE })]: data,
    [at(api.changes.proposals, { document: NOTE })]: { proposals: [] },
    ...more,
  });
const table = () => within(screen.getByRole('table'));
const dialog = () => within(screen.getByRole('dialog'));

describe('a change note', () => {
  it('says where it stands, and what is open before it can be closed', async () => {
    draw(note());
    expect(await screen.findByText('Agreed. 0 of 2 documents are dealt with. One task is open.')).toBeTruthy();
    expect(screen.getByText(`One task of change note ${NOTE} must be done first.`)).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Close change note' }).disabled).toBe(true);
  });

  it('counts documents that one may not see, and shows only what one may do', async () => {
    draw(
      note({
        hidden: 2,
        mayChange: false,
        affected: [affected('a', 'THR-WIN-0332', { may: { revise: false, submit: false, release: false } })],
      }),
    );
    expect(await screen.findByText('2 more affected documents are not visible to you.')).toBeTruthy();
    for (const name of [/^Add/, /^Edit/, /^Remove/, /^Finish/])
      expect(screen.queryByRole('button', { name })).toBeNull();
    expect(screen.queryByRole('checkbox')).toBeNull();
  });

  it('revises the ticked documents under it, as they were seen', async () => {
    const { user } = draw(note(), {
      [at(api.changes.reviseSet)]: {
        done: false,
        documents: [
          { id: 'a', number: 'THR-WIN-0332', refusals: [] },
          {
            id: 'b',
            number: 'THR-WIN-0337',
            refusals: [{ code: 'revision_in_work', params: { label: 'B', state: 'draft' } }],
          },
        ],
      },
    });
    await screen.findByRole('table');
    await user.click(table().getByLabelText('Select THR-WIN-0332'));
    await user.click(table().getByLabelText('Select THR-WIN-0337'));
    await user.click(screen.getByRole('button', { name: 'Revise 2 documents' }));
    await user.type(dialog().getByLabelText(/^Reason/), 'new limit');
    await user.click(dialog().getByRole('button', { name: 'Revise' }));
    expect(lastSent()?.body).toEqual({
      documents: [
        { id: 'a', seen: 'tag a' },
        { id: 'b', seen: 'tag b' },
      ],
      changeNote: NOTE,
      changeKind: 'major',
      reason: 'new limit',
    });
    // Nothing was done: the dialog stays and says what stands against which document.
    const alert = within(await dialog().findByRole('alert'));
    expect(alert.getByText('THR-WIN-0337')).toBeTruthy();
    expect(alert.queryByText('THR-WIN-0332')).toBeNull();
    expect(alert.getByText(/already in work/)).toBeTruthy();
  });

  it('releases the approved ones together', async () => {
    const { user } = draw(note({ affected: [approved('a', 'THR-WIN-0332'), approved('b', 'THR-WIN-0337')] }), {
      [at(api.changes.releaseSet)]: { done: true, documents: [] },
    });
    await screen.findByRole('table');
    await user.click(table().getByLabelText('Select THR-WIN-0332'));
    await user.click(table().getByLabelText('Select THR-WIN-0337'));
    await user.click(screen.getByRole('button', { name: 'Release 2 documents together' }));
    await user.click(dialog().getByRole('button', { name: 'Release' }));
    expect(lastSent()?.body).toEqual({
      documents: [
        { id: 'a', seen: 'tag a' },
        { id: 'b', seen: 'tag b' },
      ],
      on: null,
    });
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  });

  it('says why nothing changes in a document', async () => {
    const { user } = draw(note(), { [at(api.changes.changeAffected, { document: NOTE, affected: 'a' })]: null });
    await screen.findByRole('table');
    await user.click(table().getByRole('button', { name: 'Edit what changes in THR-WIN-0332' }));
    await user.click(dialog().getByLabelText('Nothing changes in it'));
    await user.type(dialog().getByLabelText(/^Why nothing changes/), 'It names no limit');
    await user.click(dialog().getByRole('button', { name: 'Save' }));
    expect(lastSent()?.body).toEqual({ what: '', noChangeReason: 'It names no limit' });
  });

  it('takes what could be affected by one press, with the way that leads there', async () => {
    const { user } = draw(note(), {
      [at(api.changes.proposals, { document: NOTE })]: {
        proposals: [
          {
            id: 'c',
            number: 'THR-FRM-0019',
            title: 'Wind stop record',
            label: '2',
            state: 'in force',
            way: 'cites',
            via: 'THR-WIN-0337',
            distance: 1,
          },
        ],
      },
      [at(api.changes.addAffected, { document: NOTE })]: { added: 1 },
    });
    expect(await screen.findByText('cites THR-WIN-0337')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Add THR-FRM-0019' }));
    expect(lastSent()?.body).toEqual({ numbers: ['THR-FRM-0019'], way: 'cites' });
  });

  it('lets whoever a task is given to finish it with a result', async () => {
    const { user } = draw(note({ mayChange: false, tasks: [task({ mine: true })] }), {
      [at(api.changes.doneTask, { document: NOTE, task: 't1' })]: null,
    });
    await user.click(await screen.findByRole('button', { name: 'Finish task 1' }));
    await user.type(dialog().getByLabelText(/^Result/), 'Done this morning');
    await user.click(dialog().getByRole('button', { name: 'Finish task' }));
    expect(lastSent()?.body).toEqual({ result: 'Done this morning', uploadIds: [] });
  });
});

type Said = { chosen: string[]; note: NewNote | null };
const HeldField = ({ said }: { said: Said }) => {
  const [note, setNote] = useState<NewNote | null>(null);
  said.note = note;
  return (
    <ChangeNoteField
      number="THR-WIN-0332"
      value=""
      onChange={(value) => said.chosen.push(value)}
      newNote={note}
      onNewNote={setNote}
    />
  );
};

describe('the change note of a revision', () => {
  const CHN = {
    id: 'type-1',
    code: 'CHN',
    name: 'Change note',
    folder: { id: 'folder-1', name: 'Company / Changes' },
    fields: [fieldOf({ kind: 'text', key: 'cause', label: 'Cause', mandatory: true })],
  };
  const field = (
    use: 'may' | 'must' | 'never',
    notes: { number: string; title: string; namesIt: boolean }[],
    types = [CHN],
  ) => {
    const said: Said = { chosen: [], note: null };
    const page = renderPage(<HeldField said={said} />, {
      [at(api.changes.open, { document: 'THR-WIN-0332' })]: { use, notes, types },
    });
    return { said, ...page };
  };
  it('is the one that names the document, until another is chosen', async () => {
    const { said } = field('may', [{ number: NOTE, title: 'Wind', namesIt: true }]);
    await screen.findByLabelText(/^Change note/);
    expect(said.chosen).toEqual([NOTE]);
  });
  it('is made on the spot with what its type asks for, and says where it goes', async () => {
    const { said, user } = field('must', []);
    const select = await screen.findByLabelText<HTMLSelectElement>(/^Change note/);
    expect(select.required).toBe(true);
    await user.selectOptions(select, 'Make a new change note');
    const made = within(screen.getByRole('group', { name: 'New change note' }));
    await user.type(made.getByLabelText(/^Title of the note/), 'Longer ropes');
    await user.type(made.getByLabelText(/^Cause/), 'Wear');
    expect(said.note).toEqual({
      typeId: 'type-1',
      folderId: 'folder-1',
      title: 'Longer ropes',
      asked: '',
      metadata: { cause: 'Wear' },
    });
    expect(made.queryByText(/filed in Company \/ Changes/)).not.toBeNull();
  });
  it('cannot be made by whoever may register none, and says so where one is needed', async () => {
    field('must', [], []);
    expect(await screen.findByText(/No change note is open/)).toBeTruthy();
  });
});

describe('all change notes', () => {
  const row = (number: string, isClosed: boolean) => ({
    id: number,
    number,
    title: `Title of ${number}`,
    mark: 'in force' as const,
    isClosed,
    owner: 'Joren Adeyemi',
    createdAt: '2026-11-12T08:00:00.000Z',
    documents: { all: 3, done: 1 },
    tasks: { all: 2, done: 1, overdue: 1 },
    nextDue: '2026-12-06',
  });
  it('shows the open ones, with how far they are, and all on demand', async () => {
    const { user, router } = renderPage(<ChangeNotesPage />, {
      [at(api.changes.list)]: { notes: [row('THR-CHN-0002', false), row('THR-CHN-0001', true)] },
    });
    await screen.findByRole('table');
    expect(table().queryByText('THR-CHN-0001')).toBeNull();
    expect(table().getByText('1 of 3')).toBeTruthy();
    expect(table().getByText('1 overdue')).toBeTruthy();
    await user.click(screen.getByText('All notes'));
    expect(table().getByText('THR-CHN-0001')).toBeTruthy();
    expect(router.state.location.search).toBe('?show=all');
  });
  it('says how one begins where there is none', async () => {
    renderPage(<ChangeNotesPage />, { [at(api.changes.list)]: { notes: [] } });
    expect(await screen.findByText('No change notes yet')).toBeTruthy();
  });
});

describe('change requests', () => {
  const request = (id: string, changes: Partial<ChangeRequest> = {}): ChangeRequest => ({
    id,
    number: `CR-2026-000${id}`,
    document: { id: 'd1', number: 'THR-PRO-0118', title: 'Grip overhaul' },
    label: 'B',
    place: 'Table 2',
    what: 'The limit is not readable',
    proposal: '',
    fileName: null,
    record: null,
    by: { id: 'p3', name: 'Rafael Osei' },
    at: '2026-11-24T08:00:00.000Z',
    state: 'open',
    answer: '',
    into: null,
    answeredBy: null,
    answeredAt: null,
    mayAnswer: true,
    mine: false,
    ...changes,
  });
  const drawRequests = (requests: ChangeRequest[]) =>
    renderPage(
      <ChangeNotesPage />,
      {
        [at(api.changeRequests.list)]: { requests },
        [at(api.changes.list)]: { notes: [] },
        [at(api.changeRequests.answer, { id: '1' })]: null,
      },
      '/changes?show=requests',
    );

  it('are listed with what became of each', async () => {
    drawRequests([
      request('1'),
      request('2', { state: 'noted', into: NOTE, mayAnswer: false }),
      request('3', { state: 'rejected', answeredBy: 'Ines Varga', answer: 'Not needed', mayAnswer: false }),
    ]);
    expect(await screen.findByText(`part of ${NOTE}`)).toBeTruthy();
    expect(screen.getByText('rejected by Ines Varga')).toBeTruthy();
    expect(screen.getAllByRole('button', { name: /^Answer/ })).toHaveLength(1);
  });
  it('are merged into another one of the same document, or rejected with a reason', async () => {
    const { user } = drawRequests([
      request('1'),
      request('2'),
      request('3', { document: { id: 'd9', number: 'THR-PRO-0001', title: 'x' } }),
    ]);
    await user.click(await screen.findByRole('button', { name: 'Answer CR-2026-0001' }));
    await user.click(dialog().getByLabelText(/^Merge into another request/));
    const others = within(dialog().getByLabelText(/^Request/)).getAllByRole('option');
    expect(others.map((one) => one.getAttribute('value'))).toEqual(['', 'CR-2026-0002']);
    await user.click(dialog().getByLabelText(/^Reject/));
    await user.type(dialog().getByLabelText(/^Reason, for the sender/), 'Not needed');
    await user.click(dialog().getByRole('button', { name: 'Save answer' }));
    expect(lastSent()?.body).toEqual({ answer: 'reject', words: 'Not needed', into: null });
  });
  it('are sent with what is wrong and where', async () => {
    const { user } = renderPage(<SuggestChangeDialog page={documentPage()} close={() => {}} />, {
      [at(api.forms.forChange, { document: documentPage().id })]: { form: null, draft: null },
      [at(api.changeRequests.suggest, { document: documentPage().id })]: { id: 'x', number: 'CR-2026-0009' },
    });
    await user.type(await screen.findByLabelText(/^Where in the document/), 'Step 4');
    await user.type(screen.getByLabelText(/^What is wrong or missing/), 'The bolt is M12');
    await user.click(screen.getByRole('button', { name: 'Send suggestion' }));
    expect(lastSent()?.body).toEqual({ place: 'Step 4', what: 'The bolt is M12', proposal: '', uploadId: null });
  });
});
