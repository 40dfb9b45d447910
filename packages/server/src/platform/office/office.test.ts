import ExcelJS from 'exceljs';
import { strFromU8, strToU8, zipSync } from 'fflate';
import { describe, expect, test } from 'vitest';
import { dress } from './dress.ts';
import { fillMetadata, placedNames } from './metadata.ts';
import { readParts } from './package.ts';

const W = 'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"';
const R = 'xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"';
const RELATIONS = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
const zip = (files: Record<string, string>) =>
  zipSync(Object.fromEntries(Object.entries(files).map(([name, text]) => [name, strToU8(text)])));
const docx = (body: string, more: Record<string, string> = {}, relations = '') =>
  zip({
    '[Content_Types].xml': '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"/>',
    '_rels/.rels': '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"/>',
    'word/_rels/document.xml.rels': `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${relations}</Relationships>`,
    'word/document.xml': `<w:document ${W} ${R}><w:body>${body}</w:body></w:document>`,
    'word/styles.xml': '<w:styles/>',
    'word/untouched.bin': 'as it was',
    ...more,
  });
const control = (tag: string, text: string) =>
  `<w:sdt><w:sdtPr><w:tag w:val="${tag}"/></w:sdtPr><w:sdtContent><w:r><w:rPr><w:b/></w:rPr><w:t>${text}</w:t></w:r><w:r><w:t>more</w:t></w:r></w:sdtContent></w:sdt>`;
const part = (bytes: Uint8Array, name: string) => strFromU8(readParts(bytes).get(name) ?? new Uint8Array());

describe('Word files', () => {
  const file = docx(
    `<w:p>${control('number', '…')}<w:fldSimple w:instr=' DOCPROPERTY "owner" '><w:r><w:t>x</w:t></w:r></w:fldSimple>${control('unknown', 'stays')}</w:p>`,
    { 'word/header1.xml': `<w:hdr ${W}><w:p>${control('title', '')}</w:p></w:hdr>` },
  );
  const values = { number: 'THR-PRO-0118', title: 'Grips & ropes <1>', owner: 'Otto' };

  test('name what they place', () => {
    expect(placedNames(file, 'docx').sort()).toEqual(['number', 'owner', 'title', 'unknown']);
  });
  test('take content controls, fields and properties; a control keeps its look, other parts their bytes', () => {
    const filled = fillMetadata(file, 'docx', values);
    const text = part(filled, 'word/document.xml');
    expect(text).toContain('<w:rPr><w:b/></w:rPr><w:t xml:space="preserve">THR-PRO-0118</w:t>');
    expect(text).toContain('Otto');
    expect(text).toContain('stays');
    expect(part(filled, 'word/header1.xml')).toContain('Grips &amp; ropes &lt;1');
    expect(part(filled, 'docProps/custom.xml')).toContain('name="number"');
    expect(part(filled, '[Content_Types].xml')).toContain('custom-properties');
    expect(part(filled, 'word/untouched.bin')).toBe('as it was');
  });
  test('filled twice they hold each property once, and others are kept', () => {
    const twice = fillMetadata(fillMetadata(file, 'docx', { ...values, other: 'kept' }), 'docx', values);
    const properties = part(twice, 'docProps/custom.xml');
    expect(properties.match(/name="number"/g)).toHaveLength(1);
    expect(properties).toContain('name="other"');
    expect(part(twice, '_rels/.rels').match(/custom-properties/g)).toHaveLength(1);
  });
  test('take head and foot of a template and keep their text', () => {
    const template = docx(
      `<w:p/><w:sectPr><w:headerReference w:type="default" r:id="r7"/></w:sectPr>`,
      { 'word/header1.xml': `<w:hdr ${W}>NEW HEAD</w:hdr>`, 'word/styles.xml': '<w:styles>new</w:styles>' },
      `<Relationship Id="r7" Type="${RELATIONS}/header" Target="header1.xml"/>`,
    );
    const own = docx(
      '<w:p>OUR TEXT</w:p><w:sectPr><w:headerReference w:type="default" r:id="r1"/></w:sectPr>',
      { 'word/header1.xml': `<w:hdr ${W}>OLD HEAD</w:hdr>` },
      `<Relationship Id="r1" Type="${RELATIONS}/header" Target="header1.xml"/>`,
    );
    const dressed = dress(own, template, 'docx');
    const text = part(dressed, 'word/document.xml');
    const relations = part(dressed, 'word/_rels/document.xml.rels');
    const id = /headerReference[^>]*r:id="([^"]+)"/.exec(text)?.[1] ?? '';
    expect(text).toContain('OUR TEXT');
    expect(text.match(/sectPr>/g)).toHaveLength(2);
    const target = new RegExp(`Id="${id}"[^>]*Target="([^"]+)"`).exec(relations)?.[1];
    expect(part(dressed, `word/${target}`)).toContain('NEW HEAD');
    expect(relations.match(/\/header"/g)).toHaveLength(1);
    expect(part(dressed, 'word/styles.xml')).toContain('new');
    // Brought again nothing is there twice.
    expect(part(dress(dressed, template, 'docx'), 'word/_rels/document.xml.rels').match(/\/header"/g)).toHaveLength(1);
  });
});

test('a workbook fills its named cells, also where there was no value', async () => {
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet('Rope & drive');
  sheet.getCell('B2').value = 'number here';
  sheet.getCell('D4').value = 7;
  book.definedNames.add("'Rope & drive'!$B$2", 'number');
  book.definedNames.add("'Rope & drive'!$C$4", 'title');
  const bytes = new Uint8Array(await book.xlsx.writeBuffer());
  expect(placedNames(bytes, 'xlsx').sort()).toEqual(['number', 'title']);
  const filled = new ExcelJS.Workbook();
  await filled.xlsx.load(fillMetadata(bytes, 'xlsx', { number: 'THR-FRM-0019', title: 'Wind <stop>' }) as never);
  const [first] = filled.worksheets;
  expect(first?.getCell('B2').text).toBe('THR-FRM-0019');
  expect(first?.getCell('C4').text).toBe('Wind <stop>');
  expect(first?.getCell('D4').value).toBe(7);
});

test('an OpenDocument text takes user fields and properties', () => {
  const NS =
    'xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:meta="urn:oasis:names:tc:opendocument:xmlns:meta:1.0"';
  const bytes = zip({
    mimetype: 'application/vnd.oasis.opendocument.text',
    'content.xml': `<office:document-content ${NS}><text:p><text:user-defined text:name="number">?</text:user-defined></text:p></office:document-content>`,
    'meta.xml': `<office:document-meta ${NS}><office:meta><meta:user-defined meta:name="kept">k</meta:user-defined></office:meta></office:document-meta>`,
  });
  expect(placedNames(bytes, 'odt')).toEqual(['number']);
  const filled = fillMetadata(bytes, 'odt', { number: 'N1' });
  expect(part(filled, 'content.xml')).toContain('>N1<');
  expect(part(filled, 'meta.xml')).toMatch(/kept.*number/s);
  expect(Object.keys(Object.fromEntries(readParts(filled)))[0]).toBe('mimetype');
});

test('Markdown takes names in double braces and leaves those that it does not know', () => {
  expect(strFromU8(fillMetadata(strToU8('# {{ title }} {{who}} {x}'), 'md', { title: 'T' }))).toBe('# T {{who}} {x}');
});

test('what is no office file is refused in words', () => {
  expect(() => placedNames(strToU8('no zip'), 'docx')).toThrow('office_unreadable');
});
