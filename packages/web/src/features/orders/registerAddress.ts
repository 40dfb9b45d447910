import type { Order } from '@kanonos/contract';

/** Where what was ordered is registered, with its type, folder, title and the number that is kept for it. */
export const registerAddress = ({ type, folderId, title, reservedNumber }: Order): string => {
  const given = new URLSearchParams({ type: type.code, folder: folderId, title });
  if (reservedNumber) given.set('number', reservedNumber);
  return `/new?${given}`;
};
