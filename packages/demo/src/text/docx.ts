import {
  AlignmentType,
  BorderStyle,
  Document,
  Footer,
  HeadingLevel,
  ImageRun,
  LineRuleType,
  Packer,
  PageNumber,
  Paragraph,
  ShadingType,
  Table,
  TableCell,
  TableRow,
  TextRun,
  WidthType,
} from 'docx';
import { pictureOf } from '../figures/pictures.ts';
import { withFixedTimes } from '../fixedTimes.ts';
import type { Block, Run } from './blocks.ts';

const LINE = { style: BorderStyle.SINGLE, size: 4, color: '8A979C' } as const;
const BORDERS = { top: LINE, bottom: LINE, left: LINE, right: LINE };
const FIGURE_WIDTH = 560;

const textRuns = (runs: readonly Run[], bold = false) =>
  runs.map((run) => new TextRun({ text: run.text, bold: bold || run.bold, italics: run.italic }));

const cell = (runs: readonly Run[], isHead: boolean) =>
  new TableCell({
    borders: BORDERS,
    margins: { top: 90, bottom: 90, left: 90, right: 90 },
    ...(isHead ? { shading: { type: ShadingType.CLEAR, fill: 'E4ECEE' } } : {}),
    children: [new Paragraph({ children: textRuns(runs, isHead), spacing: { after: 0 } })],
  });

const partOf = async (block: Block): Promise<(Paragraph | Table)[]> => {
  switch (block.kind) {
    case 'title':
      return [new Paragraph({ text: block.text, heading: HeadingLevel.TITLE })];
    case 'heading':
      return [
        new Paragraph({
          text: block.text,
          heading: block.level === 1 ? HeadingLevel.HEADING_1 : HeadingLevel.HEADING_2,
          keepNext: true,
        }),
      ];
    case 'paragraph':
      // A paragraph in bold is the name of the table below it.
      return [new Paragraph({ children: textRuns(block.runs), keepNext: block.runs.every((run) => run.bold) })];
    case 'warning':
      return [
        new Paragraph({
          children: textRuns(block.runs),
          border: { left: { style: BorderStyle.SINGLE, size: 24, color: 'A52C15', space: 8 } },
          indent: { left: 200 },
        }),
      ];
    case 'item':
      return block.mark === '•'
        ? [new Paragraph({ children: textRuns(block.runs), bullet: { level: 0 } })]
        : [
            new Paragraph({
              children: [new TextRun(`${block.mark}\u00a0`), ...textRuns(block.runs)],
              indent: { left: 420, hanging: 420 },
            }),
          ];
    case 'table':
      return [
        new Table({
          width: { size: 100, type: WidthType.PERCENTAGE },
          rows: block.rows.map(
            (cells, r) =>
              new TableRow({
                ...(r === 0 ? { tableHeader: true } : {}),
                cantSplit: true,
                children: cells.map((runs) => cell(runs, r === 0)),
              }),
          ),
        }),
        new Paragraph({ text: '', spacing: { after: 60 } }),
      ];
    case 'page':
      return [new Paragraph({ text: '', pageBreakBefore: true, spacing: { after: 0 } })];
    case 'figure': {
      const { bytes, type, width, height } = await pictureOf(block.name);
      const shown = Math.min(FIGURE_WIDTH, width);
      return [
        new Paragraph({
          alignment: AlignmentType.CENTER,
          keepNext: true,
          spacing: { line: 240, lineRule: LineRuleType.AUTO },
          children: [
            new ImageRun({
              type,
              data: bytes,
              transformation: { width: shown, height: Math.round((height * shown) / width) },
              altText: { name: block.name, title: block.caption, description: block.caption },
            }),
          ],
        }),
        new Paragraph({
          children: [new TextRun({ text: block.caption, italics: true })],
          alignment: AlignmentType.CENTER,
        }),
      ];
    }
  }
};

/** A Word file (ISO/IEC 29500) with headings, lists, tables and pictures, and the pages counted at its foot. */
export const docxOf = async (blocks: readonly Block[]): Promise<Buffer> => {
  const title = blocks.find((block) => block.kind === 'title')?.text ?? '';
  const document = new Document({
    creator: 'Tarnholt Ropeways',
    title,
    styles: {
      default: {
        document: {
          run: { font: 'Liberation Sans', size: 22 },
          paragraph: { spacing: { after: 170, line: 312, lineRule: LineRuleType.AUTO } },
        },
        title: { run: { size: 36, bold: true }, paragraph: { spacing: { after: 220 } } },
        heading1: { run: { size: 26, bold: true }, paragraph: { spacing: { before: 300, after: 120 } } },
        heading2: { run: { size: 22, bold: true }, paragraph: { spacing: { before: 200, after: 90 } } },
      },
    },
    sections: [
      {
        properties: {
          page: { size: { width: 11906, height: 16838 }, margin: { top: 1420, bottom: 1420, left: 1420, right: 1420 } },
        },
        footers: {
          default: new Footer({
            children: [
              new Paragraph({
                alignment: AlignmentType.RIGHT,
                children: [
                  new TextRun({ size: 17, children: ['Page ', PageNumber.CURRENT, ' of ', PageNumber.TOTAL_PAGES] }),
                ],
              }),
            ],
          }),
        },
        children: (await Promise.all(blocks.map(partOf))).flat(),
      },
    ],
  });
  return withFixedTimes(await Packer.toBuffer(document));
};
