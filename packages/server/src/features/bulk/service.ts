import {
  type AnswerOf,
  type api,
  type BodyOf,
  BULK_AT_ONCE,
  BULK_MOST,
  type BulkChange,
  sentenceOf,
} from '@kanonos/contract';
import {
  type BulkState,
  bulkDifferences,
  decideBulk,
  type FieldDefinition,
  type FieldValue,
  isFolderShut,
  metadataInFolder,
  type Refusal,
  refusal,
  showFieldValue,
} from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { refused } from '../../platform/refused.ts';
import { actorOf, rightsOnFolders, rightsOnMany, toPlace, type Viewer } from '../access/index.ts';
import { refreshWords, subjectOf } from '../documents/index.ts';
import { toPlan } from '../filing/index.ts';
import { idsOf } from '../find/index.ts';
import { namesOf } from '../people/index.ts';
import { listFolders, listTypes, metadataRefusals, type TypeRow } from '../rules/index.ts';
import * as store from './store.ts';

const UNDOABLE_DAYS = 14;

type Decided = { row: store.BulkRow; before: BulkState } & (
  | { after: BulkState; refusals: [] }
  | { refusals: Refusal[] }
);

const stateOf = (row: store.BulkRow): BulkState => ({
  metadata: row.metadata,
  keywords: row.keywords,
  ownerId: row.owner_id,
  folderId: row.folder_id,
  reviewOn: row.review_on,
});

/** Decides a change for documents that the viewer may see; the others are as if they were not there. */
const decideAll = async (
  db: Db | Trx,
  viewer: Viewer,
  ids: readonly string[],
  change: BulkChange,
): Promise<Decided[]> => {
  const rows = await store.listDocuments(db, ids);
  const types = new Map((await listTypes(db)).map((type) => [type.id, type]));
  const rights = await rightsOnMany(db, viewer, rows.map(toPlace));
  const target = change.folderId ? (await rightsOnFolders(db, viewer)).get(change.folderId) : undefined;
  if (change.folderId && !target?.has('see')) throw refused('not_found');
  if (change.ownerId) {
    const owner = (await namesOf(db, [change.ownerId])).get(change.ownerId);
    if (!owner) throw refused('not_found');
    if (owner.state === 'deactivated') throw refused('person_inactive', { who: owner.name });
  }
  const allFolders = await listFolders(db);
  const plan = toPlan(allFolders);
  const folders = new Map(allFolders.map((folder) => [folder.id, folder]));
  const shut = (id: string): Refusal[] => {
    const folder = folders.get(id);
    return folder && isFolderShut(folder.state)
      ? [refusal('folder_shut', { folder: folder.name, state: folder.state })]
      : [];
  };
  const named = new Map<string, Refusal[]>();
  const decided: Decided[] = [];
  for (const row of rows) {
    const type = types.get(row.type_id);
    const given = rights.get(row.id);
    // A document that was never released is there only for who may read work; others know its released title.
    const shown = given?.has('read work') ? row.title : given?.has('see') ? row.public_title : null;
    if (!type || !given || shown === null) continue;
    row.title = shown;
    const before = stateOf(row);
    const result = decideBulk(
      {
        ...before,
        fields: type.fields,
        rights: given,
        isDraft: row.is_draft,
        ...(target ? { rightsInFolder: target } : {}),
        ...(change.folderId && change.folderId !== row.folder_id
          ? {
              folderMetadata: {
                before: metadataInFolder(row.folder_id, plan),
                after: metadataInFolder(change.folderId, plan),
              },
            }
          : {}),
      },
      change,
    );
    // Units, people and entries that the change names are the same for all documents of a type.
    const unknown = named.get(type.id) ?? (await namedRefusals(db, type, change));
    named.set(type.id, unknown);
    const closed = [...shut(row.folder_id), ...(change.folderId ? shut(change.folderId) : [])];
    if (closed.length) decided.push({ row, before, refusals: closed });
    else if (!result.ok) decided.push({ row, before, refusals: result.refusals });
    else if (unknown.length) decided.push({ row, before, refusals: unknown });
    else decided.push({ row, before, after: result.value, refusals: [] });
  }
  return decided;
};

const namedRefusals = async (db: Db | Trx, type: TypeRow, change: BulkChange): Promise<Refusal[]> => {
  const known = Object.fromEntries(
    Object.entries(change.metadata ?? {}).filter(([key]) => type.fields.some((field) => field.key === key)),
  );
  const unique = type.fields.filter((field) => field.unique && change.metadata?.[field.key]);
  return [
    ...(await metadataRefusals(db, type, known)).filter(({ code }) => code === 'entry_unknown'),
    ...unique.map((field) => ({ code: 'field_is_unique' as const, params: { field: field.label } })),
  ];
};

/** Names for what a difference holds by id. */
const wordsFor = async (db: Db) => {
  const folders = new Map((await listFolders(db)).map((folder) => [folder.id, folder.path_names.join(' / ')]));
  const types = new Map((await listTypes(db)).map((type) => [type.id, type.fields]));
  return async (row: store.BulkRow, what: string, value: FieldValue): Promise<string> => {
    if (what === 'folder') return folders.get(String(value)) ?? '';
    if (what === 'owner') return (await namesOf(db, [String(value)])).get(String(value))?.name ?? '';
    const field = types.get(row.type_id)?.find((one: FieldDefinition) => `metadata.${one.key}` === what);
    return showFieldValue(field, value);
  };
};

const PLACES: Record<string, string> = {
  keywords: 'Keywords',
  owner: 'Owner',
  folder: 'Folder',
  reviewOn: 'Next review',
};

/** The effect of a change: the number of documents, the differences on the first ones, and the unchanged ones with reasons. */
export const tryBulk = async (
  app: App,
  viewer: Viewer,
  { ids, filter, change }: BodyOf<typeof api.bulk.try>,
): Promise<AnswerOf<typeof api.bulk.try>> => {
  if (Object.keys(change).length === 0) throw refused('bulk_nothing');
  const wanted = ids ?? (filter ? await idsOf(app, viewer, filter, BULK_MOST + 1) : []);
  if (wanted.length > BULK_MOST) throw refused('bulk_too_many', { limit: BULK_MOST });
  const decided = await decideAll(app.db, viewer, wanted, change);
  const changing = decided.flatMap((one) => {
    if (!('after' in one)) return [];
    const differences = bulkDifferences(one.before, one.after);
    return differences.length ? [{ row: one.row, differences }] : [];
  });
  const refusedOnes = decided.filter((one) => one.refusals.length > 0);
  const words = await wordsFor(app.db);
  const types = new Map((await listTypes(app.db)).map((type) => [type.id, type.fields]));
  const sample = [];
  for (const { row, differences } of changing.slice(0, 20)) {
    const inWords = [];
    for (const { what, before, after } of differences) {
      const field = types.get(row.type_id)?.find((one) => `metadata.${one.key}` === what);
      inWords.push({
        what: field?.label ?? PLACES[what] ?? what.replace('metadata.', ''),
        before: await words(row, what, before),
        after: await words(row, what, after),
      });
    }
    sample.push({ id: row.id, number: row.number, title: row.title, differences: inWords });
  }
  return {
    ids: changing.map(({ row }) => row.id),
    total: decided.length,
    unchanged: decided.length - changing.length - refusedOnes.length,
    refusedCount: refusedOnes.length,
    refused: refusedOnes.slice(0, 100).map(toRefusalError),
    sample,
  };
};

const toRefusalError = ({ row, refusals }: Decided) => ({
  id: row.id,
  number: row.number,
  title: row.title,
  reasons: refusals.map((one) => sentenceOf(one.code, one.params)),
});

/** Changes some documents of one bulk change in one transaction: those that may and do change, each with its own event. */
export const applyBulk = (
  app: App,
  viewer: Viewer,
  bulkId: string,
  { ids, change, reason }: BodyOf<typeof api.bulk.apply>,
): Promise<AnswerOf<typeof api.bulk.apply>> =>
  app.command(actorOf(viewer), async (work) => {
    const { trx, now } = work;
    if (Object.keys(change).length === 0) throw refused('bulk_nothing');
    await store.insertBulk(trx, { id: bulkId, by: viewer.id, now, reason, change });
    const bulk = await store.findBulk(trx, bulkId);
    if (bulk?.by_id !== viewer.id) throw refused('not_found');
    await store.lockDocuments(trx, ids);
    const before = await store.listItemIds(trx, bulkId, ids);
    const fresh = ids.filter((id) => !before.has(id));
    const decided = await decideAll(trx, viewer, fresh, change);
    const changing = decided.flatMap((one) =>
      'after' in one && bulkDifferences(one.before, one.after).length > 0 ? [{ ...one, after: one.after }] : [],
    );
    await write(
      work,
      changing.map(({ row, after }) => ({ row, state: after })),
    );
    await store.insertItems(
      trx,
      bulkId,
      changing.map(({ row, before: state }) => ({ id: row.id, before: state, version: row.row_version + 1 })),
    );
    for (const { row, before: state, after } of changing)
      record(work, row, 'metadata.changed-in-bulk', bulkDifferences(state, after), { bulk: bulkId, reason });
    return {
      changed: changing.length,
      refused: decided.filter((one) => one.refusals.length > 0).map(toRefusalError),
    };
  });

const write = async (work: UnitOfWork, states: readonly { row: store.BulkRow; state: BulkState }[]) => {
  if (states.length === 0) return;
  await store.updateDocuments(
    work.trx,
    states.map(({ row, state }) => ({
      id: row.id,
      metadata: state.metadata,
      keywords: state.keywords,
      owner: state.ownerId,
      folder: state.folderId,
      review: state.reviewOn,
      version: row.row_version,
    })),
    work.now,
  );
  await refreshWords(
    work.trx,
    states.map(({ row }) => row.id),
  );
};

const record = (
  work: UnitOfWork,
  row: store.BulkRow,
  kind: 'metadata.changed-in-bulk' | 'bulk-change.undone',
  differences: ReturnType<typeof bulkDifferences>,
  why: { bulk: string; reason: string },
) =>
  work.record({
    kind,
    subject: subjectOf(row, { id: row.revision_id, label: row.label }),
    payload: {
      ...why,
      before: Object.fromEntries(differences.map(({ what, before }) => [what, before])),
      after: Object.fromEntries(differences.map(({ what, after }) => [what, after])),
    },
  });

/** Undoes a part of one's own bulk change. Documents that somebody changed again since stay as they are, and are named. */
export const undoBulk = (app: App, viewer: Viewer, bulkId: string): Promise<AnswerOf<typeof api.bulk.undo>> =>
  app.command(actorOf(viewer), async (work) => {
    const { trx } = work;
    const bulk = await store.findBulk(trx, bulkId);
    if (bulk?.by_id !== viewer.id) throw refused('not_found');
    const items = await store.takeOpenItems(trx, bulkId, BULK_AT_ONCE);
    const byId = new Map(items.map((item) => [item.document_id, item]));
    await store.lockDocuments(trx, [...byId.keys()]);
    const rows = await store.listDocuments(trx, [...byId.keys()]);
    const rights = await rightsOnMany(trx, viewer, rows.map(toPlace));
    const same = rows.filter((row) => {
      const given = rights.get(row.id);
      const may = given?.has('manage') || (row.is_draft && given?.has('author'));
      return may && row.row_version === byId.get(row.id)?.row_version;
    });
    const back = same.map((row) => ({ row, state: byId.get(row.id)?.before as BulkState }));
    await write(work, back);
    for (const { row, state } of back)
      record(work, row, 'bulk-change.undone', bulkDifferences(stateOf(row), state), {
        bulk: bulkId,
        reason: bulk.reason,
      });
    const undone = new Set(same.map((row) => row.id));
    await store.markUndone(trx, { bulkId, ids: [...undone], how: 'undone' });
    await store.markUndone(trx, {
      bulkId,
      ids: [...byId.keys()].filter((id) => !undone.has(id)),
      how: 'changed again',
    });
    return {
      undone: undone.size,
      left: await store.countOpenItems(trx, bulkId),
      kept: rows
        .filter((row) => !undone.has(row.id) && rights.get(row.id)?.has('read work'))
        .map((row) => ({ id: row.id, number: row.number, title: row.title })),
    };
  });

export const myBulk = async (app: App, viewer: Viewer): Promise<AnswerOf<typeof api.bulk.mine>> => {
  const since = new Date(app.clock().getTime() - UNDOABLE_DAYS * 86_400_000);
  return {
    changes: (await store.listMine(app.db, { personId: viewer.id, since })).map((row) => ({
      ...row,
      at: row.at.toISOString(),
    })),
  };
};
