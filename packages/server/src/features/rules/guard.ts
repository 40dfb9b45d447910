import {
  findCollision,
  isCarriedOn,
  type KnownRule,
  type RetiredScope,
  retiredRule,
  scopesLeftBehind,
} from '@kanonos/core';
import type { UnitOfWork } from '../../platform/app.ts';
import type { Trx } from '../../platform/db/connect.ts';
import { refused } from '../../platform/refused.ts';
import { rulesInUse } from './service.ts';
import { deleteRetired, insertRetired, listBegun, listRetired, lockRules, lockRulesShared } from './storeEditions.ts';

const RULES_LOCK = 7_204_103;

/** Holds the rules still while something is registered by them; many may do so at once. */
export const blockRules = (trx: Trx) => lockRulesShared(trx, { lock: RULES_LOCK });

/**
 * Changes what numbers are made from: a rule, a code or an option. Waits until nobody registers, keeps the scopes that are left
 * behind, and refuses what would let one number be read in two ways; then nothing of the change remains.
 */
export const changingNumbers = async <T>(work: UnitOfWork, change: () => Promise<T>): Promise<T> => {
  const { trx } = work;
  await lockRules(trx, { lock: RULES_LOCK });
  const before = await rulesInUse(trx);
  const value = await change();
  const after = await rulesInUse(trx);
  const kept = await keepLeftBehind(work, before, after);
  ensureApart([...after, ...kept.flatMap((scope) => retiredRule(scope) ?? [])]);
  return value;
};

/** Refuses rules by which some number could be read in two ways, with that number and both readings. */
export const ensureApart = (rules: readonly KnownRule[]): void => {
  const collision = findCollision(rules);
  if (collision) {
    const [first, second] = collision.readings;
    throw refused('rule_ambiguous', { number: collision.number, first, second });
  }
};

/** The past scopes after a change: with those that it abandons, without those that it resumes. */
export const retiredAfter = async (
  trx: Trx,
  before: readonly KnownRule[],
  after: readonly KnownRule[],
): Promise<{ left: RetiredScope[]; kept: RetiredScope[]; resumed: RetiredScope[] }> => {
  const left = scopesLeftBehind(before, after, await listBegun(trx));
  const known = (await listRetired(trx)).filter(
    (old) => !left.some((scope) => scope.scope === old.scope && scope.rule === old.rule),
  );
  const resumed = known.filter((scope) => isCarriedOn(after, scope));
  return { left, resumed, kept: [...left, ...known.filter((scope) => !resumed.includes(scope))] };
};

const keepLeftBehind = async (work: UnitOfWork, before: KnownRule[], after: KnownRule[]): Promise<RetiredScope[]> => {
  const { left, kept, resumed } = await retiredAfter(work.trx, before, after);
  for (const scope of left) await insertRetired(work.trx, { ...scope, now: work.now });
  for (const scope of resumed) await deleteRetired(work.trx, scope);
  return kept;
};
