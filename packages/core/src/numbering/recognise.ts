import { codesOf, type NumberingRule, type RuleCodes, type RuleElement } from './rule.ts';

/**
 * A rule with the codes its tokens may take. A retired rule is kept, so that its numbers stay readable, once per scope in
 * which it counted: `retired` names that scope and the last number that it gave there.
 */
export type KnownRule = {
  id: string;
  rule: NumberingRule;
  codes: RuleCodes;
  retired?: { scope: string; last: number };
};

/** The parts read back from a number. */
export type NumberParts = {
  rule: string;
  counter: number;
  type?: string;
  area?: string;
  department?: string;
  year?: string;
  month?: string;
  parent?: string;
  fields?: Record<string, string>;
};

export type Reading =
  | { kind: 'read'; parts: NumberParts }
  | {
      kind: 'malformed';
      rule: string;
      token: string;
      at: number;
      reason: MalformedReason;
      needs?: number;
      has?: number;
    }
  | { kind: 'outside' };

export type MalformedReason =
  | 'too few digits'
  | 'leading zero'
  | 'unknown code'
  | 'not digits'
  | 'text after'
  | 'other text';

type Failure = { token: string; at: number; reason: MalformedReason; needs?: number; has?: number };
type Partial = Omit<NumberParts, 'rule' | 'counter'> & { counter?: number };
type Walk = { done: Partial } | { failure: Failure };

/**
 * Reads a number by the organisation's rules. When no rule fits but one fits in part, the answer names the token and the
 * character (from 1) at which it begins and what would be right. `tried` leaves out rules that are known not to fit.
 */
export const readNumber = (rules: readonly KnownRule[], text: string, tried: readonly KnownRule[] = rules): Reading => {
  let furthest: (Failure & { rule: string }) | undefined;
  for (const known of tried) {
    const walk = walkElements(known, rules, known.rule.elements, text, 0, {});
    if ('done' in walk)
      return { kind: 'read', parts: { ...walk.done, rule: known.id, counter: walk.done.counter ?? 0 } };
    // A rule that fails in its literal text was not intended; one that fails at a token after its own text was.
    if (known.retired) continue;
    if (walk.failure.reason === 'other text' || walk.failure.at === 1) continue;
    if (!furthest || walk.failure.at > furthest.at) furthest = { ...walk.failure, rule: known.id };
  }
  if (!furthest) return { kind: 'outside' };
  return { kind: 'malformed', ...furthest };
};

const walkElements = (
  known: KnownRule,
  rules: readonly KnownRule[],
  elements: readonly RuleElement[],
  text: string,
  at: number,
  parts: Partial,
): Walk => {
  const [element, ...rest] = elements;
  if (!element) {
    return at === text.length ? { done: parts } : { failure: { token: 'end', at: at + 1, reason: 'text after' } };
  }
  let worst: Failure | undefined;
  const attempt = (length: number, more: Partial): Walk | undefined => {
    const walk = walkElements(known, rules, rest, text, at + length, more);
    if ('done' in walk) return walk;
    if (!worst || walk.failure.at > worst.at) worst = walk.failure;
    return undefined;
  };
  const fail = (reason: MalformedReason, token: string, extra: { needs?: number; has?: number } = {}): Walk => ({
    failure: { token, at: at + 1, reason, ...extra },
  });
  switch (element.kind) {
    case 'literal':
      if (!text.startsWith(element.text, at)) return fail('other text', element.text);
      return walkElements(known, rules, rest, text, at + element.text.length, parts);
    case 'code': {
      for (const code of codesOf(element, known.codes)) {
        if (!text.startsWith(code, at)) continue;
        const more =
          element.token === 'field'
            ? { ...parts, fields: { ...parts.fields, [element.key ?? '']: code } }
            : { ...parts, [element.token]: code };
        const walk = attempt(code.length, more);
        if (walk) return walk;
      }
      return worst
        ? { failure: worst }
        : fail('unknown code', element.token === 'field' ? `field:${element.key}` : element.token);
    }
    case 'year':
    case 'month': {
      const width = element.kind === 'month' ? 2 : element.digits;
      const digits = text.slice(at, at + width);
      const fits =
        element.kind === 'month' ? /^(0[1-9]|1[0-2])$/.test(digits) : new RegExp(`^\\d{${width}}$`).test(digits);
      if (!fits) return fail('not digits', element.kind);
      return walkElements(known, rules, rest, text, at + width, { ...parts, [element.kind]: digits });
    }
    case 'parent': {
      const others = rules.filter(
        (other) => other.id !== known.id && !other.rule.elements.some((e) => e.kind === 'parent'),
      );
      // A parent is a whole organisation number; the shortest that leaves a readable rest is taken.
      for (let length = 1; at + length < text.length; length++) {
        const number = text.slice(at, at + length);
        if (readNumber(others, number).kind !== 'read') continue;
        const walk = attempt(length, { ...parts, parent: number });
        if (walk) return walk;
      }
      return worst ? { failure: worst } : fail('unknown code', 'parent');
    }
    case 'counter': {
      const run = /^\d*/.exec(text.slice(at))?.[0] ?? '';
      if (run.length === 0) return fail('not digits', 'counter', { needs: element.width, has: 0 });
      if (run.length < element.width)
        return fail('too few digits', 'counter', { needs: element.width, has: run.length });
      for (let length = run.length; length >= element.width; length--) {
        const digits = run.slice(0, length);
        if (Number(digits) === 0 || (length > element.width && digits.startsWith('0'))) continue;
        if (known.retired && Number(digits) > known.retired.last) continue;
        const walk = attempt(length, { ...parts, counter: Number(digits) });
        if (walk) return walk;
      }
      if (run.startsWith('0') && run.length > element.width) {
        return fail('leading zero', 'counter', { needs: element.width, has: run.length });
      }
      return worst ? { failure: worst } : fail('not digits', 'counter', { needs: element.width, has: 0 });
    }
  }
};

const literally = (text: string) => text.replace(/[.*+?^${}()|[\]\\/-]/g, '\\$&');
const SEPARATORS = '[\\s\\-_./]*';

/**
 * The numbers that somebody may mean who types one in any usual form: other case, blanks for hyphens, the organisation's prefix
 * or leading zeros left out (`pro 118` → `THR-PRO-0118`). Without duplicates, at most one per rule and code.
 */
export const guessNumbers = (rules: readonly KnownRule[], typed: string): string[] => {
  const text = typed.trim();
  const guesses = new Set<string>();
  if (!/\d/.test(text) || text.length > 100) return [];
  for (const { rule, codes } of rules) {
    if (rule.elements.some((element) => element.kind === 'parent')) continue;
    const kinds: { element: RuleElement }[] = [];
    let pattern = `^${SEPARATORS}`;
    for (const element of rule.elements) {
      if (element.kind === 'literal') {
        for (const word of element.text.match(/[\p{L}\p{N}]+/gu) ?? [])
          pattern += `(?:${literally(word)})?${SEPARATORS}`;
        continue;
      }
      kinds.push({ element });
      if (element.kind === 'code') {
        const options = [...codesOf(element, codes)].sort((a, b) => b.length - a.length).map(literally);
        if (options.length === 0) pattern += '(?!)';
        pattern += `(${options.join('|')})`;
      } else if (element.kind === 'counter') pattern += '0*([1-9]\\d{0,8})';
      else pattern += element.kind === 'month' ? '(\\d{2})' : `(\\d{${(element as { digits: number }).digits}})`;
      pattern += SEPARATORS;
    }
    const match = new RegExp(`${pattern}$`, 'iu').exec(text);
    if (!match) continue;
    let group = 0;
    guesses.add(
      rule.elements
        .map((element) => {
          if (element.kind === 'literal') return element.text;
          const found = match[++group] ?? '';
          if (element.kind === 'counter') return found.padStart(element.width, '0');
          if (element.kind !== 'code') return found;
          return codesOf(element, codes).find((code) => code.toLowerCase() === found.toLowerCase()) ?? found;
        })
        .join(''),
    );
  }
  return [...guesses];
};
