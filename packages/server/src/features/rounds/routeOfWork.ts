import { asksForFacts, hasRight, type RouteDefinition, routeOf, routesToChoose } from '@kanonos/core';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { refused } from '../../platform/refused.ts';
import type { Opened } from '../documents/index.ts';
import { policyOf } from '../rules/index.ts';
import { factsOf } from './facts.ts';

/** What of a document decides its route, and whom it asks. */
export const routedOf = ({ document, work }: Pick<Opened, 'document' | 'work'>) => ({
  ownerId: document.owner_id,
  departmentId: document.department_id,
  folderId: document.folder_id,
  confidentiality: document.confidentiality,
  ...(work ? { authorId: work.created_by } : {}),
  changeKind: work?.change_kind ?? '',
  metadata: { ...document.metadata, ...work?.metadata },
});

/** The routes that a viewer may choose on submitting a document. */
export const choicesOf = ({ type, rights }: Pick<Opened, 'type' | 'rights'>): RouteDefinition[] =>
  routesToChoose(policyOf(type), hasRight(rights, 'release') || hasRight(rights, 'manage'));

/** The route that what is in work takes: the one chosen by whoever may, or else by condition, change kind and type. */
export const routeOfWork = async (
  db: Db | Trx,
  opened: Pick<Opened, 'document' | 'work' | 'type' | 'rights'>,
  chosen: string | null,
): Promise<RouteDefinition> => {
  const { type, work } = opened;
  const policy = policyOf(type);
  if (chosen && !choicesOf(opened).some(({ name }) => name === chosen))
    throw refused('route_not_offered', { route: chosen });
  const facts = asksForFacts(policy) && !chosen ? await factsOf(db, routedOf(opened), type.fields) : {};
  return routeOf(policy, { changeKind: work?.change_kind, facts, chosen }, type.fields);
};
