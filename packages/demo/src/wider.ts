import { mkdirSync, utimesSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { Readable } from 'node:stream';
import { type App, registerDocument, takeUpload, takeWritten, templates, type Viewer } from '@kanonos/server';
import { makeDocx, makeDrawing, makeMail, makePdf } from './files.ts';
import { TEMPLATES } from './templates.ts';

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
    await makePdf({
      title: 'Report: visual check of the track ropes between towers 6 and 9',
      sections: [
        [
          'Result',
          `Tested on: ${day}`,
          'Result: passed with limits',
          'Two broken wires on track rope 2, 14 m below tower 8.',
        ],
      ],
    }),
  );
  put(
    'Agreements and suppliers/Supplier document/BC-4471 Grip jaw material certificate.pdf',
    await makePdf({
      title: 'Material certificate 3.1',
      sections: [['Delivery', 'Maker: Brennhof Castings', 'Twelve grip jaws, melt 88217.']],
    }),
  );
  put(
    'THR-FRM-0019_3_Wind stop and restart record.docx',
    makeDocx({
      title: 'Wind stop and restart record',
      sections: [['Record', 'Gust, mean wind and the name of whoever restarts, on one line.']],
    }),
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
  const sheet = (n: number, of: string) => makeDrawing(`Cabin floor frame, ${of}`, [`Sheet ${n}`], 3 + n);
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
      reviewMonths: 12,
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
