import type { HouseRule } from '../numbering/recognise.ts';
import { parseRule, type RuleCodes, scopePattern } from '../numbering/rule.ts';

/** A scope that no rule counts in any more as it did: the rule as it read there, and the last number that it gave. */
export type RetiredScope = { scope: string; rule: string; codes: RuleCodes; last: number };

type Counter = { scope: string; last: number };

const widthOf = (house: HouseRule): number =>
  house.rule.elements.find((element) => element.kind === 'counter')?.width ?? 1;

const ruleOfScope = (rules: readonly HouseRule[], scope: string): HouseRule | undefined =>
  rules.find((house) => !house.retired && scopePattern(house.rule, house.codes).test(scope));

/**
 * Which scopes a change of the rules leaves behind: counters that have begun and whose numbers no rule afterwards would write in
 * the same way. Their numbers stay readable, and no rule may give one of them again.
 */
export const scopesLeftBehind = (
  before: readonly HouseRule[],
  after: readonly HouseRule[],
  counters: readonly Counter[],
): RetiredScope[] =>
  counters.flatMap(({ scope, last }) => {
    const house = last > 0 ? ruleOfScope(before, scope) : undefined;
    if (!house) return [];
    const now = ruleOfScope(after, scope);
    if (now && widthOf(now) === widthOf(house)) return [];
    return [{ scope, rule: scope.replace('#', `{counter:${widthOf(house)}}`), codes: house.codes, last }];
  });

/** A scope that was left behind as a rule of the house, for reading back and for the proof that numbers stay apart. */
export const retiredRule = ({ scope, rule, codes, last }: RetiredScope): HouseRule | undefined => {
  const parsed = parseRule(rule);
  return parsed.ok ? { id: `${rule} up to ${last}`, rule: parsed.value, codes, retired: { scope, last } } : undefined;
};

/** Whether a rule of today writes the numbers of a scope as they were written, so that it needs no memory of its own. */
export const isCarriedOn = (rules: readonly HouseRule[], retired: RetiredScope): boolean => {
  const house = ruleOfScope(rules, retired.scope);
  const width = Number(/\{counter:(\d)/.exec(retired.rule)?.[1]);
  return house !== undefined && widthOf(house) === width;
};
