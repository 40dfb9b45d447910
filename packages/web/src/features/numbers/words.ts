import type { Known, NumberRule } from '@kanonos/contract';
import { type LineVerdict, type ScopeGaps, toCsv } from '@kanonos/core';

/** The verdict of the rule bench on a line: its shape, and whether the number is taken. */
export const STANDINGS = ['free', 'exists', 'taken', 'reserved', 'void', 'outside', 'malformed', 'duplicate'] as const;
export type Standing = (typeof STANDINGS)[number];

export const STANDING_WORDS: Record<Standing, string> = {
  free: 'Valid, not given',
  exists: 'Exists',
  taken: 'Taken',
  reserved: 'Reserved',
  void: 'Void',
  outside: 'External',
  malformed: 'Malformed',
  duplicate: 'Duplicate in the list',
};

export const standingOf = (verdict: LineVerdict, known: Known | undefined): Standing => {
  if (verdict.duplicateOf !== undefined) return 'duplicate';
  if (known) return known.state;
  if (verdict.kind === 'malformed') return 'malformed';
  return verdict.kind === 'outside' ? 'outside' : 'free';
};

const parts = (verdict: Extract<LineVerdict, { kind: 'fits' }>): string => {
  const { type, area, department, year, month, parent, fields, counter } = verdict.parts;
  const parts = [
    type && `type ${type}`,
    area && `area ${area}`,
    department && `department ${department}`,
    parent && `parent ${parent}`,
    year && `year ${year}`,
    month && `month ${month}`,
    ...Object.entries(fields ?? {}).map(([key, value]) => `${key} ${value}`),
  ];
  return [...parts.filter(Boolean), `counter ${counter}`].join(', ');
};

const malformed = ({ token, at, reason, needs, has }: Extract<LineVerdict, { kind: 'malformed' }>): string => {
  const where = `${token} (from character ${at})`;
  switch (reason) {
    case 'too few digits':
      return `${where} needs ${needs} digits, has ${has}`;
    case 'leading zero':
      return `${where} has a leading zero beyond ${needs} digits`;
    case 'unknown code':
      return `${where} is not a code of the rule`;
    case 'not digits':
      return `${where} is not a number`;
    case 'text after':
      return `there is text after the number, from character ${at}`;
    case 'other text':
      return `from character ${at} on it differs from the rule`;
  }
};

/** The parts of a number that fits, what is wrong with one that does not, or what is known of one that is given. */
export const detailOf = (verdict: LineVerdict, known: Known | undefined): string => {
  if (verdict.duplicateOf !== undefined) return `the same as line ${verdict.duplicateOf}`;
  if (known)
    return (
      [known.title, known.words].filter(Boolean).join(', ') ||
      (known.state === 'taken' ? 'by a document you may not see' : '')
    );
  if (verdict.kind === 'malformed') return `${malformed(verdict)}; rule ${verdict.rule}`;
  return verdict.kind === 'outside' ? 'no numbering rule starts like this' : parts(verdict);
};

const range = ([from, to]: [number, number]) => (from === to ? String(from) : `${from}–${to}`);

/** The gaps of a scope in words; many are counted and the first ones named. */
export const gapWords = ({ gaps }: Pick<ScopeGaps, 'gaps'>): string => {
  if (gaps.length === 0) return 'no gap';
  const missing = gaps.reduce((sum, [from, to]) => sum + to - from + 1, 0);
  const named = gaps.slice(0, 8).map(range).join(', ');
  return `${missing.toLocaleString('en-GB')} missing: ${named}${gaps.length > 8 ? ' and more' : ''}`;
};

/** What a scope has given since it began, and what of the numbers before came in, in words. */
export const givenWords = ({ given, startedAt, takenOver, gaps }: NumberRule['scopes'][number]): string => {
  const own = `${given.toLocaleString('en-GB')} given${gaps.length === 0 ? ', no gap' : ''}`;
  if (startedAt === 0) return own;
  const before = startedAt.toLocaleString('en-GB');
  return takenOver === 0
    ? `${own}; started after ${before}`
    : `${own}; ${takenOver.toLocaleString('en-GB')} of ${before} earlier numbers imported`;
};

/** A scope as it is read: where one type alone counts by a rule, by its code. */
export const scopeWords = ({ types }: Pick<NumberRule, 'types'>, scope: string): string =>
  types.length === 1 && types[0] ? scope.replace('{type}', types[0].code) : scope;

/** The next number of a scope that determines whole numbers; where a rule counts over wider scopes, its counter alone. */
export const nextOf = (
  rule: Pick<NumberRule, 'rule' | 'types'>,
  { scope, last }: { scope: string; last: number },
): string => {
  const width = Number(/\{counter:(\d)/.exec(rule.rule)?.[1] ?? 1);
  const next = String(last + 1).padStart(width, '0');
  const read = scopeWords(rule, scope);
  return read.includes('{') ? next : read.replace('#', next);
};

/** The verdicts as a table that leaves. */
export const verdictsAsCsv = (rows: readonly { verdict: LineVerdict; known: Known | undefined }[]): string =>
  toCsv([
    ['line', 'number', 'verdict', 'detail'],
    ...rows.map(({ verdict, known }) => [
      String(verdict.line),
      verdict.number,
      STANDING_WORDS[standingOf(verdict, known)],
      detailOf(verdict, known),
    ]),
  ]);

/** The lines of what was pasted or dropped: of several columns the first one counts, quotation marks go. */
export const linesOf = (text: string): string[] => {
  const lines = text.replace(/\r\n?/g, '\n').split('\n');
  if (lines.at(-1) === '') lines.pop();
  return lines.map((line) => {
    const [first = ''] = line.split('\t');
    const quoted = /^"((?:[^"]|"")*)"(?:[,;].*)?$/.exec(first);
    if (quoted) return (quoted[1] ?? '').replaceAll('""', '"');
    return /[,;]/.test(first) ? (first.split(/[,;]/)[0] ?? '') : first;
  });
};
