import { hasRight } from '@kanonos/core';
import type { UnitOfWork } from '../../platform/app.ts';
import { refused } from '../../platform/refused.ts';
import { explain, toPlace, viewerOf } from '../access/index.ts';
import { type Opened, rightToRead } from '../documents/index.ts';

/** Refuses to ask somebody about a revision outside its route who may not read it: such a round gives no rights. */
export const ensureReads = async (
  work: UnitOfWork,
  { document }: Pick<Opened, 'document'>,
  revision: { state: Parameters<typeof rightToRead>[0] },
  personId: string,
  who: string,
): Promise<void> => {
  const person = await viewerOf(work.trx, personId, work.day);
  const { rights } = await explain(work.trx, person, toPlace(document), work.day);
  if (!hasRight(rights, rightToRead(revision.state))) throw refused('asked_cannot_read', { who });
};
