import type { Readable } from 'node:stream';
import { type AnswerOf, type api, type BodyOf, type ImportMapping, type QueryOf, sentenceOf } from '@kanonos/contract';
import {
  createScopedRecogniser,
  dayOf,
  foldNumber,
  guessColumns,
  guessDateOrder,
  type ImportPlan,
  judgeManifest,
  MANIFEST_MEANINGS,
  type ManifestMapping,
  type ManifestMeaning,
  type Refusal,
  toLine,
} from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { Refused, refused } from '../../platform/refused.ts';
import { readTable } from '../../platform/tables/readTable.ts';
import { unzip } from '../../platform/tables/unzip.ts';
import { rightsOnFolders, type Viewer, viewerOf } from '../access/service.ts';
import { takeUpload } from '../documents/registering.ts';
import { getUpload } from '../documents/service.ts';
import { holdRules } from '../rules/guard.ts';
import { houseRules, listFolders, listTypes } from '../rules/service.ts';
import { actorOf } from '../session/service.ts';
import * as store from './store.ts';
import { takeOver } from './takeOver.ts';

const AT_ONCE = 25;
/** A job that works longer is taken for dead; it ends in time and asks to go on. */
const WORK_MS = 60_000;
const ZIP_BYTES = 8 * 1024 * 1024 * 1024;

const fold = (text: string) => text.normalize('NFC').trim().replace(/\s+/g, ' ').toLocaleLowerCase('en');
/** Of a name with folders the last part counts too: manifests often name the file alone. */
const baseOf = (name: string) => name.split(/[\\/]/).at(-1) ?? name;

const open = async (app: App, viewer: Viewer, id: string): Promise<store.ImportRow> => {
  const row = await store.findImport(app.db, id);
  if (!row || (row.by_id !== viewer.id && !viewer.houseRights.has('administer'))) throw refused('not_found');
  return row;
};

const ensureManagesSome = async (app: App, viewer: Viewer): Promise<void> => {
  const rights = await rightsOnFolders(app.db, viewer);
  if (![...rights.values()].some((given) => given.has('manage'))) throw refused('right_missing', { right: 'manage' });
};

const fieldsOf = async (db: Db | Trx) => [
  ...new Map((await listTypes(db)).flatMap((type) => type.fields).map((field) => [field.key, field])).values(),
];

/** Lays out an import: every line of the manifest is kept as it came; columns are read as headings like these were before. */
export const addImport = async (
  app: App,
  viewer: Viewer,
  uploadId: string,
): Promise<AnswerOf<typeof api.imports.add>> => {
  await ensureManagesSome(app, viewer);
  const upload = await getUpload(app.db, viewer, uploadId);
  if (!(await app.content.has(upload.sha256))) throw refused('content_missing', { name: upload.name });
  const { headings, rows, note } = await readTable(app.content.pathOf(upload.sha256), upload.name);
  const columns = guessColumns(headings, await fieldsOf(app.db));
  const dated = columns.flatMap((meaning, i) =>
    meaning === 'from' || meaning === 'to' || meaning === 'registered' ? [i] : [],
  );
  const mapping: ImportMapping = (await store.findMapping(app.db, headings)) ?? {
    columns,
    dateOrder: guessDateOrder(rows.slice(0, 2000).flatMap((row) => dated.map((i) => row[i] ?? ''))),
    typeCode: null,
    folder: null,
    owner: viewer.name,
    state: 'in force',
  };
  const id = newId();
  await app.act(actorOf(viewer), async (work) => {
    await store.insertImport(work.trx, { id, name: upload.name, by: viewer.id, now: work.now, headings, mapping });
    for (let at = 0; at < rows.length; at += 2000)
      await store.insertLines(
        work.trx,
        id,
        rows.slice(at, at + 2000).map((cells, i) => ({ line: at + i + 2, cells: cells.map(clean) })),
      );
    work.record({
      kind: 'import.laid-out',
      subject: {},
      payload: { import: id, file: { name: upload.name, sha256: upload.sha256 }, lines: rows.length },
    });
  });
  return { id, note };
};

/** NUL and other controls can neither be stored nor shown. */
const clean = (cell: string) =>
  [...cell]
    .filter((c) => c >= ' ' || c === '\n' || c === '\t')
    .join('')
    .slice(0, 4000);

const summaryOf = (row: store.ImportRow, counts: Awaited<ReturnType<typeof store.countLines>>) => ({
  id: row.id,
  name: row.name,
  by: { id: row.by_id, name: row.by_name },
  at: row.at.toISOString(),
  state: row.state,
  counts: counts.get(row.id) ?? { lines: 0, ready: 0, warned: 0, refused: 0, done: 0 },
});

export const listImports = async (
  app: App,
  viewer: Viewer,
): Promise<Omit<AnswerOf<typeof api.imports.list>, 'unchecked'>> => {
  const rows = await store.listImports(app.db, viewer.houseRights.has('administer') ? null : viewer.id);
  const counts = await store.countLines(
    app.db,
    rows.map((row) => row.id),
  );
  return { imports: rows.map((row) => summaryOf(row, counts)) };
};

export const importDetail = async (
  app: App,
  viewer: Viewer,
  id: string,
): Promise<AnswerOf<typeof api.imports.detail>> => {
  const row = await open(app, viewer, id);
  const counts = await store.countLines(app.db, [id]);
  const lines = await store.listLines(app.db, { importId: id, where: 'true', after: 0, limit: 4 });
  const fields = await fieldsOf(app.db);
  return {
    ...summaryOf(row, counts),
    headings: row.headings,
    mapping: row.mapping,
    sample: lines.map((line) => line.cells),
    files: (await store.listFiles(app.db, id)).length,
    begins: row.begins,
    meanings: [
      ...MANIFEST_MEANINGS.map((value) => ({ value, text: MEANING_WORDS[value] })),
      ...fields.map((field) => ({ value: `fact:${field.key}`, text: field.label })),
    ],
    reasons: (await store.countReasons(app.db, id)).map(({ code, params, lines: n }) => ({
      code,
      example: sentenceOf(code, params ?? {}),
      lines: n,
    })),
    rowVersion: row.row_version,
  };
};

const MEANING_WORDS: Record<(typeof MANIFEST_MEANINGS)[number], string> = {
  number: 'Number',
  title: 'Title',
  type: 'Type',
  folder: 'Folder',
  owner: 'Owner',
  label: 'Revision',
  state: 'State',
  from: 'In force from',
  to: 'Until',
  registered: 'Registered on',
  file: 'File',
  keywords: 'Keywords',
  signers: 'Signers, as told',
  summary: 'Summary',
};

const WHERE: Record<QueryOf<typeof api.imports.lines>['state'], string> = {
  all: 'true',
  ready: `l.state = 'ready'`,
  warned: `l.state = 'ready' and l.warnings <> '[]'`,
  refused: `l.state = 'refused'`,
  done: `l.state = 'done'`,
};

export const importLines = async (
  app: App,
  viewer: Viewer,
  id: string,
  { state, after, limit }: QueryOf<typeof api.imports.lines>,
): Promise<AnswerOf<typeof api.imports.lines>> => {
  await open(app, viewer, id);
  const lines = await store.listLines(app.db, { importId: id, where: WHERE[state], after, limit });
  const words = (refusals: Refusal[]) => refusals.map((one) => sentenceOf(one.code, one.params));
  return {
    lines: lines.map((line) => ({ ...line, reasons: words(line.reasons), warnings: words(line.warnings) })),
    next: lines.length === limit ? (lines.at(-1)?.line ?? null) : null,
  };
};

const ensureState = (row: store.ImportRow, ...states: store.ImportRow['state'][]): void => {
  if (!states.includes(row.state)) throw refused('import_state', { state: row.state });
};

/** Adds files that were sent; a zip is unpacked on the way, and what of it is not taken is named with the reason. */
export const addFiles = async (
  app: App,
  viewer: Viewer,
  id: string,
  uploadIds: readonly string[],
): Promise<AnswerOf<typeof api.imports.files>> => {
  ensureState(await open(app, viewer, id), 'laid out', 'tried', 'stopped');
  const skipped: { name: string; why: string }[] = [];
  const keep = (name: string, file: { sha256: string; size: number }) =>
    app.act(actorOf(viewer), async (work) => {
      for (const folded of new Set([fold(name), fold(baseOf(name))]))
        await store.insertFile(work.trx, {
          importId: id,
          folded,
          name: baseOf(name),
          sha256: file.sha256,
          size: file.size,
        });
    });
  for (const uploadId of uploadIds) {
    const upload = await getUpload(app.db, viewer, uploadId);
    if (!(await app.content.has(upload.sha256))) throw refused('content_missing', { name: upload.name });
    if (!/\.zip$/i.test(upload.name)) {
      await keep(upload.name, upload);
      continue;
    }
    const found = await unzip(app.content.pathOf(upload.sha256), ZIP_BYTES, async (name, stream) => {
      try {
        await keep(name, await takeUpload(app, viewer, baseOf(name), stream as Readable));
      } catch (error) {
        if (!(error instanceof Refused)) throw error;
        stream.resume();
        skipped.push({ name, why: error.refusals.map((one) => sentenceOf(one.code, one.params)).join(' ') });
      }
    });
    skipped.push(...found.skipped.map((name) => ({ name, why: 'It is encrypted.' })));
  }
  return { files: (await store.listFiles(app.db, id)).length, skipped: skipped.slice(0, 200) };
};

export const setMapping = (
  app: App,
  viewer: Viewer,
  id: string,
  { mapping, rowVersion }: BodyOf<typeof api.imports.setMapping>,
): Promise<void> =>
  app.act(actorOf(viewer), async (work) => {
    ensureState(await open(app, viewer, id), 'laid out', 'tried', 'stopped');
    const twice = mapping.columns.find((meaning, i) => meaning !== null && mapping.columns.indexOf(meaning) < i);
    if (twice) throw refused('import_column_twice', { meaning: twice });
    if ((await store.setMapping(work.trx, { id, mapping, rowVersion })) === 0) throw refused('changed_meanwhile');
  });

/** Judges all lines that are not yet taken over against the house as it is now. */
const judge = async (app: App, db: Db | Trx, row: store.ImportRow): Promise<ImportPlan> => {
  const { zone } = await app.house();
  const today = dayOf(app.clock(), zone);
  const importer = await viewerOf(db, row.by_id, today);
  const rights = await rightsOnFolders(db, importer);
  const folders = new Map(
    (await listFolders(db))
      .filter((folder) => rights.get(folder.id)?.has('manage'))
      .map((folder) => [fold(folder.path_names.join(' / ')), folder.id]),
  );
  const people = new Map<string, string>();
  for (const person of await store.listPeopleNames(db))
    for (const word of [person.name, person.sign_in_name]) people.set(fold(word), person.id);
  const files = new Map((await store.listFiles(db, row.id)).map((file) => [file.folded, file]));
  const lasts = new Map((await store.listLasts(db)).map((counter) => [counter.scope, counter.last]));
  const mapping: ManifestMapping = { ...row.mapping, columns: row.mapping.columns as (ManifestMeaning | null)[] };
  const lines = (await store.listOpenLines(db, row.id)).map((line) => toLine(line.line, line.cells, mapping));
  const known = new Map(
    (await store.listKnownNumbers(db, [...new Set(lines.map((line) => foldNumber(line.number)))])).map((one) => [
      one.folded,
      one.state,
    ]),
  );
  return judgeManifest(lines, mapping, {
    today,
    types: (await listTypes(db)).map((type) => ({
      id: type.id,
      code: type.code,
      name: type.name,
      scheme: type.scheme,
      fields: type.fields,
      byRule: type.numbering_rule !== null,
      outsidePattern: type.outside_pattern,
      takeOver: type.take_over,
      retired: type.retired,
    })),
    folderId: (path) => folders.get(fold(path.replace(/\s*[\\/>]\s*/g, ' / '))),
    personId: (name) => people.get(fold(name)),
    recognise: createScopedRecogniser(await houseRules(db)),
    lastOf: (scope) => lasts.get(scope),
    known: (folded) => known.get(folded),
    file: (name) => files.get(fold(name.replace(/\\/g, '/'))) ?? files.get(fold(baseOf(name))),
  });
};

const saveVerdicts = async (trx: Trx, id: string, { verdicts }: ImportPlan): Promise<void> => {
  for (let at = 0; at < verdicts.length; at += 2000)
    await store.saveVerdicts(
      trx,
      id,
      verdicts.slice(at, at + 2000).map(({ line, refusals, warnings }) => ({
        line,
        state: refusals.length ? 'refused' : 'ready',
        reasons: refusals,
        warnings,
      })),
    );
};

/** The dry run: a verdict for every line, nothing taken over. */
export const tryImport = (app: App, viewer: Viewer, id: string): Promise<AnswerOf<typeof api.imports.try>> =>
  app.act(actorOf(viewer), async (work) => {
    const row = await open(app, viewer, id);
    ensureState(row, 'laid out', 'tried', 'stopped');
    const plan = await judge(app, work.trx, row);
    await saveVerdicts(work.trx, id, plan);
    await store.setState(work.trx, { id, state: 'tried', begins: plan.begins });
    return (await store.countLines(work.trx, [id])).get(id) ?? { lines: 0, ready: 0, warned: 0, refused: 0, done: 0 };
  });

export const startImport = (app: App, viewer: Viewer, id: string, reason: string): Promise<void> =>
  app.act(actorOf(viewer), async (work) => {
    const row = await open(app, viewer, id);
    ensureState(row, 'tried', 'stopped');
    const counts = (await store.countLines(work.trx, [id])).get(id);
    if (!counts?.ready) throw refused('import_nothing_ready');
    await store.setState(work.trx, { id, state: 'running', reason });
    await app.jobs.enqueue(work.trx, 'import.run', { importId: id });
    work.record({
      kind: 'import.started',
      subject: {},
      payload: { import: id, file: row.name, ready: counts.ready, refused: counts.refused, reason },
    });
  });

export const stopImport = (app: App, viewer: Viewer, id: string): Promise<void> =>
  app.act(actorOf(viewer), async (work) => {
    ensureState(await open(app, viewer, id), 'running');
    await store.setState(work.trx, { id, state: 'stopped' });
  });

/**
 * Takes over what is ready, some documents in each transaction together with the mark that they are done: killed at any instant it
 * goes on where it was, and never does a line twice. Works for a while and asks to go on.
 */
export const runImport = async (app: App, id: string, workMs = WORK_MS): Promise<'done' | 'goes on' | 'stopped'> => {
  const row = await store.findImport(app.db, id);
  if (row?.state !== 'running') return 'stopped';
  const plan = await judge(app, app.db, row);
  const types = new Map((await listTypes(app.db)).map((type) => [type.id, type]));
  const actor = { id: row.by_id, signInName: 'system.import', name: row.by_name };
  // Counters begin before the first number comes in: what is free below is from before the house.
  await app.act(actor, async (work) => {
    await saveVerdicts(work.trx, id, plan);
    for (const begin of plan.begins)
      if ((await store.beginCounter(work.trx, begin)) > 0)
        work.record({
          kind: 'counter.started',
          subject: {},
          payload: { scope: begin.scope, last: begin.last, reason: row.reason ?? '' },
        });
  });
  const until = performance.now() + workMs;
  for (let at = 0; at < plan.documents.length; at += AT_ONCE) {
    if (performance.now() > until) {
      await app.act(actor, (work) => app.jobs.enqueue(work.trx, 'import.run', { importId: id }));
      return 'goes on';
    }
    const going = await app.act(actor, async (work) => {
      await store.lockImport(work.trx, id);
      if ((await store.findImport(work.trx, id))?.state !== 'running') return false;
      await holdRules(work.trx);
      const batch = plan.documents.slice(at, at + AT_ONCE);
      const ready = await store.readyLines(
        work.trx,
        id,
        batch.flatMap((one) => one.revisions.map((revision) => revision.line)),
      );
      const fresh = batch.filter((one) => one.revisions.every((revision) => ready.has(revision.line)));
      if (fresh.length === 0) return true;
      const ids = await takeOver(work, fresh, types, { id: row.by_id, name: row.by_name, importId: id });
      await store.markDone(
        work.trx,
        id,
        fresh.flatMap((one) => one.revisions.map(({ line }) => ({ line, document: ids.get(one.folded) ?? '' }))),
      );
      return true;
    });
    if (!going) return 'stopped';
  }
  await app.act(actor, async (work) => {
    await store.lockImport(work.trx, id);
    const now = await store.findImport(work.trx, id);
    if (now?.state !== 'running') return;
    const counts = (await store.countLines(work.trx, [id])).get(id);
    await store.setState(work.trx, { id, state: 'done' });
    work.record({
      kind: 'import.ended',
      subject: {},
      payload: { import: id, done: counts?.done ?? 0, refused: counts?.refused ?? 0 },
    });
  });
  return 'done';
};

/** The refused lines as they came, with line and reason in front: mended, they can be sent as a manifest again. */
export const refusedCsv = async (app: App, viewer: Viewer, id: string): Promise<string> => {
  const row = await open(app, viewer, id);
  const out = [['line', 'reason', ...row.headings]];
  for (let after = 0; ; ) {
    const lines = await store.listLines(app.db, { importId: id, where: WHERE.refused, after, limit: 500 });
    for (const line of lines)
      out.push([
        String(line.line),
        line.reasons.map((one) => sentenceOf(one.code, one.params)).join(' '),
        ...line.cells,
      ]);
    if (lines.length < 500) break;
    after = lines.at(-1)?.line ?? 0;
  }
  return `\ufeff${out.map((cells) => cells.map(csvCell).join(',')).join('\r\n')}\r\n`;
};

const csvCell = (text: string): string => {
  // A cell that a spreadsheet would take for a formula is kept a text.
  const safe = /^[=+@\t]/.test(text) || /^-(?![\d.])/.test(text) ? `'${text}` : text;
  return /[",\r\n;]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
};
