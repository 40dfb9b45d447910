import { strFromU8, strToU8 } from 'fflate';
import { elements, type Parts, readParts, readXml, writeParts, writeXml } from './package.ts';

/** Values by the name under which a file places them: `number`, `title`, `revision` and so on. */
export type Placed = Readonly<Record<string, string>>;

export type OfficeKind = 'docx' | 'xlsx' | 'odt' | 'md';
const KINDS: Record<string, OfficeKind> = {
  'application/vnd.openxmlformats-officedocument.wordprocessingml.document': 'docx',
  'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet': 'xlsx',
  'application/vnd.oasis.opendocument.text': 'odt',
  'text/markdown': 'md',
};
/** What kind of native file a media type is, if it can hold metadata. */
export const officeKind = (mediaType: string): OfficeKind | undefined => KINDS[mediaType];

/** The named values in a file: content controls, properties, named cells, user fields, words in double braces. */
const IN_TEXT = /\{\{\s*([A-Za-z][A-Za-z0-9]*)\s*\}\}/g;

/**
 * Fills metadata into a file where it names them and, in office formats, keeps them as its own properties too. Parts that name
 * nothing stay byte for byte as they are.
 */
export const fillMetadata = (bytes: Uint8Array, kind: OfficeKind, values: Placed): Uint8Array => {
  if (kind === 'md') return strToU8(strFromU8(bytes).replace(IN_TEXT, (whole, name: string) => values[name] ?? whole));
  const parts = readParts(bytes);
  if (kind === 'docx') fillWord(parts, values);
  else if (kind === 'xlsx') fillSheet(parts, values);
  else fillOdt(parts, values);
  return writeParts(parts);
};

/** The names that a file places, in order of first use. */
export const placedNames = (bytes: Uint8Array, kind: OfficeKind): string[] => {
  if (kind === 'md') return [...new Set([...strFromU8(bytes).matchAll(IN_TEXT)].map((match) => match[1] ?? ''))];
  const parts = readParts(bytes);
  const names =
    kind === 'docx'
      ? wordParts(parts).flatMap((name) => {
          const xml = readXml(parts, name);
          return xml ? [...elements(xml, 'w:sdt').map(tagOf), ...elements(xml, 'w:fldSimple').map(fieldOf)] : [];
        })
      : kind === 'xlsx'
        ? definedNames(parts).map(({ name }) => name)
        : ['content.xml', 'styles.xml'].flatMap((name) => {
            const xml = readXml(parts, name);
            return xml ? [...odtFields(xml)].map((field) => field.getAttribute('text:name') ?? '') : [];
          });
  return [...new Set(names.filter((name) => name !== ''))];
};

const wordParts = (parts: Parts) =>
  [...parts.keys()].filter((name) => /^word\/(document|header\d*|footer\d*)\.xml$/.test(name));
const tagOf = (control: Element): string =>
  elements(control, 'w:tag')[0]?.getAttribute('w:val') ?? elements(control, 'w:alias')[0]?.getAttribute('w:val') ?? '';
const fieldOf = (field: Element): string =>
  /^\s*DOCPROPERTY\s+"?([A-Za-z][A-Za-z0-9]*)"?/.exec(field.getAttribute('w:instr') ?? '')?.[1] ?? '';

/** Content controls by their tag, fields of document properties, and the properties themselves. */
const fillWord = (parts: Parts, values: Placed): void => {
  for (const name of wordParts(parts)) {
    const xml = readXml(parts, name);
    if (!xml) continue;
    let changed = false;
    for (const place of [...elements(xml, 'w:sdt'), ...elements(xml, 'w:fldSimple')]) {
      const value = values[place.tagName === 'w:sdt' ? tagOf(place) : fieldOf(place)];
      if (value === undefined) continue;
      writeRuns(place, value);
      changed = true;
    }
    if (changed) writeXml(parts, name, xml);
  }
  setProperties(parts, values);
};

/** Puts a text into the first run of a place and empties the others, so that it keeps its look. */
const writeRuns = (place: Element, value: string): void => {
  const [first, ...rest] = elements(place, 'w:t');
  const document = place.ownerDocument;
  if (first) {
    first.textContent = value;
    first.setAttribute('xml:space', 'preserve');
    for (const other of rest) other.textContent = '';
    return;
  }
  const text = document.createElement('w:t');
  text.textContent = value;
  text.setAttribute('xml:space', 'preserve');
  const run = document.createElement('w:r');
  run.appendChild(text);
  const content = elements(place, 'w:sdtContent')[0] ?? place;
  (elements(content, 'w:p')[0] ?? content).appendChild(run);
};

const CUSTOM = 'docProps/custom.xml';
const CUSTOM_NS = 'http://schemas.openxmlformats.org/officeDocument/2006/custom-properties';
const TYPES_NS = 'http://schemas.openxmlformats.org/officeDocument/2006/docPropsVTypes';
const CUSTOM_TYPE = 'application/vnd.openxmlformats-officedocument.custom-properties+xml';
const CUSTOM_RELATION = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships/custom-properties';
const FORMAT_ID = '{D5CDD505-2E9C-101B-9397-08002B2CF9AE}';
const escaped = (text: string) => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);

/** The custom properties of an office file (ISO/IEC 29500-1, 22.3): existing ones stay, ours are set. */
const setProperties = (parts: Parts, values: Placed): void => {
  const old = readXml(parts, CUSTOM);
  const kept = old
    ? elements(old, 'property')
        .filter((one) => !(String(one.getAttribute('name')) in values))
        .map((one) => ({
          name: one.getAttribute('name') ?? '',
          inner: Array.from({ length: one.childNodes.length }, (_, i) => String(one.childNodes[i])).join(''),
        }))
    : [];
  const all = [
    ...kept,
    ...Object.entries(values).map(([name, value]) => ({ name, inner: `<vt:lpwstr>${escaped(value)}</vt:lpwstr>` })),
  ];
  parts.set(
    CUSTOM,
    strToU8(
      `<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n<Properties xmlns="${CUSTOM_NS}" xmlns:vt="${TYPES_NS}">${all
        .map(
          ({ name, inner }, i) =>
            `<property fmtid="${FORMAT_ID}" pid="${i + 2}" name="${escaped(name)}">${inner}</property>`,
        )
        .join('')}</Properties>`,
    ),
  );
  if (old) return;
  addTo(parts, '[Content_Types].xml', 'Override', { PartName: `/${CUSTOM}`, ContentType: CUSTOM_TYPE });
  addTo(parts, '_rels/.rels', 'Relationship', { Id: 'rKanonosMetadata', Type: CUSTOM_RELATION, Target: CUSTOM });
};

/** Adds an entry to a list of the package, such as its content types or relations. */
export const addTo = (parts: Parts, part: string, tag: string, attributes: Record<string, string>): void => {
  const xml = readXml(parts, part);
  if (!xml?.documentElement) return;
  const entry = xml.createElementNS(xml.documentElement.namespaceURI, tag);
  for (const [name, value] of Object.entries(attributes)) entry.setAttribute(name, value);
  xml.documentElement.appendChild(entry);
  writeXml(parts, part, xml);
};

/** Names of single cells of a workbook, with sheet and cell. */
const definedNames = (parts: Parts): { name: string; sheet: string; cell: string }[] => {
  const workbook = readXml(parts, 'xl/workbook.xml');
  if (!workbook) return [];
  return elements(workbook, 'definedName').flatMap((one) => {
    const [, quoted, plain, column, row] =
      /^(?:'((?:[^']|'')+)'|([^'!]+))!\$?([A-Z]{1,3})\$?(\d{1,7})$/.exec(one.textContent ?? '') ?? [];
    const sheet = quoted?.replaceAll("''", "'") ?? plain;
    return sheet && column ? [{ name: one.getAttribute('name') ?? '', sheet, cell: `${column}${row}` }] : [];
  });
};

/** The named cells of the workbook, and the properties. */
const fillSheet = (parts: Parts, values: Placed): void => {
  const workbook = readXml(parts, 'xl/workbook.xml');
  const relations = readXml(parts, 'xl/_rels/workbook.xml.rels');
  for (const { name, sheet, cell } of definedNames(parts)) {
    const value = values[name];
    const entry = workbook && elements(workbook, 'sheet').find((one) => one.getAttribute('name') === sheet);
    const target =
      relations &&
      elements(relations, 'Relationship')
        .find((one) => one.getAttribute('Id') === entry?.getAttribute('r:id'))
        ?.getAttribute('Target');
    if (value === undefined || !target) continue;
    const part = target.startsWith('/') ? target.slice(1) : `xl/${target}`;
    const xml = readXml(parts, part);
    if (!xml) continue;
    setCell(xml, cell, value);
    writeXml(parts, part, xml);
  }
  setProperties(parts, values);
};

const columnOf = (cell: string) =>
  [...cell.replace(/\d+/, '')].reduce((sum, letter) => sum * 26 + letter.charCodeAt(0) - 64, 0);

/** Writes an inline text into a cell, making row and cell in their order where they are not there. */
const setCell = (xml: Document, cell: string, value: string): void => {
  const number = cell.replace(/\D/g, '');
  const [data] = elements(xml, 'sheetData');
  if (!data) return;
  const make = (tag: string, attributes: Record<string, string>) => {
    const made = xml.createElementNS(data.namespaceURI, tag);
    for (const [key, text] of Object.entries(attributes)) made.setAttribute(key, text);
    return made;
  };
  let row = elements(data, 'row').find((one) => one.getAttribute('r') === number);
  if (!row) {
    row = make('row', { r: number });
    data.insertBefore(row, elements(data, 'row').find((one) => Number(one.getAttribute('r')) > Number(number)) ?? null);
  }
  let at = elements(row, 'c').find((one) => one.getAttribute('r') === cell);
  if (!at) {
    at = make('c', { r: cell });
    row.insertBefore(
      at,
      elements(row, 'c').find((one) => columnOf(one.getAttribute('r') ?? '') > columnOf(cell)) ?? null,
    );
  }
  while (at.firstChild) at.removeChild(at.firstChild);
  at.setAttribute('t', 'inlineStr');
  const text = make('t', {});
  text.textContent = value;
  const inline = make('is', {});
  inline.appendChild(text);
  at.appendChild(inline);
};

function* odtFields(xml: Document): Generator<Element> {
  for (const tag of ['text:user-defined', 'text:user-field-get']) yield* elements(xml, tag);
}

/** User fields and user-defined properties of an OpenDocument text (OASIS ODF 1.3, 7.4.4 and 4.3.3). */
const fillOdt = (parts: Parts, values: Placed): void => {
  for (const name of ['content.xml', 'styles.xml']) {
    const xml = readXml(parts, name);
    if (!xml) continue;
    let changed = false;
    for (const field of odtFields(xml)) {
      const value = values[field.getAttribute('text:name') ?? ''];
      if (value === undefined) continue;
      field.textContent = value;
      changed = true;
    }
    for (const declared of elements(xml, 'text:user-field-decl')) {
      const value = values[declared.getAttribute('text:name') ?? ''];
      if (value === undefined) continue;
      declared.setAttribute('office:string-value', value);
      changed = true;
    }
    if (changed) writeXml(parts, name, xml);
  }
  const meta = readXml(parts, 'meta.xml');
  const [about] = meta ? elements(meta, 'office:meta') : [];
  if (!meta || !about) return;
  for (const [name, value] of Object.entries(values)) {
    const old = elements(meta, 'meta:user-defined').find((one) => one.getAttribute('meta:name') === name);
    const one = old ?? meta.createElement('meta:user-defined');
    one.setAttribute('meta:name', name);
    one.setAttribute('meta:value-type', 'string');
    one.textContent = value;
    if (!old) about.appendChild(one);
  }
  writeXml(parts, 'meta.xml', meta);
};
