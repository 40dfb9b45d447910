import ExcelJS from 'exceljs';
import { strToU8, zipSync } from 'fflate';
import { describe, expect, test } from 'vitest';
import { fillMetadata } from './metadata.ts';
import { readProperties } from './properties.ts';

const zip = (files: Record<string, string>) =>
  zipSync(Object.fromEntries(Object.entries(files).map(([name, text]) => [name, strToU8(text)])));
const W = 'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"';
const CORE =
  '<cp:coreProperties xmlns:cp="urn:c" xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:title>Rope test &amp; more</dc:title><cp:keywords>rope; magnetic, yearly</cp:keywords></cp:coreProperties>';
const control = (tag: string, text: string, more = '') =>
  `<w:sdt><w:sdtPr><w:tag w:val="${tag}"/>${more}</w:sdtPr><w:sdtContent><w:r><w:t>${text}</w:t></w:r><w:r><w:t> end</w:t></w:r></w:sdtContent></w:sdt>`;
const docx = (body = '') =>
  zip({
    '[Content_Types].xml': '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"/>',
    '_rels/.rels': '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"/>',
    'docProps/core.xml': CORE,
    'word/document.xml': `<w:document ${W}><w:body>${body}</w:body></w:document>`,
  });

test('a Word file gives its title, its keywords, the filled-in values and the text of its controls', () => {
  const file = fillMetadata(
    docx(
      `${control('equipment', 'Haul rope')}${control('asked', 'Click here', '<w:showingPlcHdr/>')}${control('', 'no tag')}`,
    ),
    'docx',
    { number: 'THR-RPT-0001', owner: 'Otto' },
  );
  expect(readProperties(file, 'docx')).toEqual({
    heading: '',
    title: 'Rope test & more',
    keywords: ['rope', 'magnetic', 'yearly'],
    named: { number: 'THR-RPT-0001', owner: 'Otto', equipment: 'Haul rope end' },
  });
});

test('a workbook gives its filled-in values', async () => {
  const workbook = new ExcelJS.Workbook();
  workbook.addWorksheet('One').getCell('A1').value = 'x';
  workbook.title = 'Check list';
  workbook.keywords = 'check';
  const file = fillMetadata(new Uint8Array(await workbook.xlsx.writeBuffer()), 'xlsx', { limit: '12 kN' });
  expect(readProperties(file, 'xlsx')).toEqual({
    heading: '',
    title: 'Check list',
    keywords: ['check'],
    named: { limit: '12 kN' },
  });
});

test('an OpenDocument text gives its title, its keywords and its own fields', () => {
  const meta =
    '<office:document-meta xmlns:office="o" xmlns:meta="m" xmlns:dc="d"><office:meta><dc:title>Inspection</dc:title><meta:keyword>door</meta:keyword><meta:keyword>cabin</meta:keyword></office:meta></office:document-meta>';
  const file = fillMetadata(zip({ mimetype: 'application/vnd.oasis.opendocument.text', 'meta.xml': meta }), 'odt', {
    revision: 'B',
  });
  expect(readProperties(file, 'odt')).toEqual({
    heading: '',
    title: 'Inspection',
    keywords: ['door', 'cabin'],
    named: { revision: 'B' },
  });
});

test('an unreadable file gives nothing, and its entities are not expanded', () => {
  const nothing = { heading: '', title: '', keywords: [], named: {} };
  expect(readProperties(strToU8('no zip at all'), 'docx')).toEqual(nothing);
  expect(readProperties(strToU8('no zip at all'), 'odt')).toEqual(nothing);
  const bomb = `<!DOCTYPE x [<!ENTITY a "ha"><!ENTITY b "&a;&a;&a;&a;">]>${CORE.replace('yearly', '&b;')}`;
  const named = readProperties(zip({ 'docProps/core.xml': bomb }), 'docx');
  expect(JSON.stringify(named)).not.toContain('haha');
});

describe('the heading of a text', () => {
  const paragraph = (style: string, ...words: string[]) =>
    `<w:p><w:pPr><w:pStyle w:val="${style}"/></w:pPr>${words.map((word) => `<w:r><w:t>${word}</w:t></w:r>`).join('')}</w:p>`;
  const word = (body: string) =>
    zip({
      'docProps/core.xml': CORE,
      'word/document.xml': `<w:document ${W}><w:body>${body}</w:body></w:document>`,
      // Ids of styles follow the language of the program; their names do not.
      'word/styles.xml': `<w:styles ${W}><w:style w:styleId="Titel"><w:name w:val="Title"/></w:style><w:style w:styleId="berschrift1"><w:name w:val="heading 1"/></w:style></w:styles>`,
    });

  test('is the paragraph in the title style of a Word text, put together from its runs', () => {
    const file = word(`${paragraph('berschrift1', 'Purpose')}${paragraph('Titel', 'Grip ', ' overhaul')}`);
    expect(readProperties(file, 'docx').heading).toBe('Grip overhaul');
  });

  test('is the only heading of the first level, and none of several chapters', () => {
    expect(readProperties(word(paragraph('berschrift1', 'Grip overhaul')), 'docx').heading).toBe('Grip overhaul');
    const chapters = paragraph('berschrift1', 'Purpose') + paragraph('berschrift1', 'Scope');
    expect(readProperties(word(chapters), 'docx').heading).toBe('');
  });

  test('is the paragraph of an OpenDocument text in a style made from Title, else its heading', () => {
    const names = 'xmlns:office="o" xmlns:text="t" xmlns:style="s"';
    const text = (body: string) =>
      zip({
        mimetype: 'application/vnd.oasis.opendocument.text',
        'meta.xml': '<office:document-meta xmlns:office="o"><office:meta/></office:document-meta>',
        'content.xml': `<office:document-content ${names}><style:style style:name="P1" style:parent-style-name="Title"/>${body}</office:document-content>`,
      });
    const heading = '<text:h text:outline-level="1">Doors</text:h>';
    expect(readProperties(text(`${heading}<text:p text:style-name="P1">Door check</text:p>`), 'odt').heading).toBe(
      'Door check',
    );
    expect(readProperties(text(heading), 'odt').heading).toBe('Doors');
  });

  test('is that of a Markdown text', () => {
    expect(readProperties(strToU8('# Door check\n\n## Limits\n'), 'md').heading).toBe('Door check');
  });
});
