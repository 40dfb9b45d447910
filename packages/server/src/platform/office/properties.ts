import type { OfficeKind } from './metadata.ts';
import { elements, type Parts, readParts, readXml } from './package.ts';

/** The properties of a file: its title and keywords, and every named value. */
export type FileProperties = { title: string; keywords: string[]; named: Record<string, string> };

const NOTHING: FileProperties = { title: '', keywords: [], named: {} };
const LONGEST = 400;
const MOST = 100;

/**
 * The properties of an office file: core and custom ones (ISO/IEC 29500-2, 8.3, and 29500-1, 22.3), those of OpenDocument
 * (OASIS ODF 1.3, 4.3), and the text of content controls by tag. An unreadable file gives nothing.
 */
export const readProperties = (bytes: Uint8Array, kind: OfficeKind): FileProperties => {
  if (kind === 'md') return NOTHING;
  try {
    const parts = readParts(bytes, (name) =>
      /^docProps\/|^meta\.xml$|^word\/(document|header\d*|footer\d*)\.xml$/.test(name),
    );
    return kind === 'odt' ? openProperties(parts) : officeProperties(parts);
  } catch {
    return NOTHING;
  }
};

const textOf = (within: Document | undefined, name: string): string =>
  (within && elements(within, name)[0]?.textContent?.trim().slice(0, LONGEST)) ?? '';
const wordsIn = (text: string): string[] =>
  text
    .split(/[,;]/)
    .map((word) => word.trim())
    .filter(Boolean)
    .slice(0, MOST);
const namedValues = (pairs: readonly (readonly [string, string])[]): Record<string, string> =>
  Object.fromEntries(
    pairs
      .map(([name, value]) => [name.trim(), value.trim().slice(0, LONGEST)] as const)
      .filter(([name, value]) => name !== '' && value !== '')
      .slice(0, MOST),
  );

const officeProperties = (parts: Parts): FileProperties => {
  const core = readXml(parts, 'docProps/core.xml');
  const custom = readXml(parts, 'docProps/custom.xml');
  const properties = custom
    ? elements(custom, 'property').map((one) => [one.getAttribute('name') ?? '', one.textContent ?? ''] as const)
    : [];
  const controls = [...parts.keys()]
    .filter((name) => name.startsWith('word/'))
    .flatMap((name) => {
      const xml = readXml(parts, name);
      return xml ? elements(xml, 'w:sdt').map(controlOf) : [];
    });
  return {
    title: textOf(core, 'dc:title'),
    keywords: wordsIn(textOf(core, 'cp:keywords')),
    named: namedValues([...properties, ...controls]),
  };
};
/** A content control by its tag; one that still shows its placeholder text gives nothing. */
const controlOf = (control: Element): readonly [string, string] => {
  const asks = elements(control, 'w:showingPlcHdr').length > 0;
  const words = elements(control, 'w:t').map((one) => one.textContent ?? '');
  return [elements(control, 'w:tag')[0]?.getAttribute('w:val') ?? '', asks ? '' : words.join('')];
};

const openProperties = (parts: Parts): FileProperties => {
  const meta = readXml(parts, 'meta.xml');
  if (!meta) return NOTHING;
  return {
    title: textOf(meta, 'dc:title'),
    keywords: elements(meta, 'meta:keyword').flatMap((one) => wordsIn(one.textContent ?? '')),
    named: namedValues(
      elements(meta, 'meta:user-defined').map((one) => [one.getAttribute('meta:name') ?? '', one.textContent ?? '']),
    ),
  };
};
