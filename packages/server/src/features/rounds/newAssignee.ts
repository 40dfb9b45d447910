import { decideNewAssignee, isPositive, type Refusal } from '@kanonos/core';
import type { UnitOfWork } from '../../platform/app.ts';
import { refused } from '../../platform/refused.ts';
import { viewerOf } from '../access/index.ts';
import { namesOf } from '../people/index.ts';
import { listAuthors } from '../revisions/index.ts';
import type * as store from './store.ts';

/** A running round with its steps and assignments. */
type Running = {
  work: UnitOfWork;
  revision: { id: string };
  steps: readonly store.StepRow[];
  assignments: readonly store.AssignmentRow[];
};

/** Whether the round has, or will have, the approval of somebody who is no author, apart from one person. */
const othersApprove = ({ steps, assignments }: Running, authors: ReadonlySet<string>, apartFrom: string): boolean => {
  const approvals = new Set(steps.flatMap((step) => (step.kind === 'approval' ? [step.id] : [])));
  return assignments.some(
    (one) =>
      approvals.has(one.step_id) &&
      one.person_id !== apartFrom &&
      one.state !== 'not needed' &&
      !authors.has(one.decided_by ?? one.person_id) &&
      (one.decision === null || isPositive(one.decision)),
  );
};

/** The name of a person who is to be asked in a step, and why they cannot be, by the rules of the core. */
export const judgeNewAssignee = async (
  running: Running,
  step: store.StepRow,
  personId: string,
  replaces: string | null,
): Promise<{ name: string; refusals: Refusal[] }> => {
  const { work, revision, assignments } = running;
  const person = (await namesOf(work.trx, [personId])).get(personId);
  if (!person) throw refused('not_found');
  const { outside } = await viewerOf(work.trx, personId, work.day);
  const authors = new Set(await listAuthors(work.trx, revision.id));
  const rest = {
    ...running,
    assignments: assignments.filter((one) => one.person_id !== replaces || one.state === 'answered'),
  };
  return {
    name: person.name,
    refusals: decideNewAssignee(step, {
      name: person.name,
      isActive: person.state !== 'deactivated',
      isOutside: outside,
      isInStep: assignments.some((one) => one.step_id === step.id && one.person_id === personId),
      isAuthor: authors.has(personId),
      othersApprove: othersApprove(rest, authors, personId),
    }),
  };
};
