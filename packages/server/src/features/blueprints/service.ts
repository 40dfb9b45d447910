import { createReadStream } from 'node:fs';
import { extname } from 'node:path';
import { Readable } from 'node:stream';
import type { AnswerOf, api } from '@kanonos/contract';
import {
  type BlueprintFolder,
  isFolderShut,
  type LaidFolder,
  parseOutline,
  placeholdersOf,
  planLayOut,
  refusal,
  ruleDifferences,
  type Starter,
} from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { assertAllowed, RefusalError, refused } from '../../platform/refused.ts';
import type { Handler } from '../access/index.ts';
import { actorOf, replaceGrants, rightsOnFolders, type Viewer } from '../access/index.ts';
import { getStored, takeUpload } from '../content/index.ts';
import { blockPlan, makeFolder, toPlan } from '../filing/index.ts';
import { registerIn } from '../registration/index.ts';
import { type FolderRow, keepEdition, listFolders, listTypes } from '../rules/index.ts';
import { templateChoices } from '../templates/index.ts';
import * as store from './store.ts';

const read = (outline: string): BlueprintFolder[] => {
  const parsed = parseOutline(outline);
  if (!parsed.ok) throw new RefusalError(parsed.refusals);
  return parsed.value;
};

const ensureManages = async (db: Db | Trx, viewer: Viewer, folderId: string): Promise<void> => {
  const given = (await rightsOnFolders(db, viewer)).get(folderId);
  if (!given?.has('see')) throw refused('not_found');
  if (!given.has('manage')) throw refused('right_missing', { right: 'manage' });
};

/** Blueprints of folders that a viewer manages; who administers sees all of them. */
export const listBlueprints = async (app: App, viewer: Viewer): Promise<AnswerOf<typeof api.blueprints.list>> => {
  const rights = await rightsOnFolders(app.db, viewer);
  const paths = new Map((await listFolders(app.db)).map((folder) => [folder.id, folder.path_names.join(' / ')]));
  return {
    blueprints: (await store.listBlueprints(app.db))
      .filter((row) => viewer.organisationRights.has('administer') || rights.get(row.folder_id)?.has('manage'))
      .map((row) => {
        const parsed = parseOutline(row.outline);
        return {
          id: row.id,
          name: row.name,
          folderId: row.folder_id,
          folder: paths.get(row.folder_id) ?? '',
          outline: row.outline,
          lookup: row.lookup,
          placeholders: parsed.ok ? placeholdersOf(parsed.value) : [],
          retired: row.retired,
          files: Object.keys(row.files).sort(),
          projects: row.projects,
          rowVersion: row.row_version,
        };
      }),
  };
};

/** Makes or changes a blueprint. Existing projects stay; each then shows what it lacks. */
export const saveBlueprint: Handler<typeof api.blueprints.save> = (app, viewer, input) =>
  app.command(actorOf(viewer), async (work) => {
    const { trx } = work;
    const folders = read(input.outline);
    const types = new Map((await listTypes(trx)).map((type) => [type.code, type]));
    const walk = (nodes: readonly BlueprintFolder[]): string[] =>
      nodes.flatMap((node) => [...node.starters.map((starter) => starter.type), ...walk(node.children)]);
    assertAllowed(
      walk(folders)
        .filter((code) => !types.get(code) || types.get(code)?.retired || types.get(code)?.filing_rule)
        .map((code) => refusal('blueprint_type_unknown', { type: code })),
    );
    if (!(await listFolders(trx)).some((folder) => folder.id === input.folderId)) throw refused('not_found');
    const before = input.id ? await store.findBlueprint(trx, input.id) : undefined;
    if (input.id && !before) throw refused('not_found');
    const files = await filesOf(app, trx, viewer, input.files, before?.files ?? {});
    await ensureKnown(trx, folders, types, files);
    const id = input.id ?? newId();
    const value = {
      name: input.name,
      folderId: input.folderId,
      outline: input.outline,
      lookup: input.lookup,
      retired: input.retired,
      files: namesOf(files),
    };
    const differences = ruleDifferences(
      before
        ? {
            name: before.name,
            folderId: before.folder_id,
            outline: before.outline,
            lookup: before.lookup,
            retired: before.retired,
            files: namesOf(before.files),
          }
        : {},
      value,
    );
    const isSame = JSON.stringify(sorted(before?.files ?? {})) === JSON.stringify(sorted(files));
    if (before && differences.length === 0 && isSame) throw refused('nothing_changed');
    if (!before) await store.insertBlueprint(trx, { id, ...value });
    else if ((await store.updateBlueprint(trx, { id, ...value, rowVersion: input.rowVersion })) === 0)
      throw refused('changed_meanwhile');
    if (!isSame) await store.replaceFiles(trx, id, files);
    await keepEdition(trx, {
      kind: 'blueprint',
      subjectId: id,
      value,
      reason: input.reason,
      by: viewer.id,
      now: work.now,
    });
    work.record({
      kind: before ? 'blueprint.changed' : 'blueprint.added',
      subject: { blueprint: { id, name: input.name } },
      payload: { differences, reason: input.reason },
    });
    return { id };
  });

type Files = Readonly<Record<string, string>>;
const sorted = (files: Files) => Object.entries(files).sort(([a], [b]) => (a < b ? -1 : 1));
const namesOf = (files: Files): string =>
  sorted(files)
    .map(([name]) => name)
    .join(', ');

/** The files of a blueprint after a change, by name: those that stay have the content they had. */
const filesOf = async (
  app: App,
  trx: Trx,
  viewer: Viewer,
  wished: { name: string; uploadId: string | null }[] | undefined,
  before: Files,
): Promise<Files> => {
  if (!wished) return before;
  const files: Record<string, string> = {};
  for (const { name, uploadId } of wished) {
    const sha256 = uploadId ? (await getStored(app, trx, viewer, uploadId)).sha256 : before[name];
    if (sha256) files[name] = sha256;
  }
  return files;
};

/** Refuses units that there are not, and templates that neither a type nor the blueprint has. */
const ensureKnown = async (
  trx: Trx,
  folders: readonly BlueprintFolder[],
  types: ReadonlyMap<string, { id: string }>,
  files: Files,
): Promise<void> => {
  const all = (nodes: readonly BlueprintFolder[]): BlueprintFolder[] =>
    nodes.flatMap((node) => [node, ...all(node.children)]);
  const every = all(folders);
  const known = await store.listUnitNames(trx);
  const unit = every.flatMap((one) => one.grants).find((grant) => !known.has(grant.unit))?.unit;
  if (unit) throw refused('blueprint_unit_unknown', { unit });
  const { templates } = await templateChoices(trx);
  const wrong = every
    .flatMap((one) => one.starters)
    .find(
      (one) =>
        one.template !== null &&
        files[one.template] === undefined &&
        !templateOf(templates, types.get(one.type)?.id ?? '', one),
    );
  if (wrong) throw refused('blueprint_template_unknown', { type: wrong.type, template: wrong.template ?? '' });
};

/** Rights that a blueprint gives on a folder that was made. */
const giveRights = async (trx: Trx, folderId: string, grants: LaidFolder['grants']): Promise<void> => {
  if (grants.length === 0) return;
  const units = await store.listUnitNames(trx);
  await replaceGrants(
    trx,
    { folderId },
    grants.flatMap(({ unit, rights }) => {
      const id = units.get(unit);
      return id ? [{ subject: { kind: 'unit' as const, id }, rights, withheld: false }] : [];
    }),
  );
};

const plan = (row: store.BlueprintRow, values: Record<string, string>, folders: readonly FolderRow[]): LaidFolder[] => {
  const planned = planLayOut(read(row.outline), values, row.folder_id, toPlan(folders));
  if (!planned.ok) throw new RefusalError(planned.refusals);
  return planned.value;
};

const open = async (db: Db | Trx, viewer: Viewer, id: string): Promise<store.BlueprintRow> => {
  const row = await store.findBlueprint(db, id);
  if (!row) throw refused('not_found');
  await ensureManages(db, viewer, row.folder_id);
  return row;
};

export const tryLayOut = async (
  app: App,
  viewer: Viewer,
  id: string,
  values: Record<string, string>,
): Promise<AnswerOf<typeof api.blueprints.try>> => {
  const row = await open(app.db, viewer, id);
  return {
    folders: plan(row, values, await listFolders(app.db)).map(
      ({ depth, name, folderId, metadata, starters, grants }) => ({
        depth,
        name,
        isNew: folderId === null,
        metadata,
        starters,
        grants,
      }),
    ),
  };
};

/** Lays projects out in one transaction: missing folders, their settings, and their first documents. */
export const layOut = async (
  app: App,
  viewer: Viewer,
  id: string,
  projects: readonly Record<string, string>[],
): Promise<AnswerOf<typeof api.blueprints.layOut>> => {
  const row = await open(app.db, viewer, id);
  const starters = await sendStarters(app, viewer, row, projects);
  return app.command(actorOf(viewer), async (work) => {
    await blockPlan(work.trx);
    const documents: string[] = [];
    let made = 0;
    let first: string | null = null;
    for (const values of projects) {
      const done = await layOutOne(app, work, viewer, row, values, starters);
      made += done.made;
      documents.push(...done.documents);
      first ??= done.folderIds.at(0) ?? null;
      // Laid out again, to add what it lacks, it is still one project.
      const project = { blueprintId: id, values, folderIds: done.folderIds };
      if ((await store.updateProject(work.trx, project)) === 0)
        await store.insertProject(work.trx, { ...project, id: newId(), by: viewer.id, now: work.now });
    }
    work.record({
      kind: 'project.created',
      subject: { blueprint: { id, name: row.name } },
      payload: { projects: projects.map((values) => ({ ...values })), folders: made, documents },
    });
    return { folders: made, documents, folderId: first };
  });
};

/** The template that a starter begins from: the named one, else the first of its type; none where the type has none. */
const templateOf = (templates: readonly Template[], typeId: string, { template }: Starter): Template | undefined => {
  const own = templates.filter((one) => one.typeId === typeId);
  return template === null ? own[0] : own.find((one) => one.name === template);
};
type Template = AnswerOf<typeof api.templates.choices>['templates'][number];
type Starters = { uploads: ReadonlyMap<string, string>; templates: readonly Template[] };

/**
 * What every document begins with that has no template: a file of the blueprint under the document's title, or an empty text with its
 * title, to be written on. Sent before the transaction.
 */
const sendStarters = async (
  app: App,
  viewer: Viewer,
  row: store.BlueprintRow,
  projects: readonly Record<string, string>[],
): Promise<Starters> => {
  const [folders, types, { templates }] = [
    await listFolders(app.db),
    await listTypes(app.db),
    await templateChoices(app.db),
  ];
  const uploads = new Map<string, string>();
  for (const values of projects)
    for (const { starters } of plan(row, values, folders))
      for (const starter of starters) {
        const { title } = starter;
        const typeId = types.find((type) => type.code === starter.type)?.id ?? '';
        if (uploads.has(title) || templateOf(templates, typeId, starter)) continue;
        const sha256 = starter.template === null ? undefined : row.files[starter.template];
        const ending = sha256 ? extname(starter.template ?? '') : '.md';
        const name = `${title.replace(/[\\/<>:"|?*]/g, ' ')}${ending}`;
        const bytes = sha256
          ? createReadStream(await app.content.intactPath(sha256))
          : Readable.from([Buffer.from(`# ${title}\n`)]);
        uploads.set(title, (await takeUpload(app, viewer, name, bytes)).id);
      }
  return { uploads, templates };
};

const layOutOne = async (
  app: App,
  work: UnitOfWork,
  viewer: Viewer,
  row: store.BlueprintRow,
  values: Record<string, string>,
  { uploads, templates }: Starters,
): Promise<{ made: number; documents: string[]; folderIds: string[] }> => {
  const folders = await listFolders(work.trx);
  const inFolder = folders.find((folder) => folder.id === row.folder_id) as FolderRow;
  if (isFolderShut(inFolder.state)) throw refused('folder_shut', { folder: inFolder.name, state: inFolder.state });
  const planned = plan(row, values, folders);
  const at: Pick<FolderRow, 'id' | 'area_id' | 'path'>[] = [];
  const documents: string[] = [];
  let made = 0;
  for (const one of planned) {
    const parent = one.above === null ? inFolder : (at[one.above] as FolderRow);
    const there = folders.find((folder) => folder.id === one.folderId);
    if (there) {
      at.push(there);
      continue;
    }
    const id = newId();
    await makeFolder(work, { id, name: one.name, code: null }, parent);
    if (Object.keys(one.metadata).length) await store.setMetadata(work.trx, id, one.metadata);
    await giveRights(work.trx, id, one.grants);
    at.push({ id, area_id: parent.area_id, path: [...parent.path, id] });
    made++;
  }
  const types = new Map((await listTypes(work.trx)).map((type) => [type.code, type]));
  for (const [i, { starters: wanted }] of planned.entries())
    for (const starter of wanted) {
      const typeId = types.get(starter.type)?.id ?? '';
      const template = templateOf(templates, typeId, starter);
      const { number } = await registerIn(app, work, viewer, {
        typeId,
        folderId: at[i]?.id ?? null,
        title: starter.title,
        metadata: {},
        uploadId: template ? null : (uploads.get(starter.title) ?? null),
        templateId: template?.id ?? null,
      });
      documents.push(number);
    }
  return { made, documents, folderIds: at.map((folder) => folder.id) };
};

/** Projects that were laid out, with what each lacks of the blueprint as it is now. */
export const listProjects = async (
  app: App,
  viewer: Viewer,
  id: string,
): Promise<AnswerOf<typeof api.blueprints.projects>> => {
  const row = await store.findBlueprint(app.db, id);
  if (!row) throw refused('not_found');
  if (!viewer.organisationRights.has('administer')) await ensureManages(app.db, viewer, row.folder_id);
  const folders = await listFolders(app.db);
  return {
    projects: (await store.listProjects(app.db, id)).map((project) => {
      const planned = planLayOut(read(row.outline), project.values, row.folder_id, toPlan(folders));
      return {
        id: project.id,
        values: project.values,
        at: project.at.toISOString(),
        by: project.by_name,
        folderId: project.folder_ids.find((folder) => folders.some((one) => one.id === folder)) ?? null,
        lacks: planned.ok ? planned.value.filter((one) => one.folderId === null).map((one) => one.name) : [],
      };
    }),
  };
};
