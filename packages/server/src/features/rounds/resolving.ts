import { sentenceOf } from '@kanonos/contract';
import {
  type ConditionFacts,
  type ConditionField,
  type Refusal,
  type Result,
  type RouteDefinition,
  resolveStep,
  type StepDefinition,
  stepsFor,
} from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { fallbackApproverOf, membersOf, supervisorOf } from '../people/index.ts';
import { factsOf } from './facts.ts';

/** What of a document decides who is asked. */
export type RoutedDocument = {
  ownerId: string;
  departmentId: string | null;
  folderId: string;
  confidentiality: string;
  /** Whoever started the work on the revision, and its change kind; nothing before there is one. */
  authorId?: string;
  changeKind: string;
  metadata: Readonly<Record<string, unknown>>;
};
/** A step of a route with whom it would ask of a document; one whose condition the document does not meet asks nobody. */
export type ResolvedStep = { step: StepDefinition; applies: boolean; people: Result<string[]> };

/** Finds the people of every step of a route for a document; what cannot be filled is named. */
export const resolveSteps = async (
  db: Db | Trx,
  app: App,
  document: RoutedDocument,
  {
    route,
    fields,
    typeFallbackId,
  }: { route: RouteDefinition; fields: readonly ConditionField[]; typeFallbackId: string | null },
  chosen: readonly string[] | 'later',
  day: string,
): Promise<ResolvedStep[]> => {
  const units = route.steps.flatMap((step) =>
    step.assignees.flatMap((assignee) =>
      assignee.by === 'unit'
        ? [assignee.unitId]
        : assignee.by === 'chosen' && assignee.fromUnitId !== undefined
          ? [assignee.fromUnitId]
          : [],
    ),
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
    ...(document.authorId ? { authorId: document.authorId } : {}),
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
  const facts: ConditionFacts = route.steps.some(({ when }) => when !== undefined)
    ? await factsOf(db, document, fields)
    : {};
  const applies = stepsFor(route.steps, fields)(facts);
  return route.steps.map((step, index) => {
    const isAsked = applies[index] === true;
    return { step, applies: isAsked, people: isAsked ? resolveStep(step, lookups) : { ok: true, value: [] } };
  });
};

/** Why a step would find nobody; reviewers still to be chosen are no reason. */
export const problemOf = (refusals: readonly Refusal[]): string | null =>
  refusals
    .filter(({ code }) => code !== 'step_too_few_chosen')
    .map((one) => sentenceOf(one.code, one.params))
    .join(' ') || null;
