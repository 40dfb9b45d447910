import {
  cleanOutsideNumber,
  foldNumber,
  type HouseRule,
  type NumberFacts,
  ok,
  parseRule,
  type Result,
  readNumber,
  refuse,
  renderNumber,
  scopeOf,
} from '@kanonos/core';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { Refused, refused } from '../../platform/refused.ts';
import * as store from './store.ts';

export type { FolderRow, TypeReading, TypeRow } from './store.ts';

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

/** The numbering rules of the house with the codes that their tokens may stand for. */
export const houseRules = async (db: Db | Trx): Promise<HouseRule[]> => {
  const [types, areas, departments] = [
    await store.listTypes(db),
    await store.listAreaCodes(db),
    await store.listDepartmentCodes(db),
  ];
  const byText = new Map<string, store.TypeRow[]>();
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
      areas: areas.map((area) => area.code),
      departments: departments.map((d) => d.code),
      fields,
    };
    return [{ id: text, rule: parsed.value, codes }];
  });
};

export type NumberWish = { type: store.TypeRow; facts: NumberFacts; outside: string | null };

/** What a type says of a number that came from outside: pattern, and that no house rule can read it. */
export const checkOutsideNumber = async (
  db: Db | Trx,
  type: store.TypeRow,
  given: string | null,
): Promise<Result<string>> => {
  if (!given?.trim()) return refuse('number_outside_missing');
  const { number } = cleanOutsideNumber(given);
  if (type.outside_pattern && !new RegExp(`^(?:${type.outside_pattern})$`, 'u').test(number))
    return refuse('number_outside_pattern', { number });
  if (readNumber(await houseRules(db), number).kind === 'read') return refuse('number_outside_is_house', { number });
  return ok(number);
};

/** The number that would be taken next, without taking it. */
export const previewNumber = async (db: Db | Trx, { type, facts, outside }: NumberWish): Promise<Result<string>> => {
  if (!type.numbering_rule) {
    const number = await checkOutsideNumber(db, type, outside);
    if (!number.ok || !(await store.isNumberTaken(db, foldNumber(number.value)))) return number;
    return refuse('number_taken', { number: number.value });
  }
  const rule = parseRule(type.numbering_rule);
  if (!rule.ok) return rule;
  const scope = scopeOf(rule.value, facts);
  return scope.ok ? renderNumber(rule.value, facts, (await store.peekCounter(db, scope.value)) + 1) : scope;
};

/** Takes the number in the transaction that registers: rolled back, it was never taken. */
export const takeNumber = async (
  trx: Trx,
  { type, facts, outside }: NumberWish,
  documentId: string,
): Promise<string> => {
  if (!type.numbering_rule) {
    const number = unwrap(await checkOutsideNumber(trx, type, outside));
    await store.insertNumber(trx, { folded: foldNumber(number), number, documentId, scope: null, counter: null });
    return number;
  }
  if (outside) throw refused('number_given_by_rule');
  const rule = unwrap(parseRule(type.numbering_rule));
  const scope = unwrap(scopeOf(rule, facts));
  const counter = await store.takeCounter(trx, scope);
  const number = unwrap(renderNumber(rule, facts, counter));
  await store.insertNumber(trx, { folded: foldNumber(number), number, documentId, scope, counter });
  return number;
};

const unwrap = <T>(result: Result<T>): T => {
  if (result.ok) return result.value;
  throw new Refused(result.refusals);
};
