import type { Readable } from 'node:stream';
import { type AnswerOf, type api, type BodyOf, type ImportMapping, type QueryOf, sentenceOf } from '@kanonos/contract';
import {
  baseName,
  foldText,
  guessColumns,
  guessDateOrder,
  MANIFEST_MEANINGS,
  type Refusal,
  toCsv,
} from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { parse } from '../../platform/parsing/index.ts';
import { RefusalError, refused } from '../../platform/refused.ts';
import { unzip } from '../../platform/tables/unzip.ts';
import { actorOf, rightsOnFolders, type Viewer } from '../access/index.ts';
import { getUpload, takeUpload } from '../content/index.ts';
import { listTypes } from '../rules/index.ts';
import { judge, saveVerdicts } from './judging.ts';
import * as store from './store.ts';

const ZIP_BYTES = 8 * 1024 * 1024 * 1024;

const open = async (db: Db | Trx, viewer: Viewer, id: string): Promise<store.ImportRow> => {
  const row = await store.findImport(db, id);
  if (!row || (row.by_id !== viewer.id && !viewer.organisationRights.has('administer'))) throw refused('not_found');
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
  const { headings, rows, note } = await parse('table', await app.content.intactPath(upload.sha256), upload.name);
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
  await app.command(actorOf(viewer), async (work) => {
    await store.insertImport(work.trx, { id, name: upload.name, by: viewer.id, now: work.now, headings, mapping });
    for (let at = 0; at < rows.length; at += 2000)
      await store.insertLines(
        work.trx,
        id,
        rows.slice(at, at + 2000).map((cells, i) => ({ line: at + i + 2, cells: cells.map(clean) })),
      );
    work.record({
      kind: 'import.prepared',
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
): Promise<Omit<AnswerOf<typeof api.imports.list>, 'unverified'>> => {
  const rows = await store.listImports(app.db, viewer.organisationRights.has('administer') ? null : viewer.id);
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
  const row = await open(app.db, viewer, id);
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
      ...fields.map((field) => ({ value: `field:${field.key}`, text: field.label })),
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
  signers: 'Signers',
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
  { state, reason, after, limit }: QueryOf<typeof api.imports.lines>,
): Promise<AnswerOf<typeof api.imports.lines>> => {
  await open(app.db, viewer, id);
  const lines = await store.listLines(app.db, { importId: id, where: WHERE[state], reason, after, limit });
  const words = (refusals: Refusal[]) => refusals.map((one) => sentenceOf(one.code, one.params));
  return {
    lines: lines.map((line) => ({ ...line, reasons: words(line.reasons), warnings: words(line.warnings) })),
    next: lines.length === limit ? (lines.at(-1)?.line ?? null) : null,
  };
};

/** Corrects one line by hand. It is neither ready nor refused until the lines are checked again. */
export const correctLine = (
  app: App,
  viewer: Viewer,
  id: string,
  line: number,
  { cells, seen }: BodyOf<typeof api.imports.correctLine>,
): Promise<void> =>
  app.command(actorOf(viewer), async (work) => {
    await store.lockImport(work.trx, id);
    const row = await open(work.trx, viewer, id);
    ensureState(row, 'prepared', 'checked', 'stopped');
    const before = await store.findLine(work.trx, id, line);
    if (!before) throw refused('not_found');
    if (before.state === 'done' || JSON.stringify(before.cells) !== JSON.stringify(seen))
      throw refused('changed_meanwhile');
    const after = row.headings.map((_, i) => clean(cells[i] ?? ''));
    const changes = row.headings.flatMap((heading, i) =>
      after[i] === (before.cells[i] ?? '')
        ? []
        : [{ column: heading, before: before.cells[i] ?? '', after: after[i] ?? '' }],
    );
    if (changes.length === 0) throw refused('nothing_changed');
    await store.saveCells(work.trx, id, line, after);
    work.record({ kind: 'import.line-corrected', subject: {}, payload: { import: id, line, changes } });
  });

const ensureState = (row: store.ImportRow, ...states: store.ImportRow['state'][]): void => {
  if (!states.includes(row.state)) throw refused('import_state', { state: row.state });
};

/** Adds files that were sent; a zip is unpacked on the way, and what of it is not taken is named with the reason. */
export const addFiles = async (
  app: App,
  viewer: Viewer,
  id: string,
  sent: BodyOf<typeof api.imports.files>['files'],
): Promise<AnswerOf<typeof api.imports.files>> => {
  ensureState(await open(app.db, viewer, id), 'prepared', 'checked', 'stopped');
  const skipped: { name: string; why: string }[] = [];
  const taken: { path: string; sha256: string; size: number }[] = [];
  for (const { uploadId, path } of sent) {
    const upload = await getUpload(app.db, viewer, uploadId);
    if (!(await app.content.has(upload.sha256))) throw refused('content_missing', { name: upload.name });
    if (!/\.zip$/i.test(upload.name)) {
      taken.push({ path: path || upload.name, sha256: upload.sha256, size: upload.size });
      continue;
    }
    const found = await unzip(await app.content.intactPath(upload.sha256), ZIP_BYTES, async (name, stream) => {
      try {
        const { sha256, size } = await takeUpload(app, viewer, baseName(name), stream as Readable);
        taken.push({ path: name, sha256, size });
      } catch (error) {
        if (!(error instanceof RefusalError)) throw error;
        stream.resume();
        skipped.push({ name, why: error.refusals.map((one) => sentenceOf(one.code, one.params)).join(' ') });
      }
    });
    skipped.push(...found.skipped.map((name) => ({ name, why: 'It is encrypted.' })));
  }
  // All or nothing: a zip that turns out to be refused halfway leaves no file in the import.
  await app.command(actorOf(viewer), async (work) => {
    for (const { path, sha256, size } of taken)
      await store.insertFile(work.trx, { importId: id, folded: foldText(path), path, sha256, size });
  });
  return { files: (await store.listFiles(app.db, id)).length, skipped: skipped.slice(0, 200) };
};

export const setMapping = (
  app: App,
  viewer: Viewer,
  id: string,
  { mapping, rowVersion }: BodyOf<typeof api.imports.setMapping>,
): Promise<void> =>
  app.command(actorOf(viewer), async (work) => {
    ensureState(await open(work.trx, viewer, id), 'prepared', 'checked', 'stopped');
    const twice = mapping.columns.find((meaning, i) => meaning !== null && mapping.columns.indexOf(meaning) < i);
    if (twice) throw refused('import_column_twice', { meaning: twice });
    if ((await store.setMapping(work.trx, { id, mapping, rowVersion })) === 0) throw refused('changed_meanwhile');
  });

/** The dry run: a verdict for every line, nothing taken over. */
export const tryImport = (app: App, viewer: Viewer, id: string): Promise<AnswerOf<typeof api.imports.try>> =>
  app.command(actorOf(viewer), async (work) => {
    const row = await open(work.trx, viewer, id);
    ensureState(row, 'prepared', 'checked', 'stopped');
    const plan = await judge(app, work.trx, row);
    await saveVerdicts(work.trx, id, plan);
    await store.setState(work.trx, { id, state: 'checked', begins: plan.begins });
    return (await store.countLines(work.trx, [id])).get(id) ?? { lines: 0, ready: 0, warned: 0, refused: 0, done: 0 };
  });

export const startImport = (app: App, viewer: Viewer, id: string, reason: string): Promise<void> =>
  app.command(actorOf(viewer), async (work) => {
    const row = await open(work.trx, viewer, id);
    ensureState(row, 'checked', 'stopped');
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
  app.command(actorOf(viewer), async (work) => {
    ensureState(await open(work.trx, viewer, id), 'running');
    await store.setState(work.trx, { id, state: 'stopped' });
  });

/** The refused lines as they came, with line and reason in front: mended, they can be sent as a manifest again. */
export const refusedCsv = async (app: App, viewer: Viewer, id: string): Promise<string> => {
  const row = await open(app.db, viewer, id);
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
  return toCsv(out);
};
