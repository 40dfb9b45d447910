import { beforeAll, describe, expect, test } from 'vitest';
import { closeNote } from '../features/changes/commands.ts';
import { changeAffected } from '../features/changes/index.ts';
import { answerRequest, changeRequests, requestFile, suggestChange } from '../features/changes/requests.ts';
import { changeNote } from '../features/changes/service.ts';
import { desk } from '../features/desk/service.ts';
import { changeType, typeDetail } from '../features/rules/types.ts';
import { rows } from '../platform/db/connect.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();
beforeAll(async () => {
  const id = organisation.types.get('TWO') ?? '';
  const { rule, rowVersion } = await typeDetail(organisation.app, id);
  await changeType(organisation.app, await organisation.as('admin'), id, {
    rule: { ...rule, isChangeNote: true },
    reason: 'change notes',
    rowVersion,
    from: null,
    fill: [],
  });
});

const inForce = async () => {
  const { id, number } = await organisation.register('author');
  await organisation.toInForce(number);
  return { id, number };
};
const suggest = async (as: string, number: string, more: { uploadId?: string } = {}) =>
  suggestChange(organisation.app, await organisation.as(as), number, {
    place: 'Table 2',
    what: 'The limit is not readable',
    proposal: '14 kN',
    uploadId: null,
    ...more,
  });
const answer = async (
  as: string,
  id: string,
  given: { answer: 'reject' | 'merge' | 'note'; into?: string; words?: string },
) => answerRequest(organisation.app, await organisation.as(as), id, { words: '', into: null, ...given });
const shownTo = async (as: string) => (await changeRequests(organisation.app, await organisation.as(as))).requests;
const mailsTo = async (person: string, like: string) =>
  (
    await rows<{ subject: string }>(
      organisation.app.db,
      'select subject from mails where person_id = :person and subject like :like',
      { person: organisation.ids[person] ?? '', like },
    )
  ).map(({ subject }) => subject);

describe('a change request', () => {
  test('comes from any reader, has a number, and reaches the owner and document control', async () => {
    const { number } = await inForce();
    const sent = await suggest('reader', number);
    expect(sent.number).toMatch(/^CR-\d{4}-\d{4}$/);
    const seen = (await shownTo('owner')).find((one) => one.id === sent.id);
    expect(seen).toMatchObject({ document: { number }, label: 'A', place: 'Table 2', state: 'open', mayAnswer: true });
    expect((await shownTo('controller')).some((one) => one.id === sent.id && one.mayAnswer)).toBe(true);
    expect((await shownTo('reader')).find((one) => one.id === sent.id)).toMatchObject({ mine: true, mayAnswer: false });
    // Nobody else sees it.
    expect((await shownTo('author2')).some((one) => one.id === sent.id)).toBe(false);
    const rowsOfOwner = (await desk(organisation.app, await organisation.as('owner'))).rows;
    expect(rowsOfOwner.find((row) => row.id === sent.id)).toMatchObject({ kind: 'request', number });
    expect(await mailsTo('owner', `A change of ${number}%`)).toHaveLength(1);
  });

  test('is about what one may read', async () => {
    const draft = await organisation.register('author');
    expect(await codeOf(suggest('reader', draft.number))).toBe('not_found');
    expect((await suggest('author', draft.number)).number).toMatch(/^CR-/);
  });

  test('keeps its file, for whoever sent it and whoever answers it', async () => {
    const { number } = await inForce();
    const uploadId = await organisation.upload('reader', 'a photograph', 'table.txt');
    const { id } = await suggest('reader', number, { uploadId });
    for (const person of ['reader', 'owner'])
      expect((await requestFile(organisation.app, await organisation.as(person), id)).name).toBe('table.txt');
    expect(await codeOf(requestFile(organisation.app, await organisation.as('author2'), id))).toBe('not_found');
  });

  test('is rejected with a reason, once, and its sender is told', async () => {
    const { number } = await inForce();
    const { id, number: request } = await suggest('reader', number);
    expect(await codeOf(answer('author2', id, { answer: 'reject', words: 'x' }))).toBe('right_missing');
    expect(await codeOf(answer('owner', id, { answer: 'reject' }))).toBe('reason_missing');
    await answer('owner', id, { answer: 'reject', words: 'It is readable in the PDF' });
    expect((await shownTo('reader')).find((one) => one.id === id)).toMatchObject({
      state: 'rejected',
      answer: 'It is readable in the PDF',
    });
    expect(await mailsTo('reader', `Your suggestion ${request} was rejected`)).toHaveLength(1);
    expect(await codeOf(answer('controller', id, { answer: 'reject', words: 'x' }))).toBe('request_answered');
  });

  test('becomes part of a note, with those merged into it; all senders are told when the note is closed', async () => {
    const [{ id, number }, other] = [await inForce(), await inForce()];
    const note = (await organisation.register('author', { type: 'TWO' })).number;
    const first = await suggest('reader', number);
    const second = await suggest('reviewer', number);
    const elsewhere = await suggest('reader', other.number);
    expect(await codeOf(answer('controller', second.id, { answer: 'merge', into: elsewhere.number }))).toBe(
      'request_merge_other',
    );
    expect(await codeOf(answer('controller', first.id, { answer: 'note', into: number }))).toBe('not_a_change_note');
    await answer('controller', first.id, { answer: 'note', into: note });
    await answer('controller', second.id, { answer: 'merge', into: first.number });
    const author = await organisation.as('author');
    const { affected } = await changeNote(organisation.app, author, note);
    expect(affected).toMatchObject([{ number, what: 'The limit is not readable', standing: 'not begun' }]);
    await changeAffected(organisation.app, author, note, id, { what: '', noChangeReason: 'Printed larger' });
    await organisation.submit('author', note, { chosen: [] });
    await organisation.decideAs('authority', note);
    await organisation.decideAs('authority2', note);
    await organisation.release('controller', note);
    await closeNote(organisation.app, author, note, { result: 'Printed larger' });
    for (const person of ['reader', 'reviewer']) expect(await mailsTo(person, `${note} is closed`)).toHaveLength(1);
    expect((await organisation.verdict()).kind).toBe('intact');
  });

  test('numbers are counted without a gap when many send at once, and two answers are one', async () => {
    const { number } = await inForce();
    const sent = await Promise.all(['reader', 'author', 'owner', 'reviewer'].map((person) => suggest(person, number)));
    const counted = sent.map((one) => Number(one.number.slice(-4))).sort((a, b) => a - b);
    expect(counted.map((n) => n - (counted[0] ?? 0))).toEqual([0, 1, 2, 3]);
    const id = sent[0]?.id ?? '';
    const outcomes = await Promise.all(
      ['owner', 'controller'].map((person) => codeOf(answer(person, id, { answer: 'reject', words: 'no' }))),
    );
    expect(outcomes.sort()).toEqual(['done', 'request_answered']);
  });
});
