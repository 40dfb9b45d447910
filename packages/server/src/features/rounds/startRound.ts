import { type RouteDefinition, stagesOf } from '@kanonos/core';
import type { UnitOfWork } from '../../platform/app.ts';
import { newId } from '../../platform/db/ids.ts';
import * as store from './store.ts';

/** Lays a round down with its steps and those asked in them; nobody is asked before it advances. */
export const startRound = async (
  work: UnitOfWork,
  input: {
    document: { id: string };
    revision: { id: string; version_count: number };
    definition: RouteDefinition;
    message: string;
    /** Who is asked in each step; null for a step that does not apply to this document. */
    people: (string[] | null)[];
    lastDay?: string | null;
    /** In whose name; otherwise whoever gives the command. */
    by?: string;
  },
) => {
  const id = newId();
  const n = ((await store.listRounds(work.trx, input.revision.id))[0]?.n ?? 0) + 1;
  await store.insertRound(work.trx, {
    id,
    documentId: input.document.id,
    revisionId: input.revision.id,
    n,
    definition: input.definition,
    message: input.message,
    by: input.by ?? work.actor.id ?? '',
    now: work.now,
    lastDay: input.lastDay ?? null,
    version: input.revision.version_count,
  });
  const stages = stagesOf(input.definition.steps);
  for (const [index, step] of input.definition.steps.entries()) {
    const stepId = newId();
    const people = input.people[index] ?? null;
    await store.insertStep(work.trx, {
      id: stepId,
      roundId: id,
      n: index,
      name: step.name,
      kind: step.kind,
      meaning: step.meaning ?? null,
      rule: step.rule,
      workingDays: step.workingDays,
      editing: step.editing ?? false,
      onReject: String(step.onReject),
      stage: stages[index] ?? index,
      state: people ? 'waiting' : 'not needed',
    });
    await store.insertAssignments(
      work.trx,
      stepId,
      (people ?? []).map((personId, position) => ({ id: newId(), personId, n: position })),
    );
  }
  const round = await store.findRound(work.trx, id);
  if (!round) throw new Error('the new round was not found');
  return round;
};
