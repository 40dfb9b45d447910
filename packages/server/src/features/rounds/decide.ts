import type { AnswerOf, api, BodyOf } from '@kanonos/contract';
import { sentenceOf } from '@kanonos/contract';
import { type Decision, dayOf, type Refusal, refusal } from '@kanonos/core';
import { workAddress } from '../../platform/addresses.ts';
import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Trx } from '../../platform/db/connect.ts';
import { assertAllowed, RefusalError, refused } from '../../platform/refused.ts';
import type { HandlerOf, Viewer } from '../access/index.ts';
import { type DocumentRow, findDocument, runCommand, subjectOf } from '../documents/index.ts';
import { notify } from '../mailing/index.ts';
import { findRevision, type RevisionRow } from '../revisions/index.ts';
import {
  type CheckedSigning,
  type Credentials,
  checkSigning,
  ensureAllOpened,
  getRecord,
  type Signed,
  sign,
} from '../signing/index.ts';
import { type Assigned, answerRefusals, openAssignment } from './assignment.ts';
import { advance } from './progress.ts';
import * as store from './store.ts';

type Given = Pick<BodyOf<typeof api.tasks.decide>, 'decision' | 'comment' | 'version'>;

/** A person's decision, to be read after the name. */
const SAID: Record<Decision, string> = {
  'no objection': 'has no objection',
  'with comments': 'has comments',
  done: 'completed the task',
  approve: 'approved',
  reject: 'rejected',
};

/** Informs the submitter of another person's decision. */
const tellAuthor = async (
  app: App,
  work: UnitOfWork,
  viewer: Viewer,
  {
    document,
    revision,
    assigned,
    asDeputy,
  }: { document: DocumentRow; revision: RevisionRow; assigned: Assigned; asDeputy: boolean },
  input: Given,
) => {
  if (assigned.round.started_by === viewer.id) return;
  await notify(app, work, [assigned.round.started_by], {
    kind: 'decision',
    about: document.id,
    subject: `${document.number} ${revision.label}: ${viewer.name} ${SAID[input.decision]}`,
    lead: `${viewer.name} ${SAID[input.decision]} in the step “${assigned.step.name}”${asDeputy ? ` as deputy of ${assigned.assignment.person_name}` : ''}.`,
    ...(input.comment ? { quote: input.comment } : {}),
    link: { path: workAddress(document.number), label: 'Open the document' },
  });
};

const assertMayDecide = async (
  db: App['db'] | Trx,
  viewer: Viewer,
  assigned: Assigned,
  { decision, comment }: Given,
): Promise<void> =>
  assertAllowed(
    (await answerRefusals(db, assigned, viewer, decision, comment)).map((r) =>
      r.code === 'already_decided' && assigned.assignment.decided_by_name
        ? refusal(r.code, { who: assigned.assignment.decided_by_name })
        : r,
    ),
  );

const signsWith = ({ step }: Assigned, { decision }: Given): boolean =>
  step.kind === 'approval' && decision === 'approve';

const openBefore = async (app: App, viewer: Viewer, id: string, given: Given): Promise<Assigned> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const before = await openAssignment(app.db, viewer, id, day);
  await assertMayDecide(app.db, viewer, before, given);
  return before;
};

const checkCredentials = async (
  app: App,
  viewer: Viewer,
  { round }: Assigned,
  credentials: Credentials,
  seen: readonly (string | null)[],
): Promise<CheckedSigning> => {
  const [document, revision] = [
    await findDocument(app.db, round.document_id),
    await findRevision(app.db, round.revision_id),
  ];
  if (!document || !revision) throw refused('record_changed');
  return checkSigning(app, viewer, credentials, seen, [document, revision]);
};

/** Decides in a step; approving signs. The first decision on an assignment closes it, by deputy or principal. */
export const decide: HandlerOf<typeof api.tasks.decide> = async (app, viewer, id, input) => {
  const before = await openBefore(app, viewer, id, input);
  const checked = signsWith(before, input)
    ? await checkCredentials(app, viewer, before, { name: input.name, password: input.password }, [input.digest])
    : undefined;
  return commit(app, viewer, before, input, checked);
};

/**
 * Decides in several steps with one password: each decision is its own command, and each signature is bound to its own record. What is
 * refused of them is named and left open; nothing is done where the password is wrong.
 */
export const decideSeveral = async (
  app: App,
  viewer: Viewer,
  { decisions, name, password }: BodyOf<typeof api.tasks.decideSeveral>,
): Promise<AnswerOf<typeof api.tasks.decideSeveral>> => {
  const { zone } = await app.organisation();
  const answer: AnswerOf<typeof api.tasks.decideSeveral> = { decided: 0, signed: 0, refused: [] };
  const tryOne = async <T>(assignment: string, work: () => Promise<T>): Promise<T | undefined> => {
    try {
      return await work();
    } catch (error) {
      if (!(error instanceof RefusalError)) throw error;
      const reasons = error.refusals.map((one: Refusal) => sentenceOf(one.code, one.params, zone));
      answer.refused.push({ assignment, reasons });
      return undefined;
    }
  };
  const ready: { before: Assigned; given: (typeof decisions)[number] }[] = [];
  for (const given of decisions) {
    const before = await tryOne(given.assignment, async () => {
      const found = await openBefore(app, viewer, given.assignment, given);
      if (found.round.definition.decidedAlone) throw refused('decided_alone');
      await ensureAllOpened(app.db, viewer, found.round.document_id, found.round.revision_id);
      return found;
    });
    if (before) ready.push({ before, given });
  }
  const signing = ready.filter(({ before, given }) => signsWith(before, given));
  const checked = signing[0]
    ? await checkCredentials(
        app,
        viewer,
        signing[0].before,
        { name, password },
        signing.map(({ given }) => given.digest),
      )
    : undefined;
  for (const { before, given } of ready) {
    const done = await tryOne(given.assignment, () => commit(app, viewer, before, given, checked));
    if (done) answer.decided++;
    if (done && signsWith(before, given)) answer.signed++;
  }
  return answer;
};

/** Writes a decision under the lock of its document and round. */
const commit = (
  app: App,
  viewer: Viewer,
  before: Assigned,
  input: Given,
  checked: CheckedSigning | undefined,
): Promise<AnswerOf<typeof api.tasks.decide>> => {
  const { id } = before.assignment;
  return runCommand(app, viewer, { document: before.round.document_id }, async (work) => {
    await store.lockRound(work.trx, before.round.id);
    const assigned = await openAssignment(work.trx, viewer, id, work.day);
    await assertMayDecide(work.trx, viewer, assigned, input);
    const document = await findDocument(work.trx, assigned.round.document_id);
    const revision = await findRevision(work.trx, assigned.round.revision_id);
    if (!document || !revision) throw refused('not_found');
    if (input.version !== revision.version_count) throw refused('changed_meanwhile');
    const done = await store.answer(work.trx, {
      id,
      decision: input.decision,
      comment: input.comment,
      now: work.now,
      by: viewer.id,
      version: revision.version_count,
    });
    if (done === 0) throw refused('already_decided');
    const asDeputy = assigned.assignment.person_id !== viewer.id;
    let signed: Signed | undefined;
    if (signsWith(assigned, input)) {
      const record = assigned.round.record_id ? await getRecord(work.trx, assigned.round.record_id) : undefined;
      if (!record) throw refused('record_changed');
      signed = await sign(app, work, viewer, {
        record,
        checked,
        meaning: assigned.step.meaning ?? assigned.step.name,
        forPersonId: asDeputy ? assigned.assignment.person_id : null,
        assignmentId: id,
      });
    }
    work.record({
      kind: 'decision.given',
      subject: subjectOf(document, revision),
      ...(asDeputy ? { for: assigned.assignment.person_name } : {}),
      payload: {
        round: assigned.round.n,
        step: assigned.step.name,
        decision: input.decision,
        comment: input.comment,
        version: revision.version_count,
        ...signed,
      },
    });
    if (input.decision !== 'reject')
      await tellAuthor(app, work, viewer, { document, revision, assigned, asDeputy }, input);
    await advance(app, work, { document, revision, round: assigned.round });
    const [round, moved] = [
      await store.findRound(work.trx, assigned.round.id),
      await findRevision(work.trx, revision.id),
    ];
    return { runState: round?.state ?? '', documentState: moved?.state ?? revision.state };
  });
};
