import type { Facets } from '@kanonos/contract';
import { SEARCH_FIELDS } from '@kanonos/core';
import { wording } from './wording.ts';

/** What can be added to a filter: the text that it then has, and what that means. */
export type Suggestion = { text: string; shown: string; about: string };

/** What each field of a filter means; the first are offered before anything is typed. */
const ABOUT: Readonly<Record<string, string>> = {
  type: wording.fieldType,
  state: wording.fieldState,
  owner: wording.fieldOwner,
  due: wording.fieldDue,
  changed: wording.fieldChanged,
  keyword: wording.fieldKeyword,
  number: wording.fieldNumber,
  title: wording.fieldTitle,
  folder: wording.fieldFolder,
  area: wording.fieldArea,
  department: wording.fieldDepartment,
  author: wording.fieldAuthor,
  effective: wording.fieldEffective,
  parent: wording.fieldParent,
  applies: wording.fieldApplies,
  kept: wording.fieldKept,
  confidentiality: wording.fieldConfidentiality,
  sharing: wording.fieldSharing,
  check: wording.fieldCheck,
  item: wording.fieldItem,
  missing: wording.fieldMissing,
};
const BEFORE_TYPING = 6;
const MOST = 8;

const quoted = (value: string): string => (/\s/.test(value) ? `"${value}"` : value);

/** The values that a field is known to have, by what the register counts. */
const valuesOf = (field: string, facets: Facets | undefined, today: string): { value: string; about: string }[] => {
  if (field === 'owner' || field === 'author') return [{ value: 'me', about: wording.yourself }];
  if (SEARCH_FIELDS[field] === 'date') return [{ value: today, about: wording.today }];
  if (field === 'type') return (facets?.type ?? []).map(({ value, name }) => ({ value, about: name }));
  if (field === 'state' || field === 'area' || field === 'department')
    return (facets?.[field] ?? []).map(({ name, count }) => ({
      value: name.toLowerCase(),
      about: count.toLocaleString('en-GB'),
    }));
  return [];
};

/**
 * What may follow in a filter that is being typed: the fields that begin as the last word does, then the values of the field. `metadata`
 * are the fields of the types, by key with their labels.
 */
export const suggestionsFor = (
  text: string,
  facets: Facets | undefined,
  metadata: readonly { key: string; label: string }[],
  today: string,
): Suggestion[] => {
  const value = /(?:^|\s)([\p{L}][\p{L}\p{N}_-]*)(:|>=|<=)(?:"([^"]*)|([^\s"]*))$/u.exec(text);
  if (value) {
    const [, field = '', compare = '', open, plain] = value;
    const typed = (open ?? plain ?? '').toLowerCase();
    const before = text.slice(0, text.length - (open === undefined ? typed.length : typed.length + 1));
    return valuesOf(field.toLowerCase(), facets, today)
      .filter((one) => [one.value, one.about].some((words) => words.toLowerCase().includes(typed)))
      .filter((one) => one.value.toLowerCase() !== typed || open !== undefined)
      .slice(0, MOST)
      .map((one) => ({
        text: `${before}${quoted(one.value)} `,
        shown: `${field}${compare}${quoted(one.value)}`,
        about: one.about,
      }));
  }
  const word = /(\S*)$/.exec(text)?.[1] ?? '';
  if (word.includes('"')) return [];
  const before = text.slice(0, text.length - word.length);
  const fields = [
    ...Object.entries(ABOUT).map(([key, about]) => ({ key, about })),
    ...metadata.map(({ key, label }) => ({ key, about: label })),
  ];
  const offered =
    word === ''
      ? fields.slice(0, BEFORE_TYPING)
      : fields.filter(({ key, about }) =>
          [key, about].some((words) => words.toLowerCase().startsWith(word.toLowerCase())),
        );
  return offered.slice(0, MOST).map(({ key, about }) => ({ text: `${before}${key}:`, shown: `${key}:`, about }));
};
