/** The address of a document in the application: always what is in force. */
export const documentAddress = (number: string, more = ''): string =>
  `/d/${encodeURIComponent(number)}${more && `?${more}`}`;

/** The address of what is in work on a document; where nothing is, of what is in force. */
export const workAddress = (number: string, more = ''): string =>
  documentAddress(number, `rev=work${more && `&${more}`}`);
