import type { Db, Trx } from '../../platform/db/connect.ts';
import { refused } from '../../platform/refused.ts';
import { namesOf } from '../people/index.ts';
import { policyOf, type TypeRow } from '../rules/index.ts';

/** Refuses a sharing code that the type does not have. */
export const ensureSharing = (type: TypeRow, code: string): void => {
  if (code && !policyOf(type).sharing.some((one) => one.code === code)) throw refused('sharing_unknown', { code });
};

/** Refuses somebody who is not there, or who has left. */
export const ensureActive = async (db: Db | Trx, personId: string | null): Promise<void> => {
  if (!personId) return;
  const person = (await namesOf(db, [personId])).get(personId);
  if (!person) throw refused('not_found');
  if (person.state === 'deactivated') throw refused('person_inactive', { who: person.name });
};
