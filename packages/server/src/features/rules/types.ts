import { type AnswerOf, type api, type BodyOf, type Difference, sentenceOf, type TypeRule } from '@kanonos/contract';
import {
  allRoutes,
  checkTypeRule,
  dayOf,
  decidePlannedDay,
  defaultMetadata,
  describedTypeRule,
  extensionOf,
  makeFileName,
  type Refusal,
  refusal,
  retiredRule,
  ruleDifferences,
  scopesLeftBehind,
} from '@kanonos/core';
import { type App, SYSTEM_CLOCK, type UnitOfWork } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { assertAllowed, RefusalError, refused } from '../../platform/refused.ts';
import type { Handler, HandlerOf, Viewer } from '../access/index.ts';
import { actorOf } from '../access/index.ts';
import { eachOnItsOwn } from '../system/index.ts';
import { toEditions } from './editions.ts';
import { changingNumbers, ensureApart, retiredAfter } from './guard.ts';
import { getType, listTypes, planCodes, type RuleUser, rulesOfTypes, type TypeRow } from './service.ts';
import { namesInRules } from './store.ts';
import * as editions from './storeEditions.ts';
import { listChoices, listLookups } from './storeLists.ts';
import * as store from './storeTypes.ts';

/** A rule in its compared form: the options of a shared list are that list's own change. */
const bare = (rule: TypeRule): Record<string, unknown> => ({
  ...rule,
  fields: rule.fields.map(({ options, ...field }) => (field.list || !options ? field : { ...field, options })),
});

/** Whether two editions of a type's rule are equal. */
export const isSameRule = (before: TypeRule, after: TypeRule): boolean =>
  ruleDifferences(bare(before), bare(after)).length === 0;

/** The differences between two editions, with names instead of ids. */
export const differencesOf = (before: TypeRule, after: TypeRule, nameOf: (id: string) => string): Difference[] =>
  ruleDifferences(describedTypeRule(bare(before), nameOf), describedTypeRule(bare(after), nameOf));

/** The differences of a change; a change without any is refused. */
const changedIn = async (trx: Trx, before: TypeRule, after: TypeRule): Promise<Difference[]> => {
  if (isSameRule(before, after)) throw refused('nothing_changed');
  return differencesOf(before, after, await namesInRules(trx, before, after));
};

export const listTypeRules = async (app: App): Promise<AnswerOf<typeof api.rules.types>> => {
  const counts = new Map((await store.countDocuments(app.db)).map((row) => [row.type_id, row.documents]));
  const planned = new Map((await editions.listPlanned(app.db)).map((row) => [row.type_id, row.from_day]));
  return {
    types: (await listTypes(app.db)).map((type) => ({
      id: type.id,
      code: type.code,
      name: type.name,
      family: type.family,
      group: type.group_name,
      retired: type.retired,
      numbering: type.numbering_rule,
      documents: counts.get(type.id) ?? 0,
      planned: planned.get(type.id) ?? null,
    })),
  };
};

export const typeDetail = async (app: App, id: string): Promise<AnswerOf<typeof api.rules.type>> => {
  const row = await getType(app.db, id);
  const rule = store.toTypeRule(row);
  const planned = await editions.findPlanned(app.db, id);
  const kept = await editions.listEditions(app.db, 'type', id);
  const nameOf = await namesInRules(app.db, rule, planned?.value, kept);
  return {
    id,
    rule,
    rowVersion: row.row_version,
    planned: planned
      ? {
          from: planned.from_day,
          reason: planned.reason,
          by: planned.by_name,
          blockedReason: planned.blocked_reason,
          rule: planned.value as TypeRule,
          differences: differencesOf(rule, planned.value as TypeRule, nameOf),
        }
      : null,
    editions: toEditions(kept, (before, after) => differencesOf(before as TypeRule, after as TypeRule, nameOf)),
  };
};

/** The rule with the options of the shared lists that its fields name. */
const withOptions = async (db: Db | Trx, rule: TypeRule): Promise<{ rule: TypeRule; refusals: Refusal[] }> => {
  const choices = new Map((await listChoices(db)).map((list) => [list.key, list]));
  const lookups = new Set((await listLookups(db)).map((list) => list.key));
  const refusals: Refusal[] = [];
  const fields = rule.fields.map((field) => {
    if (!field.list) return field;
    const unknown = field.kind === 'entry' ? !lookups.has(field.list) : !choices.has(field.list);
    if (unknown) refusals.push(refusal('field_list_unknown', { field: field.label, list: field.list }));
    const options = field.kind === 'entry' ? undefined : choices.get(field.list)?.options;
    return { ...field, options };
  });
  // Undefined parts do not survive being stored; dropped here, a rule equals itself when it is read again.
  return { rule: JSON.parse(JSON.stringify({ ...rule, fields })) as TypeRule, refusals };
};

/** Units and people that routes, reading and fallback name and that there are not. */
const unknownInWays = async (db: Db | Trx, rule: TypeRule): Promise<Refusal[]> => {
  const steps = allRoutes(rule).flatMap(({ route }) => route.steps);
  const assignees = steps.flatMap((step) => step.assignees);
  const escalated = steps.flatMap((step) => step.escalations ?? []).flatMap((one) => ('to' in one ? [one.to] : []));
  const units = [
    ...assignees.flatMap((one) => (one.by === 'unit' ? [one.unitId] : [])),
    ...assignees.flatMap((one) => (one.by === 'chosen' && one.fromUnitId ? [one.fromUnitId] : [])),
    ...(rule.reading?.unitIds ?? []),
  ];
  const people = [
    ...[...assignees, ...escalated].flatMap((one) => (one.by === 'person' ? [one.personId] : [])),
    ...(rule.fallbackApproverId ? [rule.fallbackApproverId] : []),
  ];
  const fields = assignees.flatMap((one) => (one.by === 'field' ? [one.key] : []));
  const holders = rule.fields.filter((field) => field.kind === 'person' || field.kind === 'people');
  return [
    ...((await store.countKnown(db, 'units', units)) ? [] : [refusal('way_names_unknown', { what: 'unit' })]),
    ...((await store.countKnown(db, 'people', people)) ? [] : [refusal('way_names_unknown', { what: 'person' })]),
    ...fields
      .filter((key) => !holders.some((field) => field.key === key))
      .map((what) => refusal('step_field_unknown', { what })),
  ];
};

/** The settings that a rule may no longer change once documents exist: the scheme of their labels, the kind of their metadata. */
const inUse = async (db: Db | Trx, row: TypeRow, rule: TypeRule, documents: number): Promise<Refusal[]> => {
  const refusals: Refusal[] = [];
  if (documents > 0 && row.scheme.kind !== rule.scheme.kind) refusals.push(refusal('scheme_in_use', { documents }));
  for (const field of rule.fields) {
    const before = row.fields.find((one) => one.key === field.key);
    if (before && before.kind !== field.kind && (await store.countWith(db, { typeId: row.id, key: field.key })) > 0)
      refusals.push(refusal('field_kind_in_use', { field: field.label, kind: before.kind }));
  }
  return refusals;
};

const documentsOf = async (db: Db | Trx, typeId: string | null) =>
  (await store.countDocuments(db)).find((row) => row.type_id === typeId) ?? { documents: 0, drafts: 0 };

/** The types of the organisation as they would be with this rule. */
const asIf = async (
  db: Db | Trx,
  id: string | null,
  rule: TypeRule,
): Promise<{ before: RuleUser[]; after: RuleUser[] }> => {
  const before: RuleUser[] = await listTypes(db);
  const changed: RuleUser = {
    code: rule.code,
    numbering_rule: rule.numbering,
    fields: rule.fields,
    retired: rule.retired,
  };
  return {
    before,
    after: id ? before.map((type) => ((type as TypeRow).id === id ? changed : type)) : [...before, changed],
  };
};

const collisionRefusals = async (db: Trx, id: string | null, rule: TypeRule): Promise<Refusal[]> => {
  const { before, after } = await asIf(db, id, rule);
  const { areas, departments } = await planCodes(db);
  const [rulesBefore, rulesAfter] = [rulesOfTypes(before, areas, departments), rulesOfTypes(after, areas, departments)];
  const { kept } = await retiredAfter(db, rulesBefore, rulesAfter);
  try {
    ensureApart([...rulesAfter, ...kept.flatMap((scope) => retiredRule(scope) ?? [])]);
    return [];
  } catch (error) {
    if (error instanceof RefusalError) return [...error.refusals];
    throw error;
  }
};

/** The effect of a new or changed type: everything that saving would refuse, the differences, and the affected documents. */
export const tryType = (
  app: App,
  input: BodyOf<typeof api.rules.tryType>,
): Promise<AnswerOf<typeof api.rules.tryType>> =>
  app.db.transaction(async (trx) => {
    const row = input.id ? await getType(trx, input.id) : undefined;
    const { rule, refusals } = await withOptions(trx, input.rule);
    refusals.push(...checkTypeRule(rule));
    const { documents, drafts } = await documentsOf(trx, input.id);
    if (row) refusals.push(...(await inUse(trx, row, rule, documents)));
    if ((await listTypes(trx)).some((type) => type.code === rule.code && type.id !== input.id))
      refusals.push(refusal('type_code_taken', { code: rule.code }));
    if (refusals.length === 0) refusals.push(...(await collisionRefusals(trx, input.id, rule)));
    const before = row ? store.toTypeRule(row) : undefined;
    const { areas, departments } = await planCodes(trx);
    const { before: typesBefore, after: typesAfter } = await asIf(trx, input.id, rule);
    const left = scopesLeftBehind(
      rulesOfTypes(typesBefore, areas, departments),
      rulesOfTypes(typesAfter, areas, departments),
      await editions.listBegun(trx),
    );
    return {
      refusals: refusals.map((one) => ({ ...one, detail: sentenceOf(one.code, one.params) })),
      differences: before ? differencesOf(before, rule, await namesInRules(trx, before, rule)) : [],
      documents,
      drafts,
      gaps: row ? await gapsOf(trx, row, rule) : [],
      dropped: row ? await droppedOf(trx, row, rule) : [],
      leftBehind: left.map(({ scope, last }) => ({ scope, last })),
      examples: row ? await examplesOf(trx, row.id, rule) : [],
    };
  });

/** Fields that become mandatory: how many documents (of signed ones: drafts) have no value. */
const gapsOf = async (db: Trx, row: TypeRow, rule: TypeRule) => {
  const found = [];
  for (const field of rule.fields) {
    const wasMandatory = row.fields.some((one) => one.key === field.key && one.mandatory);
    const isFixed = field.default?.from === 'fixed';
    if (wasMandatory || !(field.mandatory || isFixed)) continue;
    const reached = await store.countWithout(db, { typeId: row.id, key: field.key, level: field.level });
    if (reached > 0) found.push({ key: field.key, label: field.label, level: field.level, reached, fills: isFixed });
  }
  return found;
};

const droppedOf = async (db: Trx, row: TypeRow, rule: TypeRule) => {
  const found = [];
  for (const field of row.fields) {
    if (rule.fields.some((one) => one.key === field.key)) continue;
    const documents = await store.countWith(db, { typeId: row.id, key: field.key });
    if (documents > 0) found.push({ label: field.label, documents });
  }
  return found;
};

const examplesOf = async (db: Trx, typeId: string, rule: TypeRule) =>
  (await store.newestOf(db, typeId)).map((document) => ({
    number: document.number,
    title: document.title,
    fileName: makeFileName(
      {
        number: document.number,
        revision: document.label,
        title: document.title,
        extension: extensionOf(document.name ?? '') || 'docx',
        fields: Object.fromEntries(Object.entries(document.metadata).map(([key, value]) => [key, String(value ?? '')])),
      },
      rule.naming,
    ),
  }));

/** Makes a type. */
export const addType: Handler<typeof api.rules.addType> = (app, viewer, input) =>
  app.command(actorOf(viewer), async (work) => ({ id: await addTypeIn(work, input.rule, input.reason, viewer.id) }));

/** Makes a type within a command of more. */
export const addTypeIn = async (work: UnitOfWork, wanted: TypeRule, reason: string, by: string): Promise<string> => {
  const { rule, refusals } = await withOptions(work.trx, wanted);
  assertAllowed([...refusals, ...checkTypeRule(rule), ...(await unknownInWays(work.trx, rule))]);
  const id = newId();
  await changingNumbers(work, () => store.insertType(work.trx, { id, rule }));
  await keepEdition(work, id, rule, reason, by);
  work.record({
    kind: 'type.added',
    subject: { type: { id, name: rule.code } },
    payload: { name: rule.name, numbering: rule.numbering, reason },
  });
  return id;
};

const keepEdition = (work: UnitOfWork, id: string, rule: TypeRule, reason: string, by: string | null) =>
  editions.insertEdition(work.trx, { kind: 'type', subjectId: id, value: rule, reason, by, now: work.now });

/** Changes a type now, or plans the change for a day. */
export const changeType: HandlerOf<typeof api.rules.changeType> = (app, viewer, id, input) =>
  app.command(actorOf(viewer), (work) => changeTypeIn(work, viewer, id, input));

/** The same within a command of more. */
export const changeTypeIn = async (
  work: UnitOfWork,
  viewer: Viewer,
  id: string,
  input: BodyOf<typeof api.rules.changeType>,
): Promise<{ filled: number }> => {
  const row = await getType(work.trx, id);
  if (row.row_version !== input.rowVersion) throw refused('changed_meanwhile');
  const planned = await editions.findPlanned(work.trx, id);
  if (planned) throw refused('rule_planned_already', { day: planned.from_day });
  if (!input.from) return { filled: await applyTypeIn(work, row, input.rule, input.reason, viewer.id, input.fill) };
  assertAllowed(decidePlannedDay(input.from, work.day));
  const { rule, refusals } = await withOptions(work.trx, input.rule);
  assertAllowed([...refusals, ...checkTypeRule(rule), ...(await unknownInWays(work.trx, rule))]);
  assertAllowed(await inUse(work.trx, row, rule, (await documentsOf(work.trx, id)).documents));
  const differences = await changedIn(work.trx, store.toTypeRule(row), rule);
  assertAllowed(await collisionRefusals(work.trx, id, rule));
  await editions.insertPlanned(work.trx, {
    typeId: id,
    value: rule,
    reason: input.reason,
    from: input.from,
    by: viewer.id,
    now: work.now,
  });
  work.record({
    kind: 'type.change-planned',
    subject: { type: { id, name: row.code } },
    payload: { from: input.from, differences, reason: input.reason },
  });
  return { filled: 0 };
};

/** Changes a type now, within a command of more; gives how many documents had a first value filled in. */
export const applyTypeIn = async (
  work: UnitOfWork,
  row: TypeRow,
  wanted: TypeRule,
  reason: string,
  by: string | null,
  fill: readonly string[],
): Promise<number> => {
  const { rule, refusals } = await withOptions(work.trx, wanted);
  assertAllowed([...refusals, ...checkTypeRule(rule), ...(await unknownInWays(work.trx, rule))]);
  assertAllowed(await inUse(work.trx, row, rule, (await documentsOf(work.trx, row.id)).documents));
  const differences = await changedIn(work.trx, store.toTypeRule(row), rule);
  await changingNumbers(work, async () => {
    if ((await store.updateType(work.trx, { id: row.id, rule, rowVersion: row.row_version })) === 0)
      throw refused('changed_meanwhile');
  });
  let filled = 0;
  const values = defaultMetadata(
    rule.fields.filter((field) => fill.includes(field.key) && field.default?.from === 'fixed'),
    { today: work.day, me: '', folder: {}, parent: {} },
  );
  for (const [key, value] of Object.entries(values)) {
    const signed = rule.fields.some((field) => field.key === key && field.level === 'revision');
    filled += signed
      ? await store.fillDrafts(work.trx, { typeId: row.id, key, value })
      : await store.fillLiving(work.trx, { typeId: row.id, key, value, now: work.now });
  }
  await keepEdition(work, row.id, rule, reason, by);
  work.record({
    kind: 'type.changed',
    subject: { type: { id: row.id, name: rule.code } },
    payload: { differences, reason, ...(filled ? { filled: values, documents: filled } : {}) },
  });
  return filled;
};

export const dropPlan = (app: App, viewer: Viewer, id: string, reason: string): Promise<void> =>
  app.command(actorOf(viewer), async (work) => {
    const row = await getType(work.trx, id);
    const planned = await editions.findPlanned(work.trx, id);
    if (!planned) throw refused('not_found');
    await editions.endPlanned(work.trx, { id: planned.id, how: 'dropped', now: work.now });
    work.record({
      kind: 'type.change-cancelled',
      subject: { type: { id, name: row.code } },
      payload: { from: planned.from_day, reason },
    });
  });

/** Changes whose day has come take effect; one that no longer can is kept with the reason, for a person to decide. */
export const applyDuePlans = async (app: App): Promise<number> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const applied = await applyAllDue(app, day);
  settled.set(app.db, day);
  return applied;
};

/** A change is planned for a coming day only: settled once on a day, nothing of that day is left to settle. */
const settled = new WeakMap<object, string>();

/** Applies due changes before a registration by the rules; once a day. */
export const applyPlansDueToday = async (app: App): Promise<void> => {
  if (settled.get(app.db) !== dayOf(app.clock(), (await app.organisation()).zone)) await applyDuePlans(app);
};

const applyAllDue = async (app: App, day: string): Promise<number> => {
  const due = await editions.listDuePlans(app.db, day);
  let applied = 0;
  const applyDueOfOne = async (plan: (typeof due)[number]) => {
    try {
      await app.command(SYSTEM_CLOCK, async (work) => {
        if ((await editions.endPlanned(work.trx, { id: plan.id, how: 'applied', now: work.now })) === 0) return;
        const row = await getType(work.trx, plan.type_id);
        // Settings that did not exist when the change was planned stay unchanged.
        const rule = { ...store.toTypeRule(row), ...(plan.value as Partial<TypeRule>) };
        await applyTypeIn(work, row, rule, plan.reason, plan.by_id, []);
      });
      applied++;
    } catch (error) {
      if (!(error instanceof RefusalError)) throw error;
      const why = error.refusals.map((one) => sentenceOf(one.code, one.params)).join(' ');
      await app.command(SYSTEM_CLOCK, async (work) => {
        if ((await editions.blockPlanned(work.trx, { id: plan.id, why })) > 0)
          work.record({
            kind: 'type.change-blocked',
            subject: { type: { id: plan.type_id, name: String((plan.value as TypeRule).code) } },
            payload: { from: plan.from_day, why },
          });
      });
    }
  };
  await eachOnItsOwn(
    app,
    'planned change of a type',
    due,
    (plan) => ({ subject: plan.id, label: String((plan.value as TypeRule).code) }),
    applyDueOfOne,
  );
  return applied;
};

/** The first edition of every type of a new organisation. */
export const keepFirstEditions = async (trx: Trx, reason: string, now: Date): Promise<void> => {
  for (const row of await listTypes(trx))
    await editions.insertEdition(trx, {
      kind: 'type',
      subjectId: row.id,
      value: store.toTypeRule(row),
      reason,
      by: null,
      now,
    });
};
