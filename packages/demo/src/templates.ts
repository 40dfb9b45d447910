import { strToU8, zipSync } from 'fflate';

const W = 'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"';
const R = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
const PACKAGE = 'http://schemas.openxmlformats.org/package/2006';
const WORD = 'application/vnd.openxmlformats-officedocument.wordprocessingml';

const run = (text: string, bold = false) =>
  `<w:r>${bold ? '<w:rPr><w:b/></w:rPr>' : ''}<w:t xml:space="preserve">${text}</w:t></w:r>`;
/** A place for a field: a content control whose tag is its name (ISO/IEC 29500-1, 17.5.2). */
const place = (name: string, bold = false) =>
  `<w:sdt><w:sdtPr><w:alias w:val="${name}"/><w:tag w:val="${name}"/></w:sdtPr><w:sdtContent>${run(name, bold)}</w:sdtContent></w:sdt>`;
const paragraph = (inner: string, style?: string) =>
  `<w:p>${style ? `<w:pPr><w:pStyle w:val="${style}"/></w:pPr>` : ''}${inner}</w:p>`;

/** A Word template with number, revision and title in its header, the validity of a print in its footer, and headings. */
const wordTemplate = (
  organisation: string,
  foot: string,
  headings: readonly string[],
  metadata: readonly [string, string][],
) => {
  const style = (id: string, name: string, size: number) =>
    `<w:style w:type="paragraph" w:styleId="${id}"><w:name w:val="${name}"/><w:rPr><w:b/><w:sz w:val="${size}"/></w:rPr></w:style>`;
  const files: Record<string, string> = {
    '[Content_Types].xml': `<?xml version="1.0"?><Types xmlns="${PACKAGE}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/word/document.xml" ContentType="${WORD}.document.main+xml"/><Override PartName="/word/styles.xml" ContentType="${WORD}.styles+xml"/><Override PartName="/word/header1.xml" ContentType="${WORD}.header+xml"/><Override PartName="/word/footer1.xml" ContentType="${WORD}.footer+xml"/></Types>`,
    '_rels/.rels': `<?xml version="1.0"?><Relationships xmlns="${PACKAGE}/relationships"><Relationship Id="r1" Type="${R}/officeDocument" Target="word/document.xml"/></Relationships>`,
    'word/_rels/document.xml.rels': `<?xml version="1.0"?><Relationships xmlns="${PACKAGE}/relationships"><Relationship Id="r1" Type="${R}/styles" Target="styles.xml"/><Relationship Id="r2" Type="${R}/header" Target="header1.xml"/><Relationship Id="r3" Type="${R}/footer" Target="footer1.xml"/></Relationships>`,
    'word/styles.xml': `<?xml version="1.0"?><w:styles ${W}>${style('Title', 'Title', 36)}${style('Heading1', 'heading 1', 26)}</w:styles>`,
    'word/header1.xml': `<?xml version="1.0"?><w:hdr ${W}>${paragraph(`${run(`${organisation}   `, true)}${place('number', true)}${run('  rev. ')}${place('revision')}${run('   ')}${place('title')}`)}</w:hdr>`,
    'word/footer1.xml': `<?xml version="1.0"?><w:ftr ${W}>${paragraph(run(foot))}</w:ftr>`,
    'word/document.xml': `<?xml version="1.0" encoding="UTF-8"?><w:document ${W} xmlns:r="${R}"><w:body>${paragraph(place('title'), 'Title')}${metadata
      .map(([label, name]) => paragraph(`${run(`${label}: `)}${place(name)}`))
      .join('')}${headings
      .map((heading, i) => paragraph(run(`${i + 1} ${heading}`), 'Heading1') + paragraph(run('…')))
      .join(
        '',
      )}<w:sectPr><w:headerReference w:type="default" r:id="r2"/><w:footerReference w:type="default" r:id="r3"/></w:sectPr></w:body></w:document>`,
  };
  return Buffer.from(
    zipSync(
      Object.fromEntries(
        Object.entries(files).map(([name, text]) => [name, [strToU8(text), { mtime: '2020-01-01T12:00:00Z' }]]),
      ),
    ),
  );
};

export const TEMPLATES: readonly { type: string; name: string; language: string; file: string; bytes: Buffer }[] = [
  {
    type: 'PRO',
    name: 'Procedure',
    language: 'en',
    file: 'procedure.docx',
    bytes: wordTemplate(
      'Tarnholt Ropeways',
      'A print is valid on its day only; the text in force is in the register.',
      ['Purpose', 'Who does it', 'Before beginning', 'Steps', 'Records'],
      [
        ['Owner', 'owner'],
        ['Equipment', 'equipment'],
      ],
    ),
  },
  {
    type: 'PRO',
    name: 'Procedure',
    language: 'de',
    file: 'verfahren.docx',
    bytes: wordTemplate(
      'Tarnholt Ropeways',
      'Ein Ausdruck gilt nur am Tag des Druckes.',
      ['Zweck', 'Wer es tut', 'Vor dem Beginn', 'Schritte', 'Aufzeichnungen'],
      [['Verantwortlich', 'owner']],
    ),
  },
  {
    type: 'RPT',
    name: 'Report of a test',
    language: 'en',
    file: 'report.docx',
    bytes: wordTemplate(
      'Tarnholt Ropeways',
      'Confidential within the organisation.',
      ['What was tested', 'Figures', 'Judgement'],
      [
        ['Tested on', 'testedOn'],
        ['Result', 'result'],
      ],
    ),
  },
  {
    type: 'MIN',
    name: 'Minutes',
    language: 'en',
    file: 'minutes.md',
    bytes: Buffer.from(
      [
        '# {{title}}',
        '## {{number}}',
        'Held on {{heldOn}}. Present: {{present}}.',
        '## Decided',
        '1.',
        '## To do',
        'Who, what, until when.',
      ].join('\n\n'),
    ),
  },
];
