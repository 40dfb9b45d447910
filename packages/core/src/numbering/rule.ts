import { ok, type Refusal, type Result, refusal, refuse } from '../result.ts';
import { foldText, utf8Length } from '../text.ts';

/** A piece of a numbering rule (DOMAIN: literal text with tokens in braces). */
export type RuleElement =
  | { kind: 'literal'; text: string }
  | { kind: 'code'; token: CodeToken; key?: string }
  | { kind: 'year'; digits: 2 | 4 }
  | { kind: 'month' }
  | { kind: 'parent' }
  | { kind: 'counter'; width: number; per?: string[] };

/** Tokens that take one of a fixed set of codes. */
export type CodeToken = 'type' | 'area' | 'department' | 'field';

/** A numbering rule that was checked when it was saved; runtime code accepts only this. */
export type NumberingRule = { text: string; elements: readonly RuleElement[] };

/** The values that the tokens of a rule may take: codes of the types that use it, areas, departments, options of fields. */
export type RuleCodes = {
  types: readonly string[];
  areas: readonly string[];
  departments: readonly string[];
  fields: Readonly<Record<string, readonly string[]>>;
};

export const MAX_NUMBER_BYTES = 80;

const tokenName = (element: RuleElement): string => {
  switch (element.kind) {
    case 'literal':
      return '';
    case 'code':
      return element.token === 'field' ? `field:${element.key}` : element.token;
    default:
      return element.kind;
  }
};

/**
 * Reads the text of a numbering rule. Refused: unknown tokens, braces that do not match, no counter or two, a `per` that
 * is not in the rule, the same token twice, a width outside 1–9, a rule that could not fit into 80 bytes.
 */
export const parseRule = (text: string): Result<NumberingRule> => {
  const elements: RuleElement[] = [];
  const refusals: Refusal[] = [];
  let at = 0;
  while (at < text.length) {
    const open = text.indexOf('{', at);
    const literal = text.slice(at, open < 0 ? undefined : open);
    if (literal.includes('}')) return refuse('rule_brace_unmatched', { at: at + literal.indexOf('}') + 1 });
    if (literal) elements.push({ kind: 'literal', text: literal });
    if (open < 0) break;
    const close = text.indexOf('}', open);
    if (close < 0) return refuse('rule_brace_unmatched', { at: open + 1 });
    const element = parseToken(text.slice(open + 1, close));
    if (element.ok) elements.push(element.value);
    else refusals.push(...element.refusals);
    at = close + 1;
  }
  if (refusals.length) return { ok: false, refusals };
  const counters = elements.filter((element) => element.kind === 'counter');
  if (counters.length === 0) refusals.push(refusal('rule_without_counter'));
  if (counters.length > 1) refusals.push(refusal('rule_with_two_counters'));
  const names = elements.map(tokenName).filter(Boolean);
  for (const name of names) {
    if (
      name !== 'counter' &&
      names.indexOf(name) !== names.lastIndexOf(name) &&
      !refusals.some((r) => r.params?.token === name)
    ) {
      refusals.push(refusal('rule_token_twice', { token: name }));
    }
  }
  for (const name of counters[0]?.per ?? []) {
    if (!names.includes(name) || name === 'counter') refusals.push(refusal('rule_per_not_in_rule', { token: name }));
  }
  if (utf8Length(text.replace(/\{[^}]*\}/g, '')) > MAX_NUMBER_BYTES - 1) {
    refusals.push(refusal('number_too_long', { limit: MAX_NUMBER_BYTES }));
  }
  return refusals.length ? { ok: false, refusals } : ok({ text, elements });
};

const parseToken = (token: string): Result<RuleElement> => {
  const [head = '', ...rest] = token.split(':');
  switch (head) {
    case 'type':
    case 'area':
    case 'department':
      return rest.length === 0 ? ok({ kind: 'code', token: head }) : refuse('rule_token_unknown', { token });
    case 'field':
      return rest.length === 1 && rest[0]
        ? ok({ kind: 'code', token: 'field', key: rest[0] })
        : refuse('rule_token_unknown', { token });
    case 'year':
      if (rest.length === 0) return ok({ kind: 'year', digits: 4 });
      return rest.length === 1 && rest[0] === '2'
        ? ok({ kind: 'year', digits: 2 })
        : refuse('rule_token_unknown', { token });
    case 'month':
      return rest.length === 0 ? ok({ kind: 'month' }) : refuse('rule_token_unknown', { token });
    case 'parent':
      return rest.length === 0 ? ok({ kind: 'parent' }) : refuse('rule_token_unknown', { token });
    case 'counter': {
      const width = /^[1-9]$/.test(rest[0] ?? '') ? Number(rest[0]) : undefined;
      if (width === undefined || rest.length > 2) return refuse('rule_token_unknown', { token });
      if (rest.length === 1) return ok({ kind: 'counter', width });
      const per = /^per=(.+)$/.exec(rest[1] ?? '')?.[1]?.split('+');
      return per ? ok({ kind: 'counter', width, per }) : refuse('rule_token_unknown', { token });
    }
    default:
      return refuse('rule_token_unknown', { token });
  }
};

/** What a number is made from; `day` is the local day of registering in the organisation's zone. */
export type NumberInput = {
  type: string;
  area?: string;
  department?: string;
  day: string;
  parent?: string;
  fields?: Readonly<Record<string, string | undefined>>;
};

const renderElement = (element: RuleElement, input: NumberInput): Result<string> => {
  switch (element.kind) {
    case 'literal':
      return ok(element.text);
    case 'year':
      return ok(element.digits === 2 ? input.day.slice(2, 4) : input.day.slice(0, 4));
    case 'month':
      return ok(input.day.slice(5, 7));
    case 'parent':
      return input.parent ? ok(input.parent) : refuse('number_needs_field_value', { token: 'parent' });
    case 'code': {
      const code =
        element.token === 'field' ? input.fields?.[element.key ?? ''] : (input[element.token] as string | undefined);
      return code ? ok(code) : refuse('number_needs_field_value', { token: tokenName(element) });
    }
    case 'counter':
      return ok('');
  }
};

/**
 * The scope in which a rule counts for these input. Unless `per` says otherwise that is the rendered rest of the number,
 * so that versions of a rule that render alike share one counter.
 */
export const scopeOf = (rule: NumberingRule, input: NumberInput): Result<string> => {
  const counter = rule.elements.find((element) => element.kind === 'counter');
  let scope = '';
  for (const element of rule.elements) {
    if (element.kind === 'counter') {
      scope += '#';
      continue;
    }
    const counts = !counter?.per || element.kind === 'literal' || counter.per.includes(tokenName(element));
    if (!counts) {
      scope += `{${tokenName(element)}}`;
      continue;
    }
    const part = renderElement(element, input);
    if (!part.ok) return part;
    scope += part.value;
  }
  return ok(scope);
};

/**
 * The scopes in which a rule may have begun to count, as a pattern: its text, `#` for the counter, the codes or digits of what
 * it counts by, and the names of the tokens that it does not count by.
 */
export const scopePattern = (rule: NumberingRule, codes: RuleCodes): RegExp => {
  const counter = rule.elements.find((element) => element.kind === 'counter');
  const plain = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
  const parts = rule.elements.map((element) => {
    if (element.kind === 'counter') return '#';
    if (element.kind === 'literal') return plain(element.text);
    if (counter?.per && !counter.per.includes(tokenName(element))) return plain(`{${tokenName(element)}}`);
    if (element.kind === 'code') return `(?:${codesOf(element, codes).map(plain).join('|') || '(?!)'})`;
    if (element.kind === 'year') return `\\d{${element.digits}}`;
    return element.kind === 'month' ? '(?:0[1-9]|1[0-2])' : '.+';
  });
  return new RegExp(`^${parts.join('')}$`, 'u');
};

/** The number for this input and a counter's value (from 1). */
export const renderNumber = (rule: NumberingRule, input: NumberInput, counter: number): Result<string> => {
  let number = '';
  for (const element of rule.elements) {
    if (element.kind === 'counter') {
      number += String(counter).padStart(element.width, '0');
      continue;
    }
    const part = renderElement(element, input);
    if (!part.ok) return part;
    number += part.value;
  }
  return utf8Length(number) > MAX_NUMBER_BYTES ? refuse('number_too_long', { limit: MAX_NUMBER_BYTES }) : ok(number);
};

/** The codes that a code token may take. */
export const codesOf = (element: Extract<RuleElement, { kind: 'code' }>, codes: RuleCodes): readonly string[] => {
  switch (element.token) {
    case 'type':
      return codes.types;
    case 'area':
      return codes.areas;
    case 'department':
      return codes.departments;
    case 'field':
      return codes.fields[element.key ?? ''] ?? [];
  }
};

/** An outside number as kept: trimmed, NFC, runs of blanks as one; its folded form compares without case. */
export const cleanOutsideNumber = (text: string): { number: string; folded: string } => {
  const number = text.normalize('NFC').trim().replace(/\s+/g, ' ');
  return { number, folded: foldNumber(number) };
};

/** The form in which numbers are compared: no case, runs of blanks as one. */
export const foldNumber = (number: string): string => foldText(number);
