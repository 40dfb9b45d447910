import { at, type Problems } from './problem.ts';

/** Search and lists. */
export const search = {
  // Search and lists.
  search_field_unknown: at(422, (p) => `There is no search field “${p.field}” (character ${p.at}).`, 'Search'),
  search_value_missing: at(422, (p) => `Enter a value after ${p.field} (character ${p.at}).`, 'Search'),
  search_not_comparable: at(422, (p) => `${p.field} cannot be compared with >= or <= (character ${p.at}).`, 'Search'),
  search_date_invalid: at(422, (p) => `${p.value} is not a date such as 2026-11-25 (character ${p.at}).`, 'Search'),
  search_number_invalid: at(422, (p) => `${p.value} is not a number (character ${p.at}).`, 'Search'),
  search_or_alone: at(
    422,
    (p) => `The “or” at character ${p.at} needs a condition on each side, such as type:PRO or type:WIN.`,
    'Search',
  ),
  search_or_mixed: at(
    422,
    (p) =>
      `On both sides of the “or” at character ${p.at} there must be words, or conditions such as type:PRO, not one of each.`,
    'Search',
  ),
  search_or_not: at(
    422,
    (p) => `Beside the “or” at character ${p.at} there can be no “not”: leave out the words that must not occur.`,
    'Search',
  ),
  search_quote_open: at(422, (p) => `The quotation mark at character ${p.at} is not closed.`, 'Search'),
  cursor_invalid: at(422, 'This cursor does not belong to this list.', 'Cursor'),
} satisfies Problems;
