import exceljs from 'exceljs';
import { withFixedTimes } from './fixedTimes.ts';
import type { FileOf } from './text/fileOf.ts';

type Column = {
  heading: string;
  width: number /** A formula for a row, from its number on the sheet. */;
  formula?: (row: number) => string;
};
type Form = {
  title: string;
  hint: string;
  columns: readonly Column[];
  filled: readonly (readonly (string | number)[])[];
  rows: number;
};

const LINE = { style: 'thin', color: { argb: 'FF8A979C' } } as const;
const BORDER = { top: LINE, bottom: LINE, left: LINE, right: LINE };
const HEAD_ROW = 4;

/** A form as a spreadsheet: a title, a hint how it is filled in, a head, filled rows, empty rows to write in, and what is reckoned. */
const makeForm = async (form: Form): Promise<Buffer> => {
  const book = new exceljs.Workbook();
  book.creator = 'Tarnholt Ropeways';
  const sheet = book.addWorksheet('Form', {
    pageSetup: { orientation: 'landscape', paperSize: 9, fitToPage: true, fitToHeight: 0 },
  });
  form.columns.forEach((column, i) => {
    sheet.getColumn(i + 1).width = column.width;
  });
  sheet.getCell('A1').value = form.title;
  sheet.getCell('A1').font = { bold: true, size: 15 };
  sheet.getCell('A2').value = form.hint;
  sheet.getRow(HEAD_ROW).values = form.columns.map(({ heading }) => heading);
  for (let n = 0; n < form.rows; n++) {
    const row = HEAD_ROW + 1 + n;
    form.columns.forEach((column, i) => {
      const cell = sheet.getCell(row, i + 1);
      const written = form.filled[n]?.[i];
      if (column.formula)
        cell.value = { formula: column.formula(row), ...(written === undefined ? {} : { result: written as number }) };
      else if (written !== undefined) cell.value = written;
    });
  }
  for (let row = HEAD_ROW; row <= HEAD_ROW + form.rows; row++)
    for (let column = 1; column <= form.columns.length; column++) {
      const cell = sheet.getCell(row, column);
      cell.border = BORDER;
      if (row === HEAD_ROW) {
        cell.font = { bold: true };
        cell.fill = { type: 'pattern', pattern: 'solid', fgColor: { argb: 'FFE4ECEE' } };
        cell.alignment = { wrapText: true, vertical: 'middle' };
      }
    }
  return withFixedTimes(new Uint8Array(await book.xlsx.writeBuffer()));
};

const form =
  (name: string, make: (revision: number) => Form): FileOf =>
  async (revision) => ({ name, bytes: await makeForm(make(revision)) });
const column = (heading: string, width = 14, formula?: Column['formula']): Column => ({
  heading,
  width,
  ...(formula ? { formula } : {}),
});

export const windRecord = form('wind record.xlsx', (revision) => ({
  title: 'Wind stop and restart record',
  hint: 'One line for each stop. Gusts in km/h, as the gauge at the tower shows them. Keep for five years.',
  columns: [
    column('Date', 12),
    column('Tower', 8),
    column('Gust km/h'),
    column('Stopped at'),
    column('Cabins brought in at', 18),
    ...(revision > 1
      ? [
          column('Restarted at'),
          column('Allowed by', 22),
          column('Stood, minutes', 14, (row) => `IF(F${row}="","",(F${row}-D${row})*1440)`),
        ]
      : []),
    column('Remark', 34),
  ],
  filled: [],
  rows: 24,
}));

const PULLS: readonly (readonly (string | number)[])[] = [
  ['31', 'G-0412', 6.4, 6.6, 6.5, 6.5, 1.5, 'passed', 'R. Osei'],
  ['12', 'G-0388', 7.3, 7.1, 7.2, 7.2, 1.4, 'passed', 'R. Osei'],
  ['44', 'G-0401', 6.9, 6.2, 6.8, 6.63, 6.5, 'passed', 'T. Ekström'],
  ['07', 'G-0377', 5.9, 6.3, 6.4, 6.2, 4.8, 'rejected', 'T. Ekström'],
];
export const gripRecord = form('grip test.xlsx', () => ({
  title: 'Grip test record for THR-PRO-0118',
  hint: 'Three pulls in a row. Mean, spread and result are reckoned; the limit is the one of the procedure in force.',
  columns: [
    column('Carrier', 9),
    column('Grip', 10),
    column('Pull 1 kN', 11),
    column('Pull 2 kN', 11),
    column('Pull 3 kN', 11),
    column('Mean kN', 11, (row) => `IF(C${row}="","",AVERAGE(C${row}:E${row}))`),
    column(
      'Spread %',
      11,
      (row) => `IF(C${row}="","",MAX(MAX(C${row}:E${row})-F${row},F${row}-MIN(C${row}:E${row}))/F${row}*100)`,
    ),
    column('Result', 11, (row) => `IF(C${row}="","",IF(AND(MIN(C${row}:E${row})>6.2,G${row}<10),"passed","rejected"))`),
    column('Fitter', 20),
  ],
  filled: PULLS,
  rows: 28,
}));

export const drillRecord = form('drill.xlsx', () => ({
  title: 'Rescue drill record',
  hint: 'Filled in on the day of the drill by its leader.',
  columns: [
    column('Date', 12),
    column('Span', 12),
    column('Cabins', 9),
    column('Persons', 9),
    column('First rescuer at the cabin, min', 18),
    column('Minutes to last passenger', 18),
    column('Minutes for a cabin', 14, (row) => `IF(C${row}="","",F${row}/C${row})`),
    column('Leader', 20),
    column('What was learned', 40),
  ],
  filled: [
    ['', '6 to 7', 4, 9, 21, 74, 18.5, 'P. Lindqvist', 'Radio in cabin 3 silent; batteries exchanged'],
    ['', '8 to 9', 3, 6, 26, 61, 20.3, 'P. Lindqvist', 'Small harness was missing at first'],
  ],
  rows: 20,
}));

export const cabinCheckList = form('cabin check list.xlsx', () => ({
  title: 'Check list for the overhaul of a cabin',
  hint: 'One line for each part; good, mended or exchanged. What is exchanged is named with its lot.',
  columns: [
    column('Part', 26),
    column('What is looked at', 44),
    column('Good', 8),
    column('Mended', 9),
    column('Exchanged, lot', 18),
    column('Name', 18),
  ],
  filled: [
    ['Floor', 'Sheet whole, bonded everywhere, edges closed'],
    ['Windows', 'No crack, profile whole, marking can be read'],
    ['Doors', 'Guide clean, closing force below 150 N'],
    ['Interlock', 'Flag, square key, 1,000 N for 60 s'],
    ['Seats', 'Screws, edges, no sharp place'],
    ['Hanger', 'Welds by penetrant, pin 44.90 mm and more'],
    ['Damper', 'No oil, both ends without play'],
    ['Roof', 'Tight, anchor points of the rescue'],
    ['Radio', 'Understood at the desk, battery 80 %'],
    ['Number', 'Both sides and hanger'],
  ],
  rows: 12,
}));

/** The limits of all grips in one sheet, with the reckoning of what a carrier needs on each span. */
export const slopeTable = form('holding force by span.xlsx', () => ({
  title: 'Holding force needed for each span',
  hint: 'Force along the rope for a loaded carrier of 1,080 kg; with a fifth more for ice. Limit of the grip: 6.8 kN.',
  columns: [
    column('Span', 12),
    column('Slope °', 10),
    column('Load kg', 10),
    column('Force kN', 12, (row) => `C${row}*9.81*SIN(RADIANS(B${row}))/1000`),
    column('With ice kN', 12, (row) => `D${row}*1.2`),
    column('Margin to 6.8 kN', 16, (row) => `6.8-E${row}`),
  ],
  filled: [
    ['1 to 2', 12, 1080, 2.2, 2.64, 4.16],
    ['2 to 3', 14, 1080, 2.56, 3.08, 3.72],
    ['3 to 4', 19, 1080, 3.45, 4.14, 2.66],
    ['4 to 5', 9, 1080, 1.66, 1.99, 4.81],
    ['5 to 6', 18, 1080, 3.27, 3.93, 2.87],
    ['6 to 7', 21, 1080, 3.8, 4.56, 2.24],
    ['7 to 8', 27, 1080, 4.81, 5.77, 1.03],
    ['8 to 9', 29, 1080, 5.14, 6.16, 0.64],
    ['9 to 10', 27, 1080, 4.81, 5.77, 1.03],
    ['10 to 11', 24, 1080, 4.31, 5.17, 1.63],
    ['11 to 12', 17, 1080, 3.1, 3.72, 3.08],
  ],
  rows: 11,
}));
