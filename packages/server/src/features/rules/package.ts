import {
  type AnswerOf,
  type api,
  type BodyOf,
  ConfigurationPackage,
  type PackageChange,
  TypeRule,
} from '@kanonos/contract';
import { dayOf, ruleDifferences } from '@kanonos/core';
import { z } from 'zod';
import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { actorOf } from '../access/index.ts';
import { changingNumbers } from './guard.ts';
import { choicesOf, lookupOf, saveChoicesIn, saveLookupIn } from './lists.ts';
import { listTypes } from './service.ts';
import { listChoices, listEntries, listLookups } from './storeLists.ts';
import { toTypeRule } from './storeTypes.ts';
import { listPeople, listUnits, type Unit, upsertUnit } from './storeUnits.ts';
import { addTypeIn, applyTypeIn, isSameRule } from './types.ts';

/** The schema of a package, as JSON Schema. */
export const packageSchema = (): Record<string, unknown> =>
  z.toJSONSchema(ConfigurationPackage, { io: 'input', unrepresentable: 'any' }) as Record<string, unknown>;
const nameOf = (unit: Pick<Unit, 'kind' | 'code'>) => `${unit.kind}/${unit.code}`;

/** Every text that is the id of a unit becomes its name, and back. */
const renamed = <T>(value: T, names: ReadonlyMap<string, string>): T =>
  JSON.parse(JSON.stringify(value), (_, part) => (typeof part === 'string' ? (names.get(part) ?? part) : part)) as T;

/** The rules of the organisation as one package, units by name. */
export const exportConfiguration = async (app: App, db: Db | Trx = app.db): Promise<ConfigurationPackage> => {
  const units = await listUnits(db);
  const names = new Map([
    ...units.map((unit) => [unit.id, nameOf(unit)] as const),
    ...(await listPeople(db)).map((person) => [person.id, person.name] as const),
  ]);
  const entries = await listEntries(db, null);
  const organisation = await app.organisation();
  return {
    kanonos: 'organisation',
    edition: 1,
    organisation: {
      name: organisation.name,
      code: organisation.code,
      zone: organisation.zone,
      exportedOn: dayOf(app.clock(), organisation.zone),
    },
    units: units.map(({ kind, code, name }) => ({ kind, code, name })),
    choices: (await listChoices(db)).map(choicesOf),
    lookups: (await listLookups(db)).map((list) => lookupOf(list, entries)),
    types: (await listTypes(db)).map((row) => {
      const { registerUnitIds, route, routes, furtherRoutes, reading, fallbackApproverId, ...rule } = toTypeRule(row);
      return {
        rule: {
          ...rule,
          registerUnits: renamed(registerUnitIds, names),
          route: renamed(route, names) as Record<string, unknown>,
          routes: renamed(routes, names) as Record<string, unknown>,
          furtherRoutes: renamed(furtherRoutes, names) as unknown[],
          reading: renamed(reading, names) as Record<string, unknown> | null,
          fallbackApprover: fallbackApproverId && renamed(fallbackApproverId, names),
        },
      };
    }),
  };
};

/** Lists in an order in which each follows the one that it depends on. */
const inOrder = (choices: ConfigurationPackage['choices']): ConfigurationPackage['choices'] => {
  const done: ConfigurationPackage['choices'] = [];
  let rest = [...choices];
  while (rest.length) {
    const next = rest.filter(
      (list) => list.dependsOn === null || !rest.some((other) => other !== list && other.key === list.dependsOn),
    );
    if (next.length === 0) return [...done, ...rest];
    done.push(...next);
    rest = rest.filter((list) => !next.includes(list));
  }
  return done;
};

const ruleOf = (type: ConfigurationPackage['types'][number], ids: ReadonlyMap<string, string>): TypeRule => {
  const { registerUnits, route, routes, furtherRoutes, reading, fallbackApprover, ...rule } = type.rule;
  const named = (name: string) => {
    const id = ids.get(name);
    if (!id) throw refused('package_unit_unknown', { unit: name });
    return id;
  };
  // The schema of a rule refuses names that resolve to nothing: it expects ids in their place.
  const parsed = TypeRule.safeParse({
    ...rule,
    registerUnitIds: registerUnits.map(named),
    ...renamed({ route, routes, furtherRoutes, reading }, ids),
    fallbackApproverId: fallbackApprover === null ? null : named(fallbackApprover),
  });
  if (!parsed.success)
    throw refused('input_invalid', {
      field: `${rule.code} ${parsed.error.issues[0]?.path.join('.') ?? ''}`,
      reason: parsed.error.issues[0]?.message.toLowerCase() ?? '',
    });
  return parsed.data;
};

/** The changes that a package would make. */
export const tryPackage = async (
  app: App,
  wanted: ConfigurationPackage,
  db: Db | Trx = app.db,
): Promise<AnswerOf<typeof api.configurationPackages.try>> => {
  const now = await exportConfiguration(app, db);
  const changes: PackageChange[] = [];
  let same = 0;
  const compare = (kind: PackageChange['kind'], name: string, before: object | undefined, after: object) => {
    const plain = (value: object) => JSON.parse(JSON.stringify(value)) as Record<string, unknown>;
    const differences = before ? ruleDifferences(plain(before), plain(after)) : [];
    if (before && differences.length === 0) same++;
    else changes.push({ kind, name, isNew: !before, differences });
  };
  for (const unit of wanted.units)
    compare(
      'unit',
      nameOf(unit),
      now.units.find((one) => nameOf(one) === nameOf(unit)),
      unit,
    );
  for (const list of wanted.choices)
    compare(
      'choices',
      list.name,
      now.choices.find((one) => one.key === list.key),
      list,
    );
  for (const list of wanted.lookups)
    compare(
      'lookup',
      list.name,
      now.lookups.find((one) => one.key === list.key),
      list,
    );
  const known = new Set([...now.units, ...wanted.units].map(nameOf));
  for (const type of wanted.types) {
    for (const name of namesIn(type)) if (!known.has(name)) throw refused('package_unit_unknown', { unit: name });
    const before = now.types.find((one) => one.rule.code === type.rule.code);
    compare('type', `${type.rule.code} ${type.rule.name}`, before && bare(before.rule), bare(type.rule));
  }
  return { changes, same };
};

/** The options of a shared list are that list's own change. */
const bare = (rule: ConfigurationPackage['types'][number]['rule']) => ({
  ...rule,
  fields: rule.fields.map(({ options, ...field }) => (field.list || !options ? field : { ...field, options })),
});

const namesIn = (type: ConfigurationPackage['types'][number]): string[] =>
  [
    ...JSON.stringify([
      type.rule.route,
      type.rule.routes,
      type.rule.furtherRoutes,
      type.rule.reading,
      type.rule.registerUnits,
    ]).matchAll(/"((?:department|role|group|site)\/[^"]{1,16})"/g),
  ].map((match) => match[1] ?? '');

/** Reads a package in, in one transaction: units and lists first, then types. Everything it does not name stays. */
export const applyPackage = (
  app: App,
  viewer: Viewer,
  { package: wanted, reason }: BodyOf<typeof api.configurationPackages.apply>,
): Promise<{ changed: number }> =>
  app.command(actorOf(viewer), (work) => applyPackageIn(app, work, viewer, wanted, reason));

/** The same within a command. @throws RefusalError nothing_changed, package_unit_unknown, rule_ambiguous */
export const applyPackageIn = async (
  app: App,
  work: UnitOfWork,
  viewer: Viewer,
  wanted: ConfigurationPackage,
  reason: string,
): Promise<{ changed: number }> => {
  const { changes } = await tryPackage(app, wanted, work.trx);
  if (changes.length === 0) throw refused('nothing_changed');
  const has = (kind: PackageChange['kind'], name: string) =>
    changes.some((one) => one.kind === kind && one.name === name);
  await changingNumbers(work, () =>
    saveUnits(
      work,
      wanted.units.filter((unit) => has('unit', nameOf(unit))),
    ),
  );
  const ids = new Map([
    ...(await listUnits(work.trx)).map((unit) => [nameOf(unit), unit.id] as const),
    ...(await listPeople(work.trx)).map((person) => [person.name, person.id] as const),
  ]);
  const [choices, lookups] = [await listChoices(work.trx), await listLookups(work.trx)];
  for (const list of inOrder(wanted.choices.filter((one) => has('choices', one.name)))) {
    const rowVersion = choices.find((one) => one.key === list.key)?.row_version ?? 0;
    await saveChoicesIn(work, viewer.id, list.key, { ...list, rowVersion, reason });
  }
  for (const list of wanted.lookups.filter((one) => has('lookup', one.name))) {
    const rowVersion = lookups.find((one) => one.key === list.key)?.row_version ?? 0;
    await saveLookupIn(work, viewer.id, list.key, { ...list, rowVersion, reason });
  }
  for (const type of wanted.types) {
    const rule = ruleOf(type, ids);
    const row = (await listTypes(work.trx)).find((one) => one.code === rule.code);
    if (!row) await addTypeIn(work, rule, reason, viewer.id);
    else if (!isSameRule(toTypeRule(row), rule)) await applyTypeIn(work, row, rule, reason, viewer.id, []);
  }
  work.record({
    kind: 'configuration.imported',
    subject: {},
    payload: {
      from: wanted.organisation.name,
      changes: changes.map(({ kind, name, isNew }) => `${kind} ${name}${isNew ? ' (new)' : ''}`),
      reason,
    },
  });
  return { changed: changes.length };
};

const saveUnits = async (work: UnitOfWork, units: ConfigurationPackage['units']): Promise<void> => {
  for (const unit of units) await upsertUnit(work.trx, { id: newId(), ...unit });
};
