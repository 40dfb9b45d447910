import type { Metadata } from '../metadata/metadata.ts';
import { type Refusal, refusal } from '../result.ts';

/** A title in another language is a revision field of the revision under this key and its language. */
const PREFIX = 'title:';
/** Language tags as BCP 47 writes them, the common part: language, then script or region. */
const LANGUAGE = /^[a-z]{2,3}(-[A-Za-z0-9]{2,8}){0,2}$/;

export const isLanguage = (tag: string): boolean => LANGUAGE.test(tag);

/** Titles by language, as the revision fields hold them. */
export const titlesOf = (metadata: Metadata): Record<string, string> =>
  Object.fromEntries(
    Object.entries(metadata).flatMap(([key, value]) =>
      key.startsWith(PREFIX) && typeof value === 'string' ? [[key.slice(PREFIX.length), value]] : [],
    ),
  );

/** The revision fields with these titles in place of those that they had; empty ones go. */
export const withTitles = (metadata: Metadata, titles: Readonly<Record<string, string>>): Metadata => ({
  ...Object.fromEntries(Object.entries(metadata).filter(([key]) => !key.startsWith(PREFIX))),
  ...Object.fromEntries(
    Object.entries(titles).flatMap(([language, title]) => (title.trim() ? [[PREFIX + language, title.trim()]] : [])),
  ),
});

/** Languages that are no tags (`title_language_invalid`). */
export const checkTitles = (titles: Readonly<Record<string, string>>): Refusal[] =>
  Object.keys(titles)
    .filter((language) => !isLanguage(language))
    .map((language) => refusal('title_language_invalid', { language }));
