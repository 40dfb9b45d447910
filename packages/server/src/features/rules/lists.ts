import type { AnswerOf, api, BodyOf } from '@kanonos/contract';
import { checkOptions, type FieldOption, type Refusal, refusal, ruleDifferences } from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { assertAllowed, refused } from '../../platform/refused.ts';
import type { HandlerOf } from '../access/index.ts';
import { actorOf } from '../access/index.ts';
import { toEditions } from './editions.ts';
import { changingNumbers } from './guard.ts';
import { listTypes, type TypeRow } from './service.ts';
import { type EditionKind, insertEdition, listEditions } from './storeEditions.ts';
import * as store from './storeLists.ts';
import { updateFields, usedOptions } from './storeTypes.ts';

const KEY = /^[a-z][A-Za-z0-9]{0,39}$/;

const usersOf = (types: readonly TypeRow[], key: string, isEntry: boolean): TypeRow[] =>
  types.filter((type) => type.fields.some((field) => field.list === key && (field.kind === 'entry') === isEntry));

/** A choice list as it is shown and packed. */
export const choicesOf = (list: store.ChoiceRow) => ({
  key: list.key,
  name: list.name,
  dependsOn: list.depends_on,
  options: list.options,
});

/** A look-up list as it is shown and packed, with its own of all entries. */
export const lookupOf = (list: store.LookupRow, entries: readonly store.EntryRow[]) => ({
  key: list.key,
  name: list.name,
  metadata: list.metadata,
  entries: entries
    .filter((entry) => entry.list_key === list.key)
    .map(({ code, name, metadata, retired }) => ({ code, name, metadata, retired })),
});

/** Refuses a key that is none or is taken, and a list that has changed since it was seen (0: it is to be new). */
const ensureSeen = (key: string, before: { row_version: number } | undefined, rowVersion: number): void => {
  if (!KEY.test(key)) throw refused('list_key_invalid');
  if (!before && rowVersion > 0) throw refused('changed_meanwhile');
  if (before && rowVersion === 0) throw refused('list_key_taken');
};

export const listLists = async (app: App): Promise<AnswerOf<typeof api.rules.lists>> => {
  const types = await listTypes(app.db);
  const entries = await store.listEntries(app.db, null);
  const codes = (key: string, isEntry: boolean) => usersOf(types, key, isEntry).map((type) => type.code);
  return {
    choices: (await store.listChoices(app.db)).map((list) => ({
      ...choicesOf(list),
      rowVersion: list.row_version,
      usedBy: codes(list.key, false),
    })),
    lookups: (await store.listLookups(app.db)).map((list) => ({
      ...lookupOf(list, entries),
      rowVersion: list.row_version,
      usedBy: codes(list.key, true),
    })),
  };
};

export const findEntries = async (app: App, key: string, find: string): Promise<AnswerOf<typeof api.rules.entries>> => {
  if (!(await store.findLookup(app.db, key))) throw refused('not_found');
  return { entries: await store.findEntries(app.db, { key, find }) };
};

/** Lists depend on one another in a chain, never in a circle; the parent of an option is an option of the list above. */
const checkDependence = (
  all: readonly store.ChoiceRow[],
  key: string,
  dependsOn: string | null,
  options: readonly FieldOption[],
): Refusal[] => {
  if (dependsOn === null)
    return options
      .filter((option) => option.under)
      .map((option) => refusal('option_under_unknown', { option: option.code, under: option.under ?? '' }));
  const byKey = new Map(all.map((list) => [list.key, list]));
  const above = byKey.get(dependsOn);
  if (!above) return [refusal('list_depends_unknown', { list: dependsOn })];
  for (let at: store.ChoiceRow | undefined = above; at; at = byKey.get(at.depends_on ?? ''))
    if (at.key === key) return [refusal('list_depends_in_circle', { list: above.name })];
  const known = new Set(above.options.map((option) => option.code));
  return options
    .filter((option) => option.under !== undefined && !known.has(option.under))
    .map((option) => refusal('option_under_unknown', { option: option.code, under: option.under ?? '' }));
};

/** Options used by documents cannot be removed; retired ones are kept and no longer offered. */
const ensureUnused = async (db: Trx, users: readonly TypeRow[], key: string, removed: string[]): Promise<void> => {
  if (removed.length === 0) return;
  for (const type of users)
    for (const field of type.fields.filter((one) => one.list === key)) {
      const used = await usedOptions(db, { typeId: type.id, key: field.key, codes: removed });
      assertAllowed(used.map((option) => refusal('option_in_use', { option })));
    }
};

/** The editions of a list; one that never changed since the organisation was set up has none. */
export const editionsOfList = async (
  app: App,
  { kind, key }: { kind: 'choices' | 'lookup'; key: string },
): Promise<AnswerOf<typeof api.rules.listEditions>> => ({
  editions: toEditions(await listEditions(app.db, kind === 'choices' ? 'list' : 'lookup', key)),
});

const keep = (work: UnitOfWork, kind: EditionKind, key: string, value: unknown, reason: string, by: string) =>
  insertEdition(work.trx, { kind, subjectId: key, value, reason, by, now: work.now });

/** Makes or changes a choice list; the types that use it have its options from then on. */
export const saveChoices: HandlerOf<typeof api.rules.saveChoices, void> = (app, viewer, key, input) =>
  app.command(actorOf(viewer), (work) => saveChoicesIn(work, viewer.id, key, input));

/** The same within a command of more. */
export const saveChoicesIn = async (
  work: UnitOfWork,
  by: string,
  key: string,
  input: BodyOf<typeof api.rules.saveChoices>,
): Promise<void> => {
  const { trx } = work;
  const before = await store.findChoices(trx, key);
  ensureSeen(key, before, input.rowVersion);
  const all = await store.listChoices(trx);
  assertAllowed([
    ...checkOptions(input.name, input.options),
    ...checkDependence(all, key, input.dependsOn, input.options),
  ]);
  const value = { name: input.name, dependsOn: input.dependsOn, options: input.options };
  const differences = ruleDifferences(
    before ? { name: before.name, dependsOn: before.depends_on, options: before.options } : {},
    JSON.parse(JSON.stringify(value)),
  );
  if (before && differences.length === 0) throw refused('nothing_changed');
  const users = usersOf(await listTypes(trx), key, false);
  const codes = new Set(input.options.map((option) => option.code));
  await ensureUnused(
    trx,
    users,
    key,
    (before?.options ?? []).map((option) => option.code).filter((code) => !codes.has(code)),
  );
  await changingNumbers(work, async () => {
    if (!before) return store.insertChoices(trx, { key, ...value });
    if ((await store.updateChoices(trx, { key, ...value, rowVersion: input.rowVersion })) === 0)
      throw refused('changed_meanwhile');
    for (const type of users)
      await updateFields(trx, {
        id: type.id,
        fields: type.fields.map((field) =>
          field.list === key && field.kind !== 'entry' ? { ...field, options: input.options } : field,
        ),
      });
  });
  await keep(work, 'list', key, value, input.reason, by);
  work.record({
    kind: before ? 'list.changed' : 'list.added',
    subject: { list: { id: key, name: input.name } },
    payload: { differences, types: users.map((type) => type.code), reason: input.reason },
  });
};

/** Makes or changes a look-up list with its entries. */
export const saveLookup: HandlerOf<typeof api.rules.saveLookup, void> = (app, viewer, key, input) =>
  app.command(actorOf(viewer), (work) => saveLookupIn(work, viewer.id, key, input));

/** The same within a command of more. */
export const saveLookupIn = async (
  work: UnitOfWork,
  by: string,
  key: string,
  input: BodyOf<typeof api.rules.saveLookup>,
): Promise<void> => {
  const { trx } = work;
  const before = await store.findLookup(trx, key);
  ensureSeen(key, before, input.rowVersion);
  assertAllowed([
    ...checkOptions(
      input.name,
      input.entries.map((entry) => ({ code: entry.code, text: entry.name })),
    ),
    ...checkOptions(
      input.name,
      input.metadata.map((field) => ({ code: field.key, text: field.label })),
    ),
  ]);
  const value = { name: input.name, metadata: input.metadata, entries: input.entries };
  const old = await entriesOf(trx, key);
  const differences = ruleDifferences(
    before ? { name: before.name, metadata: before.metadata, entries: old } : {},
    value,
  );
  if (before && differences.length === 0) throw refused('nothing_changed');
  const codes = new Set(input.entries.map((entry) => entry.code));
  const users = usersOf(await listTypes(trx), key, true);
  await ensureUnused(
    trx,
    users,
    key,
    old.map((entry) => entry.code).filter((code) => !codes.has(code)),
  );
  const list = { key, name: input.name, metadata: input.metadata };
  if (!before) await store.insertLookup(trx, list);
  else if ((await store.updateLookup(trx, { ...list, rowVersion: input.rowVersion })) === 0)
    throw refused('changed_meanwhile');
  await store.writeEntries(trx, key, input.entries);
  await keep(work, 'lookup', key, value, input.reason, by);
  work.record({
    kind: before ? 'list.changed' : 'list.added',
    subject: { list: { id: key, name: input.name } },
    payload: { differences: differences.slice(0, 200), types: users.map((type) => type.code), reason: input.reason },
  });
};

const entriesOf = async (db: Db | Trx, key: string) =>
  (await store.listEntries(db, key)).map(({ code, name, metadata, retired }) => ({ code, name, metadata, retired }));
