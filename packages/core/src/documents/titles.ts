import type { Facts } from '../facts/facts.ts';
import { type Refusal, refusal } from '../result.ts';

/** A title in another language is a signed fact of the revision under this key and its language. */
const PREFIX = 'title:';
/** Language tags as BCP 47 writes them, the common part: language, then script or region. */
const LANGUAGE = /^[a-z]{2,3}(-[A-Za-z0-9]{2,8}){0,2}$/;

export const isLanguage = (tag: string): boolean => LANGUAGE.test(tag);

/** Titles by language, as they stand among the signed facts. */
export const titlesOf = (facts: Facts): Record<string, string> =>
  Object.fromEntries(
    Object.entries(facts).flatMap(([key, value]) =>
      key.startsWith(PREFIX) && typeof value === 'string' ? [[key.slice(PREFIX.length), value]] : [],
    ),
  );

/** The signed facts with these titles in place of those that they had; empty ones go. */
export const withTitles = (facts: Facts, titles: Readonly<Record<string, string>>): Facts => ({
  ...Object.fromEntries(Object.entries(facts).filter(([key]) => !key.startsWith(PREFIX))),
  ...Object.fromEntries(
    Object.entries(titles).flatMap(([language, title]) => (title.trim() ? [[PREFIX + language, title.trim()]] : [])),
  ),
});

/** Languages that are no tags (`title_language_invalid`). */
export const checkTitles = (titles: Readonly<Record<string, string>>): Refusal[] =>
  Object.keys(titles)
    .filter((language) => !isLanguage(language))
    .map((language) => refusal('title_language_invalid', { language }));
