import { api, type BodyInOf } from '@kanonos/contract';
import { call, Problem } from '../../app/client.ts';

/** Checks a file in as a new version in one go: out, in, and given back when the second is refused. */
export const checkInNow = async (document: string, body: BodyInOf<typeof api.documents.checkIn>): Promise<void> => {
  const params = { document };
  const mine = await call(api.documents.checkOut, { params, body: { note: 'A new file was added' } }).then(
    () => false,
    (error: unknown) => {
      if (error instanceof Problem && error.code === 'checked_out_by_you') return true;
      throw error;
    },
  );
  try {
    await call(api.documents.checkIn, { params, body });
  } catch (error) {
    // What was reserved for this alone is given back; what I had out before stays out.
    if (!mine) await call(api.documents.discardCheckout, { params }).catch(() => {});
    throw error;
  }
};
