import { addDays, isDay } from '../calendar/zone.ts';

/** What a column of a manifest can mean. Metadata are `field:` with the key of the field. */
export const MANIFEST_MEANINGS = [
  'number',
  'title',
  'type',
  'folder',
  'owner',
  'label',
  'state',
  'from',
  'to',
  'registered',
  'file',
  'keywords',
  'signers',
  'summary',
] as const;
export type ManifestMeaning = (typeof MANIFEST_MEANINGS)[number] | `field:${string}`;

/** The order of day, month and year in dates that are not ISO. */
export type DateOrder = 'dmy' | 'mdy';

/** The meaning of each column (null for ignored columns), and the date format. */
export type ManifestMapping = {
  columns: readonly (ManifestMeaning | null)[];
  dateOrder: DateOrder;
  /** The defaults for empty cells. */
  typeCode: string | null;
  folder: string | null;
  owner: string | null;
  state: ImportedState;
};

export const IMPORTED_STATES = ['draft', 'in force', 'superseded', 'withdrawn'] as const;
export type ImportedState = (typeof IMPORTED_STATES)[number];

const WORDS: Readonly<Record<Exclude<ManifestMeaning, `field:${string}`>, readonly string[]>> = {
  number: ['number', 'document number', 'doc no', 'doc number', 'no', 'nr', 'id', 'document'],
  title: ['title', 'name', 'document title', 'subject', 'description'],
  type: ['type', 'document type', 'kind', 'type code'],
  folder: ['folder', 'path', 'location', 'filed in', 'place'],
  owner: ['owner', 'responsible', 'holder', 'document owner'],
  label: ['revision', 'rev', 'label', 'issue', 'edition', 'version'],
  state: ['state', 'status'],
  from: [
    'in force from',
    'effective',
    'effective date',
    'valid from',
    'released',
    'release date',
    'from',
    'issued',
    'issue date',
  ],
  to: ['in force to', 'until', 'to', 'valid to', 'superseded on', 'withdrawn on', 'end'],
  registered: ['registered', 'registered on', 'created', 'created on', 'date'],
  file: ['file', 'file name', 'filename', 'original', 'document file'],
  keywords: ['keywords', 'tags', 'keyword'],
  signers: ['signers', 'signed by', 'approved by', 'approver', 'approvers', 'released by'],
  summary: ['summary', 'change', 'what changed', 'remarks', 'remark', 'note'],
};

const plain = (text: string) =>
  text
    .normalize('NFC')
    .toLocaleLowerCase('en')
    .replace(/[_\-./:]+/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();

/** The likely meanings of a manifest's headings; each meaning once, the first fitting column wins. */
export const guessColumns = (
  headings: readonly string[],
  fields: readonly { key: string; label: string }[],
): (ManifestMeaning | null)[] => {
  const taken = new Set<string>();
  const take = (meaning: ManifestMeaning): ManifestMeaning | null => {
    if (taken.has(meaning)) return null;
    taken.add(meaning);
    return meaning;
  };
  return headings.map((heading) => {
    const word = plain(heading);
    const known = MANIFEST_MEANINGS.find((meaning) => WORDS[meaning as keyof typeof WORDS].includes(word));
    if (known) return take(known);
    const field = fields.find((one) => plain(one.label) === word || one.key.toLocaleLowerCase('en') === word);
    return field ? take(`field:${field.key}`) : null;
  });
};

/** The date order of a column, as far as it can be inferred: a part above 12 cannot be a month. */
export const guessDateOrder = (values: readonly string[]): DateOrder => {
  let [day, month] = [0, 0];
  for (const value of values) {
    const match = SHORT.exec(value.trim());
    if (!match) continue;
    if (Number(match[1]) > 12) day++;
    if (Number(match[2]) > 12) month++;
  }
  return month > day ? 'mdy' : 'dmy';
};

const SHORT = /^(\d{1,2})[./-](\d{1,2})[./-](\d{4}|\d{2})$/;
const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

/** A day as people write it, in ISO; nothing when it is none, or one of the other order. */
export const readDay = (text: string, order: DateOrder): string | undefined => {
  const value = text.trim();
  const iso = /^(\d{4})-(\d{2})-(\d{2})(?:[T ].*)?$/.exec(value);
  if (iso) return valid(iso[1], iso[2], iso[3]);
  const compact = /^(\d{4})(\d{2})(\d{2})$/.exec(value);
  if (compact) return valid(compact[1], compact[2], compact[3]);
  const short = SHORT.exec(value);
  if (short) {
    const [, a, b, year = ''] = short;
    const full = year.length === 2 ? `${Number(year) < 70 ? '20' : '19'}${year}` : year;
    return order === 'dmy' ? valid(full, b, a) : valid(full, a, b);
  }
  const named = /^(\d{1,2})\.? ([A-Za-z]{3,9})\.? (\d{4})$/.exec(value);
  if (named) {
    const month = MONTHS.indexOf((named[2] ?? '').slice(0, 3).toLowerCase()) + 1;
    return month ? valid(named[3], String(month), named[1]) : undefined;
  }
  // A day as spreadsheets count it, from 30 December 1899.
  const serial = /^\d{5}(?:\.\d+)?$/.test(value) ? Math.floor(Number(value)) : 0;
  return serial > 18_000 && serial < 80_000 ? addDays('1899-12-30', serial) : undefined;
};

const valid = (year = '', month = '', day = ''): string | undefined => {
  const iso = `${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`;
  return isDay(iso) ? iso : undefined;
};

const STATES: Readonly<Record<ImportedState, readonly string[]>> = {
  draft: ['draft', 'in work', 'working', 'new'],
  'in force': ['in force', 'effective', 'released', 'valid', 'current', 'active', 'approved', 'issued'],
  superseded: ['superseded', 'replaced', 'old', 'previous', 'obsolete', 'archived'],
  withdrawn: ['withdrawn', 'cancelled', 'canceled', 'retired', 'void', 'expired'],
};

/** A state as other organisations call it. */
export const readState = (text: string): ImportedState | undefined =>
  IMPORTED_STATES.find((state) => STATES[state].includes(plain(text)));

/** The cells of a line by what they mean. */
export type ManifestLine = {
  line: number;
  number: string;
  title: string;
  type: string;
  folder: string;
  owner: string;
  label: string;
  state: string;
  from: string;
  to: string;
  registered: string;
  file: string;
  keywords: string;
  signers: string;
  summary: string;
  metadata: Record<string, string>;
};

export const toLine = (line: number, cells: readonly string[], { columns }: ManifestMapping): ManifestLine => {
  const made: ManifestLine = {
    line,
    number: '',
    title: '',
    type: '',
    folder: '',
    owner: '',
    label: '',
    state: '',
    from: '',
    to: '',
    registered: '',
    file: '',
    keywords: '',
    signers: '',
    summary: '',
    metadata: {},
  };
  columns.forEach((meaning, i) => {
    const cell = (cells[i] ?? '').normalize('NFC').trim();
    if (meaning === null || cell === '') return;
    if (meaning.startsWith('field:')) made.metadata[meaning.slice('field:'.length)] = cell;
    else (made as unknown as Record<string, string>)[meaning] = cell;
  });
  return made;
};
