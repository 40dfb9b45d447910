// Nothing invisible is in any answer: not as a passage, a count, a row on a Desk, a file by its id or a name in a mail.

import { Readable } from 'node:stream';
import { ENDPOINTS } from '@kanonos/contract';
import { beforeAll, describe, expect, test } from 'vitest';
import { extractText } from '../../features/content/text.ts';
import { takeUpload } from '../../features/content/uploads.ts';
import { desk } from '../../features/desk/service.ts';
import { find, registerPage } from '../../features/find/service.ts';
import { runDueWork } from '../../features/release/runDueWork.ts';
import { addAbsence } from '../../features/session/absences.ts';
import { rows } from '../../platform/db/connect.ts';
import { codeOf, cookieOf, PASSWORD } from '../organisation.ts';
import { withOrganisation } from '../withOrganisation.ts';

const organisation = withOrganisation();
let base: string;
const cookies: Record<string, string> = {};
beforeAll(async () => {
  base = await organisation.listen();
  const { id } = await organisation.addPerson('outsider', { name: 'Outsider', outside: true });
  organisation.ids.outsider = id;
  await rows(
    organisation.app.db,
    `update people set state = 'active', password_hash = (select password_hash from people where sign_in_name = 'reader') where id = :id`,
    { id },
  );
  for (const name of ['outsider', 'reader', 'stranger', 'reader2', 'controller', 'reviewer', 'author'])
    cookies[name] = await cookieOf(base, name);
}, 300_000);

const get = async (as: string, path: string) => {
  const answer = await fetch(base + path, { headers: { cookie: cookies[as] ?? '' } });
  return { status: answer.status, text: await answer.text(), type: answer.headers.get('content-type') ?? '' };
};
const grant = (documentId: string, name: string, rights: string[], withheld = false) =>
  rows(
    organisation.app.db,
    `insert into grants (id, document_id, subject_kind, subject_id, rights, withheld) values (gen_random_uuid(), :documentId, 'person', :person, :rights::text[], :withheld)`,
    { documentId, person: organisation.ids[name], rights, withheld },
  ).then(() => rows(organisation.app.db, 'update access_version set n = n + 1'));
const takeTexts = async () => {
  for (const { sha256 } of await rows<{ sha256: string }>(
    organisation.app.db,
    `select sha256 from contents where text_state = 'waiting'`,
  ))
    await extractText(organisation.app, sha256);
};
const list = { revisionScope: 'newest', reach: 'everywhere', sort: 'number', order: 'asc', limit: 50 } as const;

describe('4: content that one may see of and not read', () => {
  test('is in no passage, moves no hit and counts as none, in lists, counts and negations', async () => {
    const { id, number } = await organisation.register('author', {
      title: 'Grip overhaul',
      text: '# Grip\n\nThe wombat torque is 12 Nm.',
    });
    await organisation.toInForce(number);
    await takeTexts();
    await rows(organisation.app.db, 'update documents set folder_id = :folder where id = :id', {
      id,
      folder: organisation.folders.get('closed'),
    });
    await grant(id, 'reader', ['see']);
    await grant(id, 'reader2', ['read']);
    const hits = async (name: string, q: string) =>
      (await find(organisation.app, await organisation.as(name), q, 10)).hits;
    expect((await hits('reader2', 'wombat'))[0]).toMatchObject({ number, passage: expect.stringContaining('wombat') });
    expect(await hits('reader', 'wombat')).toEqual([]);
    expect((await hits('reader', 'overhaul'))[0]).toMatchObject({ number, passage: '' });
    const listed = async (name: string, q: string) =>
      (await registerPage(organisation.app, await organisation.as(name), { ...list, q })).rows.map((row) => row.number);
    expect(await listed('reader2', 'wombat')).toEqual([number]);
    expect(await listed('reader', 'wombat')).toEqual([]);
    // Unreadable text cannot be found by its absence either.
    expect(await listed('reader', 'overhaul not wombat')).toEqual([number]);
    expect(await listed('reader2', 'overhaul not wombat')).toEqual([]);
  });
});

describe('13: rights before the cap', () => {
  // Five thousand documents take a while to make on a machine that is busy with something else.
  test('who may see one of 5,000 hits finds it', async () => {
    const { id, number } = await organisation.register('author', { title: 'Rare quokka' });
    await organisation.toInForce(number);
    await rows(
      organisation.app.db,
      `insert into documents (id, number, type_id, folder_id, owner_id, registered_at, registered_by, changed_at, newest_state, newest_label, newest_title, public_state, public_label, public_title)
       select gen_random_uuid(), 'TST-MASS-' || n, d.type_id, :folder, d.owner_id, d.registered_at, d.registered_by, d.changed_at, 'in force', '1', 'Rare quokka ' || n, 'in force', '1', 'Rare quokka ' || n
       from documents d, generate_series(1, 5000) n where d.id = :id`,
      { id, folder: organisation.folders.get('closed') },
    );
    await rows(
      organisation.app.db,
      `insert into revisions (id, document_id, ordinal, label, change_kind, title, state, created_at, created_by, search)
       select gen_random_uuid(), id, 1, '1', 'first issue', newest_title, 'in force', registered_at, registered_by, to_tsvector('english', newest_title) from documents where number like 'TST-MASS-%'`,
    );
    await rows(
      organisation.app.db,
      `update documents d set newest_revision_id = r.id, public_revision_id = r.id from revisions r where r.document_id = d.id and d.number like 'TST-MASS-%'`,
    );
    const { hits } = await find(organisation.app, await organisation.as('reader'), 'quokka', 20);
    expect(hits.map((hit) => hit.number)).toEqual([number]);
    expect(
      (await registerPage(organisation.app, await organisation.as('reader'), { ...list, q: 'quokka' })).rows.map(
        (row) => row.number,
      ),
    ).toEqual([number]);
    // Filters come before the cap, too: the one of another type is found among thousands of hits.
    expect(
      (
        await find(organisation.app, await organisation.as('controller'), 'quokka title:"Rare quokka 4321"', 20)
      ).hits.map((hit) => hit.number),
    ).toEqual(['TST-MASS-4321']);
    await rows(organisation.app.db, `update documents set removed_at = now() where number like 'TST-MASS-%'`);
  }, 900_000);
});

describe('5: releases and check-outs on the Desk', () => {
  test('leave out what is withheld from a controller, without revealing it', async () => {
    const { id, number } = await organisation.register('author');
    await organisation.submitAndReview(number);
    await organisation.decideAs('owner', number);
    await organisation.decideAs('authority', number);
    const { number: out, id: outId } = await organisation.register('author');
    await organisation.checkOut('author', out);
    const before = await desk(organisation.app, await organisation.as('controller'));
    expect(before.rows.some((row) => row.kind === 'release' && row.number === number)).toBe(true);
    expect(before.checkedOut.some((row) => row.number === out)).toBe(true);
    await organisation.release('controller', number, { on: '2026-11-26' });
    for (const hidden of [id, outId]) await grant(hidden, 'controller', [], true);
    await rows(organisation.app.db, `update revisions set title = 'Changed' where document_id = :id`, { id });
    organisation.clock.now = new Date('2026-11-26T08:00:00Z');
    await runDueWork(organisation.app);
    const after = await desk(organisation.app, await organisation.as('controller'));
    organisation.clock.now = new Date('2026-11-25T09:00:00Z');
    expect(JSON.stringify(after)).not.toContain(number);
    expect(JSON.stringify(after)).not.toContain(out);
    expect(
      await rows(organisation.app.db, `select 1 from mails where subject like 'Held%' and person_id = :id`, {
        id: organisation.ids.controller,
      }),
    ).toEqual([]);
  });
});

describe('32: one predicate for every answer', () => {
  /** Everything that a person can ask for without naming anything, and at the addresses of one document. */
  const everyAnswer = async (as: string, of: { id: string; number: string; ids: string[] }) => {
    const answers: { id: string; text: string }[] = [];
    for (const endpoint of ENDPOINTS.filter((one) => one.method === 'GET')) {
      const targets = endpoint.path.includes(':document')
        ? [of.number, of.id]
        : endpoint.path.includes(':')
          ? of.ids
          : [''];
      for (const target of targets) {
        const path = endpoint.path.replace(/:\w+/g, target).replace(/\/$/, '');
        const query =
          endpoint.id === 'find'
            ? '?q=zebra'
            : endpoint.id === 'register'
              ? '?q=zebra'
              : endpoint.id === 'keywords'
                ? '?find=zeb'
                : endpoint.id === 'preview'
                  ? ''
                  : '';
        const { text, type, status } = await get(as, path + query);
        if (status === 200 || type.includes('problem')) answers.push({ id: `${endpoint.id} ${status}`, text });
      }
    }
    return answers;
  };

  test('neither number nor title nor id of a document is in any answer to somebody from whom it is withheld', async () => {
    const { id, number } = await organisation.register('author', { title: 'Hidden zebra', text: '# Zebra' });
    await takeTexts();
    await organisation.submit('author', number);
    await organisation.requireReading(number, ['reviewer']);
    const ids = (
      await rows<{ id: string }>(
        organisation.app.db,
        `select f.id from version_files f join versions v on v.id = f.version_id join revisions r on r.id = v.revision_id where r.document_id = :id
         union select v.id from versions v join revisions r on r.id = v.revision_id where r.document_id = :id
         union select a.id from assignments a join steps s on s.id = a.step_id join rounds u on u.id = s.round_id where u.document_id = :id
         union select id from reading_assignments where document_id = :id union select id from revisions where document_id = :id`,
        { id },
      )
    ).map((row) => row.id);
    const answers = await everyAnswer('reviewer', { id, number, ids });
    expect(answers.filter((answer) => / 200$/.test(answer.id) && answer.text.includes(number)).length).toBeGreaterThan(
      3,
    );
    await grant(id, 'reviewer', [], true);
    const leaks = (await everyAnswer('reviewer', { id, number, ids })).filter(
      ({ text }) =>
        text.replaceAll(/"instance":"[^"]*"/g, '').includes(number) ||
        text.includes('Hidden zebra') ||
        text.replaceAll(/"instance":"[^"]*"/g, '').includes(id),
    );
    expect(leaks.map((leak) => leak.id)).toEqual([]);
  });

  test('an outside party learns nothing of types, units, templates, folders and people of the organisation', async () => {
    const { id, number } = await organisation.register('author', { title: 'Inside zebra' });
    await organisation.toInForce(number);
    const names = [
      'Procedure',
      'Two at once',
      'Technical authority',
      'Engineering',
      'Area one',
      'Inside zebra',
      number,
      'Document controller',
    ];
    expect((await get('outsider', '/api/session')).status).toBe(200);
    const leaks = (await everyAnswer('outsider', { id, number, ids: [id] })).flatMap(({ id: endpoint, text }) =>
      names
        .filter((name) => text.replaceAll(/"instance":"[^"]*"/g, '').includes(name))
        .map((name) => `${endpoint}: ${name}`),
    );
    // The description of the interface is public, and names no data.
    expect(leaks.filter((leak) => !leak.startsWith('configurationPackageSchema'))).toEqual([]);
  });

  test('an older version of a released revision is no file for a reader, by whatever id', async () => {
    const { number } = await organisation.register('author', { text: '# First draft with secrets' });
    const first = (await organisation.page('author', number)).versions[0]?.files[0]?.id;
    await organisation.checkOut('author', number);
    const upload = await takeUpload(
      organisation.app,
      await organisation.as('author'),
      'b.md',
      Readable.from([Buffer.from('# Second')]),
    );
    await organisation.checkIn('author', number, { uploadId: upload.id, note: 'x' });
    await organisation.toInForce(number);
    const last = (await organisation.page('reader', number)).versions[0]?.files[0]?.id;
    expect((await get('reader', `/api/files/${last}`)).status).toBe(200);
    for (const way of ['', '?as=download', '/reading-text', '/small.png'])
      expect([way, (await get('reader', `/api/files/${first}${way}`)).status]).toEqual([way, 404]);
    expect((await get('author', `/api/files/${first}`)).status).toBe(200);
  });

  test('the filing plan counts what one may see', async () => {
    const folder = organisation.folders.get('1/a') ?? '';
    const { id } = await organisation.register('author', { folder: '1/a' });
    const counted = async (name: string) =>
      (
        JSON.parse((await get(name, '/api/filing')).text) as { folders: { id: string; documents: number }[] }
      ).folders.find((one) => one.id === folder)?.documents;
    expect(await counted('author')).toBe(1);
    expect(await counted('reader')).toBe(0);
    await rows(organisation.app.db, 'update documents set removed_at = now() where id = :id', { id });
  });

  test('an outside party is no deputy', async () => {
    expect(
      await codeOf(
        addAbsence(organisation.app, await organisation.as('owner'), {
          from: '2026-11-25',
          to: '2026-12-01',
          deputyId: organisation.ids.outsider ?? null,
        }),
      ),
    ).toBe('deputy_outside');
    // One that was named before the rule counts for nothing.
    await rows(
      organisation.app.db,
      `insert into absences (id, person_id, from_day, to_day, deputy_id) values (gen_random_uuid(), :owner, '2026-11-20', '2026-12-01', :outsider)`,
      { owner: organisation.ids.owner, outsider: organisation.ids.outsider },
    );
    const { number } = await organisation.register('author');
    await organisation.submitAndReview(number);
    const id = (await organisation.page('controller', number)).rounds[0]?.steps[1]?.assignments[0]?.id ?? '';
    expect((await get('outsider', `/api/tasks/${id}`)).status).toBe(404);
    expect(JSON.parse((await get('outsider', '/api/desk')).text)).toMatchObject({ rows: [] });
  });
});

describe('33: what may be read and not downloaded', () => {
  test('is shown marked with the reader’s name, and its filed bytes leave by no way', async () => {
    const { PDFDocument } = await import('@cantoo/pdf-lib');
    const pdf = await PDFDocument.create();
    pdf.addPage([300, 300]);
    const bytes = Buffer.from(await pdf.save());
    const viewer = await organisation.as('author');
    const upload = await takeUpload(organisation.app, viewer, 'a.pdf', Readable.from([bytes]));
    const { registerDocument } = await import('../../features/registration/service.ts');
    const { id, number } = await registerDocument(
      organisation.app,
      viewer,
      {
        typeId: organisation.types.get('PRO') ?? '',
        folderId: organisation.folders.get('1') ?? '',
        title: 'Restricted',
        metadata: {},
        uploadId: upload.id,
        ownerId: organisation.ids.owner ?? null,
      },
      null,
    );
    await organisation.toInForce(number);
    await rows(organisation.app.db, `update documents set confidentiality = 'restricted' where id = :id`, { id });
    await rows(organisation.app.db, `update organisation set confidentiality = '{"restricted":["download"]}'`);
    await rows(organisation.app.db, 'update access_version set n = n + 1');
    const file = (await organisation.page('reader', number)).versions[0]?.files[0]?.id;
    expect((await get('reader', `/api/files/${file}?as=download`)).status).toBe(403);
    expect((await get('reader', `/api/files/${file}?as=exact`)).status).toBe(403);
    const answer = await fetch(`${base}/api/files/${file}?as=open`, { headers: { cookie: cookies.reader ?? '' } });
    expect(answer.status).toBe(200);
    const shown = Buffer.from(await answer.arrayBuffer());
    expect(shown.equals(bytes)).toBe(false);
    const { execFileSync } = await import('node:child_process');
    expect(execFileSync('pdftotext', ['-', '-'], { input: shown, encoding: 'utf8' }).replaceAll(/\s+/g, ' ')).toContain(
      'Reader',
    );
    expect(PASSWORD).toBeTruthy();
  });
});
