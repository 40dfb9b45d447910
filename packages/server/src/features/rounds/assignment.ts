import {
  type Decision,
  decideAnswer,
  decideSignable,
  hasRight,
  isPositive,
  leadsToRelease,
  type Refusal,
  stepOutcome,
} from '@kanonos/core';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { refused } from '../../platform/refused.ts';
import { explain, isWithheld, toPlace, type Viewer } from '../access/index.ts';
import { findDocument, rightToRead } from '../documents/index.ts';
import { findRevision, listAuthors } from '../revisions/index.ts';
import * as store from './store.ts';

/** An assignment with its round. */
export type Assigned = {
  assignment: store.AssignmentRow & { round_id: string };
  round: store.RoundRow;
  step: store.StepRow;
  steps: store.StepRow[];
  all: (store.AssignmentRow & { round_id: string })[];
};

/** Opens an assignment for the person asked or the deputy; for anybody else it does not exist. */
export const openAssignment = async (db: Db | Trx, viewer: Viewer, id: string, day: string): Promise<Assigned> => {
  const assignment = await store.findAssignment(db, id);
  if (!assignment) throw refused('not_found');
  const isDeputy =
    assignment.person_id !== viewer.id &&
    (await store.listDeputies(db, [assignment.person_id], day)).some((d) => d.deputy_id === viewer.id);
  if (assignment.person_id !== viewer.id && !isDeputy && assignment.decided_by !== viewer.id)
    throw refused('not_found');
  const round = await store.findRound(db, assignment.round_id);
  if (!round) throw refused('not_found');
  const document = await findDocument(db, round.document_id);
  if (!document || (await isWithheld(db, viewer, toPlace(document), day))) throw refused('not_found');
  // A round on a route brings the right to read what it is about; an ad hoc one asks those who have it.
  if (!leadsToRelease(round.definition)) {
    const revision = await findRevision(db, round.revision_id);
    const { rights } = await explain(db, viewer, toPlace(document), day);
    if (!revision || !hasRight(rights, rightToRead(revision.state))) throw refused('not_found');
  }
  const steps = await store.listSteps(db, [round.id]);
  const step = steps.find((s) => s.id === assignment.step_id);
  if (!step) throw refused('not_found');
  return { assignment, round, step, steps, all: await store.listAssignments(db, [round.id]) };
};

/** Why this person cannot give this decision now, by the rules of the core over the rows of the round. */
export const answerRefusals = async (
  db: Db | Trx,
  assigned: Assigned,
  viewer: Viewer,
  decision: Decision,
  comment: string,
): Promise<Refusal[]> => {
  const { assignment, round, step, steps, all } = assigned;
  const own = all.filter((a) => a.step_id === step.id);
  const after = own.map((a) =>
    a.id === assignment.id ? (decision === 'reject' ? ('reject' as const) : ('positive' as const)) : store.toAnswer(a),
  );
  const isLastApproval =
    step.kind === 'approval' &&
    !steps.some((s) => s.kind === 'approval' && s.id !== step.id && (s.state === 'open' || s.state === 'waiting'));
  const approvals = new Set(steps.filter((s) => s.kind === 'approval').map((s) => s.id));
  const refusals = decideAnswer({
    decision,
    comment,
    kind: step.kind,
    assignmentState: assignment.state,
    roundOpen: round.state === 'running',
    deciderId: viewer.id,
    principalId: assignment.person_id,
    answeredInStepBy: own
      .filter((a) => a.id !== assignment.id && a.state === 'answered')
      .flatMap((a) => (a.decided_by ? [a.decided_by] : [])),
    // Whoever wrote it may sign as its author, or about what came of it, in a round that does not lead to its release.
    authors: new Set(leadsToRelease(round.definition) ? await listAuthors(db, round.revision_id) : []),
    signedBy: all
      .filter((a) => approvals.has(a.step_id) && a.decision === 'approve')
      .flatMap((a) => (a.decided_by ? [a.decided_by] : [])),
    isLastSignature: isLastApproval && stepOutcome(step.rule, after).state === 'done',
  });
  if (refusals.length > 0 || leadsToRelease(round.definition) || step.kind !== 'approval' || !isPositive(decision))
    return refusals;
  const revision = await findRevision(db, round.revision_id);
  return revision ? decideSignable(revision.state) : [];
};
