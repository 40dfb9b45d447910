import type { KnownRule } from '../numbering/recognise.ts';
import { parseRule, type RuleCodes, scopePattern } from '../numbering/rule.ts';

/** A scope that no rule counts in any more as it did: the rule as it read there, and the last number that it gave. */
export type RetiredScope = { scope: string; rule: string; codes: RuleCodes; last: number };

type Counter = { scope: string; last: number };

const widthOf = (organisation: KnownRule): number =>
  organisation.rule.elements.find((element) => element.kind === 'counter')?.width ?? 1;

const ruleOfScope = (rules: readonly KnownRule[], scope: string): KnownRule | undefined =>
  rules.find(
    (organisation) => !organisation.retired && scopePattern(organisation.rule, organisation.codes).test(scope),
  );

/**
 * The scopes that a change of the rules abandons: counters that have begun and whose numbers no rule afterwards would write in
 * the same way. Their numbers stay readable, and no rule may give one of them again.
 */
export const scopesLeftBehind = (
  before: readonly KnownRule[],
  after: readonly KnownRule[],
  counters: readonly Counter[],
): RetiredScope[] =>
  counters.flatMap(({ scope, last }) => {
    const organisation = last > 0 ? ruleOfScope(before, scope) : undefined;
    if (!organisation) return [];
    const now = ruleOfScope(after, scope);
    if (now && widthOf(now) === widthOf(organisation)) return [];
    return [{ scope, rule: scope.replace('#', `{counter:${widthOf(organisation)}}`), codes: organisation.codes, last }];
  });

/** An abandoned scope as a rule of the organisation, for recognising its numbers and for the proof that numbers stay distinct. */
export const retiredRule = ({ scope, rule, codes, last }: RetiredScope): KnownRule | undefined => {
  const parsed = parseRule(rule);
  return parsed.ok ? { id: `${rule} up to ${last}`, rule: parsed.value, codes, retired: { scope, last } } : undefined;
};

/** Whether a rule of today writes the numbers of a scope as they were written, so that it needs no memory of its own. */
export const isCarriedOn = (rules: readonly KnownRule[], retired: RetiredScope): boolean => {
  const organisation = ruleOfScope(rules, retired.scope);
  const width = Number(/\{counter:(\d)/.exec(retired.rule)?.[1]);
  return organisation !== undefined && widthOf(organisation) === width;
};
