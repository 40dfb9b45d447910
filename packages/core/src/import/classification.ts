import type { TypeRule } from '../rules/typeRule.ts';
import { foldText } from '../text.ts';

/** Headings of a table that brings a classification: what each column is, by the words that are understood. */
const COLUMNS = {
  code: ['code', 'type code'],
  name: ['name', 'type'],
  family: ['family', 'class', 'main class'],
  group: ['group', 'subclass'],
  help: ['help', 'description', 'definition', 'what it is for'],
  example: ['example'],
  numbering: ['numbering', 'numbering rule'],
  like: ['like', 'as type', 'rules of'],
  lists: ['lists', 'fields'],
  list: ['list', 'choice list'],
  dependsOn: ['depends on', 'list above'],
  option: ['option', 'option code'],
  text: ['text', 'option text'],
  under: ['under', 'option above'],
} as const;
type Column = keyof typeof COLUMNS;

export type ClassifiedType = Pick<TypeRule, 'code' | 'name' | 'family' | 'group' | 'help' | 'example' | 'numbering'> & {
  line: number;
  /** The type whose rules a new one takes over. */
  like: string | null;
  /** Names of choice lists that become fields of the type. */
  lists: string[];
};
export type ClassifiedList = {
  name: string;
  key: string;
  dependsOn: string | null;
  options: { code: string; text: string; under?: string }[];
};
export type Classification = {
  types: ClassifiedType[];
  lists: ClassifiedList[];
  /** Lines that are left out, counted as the file counts them, with the reason and what would be right. */
  wrong: { line: number; reason: string }[];
};

const keyOf = (name: string): string => {
  const words = name
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9 ]/g, '')
    .trim()
    .split(/\s+/);
  const key = words
    .map((word, i) => (i === 0 ? word.toLowerCase() : word.charAt(0).toUpperCase() + word.slice(1)))
    .join('');
  return /^[a-z]/.test(key) ? key.slice(0, 40) : `list${key}`.slice(0, 40);
};

/**
 * Reads a published classification: a line with a code is a type with its place, help and fields; a line with a list is an option
 * of a choice list, which may belong to an option of the list that it depends on. What is wrong is left out and reported by line.
 */
export const readClassification = (
  headings: readonly string[],
  rows: readonly (readonly string[])[],
): Classification => {
  const at = new Map<Column, number>();
  headings.forEach((heading, i) => {
    const word = foldText(heading);
    for (const column of Object.keys(COLUMNS) as Column[])
      if (!at.has(column) && (COLUMNS[column] as readonly string[]).includes(word)) at.set(column, i);
  });
  const types = new Map<string, ClassifiedType>();
  const lists = new Map<string, ClassifiedList>();
  const wrong: Classification['wrong'] = [];
  if (!at.has('code') && !at.has('list'))
    return { types: [], lists: [], wrong: [{ line: 1, reason: 'no column has the heading code or list' }] };
  for (const [i, row] of rows.entries()) {
    const line = i + 2;
    const cell = (column: Column) => (row[at.get(column) ?? -1] ?? '').trim();
    if (row.every((one) => one.trim() === '')) continue;
    const [list, code] = [cell('list'), cell('code')];
    if (list) {
      const option = cell('option') || code;
      if (!option) {
        wrong.push({ line, reason: `list ${list}: the option has no code` });
        continue;
      }
      const key = keyOf(list);
      const found = lists.get(key) ?? { name: list, key, dependsOn: null, options: [] };
      const above = cell('dependsOn');
      if (above) found.dependsOn = keyOf(above);
      if (found.options.some((one) => one.code === option)) {
        wrong.push({ line, reason: `list ${list}: option ${option} occurs twice` });
        continue;
      }
      const under = cell('under');
      found.options.push({ code: option, text: cell('text') || option, ...(under ? { under } : {}) });
      lists.set(key, found);
      continue;
    }
    if (!code) {
      wrong.push({ line, reason: 'a type needs a code, an option a list' });
      continue;
    }
    if (!cell('name')) {
      wrong.push({ line, reason: `type ${code} has no name` });
      continue;
    }
    if (types.has(code.toUpperCase())) {
      wrong.push({ line, reason: `type ${code} occurs twice` });
      continue;
    }
    types.set(code.toUpperCase(), {
      line,
      code: code.toUpperCase(),
      name: cell('name'),
      family: cell('family'),
      group: cell('group'),
      help: cell('help'),
      example: cell('example'),
      numbering: cell('numbering') || null,
      like: cell('like').toUpperCase() || null,
      lists: cell('lists')
        .split(/[,;|]/)
        .map((name) => name.trim())
        .filter(Boolean),
    });
  }
  for (const list of lists.values()) {
    const above = list.dependsOn === null ? undefined : lists.get(list.dependsOn);
    for (const option of list.options)
      if (option.under && above && !above.options.some((one) => one.code === option.under))
        wrong.push({
          line: 0,
          reason: `list ${list.name}: ${option.code} refers to ${option.under}, which is not in ${above.name}`,
        });
  }
  return { types: [...types.values()], lists: [...lists.values()], wrong };
};

/** The key under which a list of a classification becomes a field. */
export const listKey = keyOf;
