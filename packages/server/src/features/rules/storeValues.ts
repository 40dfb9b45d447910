import type { FieldDefinition } from '@kanonos/core';
import { type Db, rows, type Trx } from '../../platform/db/connect.ts';

export const lockValue = (db: Trx, given: { what: string }) =>
  rows(db, 'select pg_advisory_xact_lock(hashtext(:what))', given);

export const listSameValues = (
  db: Trx,
  given: { typeId: string; key: string; value: string; documentId: string | null },
) =>
  rows(
    db,
    `select 1 from documents d where d.type_id = :typeId and d.id is distinct from :documentId::uuid and (d.metadata -> :key = :value::jsonb
         or exists (select 1 from revisions r where r.document_id = d.id and r.state <> 'abandoned' and r.metadata -> :key = :value::jsonb)) limit 1`,
    given,
  );

/** The words that metadata refer to, and the lists that must contain them. Documents are not looked up, so that their existence is not revealed. */
const NAMED: Partial<Record<FieldDefinition['kind'], string>> = {
  person: `select id::text as word from people where id::text = any(:words::text[]) and state <> 'deactivated'`,
  people: `select id::text as word from people where id::text = any(:words::text[]) and state <> 'deactivated'`,
  department: `select code as word from units where kind = 'department' and code = any(:words::text[])`,
  site: `select code as word from units where kind = 'site' and code = any(:words::text[])`,
  folder: 'select id::text as word from folders where id::text = any(:words::text[])',
  entry: `select code as word from lookup_entries where list_key = :list and not retired and code = any(:words::text[])`,
};

export const namesByWord = (kind: FieldDefinition['kind']): boolean => NAMED[kind] !== undefined;

/** Those of some words that exist for a field of a kind. */
export const listKnownWords = (
  db: Db | Trx,
  kind: FieldDefinition['kind'],
  by: { words: readonly string[]; list: string },
) => rows<{ word: string }>(db, NAMED[kind] ?? '', by);

/** The name of what a word refers to. */
const NAMES: Partial<Record<FieldDefinition['kind'], string>> = {
  person: 'select id::text as word, name from people where id::text = any(:words::text[])',
  people: 'select id::text as word, name from people where id::text = any(:words::text[])',
  department: `select code as word, name from units where kind = 'department' and code = any(:words::text[])`,
  site: `select code as word, name from units where kind = 'site' and code = any(:words::text[])`,
  entry: 'select code as word, name from lookup_entries where list_key = :list and code = any(:words::text[])',
};
export const listNames = async (
  db: Db | Trx,
  kind: FieldDefinition['kind'],
  by: { words: readonly string[]; list: string },
): Promise<{ word: string; name: string }[]> => {
  const statement = NAMES[kind];
  return statement ? rows<{ word: string; name: string }>(db, statement, by) : [];
};

/** Whether a value of a field of this kind is shown by the name of what it refers to. */
export const isShownByName = (kind: FieldDefinition['kind']): boolean => NAMES[kind] !== undefined;
