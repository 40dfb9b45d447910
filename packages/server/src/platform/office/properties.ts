import { type Headed, markdownHeadings, titleHeading } from '@kanonos/core';
import { strFromU8 } from 'fflate';
import type { OfficeKind } from './metadata.ts';
import { elements, type Parts, readParts, readXml } from './package.ts';

/** The properties of a file: the heading that is its title, its title property and keywords, and every named value. */
export type FileProperties = { heading: string; title: string; keywords: string[]; named: Record<string, string> };

const NOTHING: FileProperties = { heading: '', title: '', keywords: [], named: {} };
const LONGEST = 400;
const MOST = 100;

/**
 * The properties of an office file: core and custom ones (ISO/IEC 29500-2, 8.3, and 29500-1, 22.3), those of OpenDocument
 * (OASIS ODF 1.3, 4.3), the text of content controls by tag, and the heading of a text. An unreadable file gives nothing.
 */
export const readProperties = (bytes: Uint8Array, kind: OfficeKind): FileProperties => {
  if (kind === 'md') return { ...NOTHING, heading: short(titleHeading(markdownHeadings(strFromU8(bytes)))) };
  try {
    const parts = readParts(bytes, (name) =>
      /^docProps\/|^(meta|content|styles)\.xml$|^word\/(document|styles|header\d*|footer\d*)\.xml$/.test(name),
    );
    return kind === 'odt' ? openProperties(parts) : officeProperties(parts);
  } catch {
    return NOTHING;
  }
};

const short = (text: string): string => text.replace(/\s+/gu, ' ').trim().slice(0, LONGEST);
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
    .filter((name) => name.startsWith('word/') && name !== 'word/styles.xml')
    .flatMap((name) => {
      const xml = readXml(parts, name);
      return xml ? elements(xml, 'w:sdt').map(controlOf) : [];
    });
  return {
    heading: wordHeading(parts),
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
    heading: openHeading(parts),
    title: textOf(meta, 'dc:title'),
    keywords: elements(meta, 'meta:keyword').flatMap((one) => wordsIn(one.textContent ?? '')),
    named: namedValues(
      elements(meta, 'meta:user-defined').map((one) => [one.getAttribute('meta:name') ?? '', one.textContent ?? '']),
    ),
  };
};

/** So many paragraphs at the beginning of a text are looked at for its heading. */
const MOST_PARAGRAPHS = 200;

/** The title heading of a Word text, by the names of its paragraph styles (ISO/IEC 29500-1, 17.7.4.9): ids differ by language. */
const wordHeading = (parts: Parts): string => {
  const body = readXml(parts, 'word/document.xml');
  if (!body) return '';
  const styles = readXml(parts, 'word/styles.xml');
  const levels = new Map<string, Headed['level']>();
  for (const style of styles ? elements(styles, 'w:style') : []) {
    const name = elements(style, 'w:name')[0]?.getAttribute('w:val')?.toLowerCase() ?? '';
    const level = name === 'title' ? 'title' : Number(/^heading ([1-9])$/.exec(name)?.[1]);
    if (level) levels.set(style.getAttribute('w:styleId') ?? '', level);
  }
  return short(
    titleHeading(
      elements(body, 'w:p')
        .slice(0, MOST_PARAGRAPHS)
        .flatMap((paragraph) => {
          const level = levels.get(elements(paragraph, 'w:pStyle')[0]?.getAttribute('w:val') ?? '');
          const text = elements(paragraph, 'w:t').map((one) => one.textContent ?? '');
          return level ? [{ level, text: text.join('') }] : [];
        }),
    ),
  );
};

/** The title heading of an OpenDocument text: paragraphs in the style Title, or one made from it, and headings (ODF 1.3, 5.1.2). */
const openHeading = (parts: Parts): string => {
  const content = readXml(parts, 'content.xml');
  if (!content) return '';
  const titled = new Set(['Title']);
  for (const xml of [readXml(parts, 'styles.xml'), content])
    for (const style of xml ? elements(xml, 'style:style') : [])
      if (titled.has(style.getAttribute('style:parent-style-name') ?? ''))
        titled.add(style.getAttribute('style:name') ?? '');
  const headings = elements(content, 'text:h').map((one) => ({
    level: Number(one.getAttribute('text:outline-level') ?? '1'),
    text: one.textContent ?? '',
  }));
  const titles = elements(content, 'text:p')
    .slice(0, MOST_PARAGRAPHS)
    .filter((one) => titled.has(one.getAttribute('text:style-name') ?? ''))
    .map((one) => ({ level: 'title' as const, text: one.textContent ?? '' }));
  return short(titleHeading([...titles, ...headings]));
};
