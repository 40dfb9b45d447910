import type { FieldOption } from '@kanonos/core';
import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export type ChoiceRow = {
  key: string;
  name: string;
  depends_on: string | null;
  options: FieldOption[];
  row_version: number;
};
export const listChoices = (db: Db | Trx) =>
  rows<ChoiceRow>(db, 'select key, name, depends_on, options, row_version from choice_lists order by name');
export const findChoices = (trx: Trx, key: string) =>
  firstRow<ChoiceRow>(
    trx,
    'select key, name, depends_on, options, row_version from choice_lists where key = :key for update',
    {
      key,
    },
  );
type Choices = { key: string; name: string; dependsOn: string | null; options: FieldOption[]; rowVersion: number };
export const insertChoices = (trx: Trx, list: Omit<Choices, 'rowVersion'>) =>
  rows(
    trx,
    'insert into choice_lists (key, name, depends_on, options) values (:key, :name, :dependsOn, :options::jsonb)',
    {
      ...list,
      options: JSON.stringify(list.options),
    },
  );
export const updateChoices = (trx: Trx, list: Choices) =>
  changed(
    trx,
    `update choice_lists set name = :name, depends_on = :dependsOn, options = :options::jsonb, row_version = row_version + 1
     where key = :key and row_version = :rowVersion`,
    { ...list, options: JSON.stringify(list.options) },
  );

export type LookupFieldRow = { key: string; label: string; kind: 'text' | 'number' | 'date' };
export type LookupRow = { key: string; name: string; metadata: LookupFieldRow[]; row_version: number };
export const listLookups = (db: Db | Trx) =>
  rows<LookupRow>(db, 'select key, name, metadata, row_version from lookups order by name');
export const findLookup = (trx: Db | Trx, key: string) =>
  firstRow<LookupRow>(trx, 'select key, name, metadata, row_version from lookups where key = :key', { key });
export type EntryRow = {
  list_key: string;
  code: string;
  name: string;
  metadata: Record<string, string>;
  retired: boolean;
};
export const listEntries = (db: Db | Trx, key: string | null) =>
  rows<EntryRow>(
    db,
    `select list_key, code, name, metadata, retired from lookup_entries where list_key = coalesce(:key, list_key) order by list_key, sort, code`,
    { key },
  );
export const findEntries = (db: Db, by: { key: string; find: string }) =>
  rows<Omit<EntryRow, 'list_key' | 'retired'>>(
    db,
    `select code, name, metadata from lookup_entries where list_key = :key and not retired
       and (code ilike :like or name ilike :like) order by sort, code limit 50`,
    { key: by.key, like: `%${by.find.replace(/[\\%_]/g, '\\$&')}%` },
  );
type Lookup = { key: string; name: string; metadata: LookupFieldRow[]; rowVersion: number };
export const insertLookup = (trx: Trx, list: Omit<Lookup, 'rowVersion'>) =>
  rows(trx, 'insert into lookups (key, name, metadata) values (:key, :name, :metadata::jsonb)', {
    ...list,
    metadata: JSON.stringify(list.metadata),
  });
export const updateLookup = (trx: Trx, list: Lookup) =>
  changed(
    trx,
    'update lookups set name = :name, metadata = :metadata::jsonb, row_version = row_version + 1 where key = :key and row_version = :rowVersion',
    { ...list, metadata: JSON.stringify(list.metadata) },
  );
/** The entries as given; ones that are no longer among them go. */
export const writeEntries = async (
  trx: Trx,
  key: string,
  entries: readonly { code: string; name: string; metadata: Record<string, string>; retired: boolean }[],
) => {
  await rows(trx, 'delete from lookup_entries where list_key = :key and not code = any(:codes::text[])', {
    key,
    codes: entries.map((entry) => entry.code),
  });
  await rows(
    trx,
    `insert into lookup_entries (list_key, code, name, metadata, retired, sort)
     select :key, e.code, e.name, e.metadata, e.retired, e.sort
     from jsonb_to_recordset(:entries::jsonb) e(code text, name text, metadata jsonb, retired boolean, sort int)
     on conflict (list_key, code) do update set name = excluded.name, metadata = excluded.metadata, retired = excluded.retired, sort = excluded.sort`,
    { key, entries: JSON.stringify(entries.map((entry, sort) => ({ ...entry, sort }))) },
  );
};
