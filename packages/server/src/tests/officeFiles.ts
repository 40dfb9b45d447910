import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import {
  AlignmentType,
  Bookmark,
  Column,
  Document,
  ExternalHyperlink,
  Footer,
  FootnoteReferenceRun,
  Math as Formula,
  Header,
  HeadingLevel,
  ImageRun,
  ImportedXmlComponent,
  InsertedTextRun,
  LevelFormat,
  MathFraction,
  MathRun,
  Packer,
  PageNumber,
  PageOrientation,
  Paragraph,
  type ParagraphChild,
  SimpleField,
  Table,
  TableCell,
  TableOfContents,
  TableRow,
  TextRun,
} from 'docx';
import ExcelJS from 'exceljs';
import sharp from 'sharp';

const run = promisify(execFile);

/** A file as some program made it: what it is, its bytes, and words that it must still contain. */
export type OfficeFile = { name: string; kind: 'docx' | 'xlsx' | 'odt'; bytes: Uint8Array; words: string[] };

const W = 'http://schemas.openxmlformats.org/wordprocessingml/2006/main';
const control = (tag: string) =>
  ImportedXmlComponent.fromXmlString(
    `<w:sdt xmlns:w="${W}"><w:sdtPr><w:alias w:val="${tag}"/><w:tag w:val="${tag}"/><w:id w:val="${tag.length}"/><w:text/></w:sdtPr><w:sdtContent><w:r><w:rPr><w:b/></w:rPr><w:t>to be filled</w:t></w:r></w:sdtContent></w:sdt>`,
  ) as unknown as ParagraphChild;

const picture = () =>
  sharp({ create: { width: 60, height: 40, channels: 3, background: '#0b5364' } })
    .png()
    .toBuffer();

/** Ten Word files by a library that writes them from nothing. */
const wordFiles = async (): Promise<OfficeFile[]> => {
  const text = (words: string) => new Paragraph({ children: [new TextRun(words)] });
  const image = await picture();
  const bodies: Record<string, [words: string[], document: ConstructorParameters<typeof Document>[0]]> = {
    plain: [['Slip force of the grip'], { sections: [{ children: [text('Slip force of the grip')] }] }],
    controls: [
      ['Measured at the drive'],
      {
        sections: [
          {
            children: [
              new Paragraph({
                children: [control('number'), new TextRun(' Measured at the drive '), control('title')],
              }),
            ],
          },
        ],
      },
    ],
    fields: [
      ['Number as a field'],
      {
        sections: [
          {
            children: [
              new Paragraph({ children: [new TextRun('Number as a field '), new SimpleField('DOCPROPERTY number')] }),
            ],
          },
        ],
      },
    ],
    headAndFoot: [
      ['Under the head'],
      {
        sections: [
          {
            headers: { default: new Header({ children: [new Paragraph({ children: [control('revision')] })] }) },
            footers: {
              default: new Footer({
                children: [new Paragraph({ children: [new TextRun({ children: ['Page ', PageNumber.CURRENT] })] })],
              }),
            },
            children: [text('Under the head')],
          },
        ],
      },
    ],
    table: [
      ['Tower', 'Clearance'],
      {
        sections: [
          {
            children: [
              new Table({
                rows: [
                  ['Tower', 'Clearance'],
                  ['9', '4.2 m'],
                ].map(
                  (cells) => new TableRow({ children: cells.map((cell) => new TableCell({ children: [text(cell)] })) }),
                ),
              }),
            ],
          },
        ],
      },
    ],
    numbered: [
      ['Lock the drive', 'Hang the sign'],
      {
        numbering: {
          config: [
            {
              reference: 'steps',
              levels: [{ level: 0, format: LevelFormat.DECIMAL, text: '%1.', alignment: AlignmentType.START }],
            },
          ],
        },
        sections: [
          {
            children: ['Lock the drive', 'Hang the sign'].map(
              (words) => new Paragraph({ text: words, numbering: { reference: 'steps', level: 0 } }),
            ),
          },
        ],
      },
    ],
    picture: [
      ['Seen from below'],
      {
        sections: [
          {
            children: [
              text('Seen from below'),
              new Paragraph({
                children: [new ImageRun({ type: 'png', data: image, transformation: { width: 60, height: 40 } })],
              }),
            ],
          },
        ],
      },
    ],
    noted: [
      ['A claim', 'Its source'],
      {
        footnotes: { 1: { children: [text('Its source')] } },
        comments: { children: [{ id: 0, author: 'Reviewer', date: new Date(0), children: [text('Which day?')] }] },
        sections: [{ children: [new Paragraph({ children: [new TextRun('A claim'), new FootnoteReferenceRun(1)] })] }],
      },
    ],
    changed: [
      ['Before and', 'added since'],
      {
        features: { trackRevisions: true },
        sections: [
          {
            children: [
              new Paragraph({
                children: [
                  new TextRun('Before and '),
                  new InsertedTextRun({ id: 1, author: 'Author', date: '2026-01-01T00:00:00Z', text: 'added since' }),
                ],
              }),
            ],
          },
        ],
      },
    ],
    long: [
      ['Chapter one', 'The maker', 'Chapter two'],
      {
        customProperties: [{ name: 'ownProperty', value: 'stays' }],
        sections: [
          {
            properties: {
              page: { size: { orientation: PageOrientation.LANDSCAPE } },
              column: { count: 2, children: [new Column({ width: 4000 }), new Column({ width: 4000 })] },
            },
            children: [
              new TableOfContents('Contents'),
              new Paragraph({
                heading: HeadingLevel.HEADING_1,
                children: [new Bookmark({ id: 'one', children: [new TextRun('Chapter one')] })],
              }),
              new Paragraph({
                children: [
                  new ExternalHyperlink({ link: 'https://maker.example', children: [new TextRun('The maker')] }),
                ],
              }),
              new Paragraph({
                children: [
                  new Formula({
                    children: [new MathFraction({ numerator: [new MathRun('F')], denominator: [new MathRun('A')] })],
                  }),
                ],
              }),
              new Paragraph({ heading: HeadingLevel.HEADING_1, text: 'Chapter two', pageBreakBefore: true }),
            ],
          },
        ],
      },
    ],
  };
  return Promise.all(
    Object.entries(bodies).map(async ([name, [words, document]]) => ({
      name: `library ${name}`,
      kind: 'docx' as const,
      bytes: new Uint8Array(await Packer.toBuffer(new Document(document))),
      words,
    })),
  );
};

/** Eight workbooks by a library, each with something that must outlast being filled. */
const workbooks = async (): Promise<OfficeFile[]> => {
  const image = await picture();
  const fill: Record<string, (book: ExcelJS.Workbook, sheet: ExcelJS.Worksheet) => void> = {
    values: (_, sheet) => sheet.addRows([[1, 2.5, true, new Date(0)]]),
    formulas: (_, sheet) => {
      sheet.addRow([3, 4, { formula: 'A2+B2', result: 7 }]);
    },
    named: (book, sheet) => {
      sheet.getCell('B4').value = 'to be filled';
      book.definedNames.add(`${sheet.name}!$B$4`, 'number');
      book.definedNames.add(`${sheet.name}!$B$5`, 'title');
    },
    styled: (_, sheet) => {
      sheet.mergeCells('A3:C3');
      sheet.getCell('A3').value = 'Merged';
      sheet.getCell('A3').font = { bold: true, color: { argb: 'FF0B5364' } };
    },
    pictured: (book, sheet) => {
      sheet.addImage(book.addImage({ buffer: image as never, extension: 'png' }), 'B2:C4');
    },
    ruled: (_, sheet) => {
      sheet.getCell('A5').dataValidation = { type: 'list', allowBlank: true, formulae: ['"yes,no"'] };
      sheet.addConditionalFormatting({
        ref: 'A1:A9',
        rules: [
          { type: 'cellIs', operator: 'greaterThan', priority: 1, formulae: ['5'], style: { font: { bold: true } } },
        ],
      });
    },
    tabled: (_, sheet) => {
      sheet.addTable({
        name: 'Loads',
        ref: 'A6',
        headerRow: true,
        columns: [{ name: 'Carrier' }, { name: 'Load' }],
        rows: [
          [31, 350],
          [32, 340],
        ],
      });
    },
    sheets: (book, sheet) => {
      book.addWorksheet('Hidden', { state: 'hidden' }).addRow(['kept out of sight']);
      sheet.headerFooter.oddFooter = '&P of &N';
      sheet.views = [{ state: 'frozen', ySplit: 1 }];
    },
  };
  return Promise.all(
    Object.entries(fill).map(async ([name, change]) => {
      const book = new ExcelJS.Workbook();
      const sheet = book.addWorksheet('Sheet');
      sheet.addRow([`Words of ${name}`]);
      change(book, sheet);
      return {
        name: `library ${name}`,
        kind: 'xlsx' as const,
        bytes: new Uint8Array(await book.xlsx.writeBuffer()),
        words: [`Words of ${name}`],
      };
    }),
  );
};

const FLAT_TEXT = `<?xml version="1.0"?><office:document xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" office:version="1.3" office:mimetype="application/vnd.oasis.opendocument.text"><office:body><office:text><text:user-field-decls><text:user-field-decl office:value-type="string" office:string-value="?" text:name="number"/></text:user-field-decls><text:h text:outline-level="1">Rescue drill</text:h><text:p>Held as <text:user-field-get text:name="number">?</text:user-field-get> on the line.</text:p></office:text></office:body></office:document>`;
const FLAT_SHEET = `<?xml version="1.0"?><office:document xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" office:version="1.3" office:mimetype="application/vnd.oasis.opendocument.spreadsheet"><office:body><office:spreadsheet><table:table table:name="Loads"><table:table-row><table:table-cell office:value-type="string"><text:p>Load of carrier 31</text:p></table:table-cell></table:table-row></table:table></office:spreadsheet></office:body></office:document>`;

/** Twelve files that LibreOffice wrote: from pages of the web, rich text, tables, its own flat formats, and what others had written. */
const saved = async (others: readonly OfficeFile[]): Promise<OfficeFile[]> => {
  const of = (name: string) => others.find((file) => file.name === `library ${name}`)?.bytes ?? new Uint8Array();
  const html =
    '<h1>Opening inspection</h1><table><tr><td>Haul rope</td><td>seen</td></tr></table><ul><li>Brake</li></ul>';
  const rtf = '{\\rtf1\\ansi\\b Torque of the socket bolts\\b0\\par 140 Nm}';
  const sources: [source: string, bytes: Uint8Array | string, kinds: ('docx' | 'xlsx' | 'odt')[], words: string[]][] = [
    ['page.html', html, ['odt', 'docx'], ['Opening inspection', 'Haul rope']],
    ['rich.rtf', rtf, ['odt', 'docx'], ['Torque of the socket bolts']],
    ['flat.fodt', FLAT_TEXT, ['odt', 'docx'], ['Rescue drill', 'on the line']],
    ['loads.csv', 'Carrier,Load\n31,350\n', ['xlsx'], ['Carrier', '350']],
    ['flat.fods', FLAT_SHEET, ['xlsx'], ['Load of carrier 31']],
    ['table.docx', of('table'), ['odt'], ['Clearance']],
    ['controls.docx', of('controls'), ['docx'], ['Measured at the drive']],
    ['long.docx', of('long'), ['odt'], ['Chapter two']],
    ['named.xlsx', of('named'), ['xlsx'], ['Words of named']],
  ];
  const dir = mkdtempSync(join(tmpdir(), 'kanonos-made-'));
  for (const [name, bytes] of sources) writeFileSync(join(dir, name), bytes);
  for (const kind of ['docx', 'xlsx', 'odt'] as const) {
    const given = sources.filter(([, , kinds]) => kinds.includes(kind)).map(([name]) => join(dir, name));
    // Pages of the web are opened as text, so that they can be saved as such.
    const office = [`-env:UserInstallation=file://${join(dir, 'profile')}`, '--headless', '--convert-to', kind];
    const texts = given.filter((path) => path.endsWith('.html'));
    const rest = given.filter((path) => !texts.includes(path));
    const out = ['--outdir', join(dir, kind)];
    if (texts.length > 0) await run('soffice', [...office, '--writer', ...out, ...texts], { timeout: 90_000 });
    await run('soffice', [...office, ...out, ...rest], { timeout: 90_000 });
  }
  return sources.flatMap(([name, , kinds, words]) =>
    kinds.map((kind) => ({
      name: `LibreOffice ${name} as ${kind}`,
      kind,
      bytes: new Uint8Array(readFileSync(join(dir, kind, name.replace(/\.\w+$/, `.${kind}`)))),
      words,
    })),
  );
};

/** Thirty native files of different programs. */
export const officeFiles = async (): Promise<OfficeFile[]> => {
  const made = [...(await wordFiles()), ...(await workbooks())];
  return [...made, ...(await saved(made))];
};
