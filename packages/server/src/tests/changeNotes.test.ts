import type { TypeRule } from '@kanonos/core';
import { beforeAll, describe, expect, test } from 'vitest';
import {
  addAffected,
  addTask,
  changeAffected,
  closeNote,
  doneTask,
  dropTask,
  removeAffected,
} from '../features/changes/commands.ts';
import { proposedForChangeNote } from '../features/changes/proposals.ts';
import { changeNote, changeNotes, openChangeNotes } from '../features/changes/service.ts';
import { desk } from '../features/desk/service.ts';
import { addLink } from '../features/links/service.ts';
import { preflightFor } from '../features/release/preflight.ts';
import { releaseSet, reviseSet } from '../features/release/sets.ts';
import { changeType, typeDetail } from '../features/rules/types.ts';
import { rows } from '../platform/db/connect.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();
const changeRule = async (code: string, change: Partial<TypeRule>) => {
  const admin = await organisation.as('admin');
  const id = organisation.types.get(code) ?? '';
  const { rule, rowVersion } = await typeDetail(organisation.app, id);
  await changeType(organisation.app, admin, id, {
    rule: { ...rule, ...change } as typeof rule,
    reason: 'change notes',
    rowVersion,
    from: null,
    fill: [],
  });
};
beforeAll(async () => {
  await changeRule('TWO', { isChangeNote: true });
});

const noteBy = async (author = 'author') => (await organisation.register(author, { type: 'TWO' })).number;
const agree = async (number: string) => {
  await organisation.submit('author', number, { chosen: [] });
  await organisation.decideAs('authority', number);
  await organisation.decideAs('authority2', number);
  await organisation.release('controller', number);
};
const inForce = async () => {
  const { id, number } = await organisation.register('author');
  await organisation.toInForce(number);
  return { id, number };
};
const approved = async (number: string) => {
  await organisation.submitAndReview(number);
  await organisation.decideAs('owner', number);
  await organisation.decideAs('authority', number);
};
const seenOf = async (...numbers: string[]) => {
  const members = [];
  for (const number of numbers) {
    const page = await organisation.page('controller', number);
    members.push({ id: page.id, seen: page.stateTag });
  }
  return members;
};
const name = async (note: string, ...numbers: string[]) =>
  addAffected(organisation.app, await organisation.as('author'), note, { numbers, way: 'picked', what: '' });
const shown = async (note: string, as = 'author') => changeNote(organisation.app, await organisation.as(as), note);
const task = async (note: string, more: { to?: string; before?: 'release' | 'closure'; dueOn?: string } = {}) =>
  (
    await addTask(organisation.app, await organisation.as('author'), note, {
      what: 'Change the labels in the cabins',
      assigneeId: organisation.ids[more.to ?? 'author2'] ?? '',
      dueOn: more.dueOn ?? null,
      before: more.before ?? 'closure',
    })
  ).id;

describe('a change note', () => {
  test('is a document of a type that is set so; others are none', async () => {
    const { number } = await organisation.register('author');
    expect(await codeOf(shown(number))).toBe('not_a_change_note');
    const note = await noteBy();
    const { notes } = await changeNotes(organisation.app, await organisation.as('author'));
    expect(notes.map((one) => one.number)).toContain(note);
    expect((await organisation.page('author', note)).isChangeNote).toBe(true);
  });

  test('names the affected documents, with what changes in each, once', async () => {
    const [note, a, b] = [await noteBy(), await inForce(), await inForce()];
    expect((await name(note, a.number, b.number)).added).toBe(2);
    expect((await name(note, a.number)).added).toBe(0);
    const author = await organisation.as('author');
    await changeAffected(organisation.app, author, note, b.id, {
      what: '',
      noChangeReason: 'Only cites the old limit',
    });
    const { affected } = await shown(note);
    expect(affected.map((one) => [one.number, one.standing, one.inForce?.label])).toEqual([
      [a.number, 'not begun', 'A'],
      [b.number, 'no change needed', 'A'],
    ]);
    expect((await organisation.page('reader', a.number)).changeNotes).toEqual([]);
    expect((await organisation.page('author', a.number)).changeNotes).toMatchObject([
      { number: note, isClosed: false },
    ]);
    await removeAffected(organisation.app, author, note, a.id);
    expect((await shown(note)).affected.map((one) => one.number)).toEqual([b.number]);
  });

  test('proposes what is linked to them or lies below them, with the way that leads there', async () => {
    const [note, a, linked] = [await noteBy(), await inForce(), await inForce()];
    await name(note, a.number);
    const author = await organisation.as('author');
    await addLink(organisation.app, author, linked.number, {
      kind: 'refers to',
      goal: { to: 'document', number: a.number, pinned: false },
      note: '',
    });
    const below = await organisation.register('author');
    await rows(organisation.app.db, 'update documents set parent_id = :parent where id = :id', {
      parent: a.id,
      id: below.id,
    });
    const { proposals } = await proposedForChangeNote(organisation.app, author, note);
    expect(proposals.map((one) => [one.number, one.via, one.distance]).sort()).toEqual(
      [
        [below.number, a.number, 1],
        [linked.number, a.number, 1],
      ].sort(),
    );
    await name(note, linked.number, below.number);
    expect((await proposedForChangeNote(organisation.app, author, note)).proposals).toEqual([]);
  });

  test('shows nobody a document that they may not see, and counts it', async () => {
    const [note, hidden] = [await noteBy(), await organisation.register('author', { folder: '2' })];
    await agree(note);
    await name(note, hidden.number);
    // Work that is not in force is not for readers.
    const forReader = await shown(note, 'reader');
    expect(forReader).toMatchObject({ affected: [], hidden: 1, mayChange: false });
    expect(JSON.stringify(forReader)).not.toContain(hidden.number);
  });
});

describe('tasks of a change note', () => {
  test('are on the Desk of whoever they are given to, and end with a result and files', async () => {
    const note = await noteBy();
    await agree(note);
    const id = await task(note, { dueOn: '2026-11-20' });
    const author2 = await organisation.as('author2');
    const row = (await desk(organisation.app, author2)).rows.find((one) => one.id === id);
    expect(row).toMatchObject({ kind: 'task', number: note, overdue: true, link: `/d/${note}?tab=change` });
    expect(
      await codeOf(
        doneTask(organisation.app, await organisation.as('authority'), note, id, { result: 'x', uploadIds: [] }),
      ),
    ).toBe('not_your_task');
    const uploadId = await organisation.upload('author2', 'photographed', 'labels.txt');
    await doneTask(organisation.app, author2, note, id, { result: 'All four cabins', uploadIds: [uploadId] });
    const [done] = (await shown(note)).tasks;
    expect(done).toMatchObject({ state: 'done', result: 'All four cabins', endedBy: 'Author2' });
    expect(done?.files.map((file) => file.name)).toEqual(['labels.txt']);
    expect((await desk(organisation.app, author2)).rows.some((one) => one.id === id)).toBe(false);
    expect(await codeOf(doneTask(organisation.app, author2, note, id, { result: 'again', uploadIds: [] }))).toBe(
      'task_ended',
    );
  });

  test('are for people who may read the note', async () => {
    const note = await noteBy();
    expect(await codeOf(task(note, { to: 'stranger' }))).toBe('task_not_readable');
    await agree(note);
    expect(await codeOf(task(note, { to: 'stranger' }))).toBe('done');
  });
});

describe('a revision under a change note', () => {
  test('is needed, allowed or refused as the type says', async () => {
    const [note, a] = [await noteBy(), await inForce()];
    await changeRule('PRO', { changeNote: 'must' });
    expect(await codeOf(organisation.revise('author', a.number))).toBe('change_note_needed');
    expect(await codeOf(organisation.revise('author', a.number, { changeNote: a.number }))).toBe('not_a_change_note');
    await organisation.revise('author', a.number, { changeNote: note });
    await changeRule('PRO', { changeNote: 'never' });
    const b = await inForce();
    expect(await codeOf(organisation.revise('author', b.number, { changeNote: note }))).toBe('change_note_not_used');
    await changeRule('PRO', { changeNote: 'may' });
    const author = await organisation.as('author');
    const { use, notes } = await openChangeNotes(organisation.app, author, a.number);
    expect([use, notes[0]]).toMatchObject(['may', { number: note, namesIt: true }]);
    const [affected] = (await shown(note)).affected;
    expect(affected).toMatchObject({ number: a.number, standing: 'in work', way: 'revised', revision: { label: 'B' } });
    expect(await codeOf(removeAffected(organisation.app, author, note, a.id))).toBe('change_note_document_in_work');
  });

  test('is not released before the note is agreed and its tasks are done, and the preflight names both', async () => {
    const [note, a] = [await noteBy(), await inForce()];
    await organisation.revise('author', a.number, { changeNote: note });
    const id = await task(note, { before: 'release' });
    await approved(a.number);
    const controller = await organisation.as('controller');
    const codes = async () =>
      (await preflightFor(organisation.app, controller, a.number)).lines.flatMap((line) =>
        line.check === 'change note' && line.refusal ? [line.refusal.code] : [],
      );
    expect(await codes()).toEqual(['change_note_not_agreed', 'change_note_tasks_open']);
    expect(await codeOf(organisation.release('controller', a.number))).toBe('preflight_blocked');
    await agree(note);
    expect(await codes()).toEqual(['change_note_tasks_open']);
    await dropTask(organisation.app, await organisation.as('author'), note, id, { reason: 'Not needed' });
    expect(await codes()).toEqual([]);
    await organisation.release('controller', a.number);
  });

  test('closes with the note: once everything is in force, and nothing changes afterwards', async () => {
    const [note, a] = [await noteBy(), await inForce()];
    const author = await organisation.as('author');
    await organisation.revise('author', a.number, { changeNote: note });
    const close = () => closeNote(organisation.app, author, note, { result: 'Done' });
    expect(await codeOf(close())).toBe('change_note_not_agreed');
    await agree(note);
    expect((await shown(note)).open.map(({ code }) => code)).toEqual(['change_note_document_open']);
    expect(await codeOf(close())).toBe('change_note_document_open');
    await approved(a.number);
    await organisation.release('controller', a.number);
    await close();
    expect(await shown(note)).toMatchObject({ closed: { by: 'Author', result: 'Done' }, open: [], mayChange: false });
    expect(await codeOf(name(note, a.number))).toBe('change_note_closed');
    expect(await codeOf(organisation.revise('author', a.number, { changeNote: note }))).toBe('change_note_closed');
    expect((await organisation.verdict()).kind).toBe('intact');
  });
});

test('a note closed and a revision begun under it at once: one of them is refused', async () => {
  const author = await organisation.as('author');
  for (let i = 0; i < 6; i++) {
    const [note, a] = [await noteBy(), await inForce()];
    await agree(note);
    const outcomes = await Promise.all([
      codeOf(closeNote(organisation.app, author, note, { result: 'Done' })),
      codeOf(organisation.revise('author', a.number, { changeNote: note })),
    ]);
    const [closing, beginning] = outcomes;
    expect([
      ['done', 'change_note_closed'],
      ['change_note_document_open', 'done'],
    ]).toContainEqual([closing, beginning]);
  }
}, 60_000);

describe('a set', () => {
  test('of revisions begins under one note, all or none', async () => {
    const [note, a, b] = [await noteBy(), await inForce(), await inForce()];
    await organisation.revise('author', b.number);
    const author = await organisation.as('author');
    const begin = async (...numbers: string[]) =>
      reviseSet(organisation.app, author, {
        documents: await seenOf(...numbers),
        changeNote: note,
        changeKind: 'minor',
        reason: 'new limit',
      });
    const refused = await begin(a.number, b.number);
    expect(refused.done).toBe(false);
    expect(refused.documents.find((one) => one.number === b.number)?.refusals[0]?.code).toBe('revision_in_work');
    expect((await organisation.page('author', a.number)).work).toBeNull();
    const c = await inForce();
    expect((await begin(a.number, c.number)).done).toBe(true);
    expect((await shown(note)).affected.map((one) => one.standing)).toEqual(['in work', 'in work']);
  });

  test('is released at one instant, all or none, and says what stands against each', async () => {
    const [note, a, b] = [await noteBy(), await inForce(), await inForce()];
    for (const one of [a, b]) {
      await organisation.revise('author', one.number, { changeNote: note });
      await approved(one.number);
    }
    const controller = await organisation.as('controller');
    const releaseBoth = async () =>
      releaseSet(organisation.app, controller, { documents: await seenOf(a.number, b.number), on: null });
    const refused = await releaseBoth();
    expect(refused.done).toBe(false);
    expect(refused.documents.map((one) => one.refusals.map(({ code }) => code))).toEqual([
      ['preflight_blocked', 'change_note_not_agreed'],
      ['preflight_blocked', 'change_note_not_agreed'],
    ]);
    await agree(note);
    // One of them is taken back to draft: the other one stays approved.
    const seen = await seenOf(a.number, b.number);
    await rows(organisation.app.db, `update revisions set title = 'Forged' where document_id = :id and label = 'B'`, {
      id: b.id,
    });
    const partly = await releaseSet(organisation.app, controller, { documents: seen, on: null });
    expect(partly.done).toBe(false);
    expect(partly.documents.find((one) => one.number === a.number)?.refusals).toEqual([]);
    expect((await organisation.page('controller', a.number)).inForce?.label).toBe('A');
    await rows(
      organisation.app.db,
      `update revisions r set title = (select title from revisions where document_id = r.document_id and label = 'A') where document_id = :id and label = 'B'`,
      { id: b.id },
    );
    expect((await releaseBoth()).done).toBe(true);
    const [first, second] = [await organisation.page('reader', a.number), await organisation.page('reader', b.number)];
    expect([first.inForce?.label, second.inForce?.label]).toEqual(['B', 'B']);
    expect(first.inForce?.since).toBe(second.inForce?.since);
  });

  test('can be scheduled for one day; what was seen otherwise is refused', async () => {
    const [a, b] = [await inForce(), await inForce()];
    for (const one of [a, b]) {
      await organisation.revise('author', one.number);
      await approved(one.number);
    }
    const controller = await organisation.as('controller');
    const old = await seenOf(a.number, b.number);
    const on = '2027-01-04';
    expect((await releaseSet(organisation.app, controller, { documents: old, on })).done).toBe(true);
    for (const one of [a, b])
      expect((await organisation.page('controller', one.number)).revision).toMatchObject({
        state: 'scheduled',
        plannedOn: on,
      });
    const again = await releaseSet(organisation.app, controller, { documents: old, on });
    expect(again.documents[0]?.refusals[0]?.code).toBe('changed_meanwhile');
  });

  test('takes two that release the same documents one after the other, never half', async () => {
    const [a, b] = [await inForce(), await inForce()];
    for (const one of [a, b]) {
      await organisation.revise('author', one.number);
      await approved(one.number);
    }
    const controller = await organisation.as('controller');
    const members = await seenOf(a.number, b.number);
    const outcomes = await Promise.all([
      releaseSet(organisation.app, controller, { documents: members, on: null }),
      releaseSet(organisation.app, controller, { documents: [...members].reverse(), on: null }),
    ]);
    expect(outcomes.map((one) => one.done).sort()).toEqual([false, true]);
    for (const one of [a, b]) expect((await organisation.page('reader', one.number)).inForce?.label).toBe('B');
  });
});

describe('a note that is made while revising', () => {
  const newNote = (more: object = {}) => ({
    typeId: organisation.types.get('TWO') ?? '',
    folderId: organisation.folders.get('1') ?? '',
    title: 'Longer ropes',
    asked: 'Raise the limit to 14 kN',
    metadata: {},
    ...more,
  });

  test('is registered in the same command, with the document as affected by it', async () => {
    const { number } = await inForce();
    const open = await openChangeNotes(organisation.app, await organisation.as('author'), number);
    expect(open.types).toMatchObject([{ code: 'TWO', folder: { id: expect.any(String) } }]);
    await organisation.revise('author', number, { newNote: newNote() });
    const [note] = (await organisation.page('author', number)).changeNotes;
    expect(note).toMatchObject({ title: 'Longer ropes', isClosed: false });
    expect((await shown(note?.number ?? '')).affected).toMatchObject([
      { number, standing: 'in work', what: 'Raise the limit to 14 kN' },
    ]);
    const page = await organisation.page('author', note?.number ?? '');
    expect(page.versions[0]?.files.map(({ name }) => name)).toEqual([expect.stringMatching(/\.md$/)]);
  });

  test('is not made where the revision is refused, or its type is none of change notes', async () => {
    const { number } = await inForce();
    const count = async () => (await changeNotes(organisation.app, await organisation.as('author'))).notes.length;
    const before = await count();
    expect(
      await codeOf(
        organisation.revise('author', number, { newNote: newNote({ typeId: organisation.types.get('PRO') }) }),
      ),
    ).toBe('not_a_change_note');
    await organisation.revise('author', number);
    expect(await codeOf(organisation.revise('author', number, { newNote: newNote() }))).toBe('revision_in_work');
    expect(await count()).toBe(before);
    expect(await codeOf(organisation.revise('reader', number, { newNote: newNote() }))).toBe('right_missing');
  });
});
