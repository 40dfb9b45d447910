/** One thing that differs between two editions of a rule: where, and both values in words. */
export type RuleDifference = { what: string; before: string; after: string };

type Rule = Readonly<Record<string, unknown>>;

/**
 * What differs between two editions of a rule, place by place. Lists of things with a key or code are compared thing by thing
 * (`fields.limit.mandatory`), so that a moved field is not shown as every field changed.
 */
export const ruleDifferences = (before: Rule, after: Rule, at = ''): RuleDifference[] => {
  const keys = [...new Set([...Object.keys(before), ...Object.keys(after)])];
  return keys.flatMap((key) => differencesAt(at ? `${at}.${key}` : key, before[key], after[key]));
};

const differencesAt = (what: string, before: unknown, after: unknown): RuleDifference[] => {
  if (isSame(before, after)) return [];
  const [a, b] = [keyed(before), keyed(after)];
  if (a && b) {
    const order = [...a.keys()].filter((key) => b.has(key));
    const orderAfter = [...b.keys()].filter((key) => a.has(key));
    const moved =
      order.join('\n') === orderAfter.join('\n')
        ? []
        : [{ what: `${what}, order`, before: order.join(', '), after: orderAfter.join(', ') }];
    return [
      ...[...new Set([...a.keys(), ...b.keys()])].flatMap((key) =>
        differencesAt(`${what}.${key}`, a.get(key), b.get(key)),
      ),
      ...moved,
    ];
  }
  if (isRecord(before) && isRecord(after)) return ruleDifferences(before, after, what);
  return [{ what, before: inWords(before), after: inWords(after) }];
};

/** Equal whatever the order of keys, because storage changes it; undefined and null are the same. */
export const isSame = (a: unknown, b: unknown): boolean => {
  if (Array.isArray(a) && Array.isArray(b)) return a.length === b.length && a.every((item, i) => isSame(item, b[i]));
  if (isRecord(a) && isRecord(b))
    return [...new Set([...Object.keys(a), ...Object.keys(b)])].every((key) => isSame(a[key], b[key]));
  return (a ?? null) === (b ?? null);
};

export const isRecord = (value: unknown): value is Rule =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** A list of things by their key or code, which identifies them and is not repeated; undefined for another kind of list. */
const keyed = (value: unknown): Map<string, unknown> | undefined => {
  if (!Array.isArray(value)) return undefined;
  const entries = value.map((item): [string | undefined, unknown] => {
    if (!isRecord(item)) return [undefined, item];
    const by = item.key === undefined ? 'code' : 'key';
    const { [by]: key, ...rest } = item;
    return [key === undefined ? undefined : String(key), rest];
  });
  if (entries.some(([key]) => key === undefined)) return undefined;
  const map = new Map(entries as [string, unknown][]);
  return map.size === entries.length ? map : undefined;
};

const inWords = (value: unknown): string => {
  if (value === undefined || value === null || value === '') return '–';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (Array.isArray(value)) return value.length ? value.map(inWords).join(', ') : '–';
  if (isRecord(value))
    return (
      Object.entries(value)
        .filter(([, part]) => part !== undefined && part !== null && part !== '' && part !== false)
        .map(([key, part]) => (part === true ? key : `${key} ${inWords(part)}`))
        .join(', ') || 'there'
    );
  return String(value);
};
