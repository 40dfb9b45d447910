import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { addComment } from '../features/comments/service.ts';
import { callBack, decide, resolveComment, send } from '../features/runs/service.ts';
import { addAbsence } from '../features/session/service.ts';
import { changed, rows } from '../platform/db/connect.ts';
import { codeOf, openHouse, PASSWORD, type TestHouse } from './house.ts';

let house: TestHouse;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close());

describe('sending for review and approval', () => {
  test('a review, the owner’s signature and the authority’s make it approved, each signature intact', async () => {
    const { number } = await house.register('author');
    await house.sendAndReview(number);
    expect((await house.page('author', number)).revision.state).toBe('in approval');
    await house.decideAs('owner', number);
    await house.decideAs('authority', number);
    const page = await house.page('author', number);
    expect(page.revision.state).toBe('approved');
    const signatures = page.runs[0]?.steps.flatMap((s) => s.assignments).flatMap((a) => a.signature ?? []);
    expect(signatures?.map((s) => [s.printedName, s.meaning, s.state])).toEqual([
      ['Owner', 'approved as owner', 'intact'],
      ['Authority', 'approved as authority', 'intact'],
    ]);
    const [mail] = await rows<{ subject: string }>(
      house.app.db,
      `select subject from mails where kind = 'run end' and subject like :like`,
      { like: `${number}%` },
    );
    expect(mail?.subject).toBe(`${number} A is approved`);
  });

  test('a decline brings it back with the words, and sending again keeps the old run', async () => {
    const { number } = await house.register('author');
    await send(house.app, await house.as('author'), number, { message: '', chosen: [house.ids.reviewer ?? ''] });
    expect(await codeOf(house.decideAs('reviewer', number, 'decline', ' '))).toBe('decline_needs_words');
    await house.decideAs('reviewer', number, 'decline', 'Table 2 lacks a row');
    const page = await house.page('author', number);
    expect(page.next).toMatchObject({ kind: 'finish', step: 'Table 2 lacks a row', mine: true });
    await house.sendAndReview(number);
    expect((await house.page('author', number)).runs.map((r) => [r.n, r.state])).toEqual([
      [2, 'running'],
      [1, 'declined'],
    ]);
  });

  test('a blocking comment holds approval up until it is resolved, and then the run moves on by itself', async () => {
    const { id, number } = await house.register('author');
    await send(house.app, await house.as('author'), number, { message: '', chosen: [house.ids.reviewer ?? ''] });
    const page = await house.page('reviewer', number);
    const comment = await addComment(house.app, await house.as('reviewer'), id, {
      text: 'Name the role',
      blocking: true,
      quote: null,
      revisionId: page.revision.id,
    });
    await house.decideAs('reviewer', number, 'with comments', 'see comment');
    expect((await house.page('author', number)).runs[0]).toMatchObject({
      state: 'held up',
      hindrances: [{ code: 'blocking_comment' }],
    });
    await resolveComment(house.app, await house.as('reviewer'), id, comment.id, 'done');
    expect((await house.page('author', number)).revision.state).toBe('in approval');
  });

  test('calling back voids the signatures of the run, which stay on record', async () => {
    const { number } = await house.register('author');
    await house.sendAndReview(number);
    await house.decideAs('owner', number);
    await callBack(house.app, await house.as('author'), number, 'wrong file');
    const [run] = (await house.page('author', number)).runs;
    expect(run?.steps.flatMap((s) => s.assignments).find((a) => a.signature)?.signature).toMatchObject({
      state: 'void',
      voidReason: 'called back: wrong file',
    });
  });
});

describe('signing', () => {
  test('is refused with a wrong password, another’s name, another digest, or when the content is altered', async () => {
    const { number } = await house.register('author');
    await house.sendAndReview(number);
    const page = await house.page('controller', number);
    const asked = page.runs[0]?.steps[1]?.assignments[0];
    const owner = await house.as('owner');
    const input = {
      decision: 'approve' as const,
      words: '',
      name: 'owner',
      password: PASSWORD,
      digest: page.runs[0]?.digest ?? null,
      version: 1,
    };
    expect(await codeOf(decide(house.app, owner, asked?.id ?? '', { ...input, password: 'wrong' }))).toBe(
      'signing_wrong',
    );
    expect(await codeOf(decide(house.app, owner, asked?.id ?? '', { ...input, name: 'author' }))).toBe('signing_wrong');
    expect(await codeOf(decide(house.app, owner, asked?.id ?? '', { ...input, name: null }))).toBe(
      'signing_needs_name',
    );
    expect(await codeOf(decide(house.app, owner, asked?.id ?? '', { ...input, digest: 'f'.repeat(64) }))).toBe(
      'record_changed',
    );
    expect(await codeOf(decide(house.app, await house.as('stranger'), asked?.id ?? '', input))).toBe('not_found');
    await house.openFiles('owner', number);
    expect(await codeOf(decide(house.app, owner, asked?.id ?? '', input))).toBe('done');
    expect(await codeOf(decide(house.app, owner, asked?.id ?? '', input))).toBe('already_decided');
    const refusedEvents = await rows<{ n: number }>(
      house.app.db,
      `select count(*)::int as n from events where kind = 'signing.refused'`,
    );
    expect(refusedEvents[0]?.n).toBe(4);
  });

  test('five wrong tries lock signing for 15 minutes and tell security at once', async () => {
    const { number } = await house.register('author', { owner: 'author2' });
    await house.sendAndReview(number);
    const page = await house.page('controller', number);
    const asked = page.runs[0]?.steps[1]?.assignments[0]?.id ?? '';
    const viewer = await house.as('author2');
    await house.openFiles('author2', number);
    const input = {
      decision: 'approve' as const,
      words: '',
      name: 'author2',
      password: 'wrong',
      digest: page.runs[0]?.digest ?? null,
      version: 1,
    };
    for (let i = 0; i < 5; i++) expect(await codeOf(decide(house.app, viewer, asked, input))).toBe('signing_wrong');
    expect(await codeOf(decide(house.app, viewer, asked, { ...input, password: PASSWORD }))).toBe('signing_locked');
    const mails = await rows<{ address: string }>(house.app.db, `select address from mails where kind = 'security'`);
    expect(mails.map((m) => m.address)).toEqual(['admin@test.example']);
    house.clock.now = new Date(house.clock.now.getTime() + 16 * 60_000);
    expect(await codeOf(decide(house.app, viewer, asked, { ...input, password: PASSWORD }))).toBe('done');
  });

  test('somebody is never the only approver of their own work, and signs one approval step at most', async () => {
    const own = await house.register('authority', { type: 'PRO', owner: 'authority' }).catch((error: unknown) => error);
    expect(own).toBeInstanceOf(Error);
    const { number } = await house.register('author', { owner: 'authority' });
    await house.sendAndReview(number);
    await house.decideAs('authority', number);
    expect(await codeOf(house.decideAs('authority', number))).toBe('signs_one_step_only');
    await house.decideAs('authority2', number);
    expect((await house.page('author', number)).revision.state).toBe('approved');
  });

  test('two approvers at the same moment both count and the run ends once', async () => {
    const { number } = await house.register('author', { type: 'TWO' });
    await send(house.app, await house.as('author'), number, { message: '', chosen: [] });
    await Promise.all([house.decideAs('authority', number), house.decideAs('authority2', number)]);
    const page = await house.page('author', number);
    expect(page.revision.state).toBe('approved');
    expect(page.runs[0]?.steps[0]?.assignments.map((a) => a.state)).toEqual(['answered', 'answered']);
    const ends = await rows<{ n: number }>(
      house.app.db,
      `select count(*)::int as n from events where kind = 'revision.approved' and document_id = :id`,
      { id: page.id },
    );
    expect(ends[0]?.n).toBe(1);
  });

  test('deputy and principal at once: one counts, in the deputy’s own name', async () => {
    await addAbsence(house.app, await house.as('owner'), {
      from: '2026-11-25',
      to: '2026-11-30',
      deputyId: house.ids.authority2 ?? null,
    });
    const { number } = await house.register('author');
    await house.sendAndReview(number);
    const page = await house.page('controller', number);
    const asked = page.runs[0]?.steps[1]?.assignments[0]?.id ?? '';
    await house.openFiles('owner', number);
    await house.openFiles('authority2', number);
    const attempt = async (name: string) =>
      codeOf(
        decide(house.app, await house.as(name), asked, {
          decision: 'approve',
          words: '',
          name,
          password: PASSWORD,
          digest: page.runs[0]?.digest ?? null,
          version: 1,
        }),
      );
    const outcomes = await Promise.all([attempt('owner'), attempt('authority2')]);
    expect([...outcomes].sort()).toEqual(['already_decided', 'done']);
    const after = (await house.page('controller', number)).runs[0]?.steps[1]?.assignments[0];
    expect(after?.decidedBy?.name).toBe(outcomes[0] === 'done' ? 'Owner' : 'Authority2');
    expect(after?.signature?.forPerson).toBe(outcomes[0] === 'done' ? null : 'Owner');
  });

  test('a signature says altered when what was signed is no longer what the rows hold', async () => {
    const { id, number } = await house.register('author');
    await house.sendAndReview(number);
    await house.decideAs('owner', number);
    await changed(house.app.db, `update revisions set title = 'Forged' where document_id = :id`, { id });
    const signature = (await house.page('author', number)).runs[0]?.steps[1]?.assignments[0]?.signature;
    expect(signature?.state).toBe('altered');
  });
});
