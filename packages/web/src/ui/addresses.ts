/** The address of a document: always what is in force, and before the first release what is in work. */
export const documentAddress = (number: string): string => `/d/${encodeURIComponent(number)}`;

/** The address of what is in work on a document; where nothing is, of what is in force. */
export const workAddress = (number: string, more = ''): string =>
  `${documentAddress(number)}?rev=work${more && `&${more}`}`;

/** The address of one revision of a document: that of the document for the one in force, else by its label. */
export const revisionAddress = (number: string, { label, state }: { label: string; state?: string }): string =>
  state === 'in force' || label === ''
    ? documentAddress(number)
    : `${documentAddress(number)}?rev=${encodeURIComponent(label)}`;
/** The rounds of one revision. */
export const routeAddress = (number: string, revision: { label: string; state: string }): string => {
  const address = revisionAddress(number, revision);
  return `${address}${address.includes('?') ? '&' : '?'}tab=route`;
};
/** What a change note affects, and its tasks. */
export const changeAddress = (number: string): string => `${documentAddress(number)}?tab=change`;
