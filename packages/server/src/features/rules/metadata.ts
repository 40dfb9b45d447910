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
import type { Db, Trx } from '../../platform/db/connect.ts';
import { assertAllowed } from '../../platform/refused.ts';
import type { TypeRow } from './store.ts';
import { isShownByName, listKnownWords, listNames, listSameValues, lockValue, namesByWord } from './storeValues.ts';

const wordsOf = (value: FieldValue | undefined): string[] =>
  (Array.isArray(value) ? value : [value]).filter((word): word is string => typeof word === 'string' && word !== '');

/** The faults of metadata: by the type's fields, and by the people, units and entries that they name. */
export const metadataRefusals = async (
  db: Db | Trx,
  type: TypeRow,
  metadata: Metadata,
  before: Metadata = {},
): Promise<Refusal[]> => {
  const refusals = checkMetadata(type.fields, metadata, before);
  for (const field of type.fields) {
    const value = metadata[field.key];
    if (!namesByWord(field.kind) || isEmptyFieldValue(value) || equalMetadata(value, before[field.key])) continue;
    const words = wordsOf(value);
    const found = await listKnownWords(db, field.kind, { words, list: field.list ?? '' });
    for (const word of words)
      if (!found.some((row) => row.word === word))
        refusals.push(refusal('entry_unknown', { field: field.label, value: word }));
  }
  return refusals;
};

/**
 * Refuses wrong metadata, and values that another document of the type has where they must be unique; who registers the
 * same value at the same time waits. The other document is not named: the viewer may not be allowed to see it.
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
    await lockValue(trx, { what: `${type.id} ${field.key} ${text}` });
    const [other] = await listSameValues(trx, { typeId: type.id, key: field.key, value: text, documentId });
    if (other) assertAllowed([refusal('field_value_taken', { field: field.label })]);
  }
};

/** Refuses sites that there are not. */
export const ensureSites = async (trx: Trx, sites: readonly string[]): Promise<void> => {
  if (sites.length === 0) return;
  const found = await listKnownWords(trx, 'site', { words: sites, list: '' });
  const unknown = sites.filter((site) => !found.some((row) => row.word === site));
  assertAllowed(unknown.map((value) => refusal('entry_unknown', { field: 'Sites', value })));
};

const namesOf = async (
  db: Db | Trx,
  field: FieldDefinition,
  words: readonly string[],
): Promise<Map<string, string>> => {
  if (words.length === 0) return new Map();
  const found = await listNames(db, field.kind, { words, list: field.list ?? '' });
  return new Map(found.map((row) => [row.word, row.name]));
};
const inNames = (field: FieldDefinition, words: readonly string[], names: ReadonlyMap<string, string>): string =>
  words
    .map((word) => (field.kind === 'entry' ? `${word} ${names.get(word) ?? ''}`.trim() : (names.get(word) ?? word)))
    .join(', ');

/** The names of people, units and entries in metadata, by field; folders are named to whom they are shown. */
export const namesInMetadata = async (
  db: Db | Trx,
  fields: readonly FieldDefinition[],
  metadata: Metadata,
): Promise<Record<string, string>> => {
  const shown: Record<string, string> = {};
  for (const field of fields) {
    const words = wordsOf(metadata[field.key]);
    if (isShownByName(field.kind) && words.length)
      shown[field.key] = inNames(field, words, await namesOf(db, field, words));
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
      if (isShownByName(field.kind))
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
