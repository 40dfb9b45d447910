import { Readable } from 'node:stream';
import { addDays } from '@kanonos/core';
import {
  type App,
  absences,
  authoring,
  blueprints,
  comments,
  confirmTakenOver,
  endDay,
  firstRow,
  hashPassword,
  imports,
  numbers,
  page,
  people,
  purgeMails,
  reading,
  recordUsage,
  registerDocument,
  release,
  rounds,
  rows,
  runDueWork,
  runImport,
  seedOrganisation,
  takeIncomingFiles,
  takeText,
  takeUpload,
  unverifiedDocuments,
  type Viewer,
  viewerOf,
} from '@kanonos/server';
import { planAdHocRounds } from './adHocRounds.ts';
import { BLUEPRINTS } from './blueprints.ts';
import { planChangeNotes } from './changeNotes.ts';
import { type Clock, type Context, DEMO_PASSWORD, decideNext, idOf, upload } from './context.ts';
import { type DemoDocument, type DemoRevision, DOCUMENTS } from './documents.ts';
import { INSTRUCTION_DOCUMENTS } from './instructions.ts';
import { legacyImport, zipOf } from './legacyImport.ts';
import { madeAhead } from './madeAhead.ts';
import { layLinks, markTheDrawing } from './marks.ts';
import { olderRegister } from './olderRegister.ts';
import { planOrders } from './orders.ts';
import { tarnholt } from './organisation.ts';
import { PEOPLE } from './people.ts';
import { quickPassword } from './quickPassword.ts';
import { planRecordForms } from './recordForms.ts';
import { planReviews } from './reviews.ts';
import { layIncomingFiles, registerWider, seedTemplates } from './wider.ts';

const HISTORY_DAYS = 1400;

type Step = { at: number; run: () => Promise<void> };

/**
 * Loads the scenario through the application's own services, as the people named, at the given dates relative to today.
 * All steps are sorted by time first, because the trail's time never goes backwards. The same day gives the same demo.
 */
export const loadDemo = async (app: App, clock: Clock, today: Date): Promise<{ documents: number; people: number }> => {
  const day = today.toISOString().slice(0, 10);
  /** An instant some days ago, at a minute of the working day. */
  const at = (daysAgo: number, minute = 0) =>
    Date.parse(`${addDays(day, -Math.ceil(daysAgo))}T06:30:00Z`) + minute * 60_000;
  clock.now = new Date(at(HISTORY_DAYS));
  const laid = await seedOrganisation(app, tarnholt(today.getUTCFullYear(), DEMO_PASSWORD));
  const ids = await enterPeople(app, clock, laid.units, at, day);
  const steps: Step[] = [];
  const add = (when: number, run: () => Promise<void>) => steps.push({ at: when, run });
  const as = (name: string): Promise<Viewer> => viewerOf(app.db, idOf(ids, name), clock.now.toISOString().slice(0, 10));
  const all = [...DOCUMENTS, ...INSTRUCTION_DOCUMENTS];
  const context: Context = {
    app,
    fileOf: madeAhead(all),
    clock,
    add,
    as,
    at,
    ids,
    units: laid.units,
    folders: laid.folders,
    types: laid.types,
    day,
  };
  for (const [i, document] of all.entries()) layOut(context, document, i);
  add(at(1, 20), async () => {
    await absences.addAbsence(app, await as('mara.quill'), {
      from: addDays(day, -1),
      to: addDays(day, 6),
      deputyId: idOf(ids, 'uwe.marten'),
    });
    // Fell ill: nobody acts for her, and what waits for her is stuck.
    await absences.addAbsence(
      app,
      await as('dagny.holm'),
      { from: addDays(day, -2), to: addDays(day, 10), deputyId: null },
      idOf(ids, 'vera.solis'),
    );
  });
  reserveNumbers(context);
  takeOverOlderRegister(context);
  importLegacyDocuments(context);
  drawBlueprints(context);
  planChangeNotes(context);
  planAdHocRounds(context);
  planOrders(context);
  planReviews(context);
  planRecordForms(context);
  let n = 0;
  while (steps.length) {
    steps.sort((a, b) => a.at - b.at);
    const step = steps.shift();
    if (!step || step.at > today.getTime()) continue;
    clock.now = new Date(step.at);
    await step.run();
    n++;
  }
  clock.now = today;
  await runDueWork(app);
  await seedTemplates(context);
  await registerWider(context);
  await markTheDrawing(context);
  await layLinks(context);
  await layIncomingFiles(app.config.intakeDir, addDays(day, -2));
  await takeIncomingFiles(app);
  for (const { sha256 } of await rows<{ sha256: string }>(
    app.db,
    `select sha256 from contents where text_state = 'waiting'`,
  ))
    await takeText(app, sha256);
  await purgeMails(app, new Date(today.getTime() - 4 * 86_400_000));
  await rows(
    app.db,
    `update mails set state = 'sent', sent_at = created_at where state = 'waiting' and created_at < :now`,
    { now: new Date(today.getTime() - 3_600_000) },
  );
  await rows(app.db, 'update people set password_hash = :hash where password_hash is not null', {
    hash: await hashPassword(DEMO_PASSWORD),
  });
  await endDay(app);
  const documents = await firstRow<{ n: number }>(app.db, 'select count(*)::int as n from documents');
  return { documents: documents?.n ?? n, people: ids.size };
};

/** A block that is reserved for specifications to come, and a reservation of forms that ended: two void numbers. */
const reserveNumbers = ({ app, add, as, at, ids, folders, types, day }: Context) => {
  const reserve = async (type: string, folder: string, count: number, reason: string) =>
    numbers.reserve(app, await as('dagny.holm'), {
      typeId: types.get(type) ?? '',
      folderId: folders.get(folder) ?? '',
      metadata: {},
      count,
      forPersonId: idOf(ids, 'joren.adeyemi'),
      reason,
      until: addDays(day, 30),
    });
  add(at(3, 25), async () => {
    await reserve('SPC', '3/cabins', 4, 'Specifications of the new cabin doors, named in the order');
  });
  add(at(3, 35), async () => {
    const { id } = await reserve('FRM', '4/daily', 2, 'Records for the summer timetable');
    await numbers.endReservation(app, await as('dagny.holm'), id, 'The summer timetable keeps its old records');
  });
};

/** How projects of the organisation are laid out. */
const drawBlueprints = (c: Context) => {
  const { app, add, as, at, folders } = c;
  add(at(420, 50), async () => {
    for (const { name, folder, outline, lookup, files = [], projects } of BLUEPRINTS) {
      const dagny = await as('dagny.holm');
      const sent = [];
      for (const fileOf of files) {
        const file = await fileOf(1);
        sent.push({ name: file.name, uploadId: await upload(c, dagny, file) });
      }
      const { id } = await blueprints.saveBlueprint(app, dagny, {
        id: null,
        name,
        folderId: folders.get(folder) ?? '',
        outline,
        lookup,
        retired: false,
        files: sent,
        rowVersion: 0,
        reason: 'As the projects of the last years were laid out',
      });
      for (const { daysAgo, values } of projects)
        add(at(daysAgo, 70), async () => {
          await blueprints.layOut(app, await as('ines.varga'), id, [values]);
        });
    }
  });
};

/** Uploads a list with its files and sets the meaning of its columns. */
const sendList = async (
  { app }: Context,
  viewer: Viewer,
  list: { name: string; csv: string; files: Record<string, string> },
  more: { typeCode?: string; firstIsNumber?: boolean },
): Promise<string> => {
  const send = (name: string, bytes: Uint8Array | string) =>
    takeUpload(app, viewer, name, Readable.from([Buffer.from(bytes as Uint8Array)]));
  const { id } = await imports.addImport(app, viewer, (await send(`${list.name}.csv`, list.csv)).id);
  const zip = await send(`${list.name}.zip`, zipOf(list.files));
  await imports.addFiles(app, viewer, id, [{ uploadId: zip.id, path: '' }]);
  const { mapping, rowVersion } = await imports.importDetail(app, viewer, id);
  const columns = mapping.columns.map((meaning, i) => (i === 0 && more.firstIsNumber ? 'number' : meaning));
  const typeCode = more.typeCode ?? mapping.typeCode;
  await imports.setMapping(app, viewer, id, { mapping: { ...mapping, columns, typeCode }, rowVersion });
  await imports.tryImport(app, viewer, id);
  return id;
};

/** What the organisation had registered elsewhere came over in one go; the controller has looked through most of it since. */
const takeOverOlderRegister = (context: Context) => {
  const { app, add, as, at, day } = context;
  add(at(300, 15), async () => {
    const ines = await as('ines.varga');
    const { csv, files, documents } = olderRegister(day);
    const id = await sendList(context, ines, { name: 'register before Kanonos', csv, files }, {});
    await imports.startImport(app, ines, id, 'The register that was kept in a spreadsheet comes over');
    while ((await runImport(app, id)) === 'continues');
    const { counts } = await imports.importDetail(app, ines, id);
    if (counts.done !== documents)
      throw new Error(`of ${documents} documents ${counts.done} came over: ${await imports.refusedCsv(app, ines, id)}`);
  });
  add(at(290, 15), async () => {
    const ines = await as('ines.varga');
    const { documents } = await unverifiedDocuments(app, ines);
    const seen = documents.filter((_, i) => i % 14 !== 3).map((document) => document.id);
    await confirmTakenOver(app, ines, seen);
  });
};

/** A list of old reports with its files, laid out and tried: its faults are still to be mended. */
const importLegacyDocuments = (context: Context) =>
  context.add(context.at(2, 45), async () => {
    const list = { name: 'reports before 2021', ...legacyImport() };
    await sendList(context, await context.as('ines.varga'), list, { typeCode: 'RPT', firstIsNumber: true });
  });

const enterPeople = async (
  app: App,
  clock: Clock,
  units: Map<string, string>,
  at: (daysAgo: number, minute?: number) => number,
  day: string,
) => {
  const ids = new Map<string, string>();
  const hash = await quickPassword(DEMO_PASSWORD);
  const founder: Viewer = {
    id: '00000000-0000-7000-8000-000000000000',
    signInName: 'system.import',
    name: 'First start',
    email: '',
    outside: false,
    organisationRights: new Set(['people', 'administer']),
    unitIds: new Set(),
    session: undefined,
  };
  const unit = (key: string) => units.get(key) ?? '';
  for (const [i, person] of PEOPLE.entries()) {
    clock.now = new Date(at(HISTORY_DAYS, 10 + i));
    const from = addDays(day, person.joined === 'recent' ? -7 : -HISTORY_DAYS);
    const { id } = await people.addPerson(app, founder, {
      signInName: person.signInName,
      name: person.name,
      email: `${person.signInName}@${person.outside ? 'brennhof' : 'tarnholt'}.example`,
      from,
      departmentId: person.outside ? null : unit(person.department),
      supervisorId: person.supervisor ? idOf(ids, person.supervisor) : null,
      roleIds: (person.roles ?? []).map(unit),
      groupIds: (person.groups ?? []).map(unit),
      siteId: person.site ? unit(person.site) : null,
      outside: person.outside ?? false,
    });
    ids.set(person.signInName, id);
    // Everyone sets the one demo password; organisation-wide rights come from the first start, for nobody is there to give them.
    await rows(
      app.db,
      `update people set password_hash = :hash, state = 'active', organisation_rights = :rights::text[], part = :part where id = :id`,
      { hash, rights: person.organisationRights ?? [], part: person.part ?? '', id },
    );
  }
  return ids;
};

/** A figure from 0 to 99 that is always the same for the same text. */
const chance = (text: string): number => [...text].reduce((sum, c) => (sum * 31 + c.charCodeAt(0)) % 9973, 7) % 100;

/** Lays all steps of a document on the line of time. */
const layOut = (c: Context, document: DemoDocument, index: number): void => {
  const state = { ref: '' };
  const last = document.revisions.length - 1;
  const minute = (index * 7) % 240;
  for (const [i, revision] of document.revisions.entries()) {
    const finished = i < last || document.ending === 'in force' || document.ending === 'withdrawn';
    const start = finished ? revision.daysAgo + 14 : revision.daysAgo;
    c.add(c.at(start, minute), () => begin(c, document, i, state));
    if (finished) passThrough(c, document, revision, state, minute);
    else bringTo(c, document, state, start, minute);
  }
  const { hold } = document;
  if (hold)
    c.add(c.at(hold.daysAgo, minute), async () =>
      release.putOnHold(c.app, await c.as('ines.varga'), state.ref, { ...hold, seen: '*' }),
    );
  if (document.ending === 'withdrawn') {
    c.add(c.at(85, minute), async () => {
      await release.withdraw(c.app, await c.as('ines.varga'), state.ref, {
        seen: '*',
        on: null,
        reason: 'Sealed bearings were fitted; no grease is added any more',
      });
    });
  }
};

const begin = async (c: Context, document: DemoDocument, index: number, state: { ref: string }) => {
  const revision = document.revisions[index] as DemoRevision;
  const author = await c.as(document.author);
  const file = await c.fileOf(document, index + 1);
  if (index > 0) {
    await release.revise(c.app, author, state.ref, {
      seen: '*',
      changeKind: revision.change as 'minor',
      reason: revision.reason,
      summary: revision.summary,
      uploadId: null,
      label: null,
      changeNote: null,
    });
    await authoring.checkOut(c.app, author, state.ref, { seen: '*', note: '', expectedBack: null });
    c.clock.now = new Date(c.clock.now.getTime() + 3_600_000);
    await authoring.checkIn(c.app, author, state.ref, {
      seen: '*',
      uploadId: await upload(c, author, file),
      note: revision.summary,
      sameContentMeant: true,
      ...(revision.metadata ? { metadata: { ...document.metadata, ...revision.metadata } } : {}),
    });
    return;
  }
  const folderId = c.folders.get(document.folder) ?? '';
  const registered = await registerDocument(
    c.app,
    author,
    {
      typeId: c.types.get(document.type) ?? '',
      folderId,
      title: document.title,
      metadata: document.metadata ?? {},
      uploadId: await upload(c, author, file),
      summary: revision.summary,
      ownerId: idOf(c.ids, document.owner),
      number: document.number ?? null,
      label: document.label ?? null,
      keywords: document.keywords ?? [],
      note: 'First version',
    },
    null,
  );
  state.ref = registered.number;
  const byOwner: Record<string, string> = { 'otto.brandvik': 'mnt', 'petra.lindqvist': 'ops' };
  const readers =
    document.readers ?? (document.type === 'PRO' ? { units: [byOwner[document.owner] ?? 'ops'] } : undefined);
  if (!readers) return;
  await reading.setRequirement(c.app, await c.as('ines.varga'), state.ref, {
    everyone: false,
    unitIds: (readers.units ?? []).map((key) => c.units.get(key) ?? ''),
    personIds: [],
    exceptPersonIds: [],
    kind: 'read and sign',
    instructions: readers.instructions ?? '',
    workingDays: readers.days ?? 10,
    newJoinerDays: 8,
    perChange: { minor: 'carry over', editorial: 'carry over', major: 'read the changes' },
    beforeInForce: readers.before ?? false,
    reason: '',
    rowVersion: null,
  });
};

const submitForReview = async (c: Context, document: DemoDocument, ref: string) => {
  const author = await c.as(document.author);
  const chosen = (document.reviewers ?? ['mara.quill']).map((name) => idOf(c.ids, name));
  await rounds.submit(c.app, author, ref, {
    seen: '*',
    message: 'Please look at the limits and the references.',
    chosen,
  });
};

/** A whole passage up to coming into force `daysAgo`, and the readings that follow. */
const passThrough = (
  c: Context,
  document: DemoDocument,
  revision: DemoRevision,
  state: { ref: string },
  minute: number,
) => {
  const D = revision.daysAgo;
  const unrouted = ['MIN', 'MAI', 'SUP'].includes(document.type);
  if (!unrouted) {
    c.add(c.at(D + 9, minute), () => submitForReview(c, document, state.ref));
    for (let i = 0; i < (document.reviewers?.length ?? 1); i++)
      c.add(c.at(D + 7 - i * 0.1, minute + 11 + i), () => decideNext(c, state.ref, 'positive'));
    const approvals = ['POL', 'FRM', 'RPT', 'AGR', 'DWG'].includes(document.type) ? 1 : 2;
    for (let i = 0; i < approvals; i++) c.add(c.at(D + 4 - i, minute + 20), () => decideNext(c, state.ref, 'positive'));
  }
  c.add(c.at(D, minute + 30), async () => {
    const ines = await c.as('ines.varga');
    const { signing } = await release.preflightFor(c.app, ines, state.ref);
    if (signing) {
      const view = await page.documentPage(c.app, ines, state.ref, { rev: 'work' });
      for (const { id: fileId } of signing.files)
        await recordUsage(c.app, {
          personId: ines.id,
          documentId: view.id,
          revisionId: view.revision.id,
          version: view.revision.versions,
          fileId,
          action: 'opened',
        });
    }
    // Where no route has signed, the release does.
    const credentials = signing ? { name: 'ines.varga', password: DEMO_PASSWORD, digest: signing.digest } : {};
    await release.release(c.app, ines, state.ref, { seen: '*', on: null, ...credentials });
  });
  c.add(c.at(D, minute + 31), () => planReadings(c, state.ref, D, minute));
};

/** Who is asked to read signs after some days, each in their own way; a few let it lie. */
const planReadings = async (c: Context, ref: string, releasedAgo: number, minute: number) => {
  const { readers } = await reading.readers(c.app, await c.as('ines.varga'), ref);
  for (const reader of readers.filter((r) => r.state === 'open')) {
    const [name] = [...c.ids].find(([, id]) => id === reader.person.id) ?? [''];
    const figure = chance(name + ref);
    const lazy =
      (name === 'bo.lindahl' && releasedAgo < 90) ||
      (releasedAgo < 80 && figure < 22) ||
      (releasedAgo < 20 && figure < 45);
    if (lazy) continue;
    const after = 1 + (figure % 8);
    if (after >= releasedAgo) continue;
    c.add(c.at(releasedAgo - after, minute + 40 + (figure % 60)), () => signReading(c, name, reader.assignmentId));
  }
};

const signReading = async (c: Context, name: string, id: string) => {
  const viewer = await c.as(name);
  const task = await reading.readingTask(c.app, viewer, id);
  if (!task.maySign) return;
  for (const { id: fileId } of task.files)
    await recordUsage(c.app, {
      personId: viewer.id,
      documentId: task.document.id,
      revisionId: await revisionOf(c, id),
      version: task.version.n,
      fileId,
      action: 'opened',
    });
  const remark =
    chance(`remark${name}${id.length}${task.document.number}`) < 4
      ? 'Clear. The photo of the gauge would help new joiners.'
      : '';
  await reading.signReading(c.app, viewer, id, { name, password: DEMO_PASSWORD, digest: task.digest, remark });
};

const revisionOf = async (c: Context, readingId: string) =>
  (
    await firstRow<{ revision_id: string }>(
      c.app.db,
      'select revision_id from reading_assignments where id = :readingId',
      { readingId },
    )
  )?.revision_id ?? '';

/** The last revision stays where the story wants it. */
const bringTo = (c: Context, document: DemoDocument, state: { ref: string }, start: number, minute: number) => {
  const later = (days: number, run: () => Promise<void>, more = 0) =>
    c.add(c.at(Math.max(0, start - days), minute + 90 + more), run);
  switch (document.ending) {
    case 'draft':
      return;
    case 'checked out':
      c.add(c.at(21, minute), async () => {
        await authoring.checkOut(c.app, await c.as(document.author), state.ref, {
          seen: '*',
          note: 'Table 2 lacks the M30 row',
          expectedBack: addDays(c.day, -12),
        });
      });
      return;
    case 'abandoned':
      later(15, async () => {
        await release.abandon(c.app, await c.as(document.author), state.ref, {
          reason: { reason: 'Covered by the cleaning contract' }.reason,
          seen: '*',
        });
      });
      return;
    case 'rejected':
      later(3, () => submitForReview(c, document, state.ref));
      c.add(c.at(3, minute), async () => {
        const mara = await c.as('mara.quill');
        const view = await page.documentPage(c.app, mara, state.ref, { rev: 'work' });
        await comments.addComment(c.app, mara, state.ref, {
          text: 'Who closes the platform while the load hangs? Name the role.',
          blocking: true,
          quote: { quote: 'after the last passenger', before: '', after: '' },
          revisionId: view.revision.id,
        });
        await comments.addComment(c.app, mara, state.ref, {
          text: 'The mass limit of cabin 13 is 350 kg since its repair.',
          blocking: false,
          quote: { quote: 'up to 400 kg', before: '', after: '' },
          revisionId: view.revision.id,
        });
        await decideNext(
          c,
          state.ref,
          'reject',
          'The limit for cabin 13 is wrong and the closing of the platform is missing.',
        );
      });
      return;
    case 'in review':
      later(2, () => submitForReview(c, document, state.ref));
      if (document.reviewers?.includes('anselm.roth'))
        later(5, () => decideNext(c, state.ref, 'positive', 'Figure 2 could be larger.', 'anselm.roth'));
      return;
    case 'in approval':
      later(9, () => submitForReview(c, document, state.ref));
      for (let i = 0; i < (document.reviewers?.length ?? 1); i++)
        later(10, () => decideNext(c, state.ref, 'positive'), i);
      if (document.type === 'PRO') later(12, () => decideNext(c, state.ref, 'positive'));
      return;
    case 'approved':
    case 'scheduled':
      later(2, () => submitForReview(c, document, state.ref));
      for (let i = 0; i < (document.reviewers?.length ?? 1); i++)
        later(4, () => decideNext(c, state.ref, 'positive'), i);
      later(6, () => decideNext(c, state.ref, 'positive'));
      later(7, () => decideNext(c, state.ref, 'positive'));
      if (document.ending === 'scheduled') {
        later(9, async () => {
          await release.release(c.app, await c.as('ines.varga'), state.ref, {
            seen: '*',
            on: addDays(c.day, 12),
            name: null,
            password: null,
          });
          const { readers } = await reading.readers(c.app, await c.as('ines.varga'), state.ref);
          const open = readers.filter((r) => r.state === 'open');
          for (const [i, reader] of open.entries()) {
            const [name] = [...c.ids].find(([, id]) => id === reader.person.id) ?? [''];
            if (i / open.length < 0.61)
              c.add(c.at(start - 10 - (i % 6), minute + i), () => signReading(c, name, reader.assignmentId));
          }
        });
      }
      return;
    default:
      return;
  }
};
