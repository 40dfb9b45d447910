import { sentenceOf } from '@kanonos/contract';
import { type Refusal, type Result, type RouteDefinition, resolveStep, type StepDefinition } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { fallbackApproverOf, membersOf, supervisorOf } from '../people/index.ts';

/** What of a document decides who is asked. */
export type RoutedDocument = {
  ownerId: string;
  departmentId: string | null;
  metadata: Readonly<Record<string, unknown>>;
};
export type ResolvedStep = { step: StepDefinition; people: Result<string[]> };

/** Finds the people of every step of a route for a document; what cannot be filled is named. */
export const resolveSteps = async (
  db: Db | Trx,
  app: App,
  document: RoutedDocument,
  { route, typeFallbackId }: { route: RouteDefinition; typeFallbackId: string | null },
  chosen: readonly string[],
  day: string,
): Promise<ResolvedStep[]> => {
  const units = route.steps.flatMap((step) =>
    step.assignees.flatMap((assignee) => (assignee.by === 'unit' ? [assignee.unitId] : [])),
  );
  const organisation = await app.organisation();
  const supervisor = await supervisorOf(db, document.ownerId, day);
  // Only the first fallback is asked: that of the department is looked up where the type has none.
  const { departmentId } = document;
  const department =
    departmentId !== null && typeFallbackId === null ? await fallbackApproverOf(db, departmentId) : undefined;
  const lookups = {
    ownerId: document.ownerId,
    ...(supervisor ? { ownerSupervisorId: supervisor } : {}),
    unitMembers: await membersOf(db, units, day),
    fieldHolders: Object.fromEntries(
      Object.entries(document.metadata).map(([key, value]) => [
        key,
        typeof value === 'string' || Array.isArray(value) ? value : undefined,
      ]),
    ),
    chosen,
    fallbacks: [typeFallbackId, department, organisation.fallbackApprover].filter((id): id is string => Boolean(id)),
  };
  return route.steps.map((step) => ({ step, people: resolveStep(step, lookups) }));
};

/** Why a step would find nobody; reviewers still to be chosen are no reason. */
export const problemOf = (refusals: readonly Refusal[]): string | null =>
  refusals
    .filter(({ code }) => code !== 'step_too_few_chosen')
    .map((one) => sentenceOf(one.code, one.params))
    .join(' ') || null;
