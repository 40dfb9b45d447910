import { utf8Length } from '../text.ts';

/** What a file's name is made from. `extension` is without the dot. */
export type NameValues = {
  number: string;
  revision: string;
  title: string;
  extension: string;
  date?: string;
  version?: string;
  fields?: Readonly<Record<string, string | undefined>>;
};

export const DEFAULT_NAMING_RULE = '{number}_{revision}_{title}.{ext}';

const MAX_CHARACTERS = 150;
const MAX_BYTES = 255;
const MAX_PART_BYTES = 16;
const DEVICE = /^(con|prn|aux|nul|com[1-9]|lpt[1-9])$/i;

/** Cuts at whole characters so that the text has at most `limit` bytes. */
const cutBytes = (text: string, limit: number): string => {
  let cut = '';
  let used = 0;
  for (const character of text) {
    used += utf8Length(character);
    if (used > limit) break;
    cut += character;
  }
  return cut;
};

/** Controls and direction marks that change how a name reads. */
// biome-ignore lint/suspicious/noControlCharactersInRegex: exactly these are to go
const INVISIBLE = /[\u0000-\u001f\u007f-\u009f\u200b\u200e\u200f\u202a-\u202e\u2060-\u2069\ufeff]/g;

/** Steps that every part goes through: NFC, breaks to blanks, invisible characters and reserved marks out, ends trimmed. */
const cleanPart = (text: string): string =>
  text
    .normalize('NFC')
    .replace(/[\t\r\n\u2028\u2029\u0085]+/g, ' ')
    .replace(INVISIBLE, '')
    .replace(/[<>:"/\\|?*]/g, ' ')
    .replace(/^[\s.]+|[\s.]+$/gu, '');

const cleanTitle = (text: string): string =>
  cleanPart(text)
    .replace(/\s+/gu, '-')
    .replace(/^-+|-+$/g, '');

/**
 * The file name that a naming rule makes for a copy that leaves: valid on Windows, macOS and Linux, at most 150
 * characters and 255 UTF-8 bytes, shortened inside the title only, empty parts left out with their separator. Without
 * anything left the number is the stem.
 */
export const makeFileName = (values: NameValues, rule: string = DEFAULT_NAMING_RULE): string => {
  const extension = cutBytes(cleanPart(values.extension).replace(/\s+/gu, ''), MAX_PART_BYTES).toLowerCase();
  const stemRule = rule.replace(/\.?\{ext\}$/, '');
  const title = cleanTitle(values.title);
  const make = (shortTitle: string) => finish(renderStem(stemRule, values, shortTitle), values.number, extension);
  const name = make(title);
  const over = (text: string) => [...text].length > MAX_CHARACTERS || utf8Length(text) > MAX_BYTES;
  if (!over(name)) return name;
  // Shorten at the ends of words as long as there is more than one, then inside the word.
  let short = title;
  while (short && over(make(short))) {
    const at = short.lastIndexOf('-');
    short = (at > 0 ? short.slice(0, at) : [...short].slice(0, -1).join('')).replace(/[-. ]+$/u, '');
  }
  return make(short);
};

const renderStem = (rule: string, values: NameValues, title: string): string => {
  const partFor = (token: string): string => {
    if (token === 'title') return title;
    if (token === 'number') return cleanPart(values.number);
    if (token === 'revision') return cutBytes(cleanPart(values.revision), MAX_PART_BYTES);
    if (token === 'date') return cleanPart(values.date ?? '');
    if (token === 'version') return cleanPart(values.version ?? '');
    if (token.startsWith('field:')) return cleanPart(values.fields?.[token.slice(6)] ?? '').replace(/\s+/gu, '-');
    return '';
  };
  // Literal text between two tokens separates them; it goes with a part that is empty.
  const pieces = rule.split(/(\{[^}]+\})/).filter((piece) => piece !== '');
  let stem = '';
  let separator = '';
  for (const piece of pieces) {
    if (!piece.startsWith('{')) {
      separator += cleanLiteral(piece);
      continue;
    }
    const value = partFor(piece.slice(1, -1));
    if (value === '') {
      if (stem !== '') separator = '';
      continue;
    }
    stem += stem === '' && /^[-_ .]+$/.test(separator) ? value : separator + value;
    separator = '';
  }
  return /^[-_ .]*$/.test(separator) ? stem : stem + separator;
};

const cleanLiteral = (text: string) => text.replace(INVISIBLE, '').replace(/[<>:"/\\|?*]/g, ' ');

const finish = (stem: string, number: string, extension: string): string => {
  let clean = stem.replace(/^[\s.]+|[-.\s]+$/gu, '');
  if (clean === '') clean = cleanPart(number);
  // Systems compare device names with the part before the first dot.
  const dot = clean.indexOf('.');
  const head = dot < 0 ? clean : clean.slice(0, dot);
  if (DEVICE.test(head)) clean = `${head}_${dot < 0 ? '' : clean.slice(dot)}`;
  return extension ? `${clean}.${extension}` : clean;
};

/** The extension of a file name without its dot, in small letters; empty when there is none. */
export const extensionOf = (name: string): string => /\.([^./\\]{1,16})$/.exec(name)?.[1]?.toLowerCase() ?? '';

/** The tokens of a naming rule in their order; nothing when braces do not match. */
export const namingTokens = (rule: string): string[] | undefined => {
  const rest = rule.replace(/\{([^{}]+)\}/g, '');
  return /[{}]/.test(rest) ? undefined : [...rule.matchAll(/\{([^{}]+)\}/g)].map((match) => match[1] ?? '');
};

/** A line with its tokens filled in, as on renditions and prints: `{number}`, `{field:key}`; an empty token leaves nothing. */
export const fillTokens = (line: string, values: Readonly<Record<string, string>>): string =>
  line
    .replace(/\{(?:field:)?([^{}]+)\}/g, (_, name: string) => values[name.trim()] ?? '')
    .replace(/ {2,}/g, ' ')
    .trim();
