import {
  cleanOutsideNumber,
  fitsOutside,
  foldNumber,
  type KnownRule,
  type NumberInput,
  ok,
  parseRule,
  type Result,
  readNumber,
  refuse,
  renderNumber,
  retiredRule,
  scopeOf,
} from '@kanonos/core';
import { groupBy } from '../../platform/collections.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { RefusalError, refused } from '../../platform/refused.ts';
import * as store from './store.ts';
import { insertEdition, listRetired } from './storeEditions.ts';

export type { FolderRow, TypeRow } from './store.ts';
export { policyOf } from './storeTypes.ts';

export const listTypes = (db: Db | Trx) => store.listTypes(db);
export const listFolders = (db: Db | Trx) => store.listFolders(db);

export const getType = async (db: Db | Trx, id: string): Promise<store.TypeRow> => {
  const type = await store.findType(db, id);
  if (!type) throw refused('not_found');
  return type;
};

export const getFolder = async (db: Db | Trx, id: string): Promise<store.FolderRow> => {
  const folder = await store.findFolder(db, id);
  if (!folder) throw refused('not_found');
  return folder;
};

/** Numbering rules as types use them, before they are read. */
export type RuleUser = Pick<store.TypeRow, 'code' | 'numbering_rule' | 'fields' | 'retired'>;

/** The numbering rules of these types with the codes that their tokens may take. */
export const rulesOfTypes = (all: readonly RuleUser[], areas: string[], departments: string[]): KnownRule[] => {
  const types = all.filter((type) => !type.retired);
  const byText = new Map<string, RuleUser[]>();
  for (const type of types)
    if (type.numbering_rule) byText.set(type.numbering_rule, [...(byText.get(type.numbering_rule) ?? []), type]);
  return [...byText].flatMap(([text, users]) => {
    const parsed = parseRule(text);
    if (!parsed.ok) return [];
    const fields = Object.fromEntries(
      users.flatMap((type) =>
        type.fields.map((field) => [field.key, (field.options ?? []).map((option) => option.code)]),
      ),
    );
    const codes = {
      types: users.map((type) => type.code),
      areas,
      departments,
      fields,
    };
    return [{ id: text, rule: parsed.value, codes }];
  });
};

/** Codes of areas and departments, which numbers contain. */
export const planCodes = async (db: Db | Trx): Promise<{ areas: string[]; departments: string[] }> => ({
  areas: (await store.listAreaCodes(db)).map((area) => area.code),
  departments: (await store.listDepartmentCodes(db)).map((department) => department.code),
});

/** The rules by which numbers are given today. */
export const rulesInUse = async (db: Db | Trx): Promise<KnownRule[]> => {
  const { areas, departments } = await planCodes(db);
  return rulesOfTypes(await store.listTypes(db), areas, departments);
};

/** All rules of the organisation: those in use, then those of which numbers are left. */
export const knownRules = async (db: Db | Trx): Promise<KnownRule[]> => [
  ...(await rulesInUse(db)),
  ...(await listRetired(db)).flatMap((scope) => retiredRule(scope) ?? []),
];

/** `named` is a number that was given: of the maker, or one that was reserved for the person. */
export type NumberWish = { type: store.TypeRow; metadata: NumberInput; named: string | null; personId: string };

/** The type's checks of an outside number: its pattern, and that no rule of the organisation reads it. */
export const checkOutsideNumber = async (
  db: Db | Trx,
  type: store.TypeRow,
  given: string | null,
): Promise<Result<string>> => {
  if (!given?.trim()) return refuse('external_number_missing');
  const { number } = cleanOutsideNumber(given);
  if (!fitsOutside(type.external_pattern, number)) return refuse('external_number_pattern', { number });
  if (readNumber(await knownRules(db), number).kind === 'read') return refuse('number_matches_own_rule', { number });
  return ok(number);
};

/** The number that would be taken next, without taking it. */
export const previewNumber = async (db: Db | Trx, wish: NumberWish): Promise<Result<string>> => {
  const { type, metadata, named } = wish;
  if (!type.numbering_rule) {
    const number = await checkOutsideNumber(db, type, named);
    if (!number.ok || !(await store.isNumberTaken(db, foldNumber(number.value)))) return number;
    return refuse('number_taken', { number: number.value });
  }
  const rule = parseRule(type.numbering_rule);
  if (!rule.ok) return rule;
  const scope = scopeOf(rule.value, metadata);
  if (scope.ok && named) {
    const reserved = await store.findReserved(db, reservedWish(wish, scope.value));
    return reserved ? ok(reserved) : refuse('number_not_reserved', { number: named });
  }
  return scope.ok ? renderNumber(rule.value, metadata, (await store.peekCounter(db, scope.value)) + 1) : scope;
};

const reservedWish = ({ named, personId }: NumberWish, scope: string) => ({
  folded: foldNumber(named ?? ''),
  personId,
  scope,
});

/**
 * Takes the number in the transaction that registers: rolled back, it was never taken. A reserved one is used by naming it,
 * by whom it was reserved for and where it counts.
 */
export const takeNumber = async (trx: Trx, wish: NumberWish, documentId: string): Promise<string> => {
  const { type, metadata, named } = wish;
  if (!type.numbering_rule) {
    const number = unwrap(await checkOutsideNumber(trx, type, named));
    await store.insertNumber(trx, { folded: foldNumber(number), number, documentId, scope: null, counter: null });
    return number;
  }
  const rule = unwrap(parseRule(type.numbering_rule));
  const scope = unwrap(scopeOf(rule, metadata));
  if (named) {
    const used = await store.useReserved(trx, { ...reservedWish(wish, scope), documentId });
    if (!used) throw refused('number_not_reserved', { number: named });
    return used;
  }
  const counter = await store.takeCounter(trx, scope);
  const number = unwrap(renderNumber(rule, metadata, counter));
  await store.insertNumber(trx, { folded: foldNumber(number), number, documentId, scope, counter });
  return number;
};

/** Makes a number void for ever, with the reason. */
export const voidNumber = (trx: Trx, number: string, reason: string) =>
  store.voidNumber(trx, { folded: foldNumber(number), reason });

const unwrap = <T>(result: Result<T>): T => {
  if (result.ok) return result.value;
  throw new RefusalError(result.refusals);
};

/** Numbers that a person may use by naming them, by type. */
export const reservedFor = async (db: Db, personId: string): Promise<Map<string, string[]>> =>
  new Map(
    [...groupBy(await store.listReservedFor(db, personId), (row) => row.type_id)].map(([type, found]) => [
      type,
      found.map((row) => row.number),
    ]),
  );

export const takeCounters = store.takeCounters;

/** Keeps an edition of a rule permanently. */
export const keepEdition = insertEdition;
