import { isRecord, isSame } from './difference.ts';

/** The result of applying one's changes to a newer state: the new state, and the places that both had changed. */
export type Brought<T> = { value: T; both: string[] };

/**
 * Brings the changes between `base` and `mine` onto `theirs`, which somebody else made of the same base meanwhile. Records are brought
 * place by place, lists of things by their key or code, lists of words as sets; where both changed the same place differently mine is kept
 * and the place is named in `both` (`fields.limit.label`). Anything else is one value.
 */
export const rebaseDraft = <T>(base: T, mine: T, theirs: T): Brought<T> => {
  const both: string[] = [];
  return { value: bring(base, mine, theirs, '', both) as T, both };
};

const bring = (base: unknown, mine: unknown, theirs: unknown, at: string, both: string[]): unknown => {
  if (isSame(base, mine)) return theirs;
  if (isSame(base, theirs) || isSame(mine, theirs)) return mine;
  if (isRecord(base) && isRecord(mine) && isRecord(theirs)) return bringRecords(base, mine, theirs, at, both);
  const lists = [base, mine, theirs].map(byName);
  if (lists.every((list) => list !== undefined)) {
    const [a, b, c] = lists as [Map<string, unknown>, Map<string, unknown>, Map<string, unknown>];
    return bringLists(a, b, c, at, both);
  }
  both.push(at);
  return mine;
};

type Things = Readonly<Record<string, unknown>>;

const bringRecords = (base: Things, mine: Things, theirs: Things, at: string, both: string[]): Things => {
  const keys = [...new Set([...Object.keys(theirs), ...Object.keys(mine)])];
  return Object.fromEntries(
    keys
      .map((key) => [key, bring(base[key], mine[key], theirs[key], at ? `${at}.${key}` : key, both)] as const)
      .filter(([, value]) => value !== undefined),
  );
};

/** Order: mine where I moved something, else theirs; what only the other side has comes last. */
const bringLists = (
  base: ReadonlyMap<string, unknown>,
  mine: ReadonlyMap<string, unknown>,
  theirs: ReadonlyMap<string, unknown>,
  at: string,
  both: string[],
): unknown[] => {
  const orderOf = (list: ReadonlyMap<string, unknown>, other: ReadonlyMap<string, unknown>) =>
    [...list.keys()].filter((name) => other.has(name)).join('\n');
  const moved = orderOf(base, mine) !== orderOf(mine, base);
  const names = moved ? [...mine.keys(), ...theirs.keys()] : [...theirs.keys(), ...mine.keys()];
  return [...new Set(names)]
    .map((name) => bring(base.get(name), mine.get(name), theirs.get(name), at ? `${at}.${name}` : name, both))
    .filter((item) => item !== undefined);
};

/** The identifying keys of list items, the first one present counts: fields, options and units, people, holidays, rules of groups. */
const NAMES = ['key', 'code', 'id', 'day', 'groupId'];

/** The things of a list by their name or, for words and numbers, by themselves; undefined when they cannot be distinguished. */
const byName = (list: unknown): Map<string, unknown> | undefined => {
  if (!Array.isArray(list)) return undefined;
  const names = list.map((item) =>
    isRecord(item) ? NAMES.map((name) => item[name]).find(Boolean) : typeof item === 'object' ? undefined : item,
  );
  if (names.some((name) => name === undefined || name === '')) return undefined;
  const map = new Map(list.map((item, i) => [String(names[i]), item]));
  return map.size === list.length ? map : undefined;
};
