import type {
  FieldDefinition,
  FolderState,
  RevisionScheme,
  RouteDefinition,
  TypePolicy,
  TypeReading,
} from '@kanonos/core';
import { type Db, firstRow, HOT, rows, type Trx } from '../../platform/db/connect.ts';
import { ID } from './named.ts';

export type TypeRow = {
  id: string;
  code: string;
  name: string;
  help: string;
  numbering_rule: string | null;
  external_pattern: string | null;
  naming_rule: string;
  scheme: RevisionScheme;
  fields: FieldDefinition[];
  route: RouteDefinition;
  reading: TypeReading | null;
  readers_needed: boolean;
  review_every: number;
  release_without_route: boolean;
  retired: boolean;
  family: string;
  group_name: string;
  example: string;
  take_over: boolean;
  register_unit_ids: string[];
  row_version: number;
  filing_rule: string | null;
  /** The parts of a type's policy without columns of their own; missing ones are as for a new type. */
  policy: Partial<Omit<TypePolicy, 'route' | 'reading'>>;
};

const TYPE =
  'select id, code, name, help, numbering_rule, external_pattern, naming_rule, scheme, fields, route, reading, readers_needed, review_every, release_without_route, retired, family, group_name, example, take_over, register_unit_ids, row_version, filing_rule, policy from types';
export const listTypes = (db: Db | Trx) =>
  rows<TypeRow>(db, `${TYPE} order by family, group_name, sort, code`, {}, HOT);
export const findType = (db: Db | Trx, id: string) => firstRow<TypeRow>(db, `${TYPE} where id = :id`, { id }, HOT);

export type FolderRow = {
  id: string;
  parent_id: string | null;
  name: string;
  code: string | null;
  area_id: string;
  path: string[];
  area_name: string;
  area_code: string | null;
  path_names: string[];
  metadata: Record<string, string>;
  state: FolderState;
  department_id: string | null;
  row_version: number;
};

const FOLDER = `select f.id, f.parent_id, f.name, f.code, f.area_id, f.path, a.name as area_name, a.code as area_code, f.metadata, f.state, f.department_id, f.row_version,
  array(select p.name from unnest(f.path) with ordinality u(id, n) join folders p on p.id = u.id order by u.n) as path_names
  from folders f join folders a on a.id = f.area_id`;
export const listFolders = (db: Db | Trx) =>
  rows<FolderRow>(db, `${FOLDER} order by a.sort, a.name, cardinality(f.path), f.sort, f.name`);
export const findFolder = (db: Db | Trx, id: string) =>
  firstRow<FolderRow>(db, `${FOLDER} where f.id = :id`, { id }, HOT);

export const listAreaCodes = (db: Db | Trx) =>
  rows<{ code: string }>(db, 'select code from folders where parent_id is null and code is not null order by code');
export const listDepartmentCodes = (db: Db | Trx) =>
  rows<{ code: string }>(db, `select code from units where kind = 'department' order by code`);

/** Takes the next value of a counter; concurrent takers of one scope wait for each other's commit. */
export const takeCounter = async (trx: Trx, scope: string): Promise<number> => {
  const row = await firstRow<{ last: number }>(
    trx,
    'insert into counters (scope, last) values (:scope, 1) on conflict (scope) do update set last = counters.last + 1 returning last',
    { scope },
    HOT,
  );
  return row?.last ?? 1;
};

export const peekCounter = async (db: Db | Trx, scope: string): Promise<number> =>
  (await firstRow<{ last: number }>(db, 'select last from counters where scope = :scope', { scope }))?.last ?? 0;

export const insertNumber = (
  trx: Trx,
  number: { folded: string; number: string; documentId: string; scope: string | null; counter: number | null },
) =>
  rows(
    trx,
    `insert into numbers (folded, number, document_id, state, scope, counter) values (:folded, :number, :documentId, 'taken', :scope, :counter)`,
    number,
    HOT,
  );

export const isNumberTaken = async (db: Db | Trx, folded: string) =>
  Boolean(await firstRow(db, 'select 1 from numbers where folded = :folded', { folded }));

const RESERVED = `n.reservation_id is not null and n.state = 'reserved' and n.folded = :folded and n.scope = :scope
  and exists (select 1 from reservations r where r.id = n.reservation_id and r.ended_at is null and r.for_person_id = :personId)`;
type ReservedWish = { folded: string; scope: string; personId: string };

export const findReserved = async (db: Db | Trx, by: ReservedWish): Promise<string | undefined> =>
  (await firstRow<{ number: string }>(db, `select n.number from numbers n where ${RESERVED}`, by))?.number;

/** Makes a reserved number that of a document; nothing when it is not, or no longer, reserved for the person. */
export const useReserved = async (trx: Trx, by: ReservedWish & { documentId: string }): Promise<string | undefined> =>
  (
    await firstRow<{ number: string }>(
      trx,
      `update numbers n set state = 'taken', document_id = :documentId where ${RESERVED} returning n.number`,
      by,
    )
  )?.number;

/** Numbers that are reserved for a person, by type. */
export const listReservedFor = (db: Db, personId: string) =>
  rows<{ type_id: string; number: string }>(
    db,
    `select r.type_id, n.number from reservations r join numbers n on n.reservation_id = r.id
     where r.ended_at is null and r.for_person_id = :personId and n.state = 'reserved' order by n.counter limit 500`,
    { personId },
  );

/** Takes n values of a counter at once and gives the last. */
export const takeCounters = async (trx: Trx, scope: string, n: number): Promise<number> =>
  (
    await firstRow<{ last: number }>(
      trx,
      'insert into counters (scope, last) values (:scope, :n) on conflict (scope) do update set last = counters.last + :n returning last',
      { scope, n },
    )
  )?.last ?? n;

export const voidNumber = (trx: Trx, by: { folded: string; reason: string }) =>
  rows(trx, `update numbers set state = 'void', reason = :reason where folded = :folded`, by);

/**
 * Names of the people and units that rules speak of by their ids, in one query; unknown and deleted ones stay as ids.
 *
 * @param rules whatever holds the ids, in any depth
 */
export const namesInRules = async (db: Db | Trx, ...rules: readonly unknown[]): Promise<(id: string) => string> => {
  const ids = [...new Set(JSON.stringify(rules).match(ID) ?? [])];
  const named = ids.length
    ? await rows<{ id: string; name: string }>(
        db,
        `select id, name from units where id = any(:ids::uuid[])
         union all select id, name from people where id = any(:ids::uuid[])`,
        { ids },
      )
    : [];
  const names = new Map(named.map(({ id, name }) => [id, name]));
  return (id) => names.get(id) ?? id;
};
