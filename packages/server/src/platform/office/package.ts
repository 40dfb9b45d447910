import { DOMParser, XMLSerializer } from '@xmldom/xmldom';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { refused } from '../refused.ts';

/** The parts of an office file (ISO/IEC 29500, OASIS ODF) by name, in their order; what is not touched keeps its bytes. */
export type Parts = Map<string, Uint8Array>;

const MOST_UNZIPPED = 160 * 1024 * 1024;

/** Unfolds an office file, or the parts of it that are wanted; one that would unfold to more than the limit is refused before it is unfolded. */
export const readParts = (bytes: Uint8Array, wanted: (name: string) => boolean = () => true): Parts => {
  let size = 0;
  try {
    return new Map(
      Object.entries(
        unzipSync(bytes, {
          filter: (file) => {
            if (!wanted(file.name)) return false;
            size += file.originalSize;
            if (size > MOST_UNZIPPED) throw new Error('is too large when unpacked');
            return true;
          },
        }),
      ),
    );
  } catch {
    throw refused('office_unreadable');
  }
};

const SEAL = /^_xmlsignatures\/|^META-INF\/documentsignatures\.xml$/;

/** Whether a program has signed the file itself: any change would break that signature (ISO/IEC 29500-2, 12; ODF 1.3-3, 5). */
export const isSealed = (bytes: Uint8Array): boolean => {
  let found = false;
  readParts(bytes, (name) => {
    found ||= SEAL.test(name);
    return false;
  });
  return found;
};

/** Zips parts again. ODF wants its media type first and uncompressed; the entries have one fixed time. */
export const writeParts = (parts: Parts): Uint8Array =>
  zipSync(
    Object.fromEntries(
      [...parts].map(([name, bytes]) => [
        name,
        [bytes, { mtime: '2020-01-01T12:00:00Z', level: name === 'mimetype' ? 0 : 6 }],
      ]),
    ),
  );

export const readXml = (parts: Parts, name: string): Document | undefined => {
  const bytes = parts.get(name);
  if (!bytes) return undefined;
  const parser = new DOMParser({ errorHandler: { warning: () => {}, error: () => {}, fatalError: () => {} } });
  const document = parser.parseFromString(strFromU8(bytes), 'text/xml');
  if (!document?.documentElement) throw refused('office_unreadable');
  return document;
};

export const writeXml = (parts: Parts, name: string, document: Document): void => {
  const text = new XMLSerializer().serializeToString(document);
  parts.set(
    name,
    strToU8(text.startsWith('<?xml') ? text : `<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n${text}`),
  );
};

/** Elements by local name, whatever their prefix; an array, because the live list changes during writing. */
export const elements = (within: Document | Element, name: string): Element[] =>
  Array.from({ length: within.getElementsByTagName(name).length }, (_, i) =>
    within.getElementsByTagName(name).item(i),
  ).filter((one): one is Element => one !== null);
