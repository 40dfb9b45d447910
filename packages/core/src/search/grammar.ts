import { isDay } from '../calendar/zone.ts';
import { ok, type Refusal, type Result, refusal } from '../result.ts';

export type Comparison = ':' | '>=' | '<=';

/** One condition as it is written. */
export type SearchCondition =
  | { kind: 'word'; text: string; not: boolean; prefix: boolean }
  | { kind: 'phrase'; text: string; not: boolean }
  | { kind: 'field'; field: string; compare: Comparison; value: string; not: boolean };

/** One condition of a search, or alternatives of which one must hold; of the terms of a search all must. */
export type SearchTerm = SearchCondition | { kind: 'either'; of: readonly SearchCondition[]; not: false };

export type Search = { terms: readonly SearchTerm[] };

/** Fields that every document has; metadata of the types come on top. */
export const SEARCH_FIELDS: Readonly<Record<string, 'text' | 'date' | 'person'>> = {
  number: 'text',
  title: 'text',
  type: 'text',
  folder: 'text',
  area: 'text',
  department: 'text',
  owner: 'person',
  author: 'person',
  state: 'text',
  keyword: 'text',
  due: 'date',
  effective: 'date',
  changed: 'date',
  parent: 'text',
  /** A site where it applies, and where it is kept. */
  applies: 'text',
  kept: 'text',
  confidentiality: 'text',
  sharing: 'text',
  check: 'date',
  /** Something outside that it is linked to, by its code, its name or its kind. */
  item: 'text',
  /** A field that is asked and not given; `missing:mandatory` for any that must be. */
  missing: 'text',
};

/**
 * Reads the search grammar: words (the last one as a prefix), `"exact phrase"`, `not word`, `field:value`, and `>=`, `<=`
 * for dates and numbers, and `or` between words, or between conditions on fields. A field that nobody knows, a date that is none and a quote that is not closed are refused with
 * their position (character from 1).
 */
export const parseSearch = (
  text: string,
  metadata: Readonly<Record<string, 'text' | 'date' | 'number' | 'person'>> = {},
): Result<Search> => {
  const terms: SearchTerm[] = [];
  const refusals: Refusal[] = [];
  /** Where the `or` stands that waits for its second side. */
  let or: number | undefined;
  const token =
    /\s*(?:(not)\s+(?=\S))?(?:([\p{L}][\p{L}\p{N}_-]*)(:|>=|<=)(?:"([^"]*)"|([^\s"]*))|"([^"]*)(")?|([^\s"]+))/giuy;
  const kinds = { ...metadata, ...SEARCH_FIELDS };
  let at = 0;
  while (at < text.length && text.slice(at).trim() !== '') {
    token.lastIndex = at;
    const match = token.exec(text);
    if (!match) break;
    const begin = match.index + (match[0].length - match[0].trimStart().length) + 1;
    const [, notWord, field, compare, quoted, plain, phrase, closed, word] = match;
    const not = Boolean(notWord);
    if (!not && word !== undefined && /^or$/i.test(word)) {
      if (terms.length === 0 || or !== undefined) refusals.push(refusal('search_or_alone', { at: begin }));
      else or = begin;
      at = token.lastIndex;
      continue;
    }
    const count = terms.length;
    if (field !== undefined && compare !== undefined) {
      const name = field.toLowerCase();
      const kind = kinds[name] ?? kinds[field];
      const value = quoted ?? plain ?? '';
      if (kind === undefined) {
        // `10:30` or an address is not a field: only a name that could be one is refused.
        refusals.push(refusal('search_field_unknown', { field, at: begin }));
      } else if (value === '') {
        refusals.push(refusal('search_value_missing', { field, at: begin }));
      } else if (compare !== ':' && kind !== 'date' && kind !== 'number') {
        refusals.push(refusal('search_not_comparable', { field, at: begin }));
      } else if (compare !== ':' && kind === 'date' && !isDay(value)) {
        refusals.push(refusal('search_date_invalid', { value, at: begin }));
      } else if (compare !== ':' && kind === 'number' && !Number.isFinite(Number(value))) {
        refusals.push(refusal('search_number_invalid', { value, at: begin }));
      } else {
        terms.push({ kind: 'field', field: kinds[name] ? name : field, compare: compare as Comparison, value, not });
      }
    } else if (phrase !== undefined) {
      if (!closed) refusals.push(refusal('search_quote_open', { at: begin }));
      else if (phrase.trim()) terms.push({ kind: 'phrase', text: phrase.trim(), not });
    } else if (word !== undefined) {
      terms.push({ kind: 'word', text: word, not, prefix: false });
    }
    if (or !== undefined && terms.length > count) {
      const [before, next] = terms.splice(-2) as [SearchTerm, SearchCondition];
      const sides = before.kind === 'either' ? [...before.of, next] : [before, next];
      refusals.push(...refusedSides(sides, or));
      terms.push({ kind: 'either', of: sides, not: false });
      or = undefined;
    }
    at = token.lastIndex;
  }
  if (or !== undefined) refusals.push(refusal('search_or_alone', { at: or }));
  if (refusals.length) return { ok: false, refusals };
  const end = terms.at(-1);
  const last = end?.kind === 'either' ? end.of.at(-1) : end;
  if (last?.kind === 'word' && !last.not && !/\s$/.test(text)) last.prefix = true;
  return ok({ terms });
};

const quotedIfNeeded = (value: string) => (/\s/.test(value) || value === '' ? `"${value}"` : value);

/** Alternatives are all words and phrases, or all conditions on fields; words that must not occur are none. */
const refusedSides = (sides: readonly SearchCondition[], at: number): Refusal[] => {
  const isField = (side: SearchCondition) => side.kind === 'field';
  if (sides.some(isField) && !sides.every(isField)) return [refusal('search_or_mixed', { at })];
  return sides.some((side) => side.not && !isField(side)) ? [refusal('search_or_not', { at })] : [];
};

const written = (term: SearchCondition): string => {
  const not = term.not ? 'not ' : '';
  if (term.kind === 'phrase') return `${not}"${term.text}"`;
  if (term.kind === 'word') return not + term.text;
  return `${not}${term.field}${term.compare}${quotedIfNeeded(term.value)}`;
};

/** Writes a search in the grammar, so that facets, saved views and the find line speak the same language. */
export const formatSearch = (search: Search): string =>
  search.terms.map((term) => (term.kind === 'either' ? term.of.map(written).join(' or ') : written(term))).join(' ');
