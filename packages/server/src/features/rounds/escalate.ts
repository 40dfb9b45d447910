import { sentenceOf } from '@kanonos/contract';
import { dayOf, dueEscalations, type Escalation, type EscalationTo, workingDaysBetween } from '@kanonos/core';
import { workAddress } from '../../platform/addresses.ts';
import { type App, SYSTEM_CLOCK, type UnitOfWork } from '../../platform/app.ts';
import { newId } from '../../platform/db/ids.ts';
import { type DocumentRow, findDocument, lockDocument, subjectOf } from '../documents/index.ts';
import { notify } from '../mailing/index.ts';
import { namesOf, supervisorOf } from '../people/index.ts';
import { findRevision, type RevisionRow } from '../revisions/index.ts';
import { eachOnItsOwn } from '../system/index.ts';
import { judgeNewAssignee } from './newAssignee.ts';
import { advance } from './progress.ts';
import * as store from './store.ts';
import { listDone, listWaiting, noteDone } from './storeEscalations.ts';

/** The clock's job: does what routes say of people who have not answered in time. Tells how many assignments it concerned. */
export const escalateWaiting = async (app: App): Promise<number> => {
  let concerned = 0;
  await eachOnItsOwn(
    app,
    'answer that takes too long',
    await listWaiting(app.db),
    ({ id, number, document_id }) => ({ subject: id, label: number, documentId: document_id }),
    async (waiting) => {
      const did = await app.command(SYSTEM_CLOCK, async (work) => {
        await lockDocument(work.trx, waiting.document_id);
        await store.lockRound(work.trx, waiting.round_id);
        return escalateOne(app, work, waiting.id);
      });
      if (did) concerned++;
    },
  );
  return concerned;
};

/** An assignment that waits, under the lock of its document and round. */
type Waiting = {
  app: App;
  work: UnitOfWork;
  document: DocumentRow;
  revision: RevisionRow;
  round: store.RoundRow;
  step: store.StepRow;
  steps: store.StepRow[];
  assignments: store.AssignmentRow[];
  assignment: store.AssignmentRow;
  waited: number;
};

const open = async (app: App, work: UnitOfWork, assignmentId: string): Promise<Waiting | undefined> => {
  const assignment = await store.findAssignment(work.trx, assignmentId);
  const round = assignment && (await store.findRound(work.trx, assignment.round_id));
  // Answered, taken over or ended since it was listed.
  if (assignment?.state !== 'open' || !assignment.opened_at || round?.state !== 'running') return undefined;
  const [document, revision] = [
    await findDocument(work.trx, round.document_id),
    await findRevision(work.trx, round.revision_id),
  ];
  const steps = await store.listSteps(work.trx, [round.id]);
  const step = steps.find((one) => one.id === assignment.step_id);
  if (!document || !revision || !step) return undefined;
  const { zone, calendar } = work.organisation;
  return {
    app,
    work,
    document,
    revision,
    round,
    step,
    steps,
    assignments: await store.listAssignments(work.trx, [round.id]),
    assignment,
    waited: workingDaysBetween(dayOf(assignment.opened_at, zone), work.day, calendar),
  };
};

const escalateOne = async (app: App, work: UnitOfWork, assignmentId: string): Promise<boolean> => {
  const waiting = await open(app, work, assignmentId);
  if (!waiting) return false;
  const escalations = waiting.round.definition.steps[waiting.step.n]?.escalations ?? [];
  const due = dueEscalations(escalations, waiting.waited, await listDone(work.trx, assignmentId));
  for (const { place, escalation } of due) {
    if (!(await noteDone(work.trx, { assignmentId, place, now: work.now }))) continue;
    await carryOut(waiting, escalation);
    // Handed over, the rest of them is for whoever was late, and is no concern of the next.
    if (escalation.action === 'hand over') break;
  }
  if (due.length > 0) await advance(app, work, waiting);
  return due.length > 0;
};

const findTarget = async ({ work, document, round, assignment }: Waiting, to: EscalationTo) => {
  switch (to.by) {
    case 'person':
      return to.personId;
    case 'owner':
      return document.owner_id;
    case 'submitter':
      return round.started_by;
    case 'supervisor':
      return supervisorOf(work.trx, assignment.person_id, work.day);
  }
};

const carryOut = async (waiting: Waiting, escalation: Escalation): Promise<void> => {
  const { work, document, revision, round, step, assignment, waited } = waiting;
  const record = (to: string | null, refused: string | null = null) =>
    work.record({
      kind: 'step.escalated',
      subject: subjectOf(document, revision),
      payload: {
        round: round.n,
        step: step.name,
        person: assignment.person_name,
        days: waited,
        action: escalation.action,
        to,
        refused,
      },
    });
  const target = escalation.action === 'remind' ? assignment.person_id : await findTarget(waiting, escalation.to);
  // Nobody above, or the late person themselves: a reminder is what remains.
  if (target === undefined || target === assignment.person_id || escalation.action === 'remind') {
    await tell(waiting, assignment.person_id, `It has been waiting for your decision for ${waited} working days.`);
    await store.noteReminded(work.trx, [assignment.id], work.now);
    return record(null);
  }
  const name = (await namesOf(work.trx, [target])).get(target)?.name ?? '';
  if (escalation.action === 'tell') {
    await tell(waiting, target, `${assignment.person_name} has not answered for ${waited} working days.`);
    return record(name);
  }
  const replaces = escalation.action === 'hand over' ? assignment.person_id : null;
  const [reason] = (await judgeNewAssignee(waiting, step, target, replaces)).refusals;
  if (reason) {
    const why = sentenceOf(reason.code, reason.params, work.organisation.zone);
    await tell(waiting, target, `${assignment.person_name} has not answered for ${waited} working days.`);
    return record(name, why);
  }
  if (replaces) await store.giveAssignments(work.trx, [assignment.id], target);
  else await addBeside(waiting, target);
  record(name);
};

/** Asks somebody as well: whichever of the two answers counts by the rule of the step. */
const addBeside = async ({ work, step, assignments }: Waiting, personId: string) => {
  const last = Math.max(...assignments.filter((one) => one.step_id === step.id).map((one) => one.n), -1);
  await store.insertAssignments(work.trx, step.id, [{ id: newId(), personId, n: last + 1 }]);
};

const tell = async ({ app, work, document, revision, step, assignment }: Waiting, personId: string, lead: string) =>
  notify(app, work, [personId], {
    kind: 'reminder',
    about: document.id,
    subject: `${document.number} ${revision.label} is waiting: ${step.name}`,
    lead,
    link:
      personId === assignment.person_id
        ? { path: `/tasks/${assignment.id}`, label: 'Decide' }
        : { path: workAddress(document.number), label: 'Open the document' },
  });
