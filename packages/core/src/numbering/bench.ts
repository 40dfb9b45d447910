import type { KnownRule, NumberParts, Reading } from './recognise.ts';
import { createScopedRecogniser } from './recogniser.ts';
import { cleanOutsideNumber } from './rule.ts';

/** The verdict of the rules on one line of a list, by shape alone, not by existence. */
export type LineVerdict = {
  /** Line of the list, from 1. */
  line: number;
  /** The number as it will be looked up: trimmed, NFC, runs of blanks as one. */
  number: string;
  folded: string;
  /** The first line with the same number, where there is one before. */
  duplicateOf?: number;
} & (
  | { kind: 'fits'; parts: NumberParts; scope: string }
  | (Omit<Extract<Reading, { kind: 'malformed' }>, 'kind'> & { kind: 'malformed' })
  | { kind: 'outside' }
);

/** One scope in a list: its numbers from the smallest to the largest, and the missing ones. */
export type ScopeGaps = {
  scope: string;
  first: number;
  last: number;
  count: number;
  gaps: [from: number, to: number][];
};

/**
 * Judges the lines of a list by the organisation's rules, in pieces: feed lines, get their verdicts, and at the end the gaps per
 * scope. Empty lines count for the numbering of lines and get no verdict.
 */
export const createNumberBench = (
  rules: readonly KnownRule[],
): { judge: (lines: readonly string[]) => LineVerdict[]; gaps: () => ScopeGaps[] } => {
  const recognise = createScopedRecogniser(rules);
  const firstLine = new Map<string, number>();
  const counters = new Map<string, number[]>();
  let line = 0;

  const judge = (lines: readonly string[]): LineVerdict[] => {
    const verdicts: LineVerdict[] = [];
    for (const text of lines) {
      line++;
      const { number, folded } = PLAIN.test(text)
        ? { number: text, folded: text.toLowerCase() }
        : cleanOutsideNumber(text);
      if (number === '') continue;
      const before = firstLine.get(folded);
      if (before === undefined) firstLine.set(folded, line);
      const verdict = verdictOf(recognise(number), line, number, folded);
      if (before !== undefined) verdict.duplicateOf = before;
      else if (verdict.kind === 'fits') {
        const taken = counters.get(verdict.scope);
        if (taken) taken.push(verdict.parts.counter);
        else counters.set(verdict.scope, [verdict.parts.counter]);
      }
      verdicts.push(verdict);
    }
    return verdicts;
  };

  const gaps = (): ScopeGaps[] =>
    [...counters]
      .map(([scope, unsorted]) => {
        const taken = [...unsorted].sort((a, b) => a - b);
        const [first = 0, last = 0] = [taken[0], taken.at(-1)];
        const missing: [number, number][] = [];
        for (let i = 1; i < taken.length; i++) {
          const [left = 0, right = 0] = [taken[i - 1], taken[i]];
          if (right > left + 1) missing.push([left + 1, right - 1]);
        }
        return { scope, first, last, count: taken.length, gaps: missing };
      })
      .sort((a, b) => (a.scope < b.scope ? -1 : 1));

  return { judge, gaps };
};

/** A number without blanks at its ends and without letters that have other forms: it is as it will be looked up. */
const PLAIN = /^[!-~]+$/;

const verdictOf = (
  { reading, scope }: { reading: Reading; scope: string },
  line: number,
  number: string,
  folded: string,
): LineVerdict => {
  if (reading.kind === 'outside') return { line, number, folded, kind: 'outside' };
  if (reading.kind === 'malformed') return { line, number, folded, ...reading };
  return { line, number, folded, kind: 'fits', parts: reading.parts, scope };
};
