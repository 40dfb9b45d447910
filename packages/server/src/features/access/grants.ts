import { createHash } from 'node:crypto';
import type { FolderGrant } from '@kanonos/contract';
import { canonicalJson, type RuleDifference, ruleDifferences } from '@kanonos/core';
import type { Trx } from '../../platform/db/connect.ts';
import { refused } from '../../platform/refused.ts';
import { type GrantGiven, type GrantPlace, listSubjects, replaceGrants } from './storeGrants.ts';

/** What entries are now, in short: who changes them names it, so that nobody overwrites what they have not seen. */
export const grantsTag = (grants: readonly FolderGrant[]): string =>
  createHash('sha256')
    .update(canonicalJson(inWords(grants)))
    .digest('base64url')
    .slice(0, 16);

/**
 * Changes the entries of a folder or document to those given.
 *
 * @returns the differences, for the audit trail
 * @throws RefusalError `not_found` for a subject that there is not, `nothing_changed`
 */
export const changeGrants = async (
  trx: Trx,
  place: GrantPlace,
  before: readonly FolderGrant[],
  grants: readonly GrantGiven[],
): Promise<RuleDifference[]> => {
  const subjects = grants.flatMap(({ subject }) => (subject.id ? [subject.id] : []));
  const known = await listSubjects(trx, subjects);
  if (subjects.some((subject) => !known.has(subject))) throw refused('not_found');
  const differences = ruleDifferences({ grants: inWords(before) }, { grants: inWords(grants) }).filter(
    ({ what }) => what !== 'grants, order',
  );
  if (differences.length === 0) throw refused('nothing_changed');
  await replaceGrants(trx, place, grants);
  return differences;
};

const inWords = (grants: readonly GrantGiven[]) =>
  grants.map(({ subject, rights, withheld }) => ({
    key: `${subject.kind} ${subject.id ?? ''}`.trim(),
    rights: withheld ? 'withheld' : [...rights].sort().join(', '),
  }));
