import { api, type BodyInOf } from '@kanonos/contract';
import { ANY_STATE } from '@kanonos/core';
import { call, Problem } from '../../app/client.ts';
import { wording } from './wording.ts';

/**
 * Checks a file in as a new version in one go: out, in, and given back when the second is refused. It is decided on a list, so it
 * depends on no state of the document: the rules alone say whether it can be checked out.
 */
export const checkInNow = async (
  document: string,
  file: Omit<BodyInOf<typeof api.documents.checkIn>, 'seen'>,
): Promise<void> => {
  const params = { document };
  const mine = await call(api.documents.checkOut, {
    params,
    body: { note: wording.aNewFileWasAdded, seen: ANY_STATE },
  }).then(
    () => false,
    (error: unknown) => {
      if (error instanceof Problem && error.code === 'checked_out_by_you') return true;
      throw error;
    },
  );
  try {
    await call(api.documents.checkIn, { params, body: { ...file, seen: ANY_STATE } });
  } catch (error) {
    // A check-out made only for this is ended; one that I had before stays.
    if (!mine) await call(api.documents.discardCheckout, { params, body: { seen: ANY_STATE } }).catch(() => {});
    throw error;
  }
};
