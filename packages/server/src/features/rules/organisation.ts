import { NEW_TYPE, type TypeRule } from '@kanonos/contract';
import {
  checkTypeRule,
  type FieldDefinition,
  type FieldOption,
  type FurtherRoute,
  findCollision,
  type RevisionScheme,
  type Right,
  type RouteDefinition,
  type TypeReading,
} from '@kanonos/core';
import { type App, SYSTEM_CLOCK } from '../../platform/app.ts';
import type { Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { assertAllowed, refused } from '../../platform/refused.ts';
import { knownRules } from './service.ts';
import { insertChoices, insertLookup, writeEntries } from './storeLists.ts';
import {
  insertCounter,
  insertFolder,
  insertGrant,
  insertHoliday,
  insertOrganisation,
  insertUnit,
  listOrganisations,
  setSetupDone,
} from './storeOrganisation.ts';
import { insertType } from './storeTypes.ts';
import { keepFirstEditions } from './types.ts';

/** A whole organisation as it is set up at the beginning; its own screens change it later. */
export type OrganisationDescription = {
  name: string;
  code: string;
  zone: string;
  demoPassword: string | null;
  holidays: { day: string; name: string }[];
  units: { key: string; kind: 'department' | 'role' | 'group' | 'site'; code: string; name: string }[];
  folders: { key: string; parent: string | null; name: string; code?: string; metadata?: Record<string, string> }[];
  /** Choices and look-up lists that types share. */
  choices?: { key: string; name: string; dependsOn?: string; options: FieldOption[] }[];
  lookups?: {
    key: string;
    name: string;
    metadata: { key: string; label: string; kind: 'text' | 'number' | 'date' }[];
    entries: { code: string; name: string; metadata: Record<string, string> }[];
  }[];
  /** Missing settings of a type are as for a new one. */
  types: {
    family?: string;
    group?: string;
    example?: string;
    takeOver?: boolean;
    code: string;
    name: string;
    help: string;
    numbering: string | null;
    externalPattern?: string;
    naming?: string;
    filing?: string;
    scheme: RevisionScheme;
    fields: FieldDefinition[];
    /** Units are named by their key and replaced by ids. */
    route: (unit: (key: string) => string) => RouteDefinition;
    furtherRoutes?: (unit: (key: string) => string) => FurtherRoute[];
    reading?: (unit: (key: string) => string) => TypeReading;
    readersNeeded?: boolean;
    reviewEvery?: number;
    releaseWithoutRoute?: boolean;
    policy?: Partial<
      Pick<
        TypeRule,
        | 'followsNamingRule'
        | 'origin'
        | 'sharing'
        | 'head'
        | 'foot'
        | 'cover'
        | 'keeping'
        | 'changeNote'
        | 'changeNoteDemand'
        | 'isChangeNote'
      >
    >;
  }[];
  grants: { folder: string; subject: { unit: string } | 'all'; rights: Right[] }[];
  /** Last numbers of scopes before their first taking, with a reason. */
  counters: { scope: string; last: number; reason: string }[];
};

export type SeededOrganisation = {
  units: Map<string, string>;
  folders: Map<string, string>;
  types: Map<string, string>;
};

const LAYING_LOCK = 7_204_102;

/** Lays down an organisation in an empty database, in one transaction; refused when there is one, or when its rules are ambiguous. */
export const seedOrganisation = async (
  app: Pick<App, 'db' | 'command' | 'clock' | 'forgetOrganisation'>,
  organisation: OrganisationDescription,
): Promise<SeededOrganisation> => {
  const laid: SeededOrganisation = { units: new Map(), folders: new Map(), types: new Map() };
  await app.db.transaction(async (trx) => {
    await trx.raw('select pg_advisory_xact_lock(?)', [LAYING_LOCK]);
    if ((await listOrganisations(trx)).length) throw refused('changed_meanwhile');
    await insertOrganisation(trx, {
      name: organisation.name,
      code: organisation.code,
      zone: organisation.zone,
      demo: organisation.demoPassword !== null,
      demoPassword: organisation.demoPassword,
    });
    for (const holiday of organisation.holidays) await insertHoliday(trx, holiday);
    for (const unit of organisation.units) {
      const id = newId();
      laid.units.set(unit.key, id);
      await insertUnit(trx, {
        id,
        kind: unit.kind,
        code: unit.code,
        name: unit.name,
      });
    }
    await insertFolders(trx, organisation, laid);
    await insertLists(trx, organisation);
    await insertTypes(trx, organisation, laid);
    for (const grant of organisation.grants) {
      await insertGrant(trx, {
        id: newId(),
        folder: need(laid.folders, grant.folder),
        kind: grant.subject === 'all' ? 'all' : 'unit',
        subject: grant.subject === 'all' ? null : need(laid.units, grant.subject.unit),
        rights: grant.rights,
      });
    }
    for (const counter of organisation.counters)
      await insertCounter(trx, {
        scope: counter.scope,
        last: counter.last,
      });
    await keepFirstEditions(trx, 'First edition', app.clock());
    const collision = findCollision(await knownRules(trx));
    if (collision)
      throw new Error(`numbering rules are ambiguous: ${collision.number} could be ${collision.readings.join(' or ')}`);
  });
  app.forgetOrganisation();
  await app.command(SYSTEM_CLOCK, async (work) => {
    work.record({
      kind: 'organisation.seeded',
      actor: 'system.import',
      subject: {},
      payload: {
        name: organisation.name,
        types: organisation.types.map((type) => `${type.code} ${type.numbering ?? 'outside'}`),
        counters: organisation.counters,
      },
    });
  });
  return laid;
};

const need = (map: Map<string, string>, key: string): string => {
  const id = map.get(key);
  if (!id) throw new Error(`the organisation names ${key}, which it does not have`);
  return id;
};

const insertFolders = async (trx: Trx, organisation: OrganisationDescription, laid: SeededOrganisation) => {
  const paths = new Map<string, string[]>();
  for (const [sort, folder] of organisation.folders.entries()) {
    const id = newId();
    const path = [...(folder.parent ? (paths.get(folder.parent) ?? []) : []), id];
    paths.set(folder.key, path);
    laid.folders.set(folder.key, id);
    await insertFolder(trx, {
      id,
      parent: folder.parent ? need(laid.folders, folder.parent) : null,
      name: folder.name,
      code: folder.code ?? null,
      area: path[0],
      path,
      sort,
      metadata: JSON.stringify(folder.metadata ?? {}),
    });
  }
};

const insertLists = async (trx: Trx, organisation: OrganisationDescription) => {
  for (const list of organisation.choices ?? [])
    await insertChoices(trx, {
      key: list.key,
      name: list.name,
      dependsOn: list.dependsOn ?? null,
      options: list.options,
    });
  for (const list of organisation.lookups ?? []) {
    await insertLookup(trx, { key: list.key, name: list.name, metadata: list.metadata });
    await writeEntries(
      trx,
      list.key,
      list.entries.map((entry) => ({ ...entry, retired: false })),
    );
  }
};

const insertTypes = async (trx: Trx, organisation: OrganisationDescription, laid: SeededOrganisation) => {
  const unit = (key: string) => need(laid.units, key);
  const options = new Map((organisation.choices ?? []).map((list) => [list.key, list.options]));
  for (const type of organisation.types) {
    const { route, furtherRoutes, reading, policy, scheme, fields, ...rest } = type;
    const rule: TypeRule = {
      ...NEW_TYPE,
      ...rest,
      ...policy,
      scheme: scheme as TypeRule['scheme'],
      fields: fields.map((field) =>
        field.list && field.kind !== 'entry' ? { ...field, options: options.get(field.list) ?? [] } : field,
      ),
      route: route(unit) as TypeRule['route'],
      furtherRoutes: (furtherRoutes?.(unit) ?? []) as TypeRule['furtherRoutes'],
      reading: (reading?.(unit) ?? null) as TypeRule['reading'],
    };
    assertAllowed(checkTypeRule(rule));
    const id = newId();
    laid.types.set(type.code, id);
    await insertType(trx, { id, rule });
  }
};

/** Marks a first start as finished; the start command repeats an unfinished one. */
export const finishOrganisation = async (app: Pick<App, 'db' | 'forgetOrganisation'>): Promise<void> => {
  await setSetupDone(app.db);
  app.forgetOrganisation();
};
