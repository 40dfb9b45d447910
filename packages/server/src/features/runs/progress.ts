import { addWorkingDays, dayInWords, type Refusal, type RevisionState, refusal, stepOutcome } from '@kanonos/core';
import type { App, Work } from '../../platform/app.ts';
import { openBlocking } from '../comments/service.ts';
import {
  type DocumentRow,
  findCheckout,
  findRevision,
  moveRevision,
  type RevisionRow,
  refreshLists,
  subjectOf,
} from '../documents/service.ts';
import { notify } from '../mailing/service.ts';
import { freezeRecord, voidSignatures } from '../signing/service.ts';
import * as store from './store.ts';

type Passage = { document: DocumentRow; revision: RevisionRow; run: store.RunRow };

const linkTo = (document: DocumentRow) => ({
  path: `/d/${encodeURIComponent(document.number)}`,
  words: 'Open the document',
});

/**
 * Carries a run as far as it goes: ends steps whose done rule is met, opens the next, enters approval when nothing
 * hinders it, ends the run. Called in the transaction of whatever may have moved it, with the run locked.
 */
export const advance = async (app: App, work: Work, { document, revision: given, run }: Passage): Promise<void> => {
  const { trx } = work;
  let revision = given;
  for (;;) {
    const steps = await store.listSteps(trx, [run.id]);
    const assignments = await store.listAssignments(trx, [run.id]);
    const step = steps.find((s) => s.state === 'open') ?? steps.find((s) => s.state === 'waiting');
    if (!step) return endDone(app, work, { document, revision, run }, steps);
    if (step.state === 'waiting') {
      if (step.kind === 'approval' && revision.state === 'in review') {
        const hindrances = await approvalHindrances(work, document, revision);
        await store.setHeldUp(trx, run.id, hindrances.length ? hindrances : null);
        if (hindrances.length) return;
      }
      revision = await enterPhase(work, document, revision, run, step.kind === 'approval');
      await store.openStep(trx, {
        id: step.id,
        now: work.now,
        due: addWorkingDays(work.day, step.working_days, work.organisation.calendar),
      });
      await store.setStep(trx, run.id, step.n);
    }
    const own = assignments.filter((a) => a.step_id === step.id);
    const outcome = stepOutcome(step.rule, own.map(store.toAnswer));
    if (outcome.state === 'open') {
      const opening = outcome.askedNow.flatMap((i) => (own[i]?.state === 'waiting' ? [own[i]] : []));
      if (opening.length === 0) return;
      await store.openAssignments(
        trx,
        opening.map((a) => a.id),
        work.now,
      );
      const due = step.due_on ?? addWorkingDays(work.day, step.working_days, work.organisation.calendar);
      await askAll(app, work, { document, revision, run }, step, opening, due);
      return;
    }
    await store.endStep(trx, { id: step.id, state: outcome.state, now: work.now });
    await store.closeAssignments(trx, [step.id]);
    if (outcome.state === 'declined') return decline(app, work, { document, revision, run }, step, steps);
  }
};

/** What keeps a run from entering approval; it moves on in the transaction that removes the last hindrance. */
const approvalHindrances = async (work: Work, document: DocumentRow, revision: RevisionRow): Promise<Refusal[]> => {
  const blocking = await openBlocking(work.trx, revision.id);
  const checkout = await findCheckout(work.trx, document.id);
  return [
    ...blocking.map((comment) => refusal('blocking_comment', { who: comment.who, words: comment.words })),
    ...(checkout ? [refusal('checked_out', { who: checkout.person_name, since: checkout.at.toISOString() })] : []),
  ];
};

const enterPhase = async (
  work: Work,
  document: DocumentRow,
  revision: RevisionRow,
  run: store.RunRow,
  approval: boolean,
): Promise<RevisionRow> => {
  const wanted: RevisionState = approval ? 'in approval' : 'in review';
  if (revision.state === wanted) return revision;
  await moveRevision(work.trx, revision, wanted);
  const moved = (await findRevision(work.trx, revision.id)) ?? revision;
  if (approval) {
    const record = await freezeRecord(work, document, moved);
    await store.setRecord(work.trx, run.id, record.id);
    work.record({
      kind: 'revision.entered-approval',
      subject: subjectOf(document, moved),
      payload: { run: run.n, record: record.digest },
    });
  }
  await refreshLists(work.trx, document.id, work.now);
  return moved;
};

const askAll = async (
  app: App,
  work: Work,
  { document, revision, run }: Passage,
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
    const link = { path: `/tasks/${assignment.id}`, words: step.kind === 'approval' ? 'Decide and sign' : 'Review' };
    const ask = (lead: string, to: string) =>
      notify(app, work, [to], {
        kind: 'task',
        about: document.id,
        subject: `${step.name}: ${document.number} ${revision.label}, ${revision.title}`,
        lead,
        ...(run.message ? { quote: run.message } : {}),
        lines: [`due ${dayInWords(due)}`, ...(revision.reason ? [`why: ${revision.reason}`] : [])],
        link,
      });
    await ask(`${run.started_by_name} sent it; you are asked: ${step.name}.`, assignment.person_id);
    for (const deputy of deputies.filter((d) => d.person_id === assignment.person_id))
      await ask(`You stand in for ${assignment.person_name}, who is asked: ${step.name}.`, deputy.deputy_id);
  }
};

const endDone = async (app: App, work: Work, { document, revision, run }: Passage, steps: store.StepRow[]) => {
  await store.endRun(work.trx, { id: run.id, state: 'done', now: work.now });
  const approved = steps.some((step) => step.kind === 'approval');
  await moveRevision(work.trx, revision, approved ? 'approved' : 'draft');
  await refreshLists(work.trx, document.id, work.now);
  work.record({
    kind: approved ? 'revision.approved' : 'run.done',
    subject: subjectOf(document, revision),
    payload: { run: run.n },
  });
  await notify(app, work, [run.started_by], {
    kind: 'run end',
    about: document.id,
    subject: `${document.number} ${revision.label} is ${approved ? 'approved' : 'reviewed'}`,
    lead: approved
      ? `All have approved ${revision.title}. Document control can release it.`
      : `The review of ${revision.title} has ended; it is yours again.`,
    link: linkTo(document),
  });
};

const decline = async (
  app: App,
  work: Work,
  { document, revision, run }: Passage,
  step: store.StepRow,
  steps: store.StepRow[],
) => {
  const all = await store.listAssignments(work.trx, [run.id]);
  const said = all.filter((a) => a.step_id === step.id && a.decision === 'decline');
  const words = said.map((a) => `${a.decided_by_name}: ${a.words}`).join('\n');
  if (revision.state === 'in approval') {
    await voidSignatures(work.trx, { revisionId: revision.id, now: work.now, reason: 'declined', runId: run.id });
  }
  if (step.on_decline !== 'draft') {
    const target = Number(step.on_decline);
    await store.reopenSteps(work.trx, run.id, target);
    await store.setRecord(work.trx, run.id, null);
    if (revision.state === 'in approval' && steps[target]?.kind !== 'approval')
      await moveRevision(work.trx, revision, 'in review');
    work.record({
      kind: 'run.back-to-step',
      subject: subjectOf(document, revision),
      payload: { run: run.n, step: steps[target]?.name ?? '' },
    });
    const moved = (await findRevision(work.trx, revision.id)) ?? revision;
    return advance(app, work, { document, revision: moved, run });
  }
  await store.closeAssignments(
    work.trx,
    steps.map((s) => s.id),
  );
  for (const later of steps.filter((s) => s.state === 'waiting' && s.id !== step.id))
    await store.endStep(work.trx, { id: later.id, state: 'not needed', now: work.now });
  await store.endRun(work.trx, { id: run.id, state: 'declined', now: work.now });
  await moveRevision(work.trx, revision, 'draft');
  await refreshLists(work.trx, document.id, work.now);
  work.record({
    kind: 'run.declined',
    subject: subjectOf(document, revision),
    payload: { run: run.n, step: step.name },
  });
  await notify(app, work, [run.started_by], {
    kind: 'run end',
    about: document.id,
    subject: `${document.number} ${revision.label} was declined`,
    lead: `${step.name}: declined. It is a draft again and waits on your Desk.`,
    quote: words,
    link: linkTo(document),
  });
};

/** Ends a run before its time: what is open is not needed, its signatures are void. */
export const stopRun = async (work: Work, { document, revision, run }: Passage, reason: string): Promise<void> => {
  const steps = await store.listSteps(work.trx, [run.id]);
  await store.closeAssignments(
    work.trx,
    steps.map((s) => s.id),
  );
  for (const step of steps.filter((s) => s.state === 'waiting' || s.state === 'open'))
    await store.endStep(work.trx, { id: step.id, state: 'not needed', now: work.now });
  await store.endRun(work.trx, { id: run.id, state: 'called back', now: work.now });
  await voidSignatures(work.trx, {
    revisionId: revision.id,
    now: work.now,
    reason: `called back: ${reason}`,
    runId: run.id,
  });
  await moveRevision(work.trx, revision, 'draft');
  await refreshLists(work.trx, document.id, work.now);
};
