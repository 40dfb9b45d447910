import {
  baseName,
  firstInstantOf,
  foldNumber,
  type ImportDocument,
  nextReview,
  recordDigest,
  signingRecordText,
  splitMetadata,
} from '@kanonos/core';
import type { UnitOfWork } from '../../platform/app.ts';
import { newId } from '../../platform/db/ids.ts';
import { sha256 } from '../../platform/trail/append.ts';
import { refreshWords, subjectOf } from '../documents/index.ts';
import { departmentIdOf } from '../people/index.ts';
import { policyOf, type TypeRow } from '../rules/index.ts';
import {
  insertDocuments,
  insertNumbers,
  insertPeriods,
  insertRecords,
  insertRevisions,
  insertVersions,
} from './storeTakeOver.ts';

type Planned = ReturnType<typeof planned>;

/** A document of the list with the ids that it and its revisions get, and which of them is shown to whom. */
const planned = (document: ImportDocument, types: ReadonlyMap<string, TypeRow>, ids: ReadonlyMap<string, string>) => {
  const type = types.get(document.typeId) as TypeRow;
  const revisions = document.revisions.map((revision, i) => ({
    ...revision,
    id: newId(),
    versionId: newId(),
    ordinal: i + 1,
  }));
  const released = revisions.filter((revision) => revision.state !== 'draft');
  const inForce = revisions.find((revision) => revision.state === 'in force');
  return {
    document,
    type,
    id: ids.get(document.folded) as string,
    revisions,
    newest: revisions.find((revision) => revision.state === 'draft') ?? inForce ?? released.at(-1),
    shown: inForce ?? released.at(-1),
    ...splitMetadata(type.fields, document.metadata),
    reviewOn: inForce?.from
      ? nextReview(
          policyOf(type).review,
          type.review_every,
          { on: 'release', day: inForce.from, changeKind: null },
          null,
        )
      : null,
  };
};

const rowOfDocument = (
  { document, id, newest, shown, documentFields, reviewOn }: Planned,
  departmentId: string | undefined,
  registered: string,
) => ({
  id,
  number: document.number,
  type: document.typeId,
  folder: document.folderId,
  owner: document.ownerId,
  department: departmentId ?? null,
  metadata: documentFields,
  keywords: document.keywords,
  review: reviewOn,
  registered,
  newest: newest?.id,
  newest_state: newest?.state,
  newest_label: newest?.label,
  newest_title: newest?.title,
  shown: shown?.id ?? null,
  shown_state: shown?.state ?? null,
  shown_label: shown?.label ?? null,
  shown_title: shown?.title ?? null,
});

type PlannedRevision = Planned & { revision: Planned['revisions'][number] };

const rowOfRevision = ({ id, revisionFields, revision }: PlannedRevision, importId: string) => ({
  id: revision.id,
  document: id,
  ordinal: revision.ordinal,
  label: revision.label,
  kind: revision.ordinal === 1 ? 'first issue' : 'major',
  summary: revision.summary,
  title: revision.title,
  metadata: revisionFields,
  state: revision.state,
  version: revision.versionId,
  imported: { signers: revision.signers, import: importId },
});

const rowOfVersion = ({ revisionFields, revision }: PlannedRevision) => ({
  version: revision.versionId,
  revision: revision.id,
  title: revision.title,
  metadata: revisionFields,
  file: newId(),
  name: baseName(revision.file.path),
  sha256: revision.file.sha256,
  size: revision.file.size,
});

/** The record of a revision that was released before, over the bytes and fields that came in: readings on it can be signed. */
const recordOf = ({ document, id, revisionFields, revision }: PlannedRevision) => {
  const text = signingRecordText({
    document: id,
    number: document.number,
    revision: revision.id,
    label: revision.label,
    changeKind: revision.ordinal === 1 ? 'first issue' : 'major',
    files: [{ role: 'original', name: baseName(revision.file.path), sha256: revision.file.sha256 }],
    metadata: { ...revisionFields, title: revision.title, reason: '', summary: revision.summary },
  });
  return { id: newId(), revision: revision.id, digest: recordDigest(text, sha256), text };
};

const recordImport = (
  work: UnitOfWork,
  { document, type, id, revisions, newest }: Planned,
  by: { name: string; importId: string },
) =>
  work.record({
    kind: 'document.imported',
    actor: 'system.import',
    subject: subjectOf({ id, number: document.number }, { id: newest?.id ?? id, label: newest?.label ?? '' }),
    payload: {
      type: type.code,
      by: by.name,
      import: by.importId,
      revisions: revisions.map(({ label, state, from, to, title, signers, file, line }) => ({
        label,
        state,
        from,
        to,
        title,
        signers,
        file: baseName(file.path),
        sha256: file.sha256,
        line,
      })),
    },
  });

/**
 * Takes documents over with the given states, labels and days: rows of their own in a few statements, one event each. Signers are kept
 * as given, not as signatures; nobody has to read what was read before the takeover.
 */
export const takeOver = async (
  work: UnitOfWork,
  documents: readonly ImportDocument[],
  types: ReadonlyMap<string, TypeRow>,
  by: { id: string; name: string; importId: string },
): Promise<Map<string, string>> => {
  const { trx, now, organisation } = work;
  const ids = new Map(documents.map((document) => [document.folded, newId()]));
  const departments = new Map<string, string | undefined>();
  for (const { ownerId } of documents)
    if (!departments.has(ownerId)) departments.set(ownerId, await departmentIdOf(trx, ownerId, work.day));
  const made = documents.map((document) => planned(document, types, ids));
  const instant = (day: string) => firstInstantOf(day, organisation.zone).toISOString();
  const json = (value: unknown) => JSON.stringify(value);
  await insertDocuments(trx, {
    by: by.id,
    now,
    rows: json(
      made.map((one) =>
        rowOfDocument(
          one,
          departments.get(one.document.ownerId),
          instant(one.document.registered ?? one.revisions[0]?.from ?? work.day),
        ),
      ),
    ),
  });
  await insertNumbers(trx, {
    rows: json(
      made.map(({ document, id }) => ({
        folded: foldNumber(document.number),
        number: document.number,
        document: id,
        scope: document.scope,
        counter: document.counter,
      })),
    ),
  });
  const all = made.flatMap((one) => one.revisions.map((revision) => ({ ...one, revision })));
  await insertRevisions(trx, {
    by: by.id,
    now,
    rows: json(all.map((one) => rowOfRevision(one, by.importId))),
  });
  await insertVersions(trx, {
    by: by.id,
    now,
    rows: json(all.map(rowOfVersion)),
  });
  await insertPeriods(trx, {
    rows: json(
      all
        .filter(({ revision }) => revision.from !== null && (revision.state === 'in force' || revision.to !== null))
        .map(({ id, revision }) => ({
          id: newId(),
          document: id,
          revision: revision.id,
          label: revision.label,
          start: instant(revision.from as string),
          stop: revision.to === null ? null : instant(revision.to),
        })),
    ),
  });
  const records = all.filter(({ revision }) => revision.state !== 'draft').map(recordOf);
  await insertRecords(trx, { now, rows: json(records) });
  await refreshWords(trx, [...ids.values()]);
  for (const one of made) recordImport(work, one, by);
  return ids;
};
