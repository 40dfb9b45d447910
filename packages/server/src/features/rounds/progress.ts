import {
  addWorkingDays,
  askedAgainFrom,
  dayInWords,
  isDay,
  leadsToRelease,
  type Refusal,
  type RevisionState,
  refusal,
  stepOutcome,
} from '@kanonos/core';
import { documentAddress, workAddress } from '../../platform/addresses.ts';
import type { App, UnitOfWork } from '../../platform/app.ts';
import { openBlocking } from '../comments/index.ts';
import { type DocumentRow, refreshLists, subjectOf } from '../documents/index.ts';
import { notify } from '../mailing/index.ts';
import { findCheckout, findRevision, moveRevision, type RevisionRow } from '../revisions/index.ts';
import { freezeRecord, latestRecord, voidSignatures } from '../signing/index.ts';
import * as store from './store.ts';

type Passage = { document: DocumentRow; revision: RevisionRow; round: store.RoundRow };

const linkTo = (document: DocumentRow) => ({
  path: workAddress(document.number),
  label: 'Open the document',
});

/**
 * Advances a round as far as possible: ends steps whose done rule is met, opens the next, enters approval when nothing
 * hinders it, ends the round. Called in the transaction of whatever may have moved it, with the round locked.
 */
export const advance = async (
  app: App,
  work: UnitOfWork,
  { document, revision: given, round }: Passage,
): Promise<void> => {
  const { trx } = work;
  let revision = given;
  for (;;) {
    const steps = await store.listSteps(trx, [round.id]);
    const assignments = await store.listAssignments(trx, [round.id]);
    const remaining = steps.filter((s) => s.state === 'open' || s.state === 'waiting');
    const [next] = remaining;
    if (!next) return endDone(app, work, { document, revision, round }, steps);
    const stage = remaining.filter((s) => s.stage === next.stage);
    if (stage.some((s) => s.state === 'waiting')) {
      if (next.kind === 'approval' && revision.state === 'in review' && leadsToRelease(round.definition)) {
        const blockers = await approvalBlockers(work, document, revision);
        await store.setHeldUp(trx, round.id, blockers.length ? blockers : null);
        if (blockers.length) return;
      }
      revision = await enterPhase(work, document, revision, round, next.kind === 'approval');
      await store.setStep(trx, round.id, next.n);
    }
    let isMoved = false;
    for (const step of stage) {
      const due = step.due_on ?? dueDayOf(work, { document, revision, round }, step);
      if (step.state === 'waiting') await store.openStep(trx, { id: step.id, now: work.now, due });
      const own = assignments.filter((a) => a.step_id === step.id);
      const outcome = stepOutcome(step.rule, own.map(store.toAnswer));
      if (outcome.state === 'open') {
        const opening = outcome.askedNow.flatMap((i) => (own[i]?.state === 'waiting' ? [own[i]] : []));
        await openFor(app, work, { document, revision, round }, step, opening, due);
        continue;
      }
      await store.endStep(trx, { id: step.id, state: outcome.state, now: work.now });
      await store.closeAssignments(trx, [step.id]);
      if (outcome.state === 'rejected') return reject(app, work, { document, revision, round }, step);
      isMoved = true;
    }
    if (!isMoved) return;
  }
};

/** When a step is due that opens now: on the last day of the round, on the day of the field that its route names, otherwise after its working days. */
const dueDayOf = (work: UnitOfWork, { document, revision, round }: Passage, step: store.StepRow): string => {
  if (round.last_day) return round.last_day;
  const { dueField } = round.definition.steps[step.n] ?? {};
  const day = dueField === undefined ? undefined : { ...document.metadata, ...revision.metadata }[dueField];
  return typeof day === 'string' && isDay(day)
    ? day
    : addWorkingDays(work.day, step.working_days, work.organisation.calendar);
};

/** Asks people whose turn it is now. */
const openFor = async (
  app: App,
  work: UnitOfWork,
  passage: Passage,
  step: store.StepRow,
  opening: store.AssignmentRow[],
  due: string,
) => {
  if (opening.length === 0) return;
  await store.openAssignments(
    work.trx,
    opening.map((a) => a.id),
    work.now,
  );
  await askAll(app, work, passage, step, opening, due);
};

/** What keeps a round from entering approval; it moves on in the transaction that removes the last blocker. */
const approvalBlockers = async (work: UnitOfWork, document: DocumentRow, revision: RevisionRow): Promise<Refusal[]> => {
  const blocking = await openBlocking(work.trx, revision.id);
  const checkout = await findCheckout(work.trx, document.id);
  return [
    ...blocking.map((comment) => refusal('blocking_comment', { who: comment.who, text: comment.text })),
    ...(checkout ? [refusal('checked_out', { who: checkout.person_name, since: checkout.at.toISOString() })] : []),
  ];
};

const enterPhase = async (
  work: UnitOfWork,
  document: DocumentRow,
  revision: RevisionRow,
  round: store.RoundRow,
  approval: boolean,
): Promise<RevisionRow> => {
  if (!leadsToRelease(round.definition)) {
    // What is signed outside its route was frozen before; only what never was is frozen now.
    if (approval && !round.record_id) {
      const record = (await latestRecord(work.trx, revision.id)) ?? (await freezeRecord(work, document, revision));
      await store.setRecord(work.trx, round.id, record.id);
    }
    return revision;
  }
  const wanted: RevisionState = approval ? 'in approval' : 'in review';
  if (revision.state === wanted) return revision;
  await moveRevision(work.trx, revision, wanted);
  const moved = (await findRevision(work.trx, revision.id)) ?? revision;
  if (approval) {
    const record = await freezeRecord(work, document, moved);
    await store.setRecord(work.trx, round.id, record.id);
    work.record({
      kind: 'revision.entered-approval',
      subject: subjectOf(document, moved),
      payload: { round: round.n, record: record.digest },
    });
  }
  await refreshLists(work.trx, document.id, work.now);
  return moved;
};

const askAll = async (
  app: App,
  work: UnitOfWork,
  { document, revision, round }: Passage,
  step: store.StepRow,
  opening: store.AssignmentRow[],
  due: string,
) => {
  const deputies = await store.listDeputies(
    work.trx,
    opening.map((a) => a.person_id),
    work.day,
  );
  for (const assignment of opening) {
    const link = { path: `/tasks/${assignment.id}`, label: step.kind === 'approval' ? 'Decide and sign' : 'Review' };
    const ask = (lead: string, to: string) =>
      notify(app, work, [to], {
        kind: 'task',
        about: document.id,
        subject: `${step.name}: ${document.number} ${revision.label}, ${revision.title}`,
        lead,
        ...(round.message ? { quote: round.message } : {}),
        lines: [`due ${dayInWords(due)}`, ...(revision.reason ? [`reason: ${revision.reason}`] : [])],
        link,
      });
    const why = leadsToRelease(round.definition)
      ? `${round.started_by_name} submitted it.`
      : `${round.started_by_name} asks you outside its route: ${round.definition.name}.`;
    await ask(`${why} Your step: ${step.name}.`, assignment.person_id);
    for (const deputy of deputies.filter((d) => d.person_id === assignment.person_id))
      await ask(`You are acting for ${assignment.person_name}. The step: ${step.name}.`, deputy.deputy_id);
  }
};

const endDone = async (app: App, work: UnitOfWork, { document, revision, round }: Passage, steps: store.StepRow[]) => {
  await store.endRound(work.trx, { id: round.id, state: 'done', now: work.now });
  if (!leadsToRelease(round.definition)) return endAdHoc(app, work, { document, revision, round }, 'completed');
  const approved = steps.some((step) => step.kind === 'approval');
  await moveRevision(work.trx, revision, approved ? 'approved' : 'draft');
  await refreshLists(work.trx, document.id, work.now);
  work.record({
    kind: approved ? 'revision.approved' : 'round.approved',
    subject: subjectOf(document, revision),
    payload: { round: round.n },
  });
  await notify(app, work, [round.started_by], {
    kind: 'round ended',
    about: document.id,
    subject: `${document.number} ${revision.label} is ${approved ? 'approved' : 'reviewed'}`,
    lead: approved
      ? `${revision.title} is approved. Document control can release it.`
      : `The review of ${revision.title} is complete. It is back on your Desk.`,
    link: linkTo(document),
  });
};

/** Records the end of an ad hoc round, and tells whoever started it. */
const endAdHoc = async (
  app: App,
  work: UnitOfWork,
  { document, revision, round }: Passage,
  how: 'completed' | 'rejected',
  step = '',
  comment = '',
) => {
  const { name } = round.definition;
  const subject = subjectOf(document, revision);
  if (how === 'completed') work.record({ kind: 'round.completed', subject, payload: { round: round.n, name } });
  else work.record({ kind: 'round.rejected', subject, payload: { round: round.n, step } });
  await notify(app, work, [round.started_by], {
    kind: 'round ended',
    about: document.id,
    subject: `${name}: ${how} (${document.number} ${revision.label})`,
    lead: how === 'completed' ? `Everybody has answered about ${revision.title}.` : `${step}: rejected.`,
    ...(comment ? { quote: comment } : {}),
    link: {
      path: documentAddress(document.number, `rev=${encodeURIComponent(revision.label)}&tab=route`),
      label: 'Open the round',
    },
  });
};

/** The place of the step that a rejection leads back to; undefined for the draft. A step that asks nobody here is passed over backwards. */
const returnsTo = (
  steps: readonly store.StepRow[],
  assignments: readonly store.AssignmentRow[],
  { on_reject }: store.StepRow,
): number | undefined => {
  if (on_reject === 'draft') return undefined;
  const asks = new Set(assignments.map((one) => one.step_id));
  return steps.findLast((one) => one.n <= Number(on_reject) && asks.has(one.id))?.n;
};

const reject = async (app: App, work: UnitOfWork, { document, revision, round }: Passage, step: store.StepRow) => {
  // Read anew: a step beside this one may have ended in the same moment.
  const steps = await store.listSteps(work.trx, [round.id]);
  const all = await store.listAssignments(work.trx, [round.id]);
  const rejections = all.filter((a) => a.step_id === step.id && a.decision === 'reject');
  const comment = rejections.map((a) => `${a.decided_by_name}: ${a.comment}`).join('\n');
  if (leadsToRelease(round.definition) && revision.state === 'in approval') {
    await voidSignatures(work.trx, { revisionId: revision.id, now: work.now, reason: 'rejected', roundId: round.id });
  }
  const target = returnsTo(steps, all, step);
  if (target !== undefined) {
    const { keepsAgreed = false } = round.definition.steps[step.n] ?? {};
    const later = steps.filter(({ n, kind }) => n > target && kind !== 'approval').map(({ n }) => n);
    await store.reopenSteps(work.trx, round.id, target, keepsAgreed ? later : []);
    await store.setRecord(work.trx, round.id, null);
    if (revision.state === 'in approval' && steps[target]?.kind !== 'approval')
      await moveRevision(work.trx, revision, 'in review');
    work.record({
      kind: 'round.returned-to-step',
      subject: subjectOf(document, revision),
      payload: { round: round.n, step: steps[target]?.name ?? '' },
    });
    const moved = (await findRevision(work.trx, revision.id)) ?? revision;
    return advance(app, work, { document, revision: moved, round });
  }
  await store.closeAssignments(
    work.trx,
    steps.map((s) => s.id),
  );
  for (const later of steps.filter((s) => (s.state === 'waiting' || s.state === 'open') && s.id !== step.id))
    await store.endStep(work.trx, { id: later.id, state: 'not needed', now: work.now });
  await store.endRound(work.trx, { id: round.id, state: 'rejected', now: work.now });
  if (!leadsToRelease(round.definition))
    return endAdHoc(app, work, { document, revision, round }, 'rejected', step.name, comment);
  await moveRevision(work.trx, revision, 'draft');
  await refreshLists(work.trx, document.id, work.now);
  work.record({
    kind: 'round.rejected',
    subject: subjectOf(document, revision),
    payload: { round: round.n, step: step.name },
  });
  await notify(app, work, [round.started_by], {
    kind: 'round ended',
    about: document.id,
    subject: `${document.number} ${revision.label} was rejected`,
    lead: `${step.name}: rejected. The document is a draft again and is on your Desk.`,
    quote: comment,
    link: linkTo(document),
  });
};

/**
 * After a check-in in review: who has decided on an older version is asked again, unless the route or their step keeps decisions. Where
 * that concerns an earlier step, the round goes back to it.
 */
export const askAgainAfterCheckIn = async (
  app: App,
  work: UnitOfWork,
  { document, revision, round }: Passage,
  version: number,
): Promise<void> => {
  const { trx } = work;
  const steps = await store.listSteps(trx, [round.id]);
  const answered = (await store.listAssignments(trx, [round.id])).filter((a) => a.state === 'answered');
  const placeOf = new Map(steps.map((step) => [step.id, step.n]));
  const from = askedAgainFrom(
    round.definition,
    answered.map((a) => ({ step: placeOf.get(a.step_id) ?? 0, onVersion: a.on_version ?? 0 })),
    version,
  );
  const first = steps.find((step) => step.n === from);
  if (from === undefined || !first) return;
  const kept = round.definition.steps.flatMap((step, n) => (step.keepsDecisions ? [n] : []));
  const again = answered.filter((a) => {
    const n = placeOf.get(a.step_id) ?? 0;
    return n >= from && !kept.includes(n);
  });
  const concerned = new Set(again.map((a) => a.step_id));
  const isAllOpen = steps.every((step) => step.state === 'open' || !concerned.has(step.id));
  if (isAllOpen) await store.askAgain(trx, [...concerned]);
  else await store.reopenSteps(trx, round.id, from, kept);
  work.record({
    kind: 'round.asked-again',
    subject: subjectOf(document, revision),
    payload: { round: round.n, version, step: first.name, people: again.map((a) => a.person_name) },
  });
  await advance(app, work, { document, revision, round });
};

/** Ends a round early: open assignments are not needed, and where it led to release, its signatures are void. */
export const stopRun = async (
  work: UnitOfWork,
  { document, revision, round }: Passage,
  reason: string,
): Promise<void> => {
  const steps = await store.listSteps(work.trx, [round.id]);
  await store.closeAssignments(
    work.trx,
    steps.map((s) => s.id),
  );
  for (const step of steps.filter((s) => s.state === 'waiting' || s.state === 'open'))
    await store.endStep(work.trx, { id: step.id, state: 'not needed', now: work.now });
  await store.endRound(work.trx, { id: round.id, state: 'recalled', now: work.now });
  if (!leadsToRelease(round.definition)) return;
  await voidSignatures(work.trx, {
    revisionId: revision.id,
    now: work.now,
    reason: `recalled: ${reason}`,
    roundId: round.id,
  });
  await moveRevision(work.trx, revision, 'draft');
  await refreshLists(work.trx, document.id, work.now);
};
