import { ok, type Result, refuse } from '../result.ts';

/** Originals that are no files: an address on the web, or a paper that is kept at a place. Their words are filed as content. */
export const ADDRESS_TYPE = 'text/uri-list';
export const PAPER_TYPE = 'text/vnd.kanonos.paper';

/** Whether a content was written here instead of uploaded: its name then has no meaning. */
export const isWritten = (mediaType: string): boolean => mediaType === ADDRESS_TYPE || mediaType === PAPER_TYPE;

export type Written = { kind: 'web address'; address: string } | { kind: 'paper'; place: string; pages: number | null };

/** The content, name and media type of what is written instead of a file (addresses as RFC 2483 lists them). */
export const writtenContent = (written: Written): Result<{ text: string; name: string; mediaType: string }> => {
  if (written.kind === 'web address') {
    const address = parseAddress(written.address);
    if (!address) return refuse('address_invalid', { address: written.address.slice(0, 80) });
    return ok({ text: `${address.href}\r\n`, name: `${address.host}.uri`, mediaType: ADDRESS_TYPE });
  }
  const place = written.place.trim();
  if (!place) return refuse('paper_without_place');
  const pages = written.pages === null ? '' : `Pages: ${written.pages}\n`;
  return ok({ text: `Kept on paper at: ${place}\n${pages}`, name: 'paper.txt', mediaType: PAPER_TYPE });
};

/** Scheme, host and rest of an address with a host of at least two parts (the forms of RFC 3986 that a reader can follow). */
const ADDRESS = /^(https?):\/\/([\p{L}\p{N}-]+(?:\.[\p{L}\p{N}-]+)+)((?::\d{1,5})?(?:[/?#]\S*)?)$/iu;

const parseAddress = (text: string): { href: string; host: string } | undefined => {
  const [, scheme, host, rest] = ADDRESS.exec(text.trim()) ?? [];
  if (!scheme || !host) return undefined;
  return { href: `${scheme.toLowerCase()}://${host.toLowerCase()}${rest || '/'}`, host: host.toLowerCase() };
};
