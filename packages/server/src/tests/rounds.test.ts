import { Readable } from 'node:stream';
import { APPROVAL_BY_OWNER } from '@kanonos/core';
import { describe, expect, test } from 'vitest';
import { checkIn, checkOut } from '../features/authoring/service.ts';
import { addComment } from '../features/comments/service.ts';
import { takeUpload } from '../features/content/uploads.ts';
import { changeUnit } from '../features/people/service.ts';
import { decide, recall, resolveComment, submissionRoute, task } from '../features/rounds/service.ts';
import { addAbsence } from '../features/session/absences.ts';
import { changed, rows } from '../platform/db/connect.ts';
import { codeOf, PASSWORD } from './organisation.ts';
import { stepOf } from './steps.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();

describe('sending for review and approval', () => {
  test('a review, the owner’s signature and the authority’s make it approved, each signature intact', async () => {
    const { number } = await organisation.register('author');
    await organisation.submitAndReview(number);
    expect((await organisation.page('author', number)).revision.state).toBe('in approval');
    await organisation.decideAs('owner', number);
    await organisation.decideAs('authority', number);
    const page = await organisation.page('author', number);
    expect(page.revision.state).toBe('approved');
    const signatures = page.rounds[0]?.steps.flatMap((s) => s.assignments).flatMap((a) => a.signature ?? []);
    expect(signatures?.map((s) => [s.printedName, s.meaning, s.state])).toEqual([
      ['Owner', 'approved as owner', 'intact'],
      ['Authority', 'approved as authority', 'intact'],
    ]);
    const [mail] = await rows<{ subject: string }>(
      organisation.app.db,
      `select subject from mails where kind = 'round ended' and subject like :like`,
      { like: `${number}%` },
    );
    expect(mail?.subject).toBe(`${number} A is approved`);
  });

  test('an approver sees what the signature covers, as it was frozen', async () => {
    const { number } = await organisation.register('author', { text: '# Lubrication' });
    await organisation.submitAndReview(number);
    const [assignment] = (await organisation.page('controller', number)).rounds[0]?.steps[1]?.assignments ?? [];
    const shown = await task(organisation.app, await organisation.as('owner'), assignment?.id ?? '');
    expect(shown.covers?.files).toMatchObject([{ role: 'original', sha256: shown.version.files[0]?.sha256 }]);
    expect(shown.covers?.fields).toContainEqual({ label: 'Title', value: shown.title });
  });

  test('a rejection brings it back with the words, and sending again keeps the old run', async () => {
    const { number } = await organisation.register('author');
    await organisation.submit('author', number);
    expect(await codeOf(organisation.decideAs('reviewer', number, 'reject', ' '))).toBe('rejection_needs_comment');
    await organisation.decideAs('reviewer', number, 'reject', 'Table 2 lacks a row');
    const page = await organisation.page('author', number);
    expect(page.next).toMatchObject({ kind: 'finish', step: 'Table 2 lacks a row', mine: true });
    await organisation.submitAndReview(number);
    expect((await organisation.page('author', number)).rounds.map((r) => [r.n, r.state])).toEqual([
      [2, 'running'],
      [1, 'rejected'],
    ]);
  });

  test('a blocking comment holds approval up until it is resolved, and then the round moves on by itself', async () => {
    const { id, number } = await organisation.register('author');
    await organisation.submit('author', number);
    const page = await organisation.page('reviewer', number);
    const comment = await addComment(organisation.app, await organisation.as('reviewer'), id, {
      text: 'Name the role',
      blocking: true,
      quote: null,
      revisionId: page.revision.id,
    });
    await organisation.decideAs('reviewer', number, 'with comments', 'see comment');
    expect((await organisation.page('author', number)).rounds[0]).toMatchObject({
      state: 'held up',
      blockers: [{ code: 'blocking_comment' }],
    });
    await resolveComment(organisation.app, await organisation.as('reviewer'), id, comment.id, 'done');
    expect((await organisation.page('author', number)).revision.state).toBe('in approval');
  });

  test('recalling voids the signatures of the round, which stay on record', async () => {
    const { number } = await organisation.register('author');
    await organisation.submitAndReview(number);
    await organisation.decideAs('owner', number);
    await recall(organisation.app, await organisation.as('author'), number, { reason: 'wrong file', seen: '*' });
    const [run] = (await organisation.page('author', number)).rounds;
    expect(run?.steps.flatMap((s) => s.assignments).find((a) => a.signature)?.signature).toMatchObject({
      state: 'void',
      voidReason: 'recalled: wrong file',
    });
  });
});

describe('the route of a submission', () => {
  const routeFor = async (number: string, person = 'author') =>
    submissionRoute(organisation.app, await organisation.as(person), number);
  const setPolicy = (code: string, policy: object) =>
    rows(organisation.app.db, `update types set policy = policy || :policy::jsonb where code = :code`, {
      code,
      policy: JSON.stringify(policy),
    });

  test('names the people of each step beforehand, and leaves open who is chosen', async () => {
    const { number } = await organisation.register('author');
    const { steps } = await routeFor(number);
    expect(steps.map(({ name, people, chosenMinimum, problem }) => [name, people, chosenMinimum, problem])).toEqual([
      ['Review', [], 1, null],
      ['Owner', ['Owner'], null, null],
      ['Authority', ['Authority', 'Authority2'], null, null],
    ]);
    expect(await codeOf(routeFor(number, 'stranger'))).toBe('not_found');
  });

  test('is that of the kind of change', async () => {
    const { number } = await organisation.register('author');
    await organisation.toInForce(number);
    const short = {
      name: 'Owner alone',
      steps: [{ ...APPROVAL_BY_OWNER, name: 'Owner', workingDays: 1 }],
    };
    await setPolicy('PRO', { routes: { minor: short } });
    await organisation.revise('author', number, { changeKind: 'minor', reason: 'A word' });
    expect(await routeFor(number)).toMatchObject({
      name: 'Owner alone',
      changeKind: 'minor',
      steps: [{ name: 'Owner', people: ['Owner'] }],
    });
    await setPolicy('PRO', { routes: {} });
  });

  test('asks the fallback approver of the department where nobody is found, before that of the organisation', async () => {
    const { number } = await organisation.register('author', { type: 'TWO', department: 'eng' });
    await rows(organisation.app.db, `update memberships set to_day = '2026-11-24' where ref_id = :unit`, {
      unit: organisation.units.get('ta'),
    });
    const [unfilled] = (await routeFor(number)).steps;
    expect(unfilled?.problem).toContain('Both');
    const admin = await organisation.as('admin');
    const change = (unit: string, approver: string | null) =>
      changeUnit(organisation.app, admin, organisation.units.get(unit) ?? '', {
        name: 'Engineering',
        fallbackApproverId: approver && (organisation.ids[approver] ?? ''),
      });
    expect(await codeOf(change('ta', 'owner'))).toBe('unit_unknown');
    await change('eng', 'owner');
    expect((await routeFor(number)).steps[0]).toMatchObject({ people: ['Owner'], problem: null });
    await rows(organisation.app.db, `update people set state = 'deactivated' where id = :id`, {
      id: organisation.ids.owner,
    });
    expect((await routeFor(number)).steps[0]?.people).toEqual([]);
    expect(await codeOf(change('eng', 'owner'))).toBe('person_inactive');
    await rows(organisation.app.db, `update people set state = 'active' where id = :id`, {
      id: organisation.ids.owner,
    });
    await change('eng', null);
    await rows(organisation.app.db, `update memberships set to_day = null where ref_id = :unit`, {
      unit: organisation.units.get('ta'),
    });
  });
});

describe('signing', () => {
  test('is refused with a wrong password, another’s name, another digest, or when the content is altered', async () => {
    const { number } = await organisation.register('author');
    await organisation.submitAndReview(number);
    const page = await organisation.page('controller', number);
    const assignment = page.rounds[0]?.steps[1]?.assignments[0];
    const owner = await organisation.as('owner');
    const input = {
      decision: 'approve' as const,
      comment: '',
      name: 'owner',
      password: PASSWORD,
      digest: page.rounds[0]?.digest ?? null,
      version: 1,
    };
    expect(await codeOf(decide(organisation.app, owner, assignment?.id ?? '', { ...input, password: 'wrong' }))).toBe(
      'signing_wrong',
    );
    expect(await codeOf(decide(organisation.app, owner, assignment?.id ?? '', { ...input, name: 'author' }))).toBe(
      'signing_wrong',
    );
    expect(await codeOf(decide(organisation.app, owner, assignment?.id ?? '', { ...input, name: null }))).toBe(
      'signing_needs_name',
    );
    expect(
      await codeOf(decide(organisation.app, owner, assignment?.id ?? '', { ...input, digest: 'f'.repeat(64) })),
    ).toBe('record_changed');
    expect(await codeOf(decide(organisation.app, await organisation.as('stranger'), assignment?.id ?? '', input))).toBe(
      'not_found',
    );
    await organisation.openFiles('owner', number);
    expect(await codeOf(decide(organisation.app, owner, assignment?.id ?? '', input))).toBe('done');
    expect(await codeOf(decide(organisation.app, owner, assignment?.id ?? '', input))).toBe('already_decided');
    const refusedEvents = await rows<{ n: number }>(
      organisation.app.db,
      `select count(*)::int as n from events where kind = 'signing.refused'`,
    );
    expect(refusedEvents[0]?.n).toBe(4);
  });

  test('five wrong tries lock signing for 15 minutes and tell security at once', async () => {
    const { number } = await organisation.register('author', { owner: 'author2' });
    await organisation.submitAndReview(number);
    const page = await organisation.page('controller', number);
    const assignment = page.rounds[0]?.steps[1]?.assignments[0]?.id ?? '';
    const viewer = await organisation.as('author2');
    await organisation.openFiles('author2', number);
    const input = {
      decision: 'approve' as const,
      comment: '',
      name: 'author2',
      password: 'wrong',
      digest: page.rounds[0]?.digest ?? null,
      version: 1,
    };
    for (let i = 0; i < 5; i++)
      expect(await codeOf(decide(organisation.app, viewer, assignment, input))).toBe('signing_wrong');
    expect(await codeOf(decide(organisation.app, viewer, assignment, { ...input, password: PASSWORD }))).toBe(
      'signing_locked',
    );
    const mails = await rows<{ address: string }>(
      organisation.app.db,
      `select address from mails where kind = 'security'`,
    );
    expect(mails.map((m) => m.address)).toEqual(['admin@test.example']);
    organisation.clock.now = new Date(organisation.clock.now.getTime() + 16 * 60_000);
    expect(await codeOf(decide(organisation.app, viewer, assignment, { ...input, password: PASSWORD }))).toBe('done');
  });

  test('somebody is never the only approver of their own work, and signs one approval step at most', async () => {
    const own = await organisation
      .register('authority', { type: 'PRO', owner: 'authority' })
      .catch((error: unknown) => error);
    expect(own).toBeInstanceOf(Error);
    const { number } = await organisation.register('author', { owner: 'authority' });
    await organisation.submitAndReview(number);
    await organisation.decideAs('authority', number);
    expect(await codeOf(organisation.decideAs('authority', number))).toBe('signs_one_step_only');
    await organisation.decideAs('authority2', number);
    expect((await organisation.page('author', number)).revision.state).toBe('approved');
  });

  test('two approvers at the same moment both count and the round ends once', async () => {
    const { number } = await organisation.register('author', { type: 'TWO' });
    await organisation.submit('author', number, { chosen: [] });
    await Promise.all([organisation.decideAs('authority', number), organisation.decideAs('authority2', number)]);
    const page = await organisation.page('author', number);
    expect(page.revision.state).toBe('approved');
    expect(page.rounds[0]?.steps[0]?.assignments.map((a) => a.state)).toEqual(['answered', 'answered']);
    const ends = await rows<{ n: number }>(
      organisation.app.db,
      `select count(*)::int as n from events where kind = 'revision.approved' and document_id = :id`,
      { id: page.id },
    );
    expect(ends[0]?.n).toBe(1);
  });

  test('deputy and principal at once: one counts, in the deputy’s own name', async () => {
    await addAbsence(organisation.app, await organisation.as('owner'), {
      from: '2026-11-25',
      to: '2026-11-30',
      deputyId: organisation.ids.authority2 ?? null,
    });
    const { number } = await organisation.register('author');
    await organisation.submitAndReview(number);
    const page = await organisation.page('controller', number);
    const assignment = page.rounds[0]?.steps[1]?.assignments[0]?.id ?? '';
    await organisation.openFiles('owner', number);
    await organisation.openFiles('authority2', number);
    const attempt = async (name: string) =>
      codeOf(
        decide(organisation.app, await organisation.as(name), assignment, {
          decision: 'approve',
          comment: '',
          name,
          password: PASSWORD,
          digest: page.rounds[0]?.digest ?? null,
          version: 1,
        }),
      );
    const outcomes = await Promise.all([attempt('owner'), attempt('authority2')]);
    expect([...outcomes].sort()).toEqual(['already_decided', 'done']);
    const after = (await organisation.page('controller', number)).rounds[0]?.steps[1]?.assignments[0];
    expect(after?.decidedBy?.name).toBe(outcomes[0] === 'done' ? 'Owner' : 'Authority2');
    expect(after?.signature?.forPerson).toBe(outcomes[0] === 'done' ? null : 'Owner');
  });

  test('a signature is shown as altered when the rows no longer match what was signed', async () => {
    const { id, number } = await organisation.register('author');
    await organisation.submitAndReview(number);
    await organisation.decideAs('owner', number);
    await changed(organisation.app.db, `update revisions set title = 'Forged' where document_id = :id`, { id });
    const signature = (await organisation.page('author', number)).rounds[0]?.steps[1]?.assignments[0]?.signature;
    expect(signature?.state).toBe('altered');
  });
});

describe('a check-in during the review', () => {
  const review = (name: string, people: string[], editing = false) =>
    stepOf(organisation, name, people, editing ? { editing } : {});
  /** Submits on a route of two reviews, of which the second may check in; the first reviewer and one of the second have decided. */
  const halfway = async (route: object = {}, first: object = {}) => {
    const steps = [{ ...review('Check', ['reviewer']), ...first }, review('Edit', ['author2', 'authority2'], true)];
    const [type] = await rows<{ route: { steps: { kind: string }[] } }>(
      organisation.app.db,
      `select route from types where code = 'PRO'`,
    );
    const approvals = type?.route.steps.filter(({ kind }) => kind === 'approval') ?? [];
    await rows(organisation.app.db, `update types set route = :route::jsonb where code = 'PRO'`, {
      route: JSON.stringify({ name: 'with editing', steps: [...steps, ...approvals], ...route }),
    });
    const document = await organisation.register('author');
    await organisation.submit('author', document.number, { chosen: [] });
    await organisation.decideAs('reviewer', document.number, 'no objection');
    await organisation.decideAs('authority2', document.number, 'no objection');
    return document;
  };
  const checkInAs = async (person: string, id: string) => {
    const viewer = await organisation.as(person);
    await checkOut(organisation.app, viewer, id, { seen: '*', note: '', expectedBack: null });
    const bytes = Readable.from([Buffer.from(`# ${person} ${crypto.randomUUID()}`)]);
    const upload = await takeUpload(organisation.app, viewer, 'edited.md', bytes);
    await checkIn(organisation.app, viewer, id, { seen: '*', uploadId: upload.id, note: 'edited' });
  };
  const stateOf = async (number: string) =>
    (await organisation.page('controller', number)).rounds[0]?.steps
      .slice(0, 2)
      .map((step) => [step.name, step.assignments.map((a) => [a.person.name, a.state])]);

  test('asks those who have decided again, from the first of their steps on', async () => {
    const { id, number } = await halfway();
    await checkInAs('author2', id);
    expect(await stateOf(number)).toEqual([
      ['Check', [['Reviewer', 'open']]],
      [
        'Edit',
        [
          ['Author2', 'waiting'],
          ['Authority2', 'waiting'],
        ],
      ],
    ]);
    const [event] = await rows<{ text: string }>(
      organisation.app.db,
      `select text from events where kind = 'round.asked-again' order by seq desc limit 1`,
    );
    expect(JSON.parse(event?.text ?? '{}').payload).toEqual({
      round: 1,
      version: 2,
      step: 'Check',
      people: ['Reviewer', 'Authority2'],
    });
    await organisation.decideAs('reviewer', number, 'no objection');
    await organisation.decideAs('author2', number, 'no objection');
    await organisation.decideAs('authority2', number, 'no objection');
    expect((await organisation.page('controller', number)).revision.state).toBe('in approval');
  });

  test('leaves those of a step that keeps its decisions, and asks the others again', async () => {
    const { id, number } = await halfway({}, { keepsDecisions: true });
    await checkInAs('author2', id);
    expect(await stateOf(number)).toEqual([
      ['Check', [['Reviewer', 'answered']]],
      [
        'Edit',
        [
          ['Author2', 'open'],
          ['Authority2', 'open'],
        ],
      ],
    ]);
    await organisation.decideAs('author2', number, 'no objection');
    await organisation.decideAs('authority2', number, 'no objection');
    const page = await organisation.page('controller', number);
    expect(page.revision.state).toBe('in approval');
    expect(page.rounds[0]?.steps[0]?.assignments[0]).toMatchObject({ state: 'answered', onVersion: 1 });
  });

  test('leaves them where the route keeps decisions, each with the version that it was given on', async () => {
    const { id, number } = await halfway({ keepsDecisions: true });
    await checkInAs('author2', id);
    expect(await stateOf(number)).toEqual([
      ['Check', [['Reviewer', 'answered']]],
      [
        'Edit',
        [
          ['Author2', 'open'],
          ['Authority2', 'answered'],
        ],
      ],
    ]);
    const page = await organisation.page('controller', number);
    expect(page.rounds[0]?.steps[0]?.assignments[0]?.onVersion).toBe(1);
  });
});
