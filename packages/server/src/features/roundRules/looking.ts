import {
  dayReached,
  dueValues,
  isOccasion,
  meetsCondition,
  OCCASION_EVENTS,
  type Occasion,
  occasionKey,
  parseCondition,
} from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { refused } from '../../platform/refused.ts';
import type { Opened } from '../documents/index.ts';
import type { RevisionRow } from '../revisions/index.ts';
import { factsOf, ownRouteAsks, routedOf } from '../rounds/index.ts';
import * as store from './store.ts';

/** What a rule looks for. */
export type Rule = {
  typeId: string;
  folderId: string | null;
  occasion: Occasion;
  condition: string | null;
  route: string;
};

/** One occasion on one document. */
export type Found = {
  documentId: string;
  number: string;
  revisionId: string | undefined;
  key: string;
  at: Date | null;
  day: string | null;
};

/** What a rule has looked at: events up to one, days up to one. */
export type Reach = { seq: string; day: string };

/** More in one pass are looked at in the next. */
export const MOST_AT_ONCE = 500;

/** The occasions of a rule after one reach and up to another, the earliest first; whether more may be left. */
export const occasionsOf = async (
  db: Db,
  rule: Rule,
  after: Reach,
  until: Reach,
): Promise<{ found: Found[]; reach: Reach }> => {
  const concerned = { typeId: rule.typeId, folderId: rule.folderId, limit: MOST_AT_ONCE };
  const { occasion } = rule;
  if (occasion.on === 'day reached') {
    const due = await store.listDue(db, {
      ...concerned,
      field: occasion.field,
      ...dueValues(occasion.days, after.day, until.day),
    });
    const found = due.flatMap(({ document_id, number, value }): Found[] => {
      const day = dayReached(value, occasion.days);
      const key = occasionKey({ value });
      return day ? [{ documentId: document_id, number, revisionId: undefined, key, at: null, day }] : [];
    });
    return { found, reach: due.length < MOST_AT_ONCE ? until : { ...until, day: after.day } };
  }
  const events = await store.listEvents(db, {
    ...concerned,
    kinds: OCCASION_EVENTS[occasion.on],
    after: after.seq,
    until: until.seq,
  });
  const found = events
    .filter((event) => isOccasion(occasion, event))
    .map(
      (event): Found => ({
        documentId: event.document_id,
        number: event.number,
        revisionId: event.revision_id ?? undefined,
        key: occasionKey({ seq: event.seq }),
        at: event.at,
        day: null,
      }),
    );
  const last = events.at(-1);
  return { found, reach: events.length < MOST_AT_ONCE || !last ? until : { ...until, seq: last.seq } };
};

/** Whether a document meets the condition of a rule. */
export const meetsRule = async (
  db: Db | Trx,
  rule: Rule,
  { document, type }: Opened,
  revision: RevisionRow,
): Promise<boolean> => {
  if (rule.condition === null) return true;
  const condition = parseCondition(rule.condition, type.fields);
  if (!condition.ok) return false;
  return meetsCondition(condition.value, await factsOf(db, routedOf({ document, work: revision }), type.fields));
};

/** The round that a rule starts on a document: the steps of its route, and whom each asks. */
export const roundOf = (
  db: Db | Trx,
  app: App,
  rule: Rule & { name: string },
  opened: Opened,
  revision: RevisionRow,
  day: string,
) => {
  if (opened.type.id !== rule.typeId) throw refused('route_not_offered', { route: rule.route });
  return ownRouteAsks(db, app, opened, revision, { name: rule.name, route: rule.route, day });
};
