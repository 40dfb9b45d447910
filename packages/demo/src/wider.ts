import { mkdirSync, readFileSync, utimesSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { Readable } from 'node:stream';
import { type App, registerDocument, takeUpload, takeWritten, templates, type Viewer } from '@kanonos/server';
import { partSheet } from './figures/sheet.ts';
import { slopeTable } from './forms.ts';
import { makeMail } from './mail.ts';
import { FILES } from './places.ts';
import { TEMPLATES } from './templates.ts';
import { markdownAs } from './text/fileOf.ts';

/** Drawn and recorded by `film/record.mjs`. */
const FILM = join(FILES, 'use of the descender.mp4');

type Context = {
  app: App;
  as: (name: string) => Promise<Viewer>;
  folders: ReadonlyMap<string, string>;
  types: ReadonlyMap<string, string>;
};

/** What lies in the intake folder when the demo is first looked at: a scan, a delivery, a form filled anew, a mail. */
export const layIncomingFiles = async (dir: string, day: string): Promise<void> => {
  const put = (path: string, bytes: Buffer) => {
    const at = join(dir, path);
    mkdirSync(dirname(at), { recursive: true });
    writeFileSync(at, bytes);
    const earlier = new Date(Date.now() - 60_000);
    utimesSync(at, earlier, earlier);
  };
  put(
    'scan_0032.pdf',
    await markdownAs(
      'pdf',
      [
        '# Report: visual check of the track ropes between towers 6 and 9',
        '## Result',
        `Tested on: ${day}`,
        'Result: passed with limits',
        'Two broken wires on track rope 2, 14 m below tower 8.',
        '| Span | Rope 1 | Rope 2 |\n|---|---|---|\n| 6 to 7 | good | good |\n| 7 to 8 | good | two broken wires |\n| 8 to 9 | good | good |',
        '![Figure 1: The place on track rope 2](photo:rope-surface)',
      ].join('\n\n'),
    ),
  );
  put(
    'Agreements and suppliers/Supplier document/BC-4471 Grip jaw material certificate.pdf',
    await markdownAs(
      'pdf',
      [
        '# Material certificate 3.1',
        '## Delivery',
        'Maker: Brennhof Castings',
        'Twelve grip jaws, melt 88217.',
        '| Sample | Tensile strength | Elongation |\n|---|---|---|\n| 1 | 826 N/mm² | 2.8 % |\n| 2 | 819 N/mm² | 2.9 % |',
      ].join('\n\n'),
    ),
  );
  put(
    'THR-FRM-0019_3_Wind stop and restart record.docx',
    await markdownAs(
      'docx',
      [
        '# Wind stop and restart record',
        '## Record',
        'Gust, mean wind and the name of whoever restarts, on one line.',
        '| Date | Tower | Gust km/h | Mean km/h | Stopped at | Restarted at | Allowed by |\n|---|---|---|---|---|---|---|\n|  |  |  |  |  |  |  |\n|  |  |  |  |  |  |  |',
      ].join('\n\n'),
    ),
  );
  put(
    'Mail record/Answer of the authority.eml',
    makeMail(
      'ropeways@authority.example',
      'Tower 9: your notice of 2 October',
      'We have taken note of the change to the sheave assembly and ask for the drawing in force.',
    ),
  );
};

/** Templates of the organisation, and a procedure that was begun from one. */
export const seedTemplates = async ({ app, as, folders, types }: Context): Promise<void> => {
  const dagny = await as('dagny.holm');
  const ids = new Map<string, string>();
  for (const { type, name, language, file, bytes } of TEMPLATES) {
    const { id } = await templates.saveTemplate(app, dagny, {
      id: null,
      typeId: types.get(type) ?? '',
      name,
      language,
      uploadId: (await takeUpload(app, dagny, file, Readable.from([bytes]))).id,
      retired: false,
      rowVersion: 0,
      reason: 'Head and foot as the organisation wants them',
    });
    ids.set(file, id);
  }
  await registerDocument(
    app,
    await as('joren.adeyemi'),
    {
      typeId: types.get('PRO') ?? '',
      folderId: folders.get('3/grips') ?? '',
      title: 'Change of the grip springs',
      uploadId: null,
      templateId: ids.get('procedure.docx') ?? '',
      metadata: { equipment: 'GR-44' },
      parent: 'THR-PRO-0118',
    },
    null,
  );
};

/** Documents that are more than one file of one language: sheets, an address, a paper, a child, a restricted one. */
export const registerWider = async ({ app, as, folders, types }: Context): Promise<void> => {
  const send = async (viewer: Viewer, name: string, bytes: Buffer) =>
    (await takeUpload(app, viewer, name, Readable.from([bytes]))).id;
  const joren = await as('joren.adeyemi');
  const ines = await as('ines.varga');
  const sheet = (n: number, of: string) =>
    partSheet(
      {
        title: `Cabin floor frame, ${of}`,
        scale: '1:10',
        sheet: `A3, ${n} of 3`,
        notes: [`Sheet ${n}`, 'EN AW-6060 T66', 'Welds a3 where not named'],
      },
      n * 4,
    );
  const base = (type: string, folder: string) => ({
    typeId: types.get(type) ?? '',
    folderId: folders.get(folder) ?? '',
  });
  await registerDocument(
    app,
    joren,
    {
      ...base('DWG', '3/cabins'),
      title: 'Cabin floor frame',
      titles: { de: 'Bodenrahmen der Kabine' },
      metadata: { scale: '1:10', sheet: 'A2' },
      uploadId: await send(joren, 'floor-1.svg', sheet(1, 'general arrangement')),
      about: { description: 'General arrangement', sheet: 1 },
      more: [
        { uploadId: await send(joren, 'floor-2.svg', sheet(2, 'welding')), description: 'Welding', sheet: 2 },
        { uploadId: await send(joren, 'floor-3.svg', sheet(3, 'drilling')), description: 'Drilling', sheet: 3 },
      ],
      keywords: ['cabin'],
    },
    null,
  );
  const film = await takeWritten(app, joren, {
    kind: 'web address',
    address: 'https://films.tarnholt.example/rescue-drill-2026',
  });
  await registerDocument(
    app,
    joren,
    {
      ...base('WIN', '4/rescue'),
      title: 'Rescue drill between towers 6 and 11, film',
      metadata: {},
      uploadId: film.id,
      parent: 'THR-PRO-0121',
      sites: ['MH', 'SP'],
      reviewEvery: 12,
    },
    null,
  );
  await registerDocument(
    app,
    joren,
    {
      ...base('WIN', '4/rescue'),
      title: 'Use of the descender, film of 20 seconds',
      metadata: {},
      uploadId: await send(joren, 'use of the descender.mp4', readFileSync(FILM)),
      parent: 'THR-PRO-0121',
    },
    null,
  );
  const slopes = await slopeTable(1);
  await registerDocument(
    app,
    joren,
    {
      ...base('RPT', '3/grips'),
      title: 'Holding force of the grips by span',
      metadata: { equipment: 'Grips', result: 'pass' },
      uploadId: await send(joren, slopes.name, slopes.bytes),
      keywords: ['grip', 'slip force'],
    },
    null,
  );
  const paper = await takeWritten(app, ines, {
    kind: 'paper',
    place: 'Archive room 2, cabinet 4, binder 12',
    pages: 46,
  });
  await registerDocument(
    app,
    ines,
    {
      ...base('AGR', '6/contracts'),
      title: 'Founding agreement with the valley community',
      metadata: { party: 'Tarn Valley community' },
      uploadId: paper.id,
      confidentiality: 'restricted',
      location: 'Archive room 2',
    },
    null,
  );
};
