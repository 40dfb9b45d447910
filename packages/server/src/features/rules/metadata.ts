import {
  checkMetadata,
  equalMetadata,
  type FieldDefinition,
  type FieldValue,
  isEmptyFieldValue,
  type Metadata,
  type Refusal,
  refusal,
  showFieldValue,
} from '@kanonos/core';
import { type Db, rows, type Trx } from '../../platform/db/connect.ts';
import { assertAllowed } from '../../platform/refused.ts';
import type { TypeRow } from './store.ts';

/** What metadata name by a word, and where that word must stand. Documents are not looked up: their being there is not told. */
const NAMED: Partial<Record<FieldDefinition['kind'], string>> = {
  person: `select id::text as word from people where id::text = any(:words::text[]) and state <> 'deactivated'`,
  people: `select id::text as word from people where id::text = any(:words::text[]) and state <> 'deactivated'`,
  department: `select code as word from units where kind = 'department' and code = any(:words::text[])`,
  site: `select code as word from units where kind = 'site' and code = any(:words::text[])`,
  folder: 'select id::text as word from folders where id::text = any(:words::text[])',
  entry: `select code as word from lookup_entries where list_key = :list and not retired and code = any(:words::text[])`,
};

const wordsOf = (value: FieldValue | undefined): string[] =>
  (Array.isArray(value) ? value : [value]).filter((word): word is string => typeof word === 'string' && word !== '');

/** What is wrong with metadata: by the type's fields, and by the people, units and entries that they name. */
export const metadataRefusals = async (
  db: Db | Trx,
  type: TypeRow,
  metadata: Metadata,
  before: Metadata = {},
): Promise<Refusal[]> => {
  const refusals = checkMetadata(type.fields, metadata, before);
  for (const field of type.fields) {
    const statement = NAMED[field.kind];
    const value = metadata[field.key];
    if (!statement || isEmptyFieldValue(value) || equalMetadata(value, before[field.key])) continue;
    const words = wordsOf(value);
    const found = await rows<{ word: string }>(db, statement, { words, list: field.list ?? '' });
    for (const word of words)
      if (!found.some((row) => row.word === word))
        refusals.push(refusal('entry_unknown', { field: field.label, value: word }));
  }
  return refusals;
};

/**
 * Refuses metadata that are wrong, and values that another document of the type bears where they must be unique; who registers the
 * same value at the same time waits. What another document bears is not named: it may be one that may not be seen.
 */
export const ensureMetadata = async (
  trx: Trx,
  type: TypeRow,
  metadata: Metadata,
  before: Metadata = {},
  documentId: string | null = null,
): Promise<void> => {
  assertAllowed(await metadataRefusals(trx, type, metadata, before));
  for (const field of type.fields) {
    const value = metadata[field.key];
    if (!field.unique || isEmptyFieldValue(value) || equalMetadata(value, before[field.key])) continue;
    const text = JSON.stringify(value);
    await rows(trx, 'select pg_advisory_xact_lock(hashtext(:what))', { what: `${type.id} ${field.key} ${text}` });
    const [other] = await rows(
      trx,
      `select 1 from documents d where d.type_id = :typeId and d.id is distinct from :documentId::uuid and (d.metadata -> :key = :value::jsonb
         or exists (select 1 from revisions r where r.document_id = d.id and r.state <> 'abandoned' and r.metadata -> :key = :value::jsonb)) limit 1`,
      { typeId: type.id, key: field.key, value: text, documentId },
    );
    if (other) assertAllowed([refusal('field_value_taken', { field: field.label })]);
  }
};

/** Refuses sites that there are not. */
export const ensureSites = async (trx: Trx, sites: readonly string[]): Promise<void> => {
  if (sites.length === 0) return;
  const found = await rows<{ word: string }>(trx, String(NAMED.site), { words: sites });
  const unknown = sites.filter((site) => !found.some((row) => row.word === site));
  assertAllowed(unknown.map((value) => refusal('entry_unknown', { field: 'Sites', value })));
};

const NAMES: Partial<Record<FieldDefinition['kind'], string>> = {
  person: 'select id::text as word, name from people where id::text = any(:words::text[])',
  people: 'select id::text as word, name from people where id::text = any(:words::text[])',
  department: `select code as word, name from units where kind = 'department' and code = any(:words::text[])`,
  site: `select code as word, name from units where kind = 'site' and code = any(:words::text[])`,
  entry: 'select code as word, name from lookup_entries where list_key = :list and code = any(:words::text[])',
};
const namesOf = async (
  db: Db | Trx,
  field: FieldDefinition,
  words: readonly string[],
): Promise<Map<string, string>> => {
  const statement = NAMES[field.kind];
  if (!statement || words.length === 0) return new Map();
  const found = await rows<{ word: string; name: string }>(db, statement, { words, list: field.list ?? '' });
  return new Map(found.map((row) => [row.word, row.name]));
};
const inNames = (field: FieldDefinition, words: readonly string[], names: ReadonlyMap<string, string>): string =>
  words
    .map((word) => (field.kind === 'entry' ? `${word} ${names.get(word) ?? ''}`.trim() : (names.get(word) ?? word)))
    .join(', ');

/** How the people, units and entries that metadata name are called, by field; folders are named to whom they are shown. */
export const namesInMetadata = async (
  db: Db | Trx,
  fields: readonly FieldDefinition[],
  metadata: Metadata,
): Promise<Record<string, string>> => {
  const shown: Record<string, string> = {};
  for (const field of fields) {
    const words = wordsOf(metadata[field.key]);
    if (NAMES[field.kind] && words.length) shown[field.key] = inNames(field, words, await namesOf(db, field, words));
  }
  return shown;
};

/** Metadata of many documents as a list shows them; names are looked up once for each field, whatever the number of documents. */
export const shownMetadata = async (
  db: Db | Trx,
  documents: readonly { fields: readonly FieldDefinition[]; metadata: Metadata }[],
): Promise<Record<string, string>[]> => {
  const wanted = new Map<FieldDefinition, Set<string>>();
  for (const { fields, metadata } of documents)
    for (const field of fields)
      if (NAMES[field.kind])
        wanted.set(field, new Set([...(wanted.get(field) ?? []), ...wordsOf(metadata[field.key])]));
  const names = new Map<FieldDefinition, Map<string, string>>();
  for (const [field, words] of wanted) names.set(field, await namesOf(db, field, [...words]));
  return documents.map(({ fields, metadata }) =>
    Object.fromEntries(
      fields
        .filter((field) => !isEmptyFieldValue(metadata[field.key]))
        .map((field) => {
          const known = names.get(field);
          const value = metadata[field.key];
          return [field.key, known ? inNames(field, wordsOf(value), known) : showFieldValue(field, value)];
        }),
    ),
  );
};
