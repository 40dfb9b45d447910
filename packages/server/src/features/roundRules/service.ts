import { type AnswerOf, type api, type BodyOf, type RoundRule, type RuleStart, sentenceOf } from '@kanonos/contract';
import {
  addDays,
  checkOccasion,
  dayOf,
  type Occasion,
  parseCondition,
  type Refusal,
  routesToNothing,
} from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { assertAllowed, RefusalError, refused } from '../../platform/refused.ts';
import { actorOf, type Handler, type Viewer, viewerOf } from '../access/index.ts';
import { ensureActive, type Opened, openDocument, openIfVisible } from '../documents/index.ts';
import { namesOf } from '../people/index.ts';
import { meantRevision } from '../rounds/index.ts';
import { getFolder, getType, listTypes, policyOf } from '../rules/index.ts';
import { type Found, meetsRule, occasionsOf, roundOf } from './looking.ts';
import * as store from './store.ts';

const TRIED_DAYS = 30;
const SHOWN = 200;

const fieldOf = (occasion: Occasion): string | null => ('field' in occasion ? occasion.field : null);

const toRoundRule = (row: store.RuleRow, labels: ReadonlyMap<string, string>): RoundRule => ({
  id: row.id,
  rowVersion: row.row_version,
  name: row.name,
  typeId: row.type_id,
  type: { code: row.type_code, name: row.type_name },
  folderId: row.folder_id,
  folder: row.folder_name,
  occasion: row.occasion,
  field: labels.get(fieldOf(row.occasion) ?? '') ?? fieldOf(row.occasion),
  condition: row.condition,
  route: row.route,
  responsibleId: row.responsible_id,
  responsible: { id: row.responsible_id, name: row.responsible_name },
  active: row.active,
  started: row.started,
  failed: row.failed,
  last: row.last?.toISOString() ?? null,
});

/** The rules, and what a rule may name of each type in use. */
export const roundRules = async (app: App): Promise<AnswerOf<typeof api.roundRules.list>> => {
  const types = (await listTypes(app.db)).filter(({ retired }) => !retired);
  const labelsOf = new Map(types.map((type) => [type.id, new Map(type.fields.map(({ key, label }) => [key, label]))]));
  const found = await store.listRules(app.db);
  return {
    rules: found.map((row) => toRoundRule(row, labelsOf.get(row.type_id) ?? new Map())),
    types: types.map((type) => ({
      id: type.id,
      code: type.code,
      name: type.name,
      routes: routesToNothing(policyOf(type)).map(({ name }) => name),
      fields: type.fields,
    })),
  };
};

type Given = BodyOf<typeof api.roundRules.try>;

/** Refuses what a rule of this type cannot be. */
const ensureRule = async (db: Db | Trx, given: Given) => {
  const type = await getType(db, given.typeId);
  if (given.folderId) await getFolder(db, given.folderId);
  const condition = given.condition === null ? undefined : parseCondition(given.condition, type.fields);
  assertAllowed([
    ...checkOccasion(given.occasion, type.fields),
    ...(condition && !condition.ok ? condition.refusals : []),
  ]);
  if (!routesToNothing(policyOf(type)).some(({ name }) => name === given.route))
    throw refused('route_not_offered', { route: given.route });
  return type;
};

/** Adds a rule or changes one; it looks at what happens from then on. */
export const saveRoundRule: Handler<typeof api.roundRules.save> = (app, viewer, input) =>
  app.command(actorOf(viewer), async (work) => {
    const before = input.id ? await openRule(work, input.id, input.rowVersion) : undefined;
    const type = await ensureRule(work.trx, input);
    await ensureActive(work.trx, input.responsibleId);
    const name = input.name.trim();
    const same = (await store.listRules(work.trx)).find((one) => one.name.toLowerCase() === name.toLowerCase());
    if (same && same.id !== before?.id) throw refused('rule_name_taken', { name });
    const { typeId, folderId, occasion, condition, route, responsibleId, active } = input;
    const id = before?.id ?? newId();
    // What a rule that was switched off did not look at is not made up for, nor what it looked at by other rules.
    const checked = {
      checkedSeq: await store.newestSeq(work.trx),
      checkedTo: addDays(work.day, before?.active ? 0 : -1),
    };
    const values = { id, name, typeId, folderId, occasion, condition, route, responsibleId, active, ...checked };
    await (before ? store.updateRule(work.trx, values) : store.insertRule(work.trx, values));
    const responsible = (await namesOf(work.trx, [responsibleId])).get(responsibleId)?.signInName ?? '';
    work.record({
      kind: 'round-rule.saved',
      subject: { type: { id: type.id, name: type.code } },
      payload: {
        name,
        type: type.code,
        on: occasion.on,
        field: fieldOf(occasion),
        days: occasion.on === 'day reached' ? occasion.days : null,
        condition,
        route,
        responsible,
        active,
        reason: input.reason,
      },
    });
    return { id };
  });

const openRule = async (work: UnitOfWork, id: string, rowVersion: number | undefined): Promise<store.RuleRow> => {
  await store.lockRule(work.trx, id);
  const row = await store.findRule(work.trx, id);
  if (!row) throw refused('not_found');
  if (row.row_version !== rowVersion) throw refused('changed_meanwhile');
  return row;
};

/** Removes a rule; what it started goes on. */
export const removeRoundRule = (
  app: App,
  viewer: Viewer,
  id: string,
  { rowVersion, reason }: BodyOf<typeof api.roundRules.remove>,
): Promise<void> =>
  app.command(actorOf(viewer), async (work) => {
    const row = await openRule(work, id, rowVersion);
    await store.removeRule(work.trx, { id, now: work.now });
    work.record({
      kind: 'round-rule.removed',
      subject: { type: { id: row.type_id, name: row.type_code } },
      payload: { name: row.name, reason },
    });
  });

const sentences = (refusals: readonly Refusal[]): string =>
  refusals.map(({ code, params }) => sentenceOf(code, params)).join(' ');

/** Which rounds a rule would have started in the last 30 days, of documents as they are today. */
export const tryRoundRule = async (
  app: App,
  viewer: Viewer,
  given: Given,
): Promise<AnswerOf<typeof api.roundRules.try>> => {
  await ensureRule(app.db, given);
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const since = new Date(app.clock().getTime() - TRIED_DAYS * 86_400_000);
  const responsible = await viewerOf(app.db, given.responsibleId, day);
  const rule = { ...given, name: given.route };
  const { found } = await occasionsOf(
    app.db,
    rule,
    { seq: await store.seqBefore(app.db, since), day: addDays(day, -TRIED_DAYS) },
    { seq: await store.newestSeq(app.db), day },
  );
  const starts: RuleStart[] = [];
  for (const one of found) {
    const shown = await openIfVisible(app.db, viewer, one.documentId, day);
    if (!shown) continue;
    const would = await wouldStart(app, responsible, rule, one, day);
    if (would) starts.push({ ...aboutOf(shown, one), ...would });
  }
  return { rounds: starts.filter(({ problem }) => problem === null).length, starts: starts.reverse().slice(0, SHOWN) };
};

const aboutOf = (
  { document, revisions }: Opened,
  { documentId, at, day }: Pick<Found, 'documentId' | 'at' | 'day'>,
) => ({
  documentId,
  number: document.number,
  title: revisions[0]?.title ?? '',
  at: at?.toISOString() ?? null,
  day,
});

/** Whom the round would ask, or why there would be none; undefined where the document does not meet the rule. */
const wouldStart = async (
  app: App,
  responsible: Viewer,
  rule: Parameters<typeof roundOf>[2],
  one: Found,
  day: string,
): Promise<Pick<RuleStart, 'asks' | 'problem'> | undefined> => {
  try {
    const opened = await openDocument(app.db, responsible, one.documentId, day);
    const revision = meantRevision(opened, one.revisionId);
    if (!(await meetsRule(app.db, rule, opened, revision))) return undefined;
    const { people } = await roundOf(app.db, app, rule, opened, revision, day);
    const ids = people.flatMap((asked) => asked ?? []);
    const names = await namesOf(app.db, ids);
    return { asks: [...new Set(ids.map((id) => names.get(id)?.name ?? ''))], problem: null };
  } catch (error) {
    if (error instanceof RefusalError) return { asks: [], problem: sentences(error.refusals) };
    throw error;
  }
};

/** What a rule started and what it could not start, the newest first. */
export const roundRuleLog = async (
  app: App,
  viewer: Viewer,
  id: string,
): Promise<AnswerOf<typeof api.roundRules.log>> => {
  if (!(await store.findRule(app.db, id))) throw refused('not_found');
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const starts: RuleStart[] = [];
  for (const row of await store.listStarts(app.db, id, SHOWN)) {
    const shown = await openIfVisible(app.db, viewer, row.document_id, day);
    if (!shown) continue;
    starts.push({
      ...aboutOf(shown, { documentId: row.document_id, at: row.at, day: null }),
      asks: row.asks,
      problem: row.problems && sentences(row.problems),
    });
  }
  return { starts };
};
