import { PDFDocument, rgb, StandardFonts } from '@cantoo/pdf-lib';
import { strToU8, zipSync } from 'fflate';

export type Section = readonly [heading: string, ...paragraphs: string[]];
export type Text = { title: string; sections: readonly Section[] };

const xml = (text: string) => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);
/** The same bytes for the same text: zip entries have one fixed time. */
const zip = (files: Record<string, string>) =>
  Buffer.from(
    zipSync(
      Object.fromEntries(
        Object.entries(files).map(([name, text]) => [
          name,
          [strToU8(text), { mtime: '2020-01-01T12:00:00Z', level: 6 }],
        ]),
      ),
    ),
  );
const RELATIONS = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
const PACKAGE = 'http://schemas.openxmlformats.org/package/2006';

/** A Word file (ISO/IEC 29500) with title, headings and paragraphs. */
export const makeDocx = ({ title, sections }: Text): Buffer => {
  const paragraph = (text: string, style?: string) =>
    `<w:p>${style ? `<w:pPr><w:pStyle w:val="${style}"/></w:pPr>` : ''}<w:r><w:t xml:space="preserve">${xml(text)}</w:t></w:r></w:p>`;
  const body = [
    paragraph(title, 'Title'),
    ...sections.flatMap(([heading, ...paragraphs]) => [
      paragraph(heading, 'Heading1'),
      ...paragraphs.map((text) => paragraph(text)),
    ]),
  ].join('');
  const style = (id: string, name: string, size: number) =>
    `<w:style w:type="paragraph" w:styleId="${id}"><w:name w:val="${name}"/><w:rPr><w:b/><w:sz w:val="${size}"/></w:rPr></w:style>`;
  const W = 'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"';
  return zip({
    '[Content_Types].xml': `<?xml version="1.0"?><Types xmlns="${PACKAGE}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/><Override PartName="/word/styles.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.styles+xml"/></Types>`,
    '_rels/.rels': `<?xml version="1.0"?><Relationships xmlns="${PACKAGE}/relationships"><Relationship Id="r1" Type="${RELATIONS}/officeDocument" Target="word/document.xml"/></Relationships>`,
    'word/_rels/document.xml.rels': `<?xml version="1.0"?><Relationships xmlns="${PACKAGE}/relationships"><Relationship Id="r1" Type="${RELATIONS}/styles" Target="styles.xml"/></Relationships>`,
    'word/styles.xml': `<?xml version="1.0"?><w:styles ${W}>${style('Title', 'Title', 36)}${style('Heading1', 'heading 1', 26)}</w:styles>`,
    'word/document.xml': `<?xml version="1.0" encoding="UTF-8"?><w:document ${W}><w:body>${body}</w:body></w:document>`,
  });
};

/** A spreadsheet (ISO/IEC 29500) with one sheet of texts. */
export const makeXlsx = (rows: readonly (readonly string[])[]): Buffer => {
  const S = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
  const sheet = rows
    .map(
      (cells, r) =>
        `<row r="${r + 1}">${cells.map((text, c) => `<c r="${String.fromCharCode(65 + c)}${r + 1}" t="inlineStr"><is><t>${xml(text)}</t></is></c>`).join('')}</row>`,
    )
    .join('');
  return zip({
    '[Content_Types].xml': `<?xml version="1.0"?><Types xmlns="${PACKAGE}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>`,
    '_rels/.rels': `<?xml version="1.0"?><Relationships xmlns="${PACKAGE}/relationships"><Relationship Id="r1" Type="${RELATIONS}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    'xl/_rels/workbook.xml.rels': `<?xml version="1.0"?><Relationships xmlns="${PACKAGE}/relationships"><Relationship Id="r1" Type="${RELATIONS}/worksheet" Target="worksheets/sheet1.xml"/></Relationships>`,
    'xl/workbook.xml': `<?xml version="1.0"?><workbook xmlns="${S}" xmlns:r="${RELATIONS}"><sheets><sheet name="Form" sheetId="1" r:id="r1"/></sheets></workbook>`,
    'xl/worksheets/sheet1.xml': `<?xml version="1.0"?><worksheet xmlns="${S}"><sheetData>${sheet}</sheetData></worksheet>`,
  });
};

const PAGE = { width: 595, height: 842, margin: 62 };

/** A PDF with pages of running text. */
export const makePdf = async ({ title, sections }: Text): Promise<Buffer> => {
  const pdf = await PDFDocument.create();
  pdf.setTitle(title);
  const fixed = new Date('2020-01-01T12:00:00Z');
  pdf.setCreationDate(fixed);
  pdf.setModificationDate(fixed);
  pdf.setProducer('Tarnholt Ropeways');
  const [plain, bold] = [
    await pdf.embedFont(StandardFonts.Helvetica),
    await pdf.embedFont(StandardFonts.HelveticaBold),
  ];
  let page = pdf.addPage([PAGE.width, PAGE.height]);
  let y = PAGE.height - PAGE.margin;
  const write = (text: string, size: number, font = plain, gap = 6) => {
    const words = text
      .replace(
        /[^\x20-\x7e\u00a0-\u00ff]/g,
        (c) => ({ '–': '-', '’': "'", '“': '"', '”': '"', '→': '->', '≤': '<=', '≥': '>=' })[c] ?? ' ',
      )
      .split(' ');
    let line = '';
    const flush = () => {
      if (y < PAGE.margin + size) {
        page = pdf.addPage([PAGE.width, PAGE.height]);
        y = PAGE.height - PAGE.margin;
      }
      page.drawText(line, { x: PAGE.margin, y: y - size, size, font, color: rgb(0.07, 0.13, 0.16) });
      y -= size * 1.45;
      line = '';
    };
    for (const word of words) {
      const longer = line ? `${line} ${word}` : word;
      if (font.widthOfTextAtSize(longer, size) > PAGE.width - 2 * PAGE.margin) flush();
      line = line ? `${line} ${word}` : word;
    }
    flush();
    y -= gap;
  };
  write(title, 18, bold, 12);
  for (const [heading, ...paragraphs] of sections) {
    write(heading, 12.5, bold, 4);
    for (const paragraph of paragraphs) write(paragraph, 10.5);
  }
  return Buffer.from(await pdf.save({ useObjectStreams: false }));
};

/** A Markdown file. */
export const makeMarkdown = ({ title, sections }: Text): Buffer =>
  Buffer.from(
    [`# ${title}`, ...sections.flatMap(([heading, ...paragraphs]) => [`## ${heading}`, ...paragraphs])].join('\n\n'),
  );

/** A mail as it arrived (RFC 5322). */
export const makeMail = (from: string, subject: string, text: string): Buffer =>
  Buffer.from(
    `From: ${from}\r\nTo: quality@tarnholt.example\r\nSubject: ${subject}\r\nDate: Mon, 12 Oct 2026 09:12:00 +0200\r\nMIME-Version: 1.0\r\nContent-Type: text/plain; charset=utf-8\r\n\r\n${text}\r\n`,
  );

/** A drawing sheet as SVG: frame, sheave train, dimensions. */
export const makeDrawing = (title: string, notes: readonly string[], sheaves: number): Buffer => {
  const wheels = Array.from({ length: sheaves }, (_, i) => {
    const x = 120 + i * (560 / Math.max(1, sheaves - 1));
    return `<circle cx="${x}" cy="230" r="38"/><circle cx="${x}" cy="230" r="8"/><path d="M${x} 268v46"/>`;
  }).join('');
  return Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 840 594" width="840" height="594" font-family="sans-serif"><rect width="840" height="594" fill="#fff"/><g fill="none" stroke="#12222a" stroke-width="1.6"><path d="M20 20h800v554H20zM560 480h260M560 520h260M560 480v94"/><path d="M60 190h720" stroke-width="5"/>${wheels}<path d="M100 320h600v22H100z"/><path d="M120 372h560M120 364v16M680 364v16" stroke-width="1"/></g><g fill="#12222a" font-size="13"><text x="372" y="392">4 480</text><text x="572" y="506">${xml(title)}</text>${notes.map((note, i) => `<text x="60" y="${440 + i * 22}">${xml(note)}</text>`).join('')}</g></svg>`,
  );
};
