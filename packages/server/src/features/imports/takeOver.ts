import {
  addMonths,
  baseName,
  firstInstantOf,
  foldNumber,
  type ImportDocument,
  recordDigest,
  signingRecordText,
  splitMetadata,
} from '@kanonos/core';
import type { UnitOfWork } from '../../platform/app.ts';
import { rows } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { sha256 } from '../../platform/trail/append.ts';
import { refreshWords, subjectOf } from '../documents/index.ts';
import { departmentIdOf } from '../people/index.ts';
import type { TypeRow } from '../rules/index.ts';

/**
 * Takes documents over with told states, labels and days: rows of their own in a few statements, one event each. Signers are kept
 * as told, not as signatures; nobody is asked to read what was read before the organisation.
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
  const made = documents.map((document) => {
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
      reviewOn: inForce?.from && type.review_months > 0 ? addMonths(inForce.from, type.review_months) : null,
    };
  });
  const instant = (day: string) => firstInstantOf(day, organisation.zone).toISOString();
  const json = (value: unknown) => JSON.stringify(value);
  await rows(
    trx,
    `insert into documents (id, number, type_id, folder_id, owner_id, department_id, metadata, keywords, review_on, registered_at, registered_by, changed_at, unverified_since,
       newest_revision_id, newest_state, newest_label, newest_title, public_revision_id, public_state, public_label, public_title)
     select d.id, d.number, d.type, d.folder, d.owner, d.department, d.metadata, array(select jsonb_array_elements_text(d.keywords)), d.review, d.registered, :by, :now, :now,
       d.newest, d.newest_state, d.newest_label, d.newest_title, d.shown, d.shown_state, d.shown_label, d.shown_title
     from jsonb_to_recordset(:rows::jsonb) d(id uuid, number text, type uuid, folder uuid, owner uuid, department uuid, metadata jsonb, keywords jsonb, review date, registered timestamptz,
       newest uuid, newest_state text, newest_label text, newest_title text, shown uuid, shown_state text, shown_label text, shown_title text)`,
    {
      by: by.id,
      now,
      rows: json(
        made.map(({ document, id, newest, shown, documentFields, reviewOn, revisions }) => ({
          id,
          number: document.number,
          type: document.typeId,
          folder: document.folderId,
          owner: document.ownerId,
          department: departments.get(document.ownerId) ?? null,
          metadata: documentFields,
          keywords: document.keywords,
          review: reviewOn,
          registered: instant(document.registered ?? revisions[0]?.from ?? work.day),
          newest: newest?.id,
          newest_state: newest?.state,
          newest_label: newest?.label,
          newest_title: newest?.title,
          shown: shown?.id ?? null,
          shown_state: shown?.state ?? null,
          shown_label: shown?.label ?? null,
          shown_title: shown?.title ?? null,
        })),
      ),
    },
  );
  await rows(
    trx,
    `insert into numbers (folded, number, document_id, state, scope, counter)
     select n.folded, n.number, n.document, 'taken', n.scope, n.counter from jsonb_to_recordset(:rows::jsonb) n(folded text, number text, document uuid, scope text, counter bigint)`,
    {
      rows: json(
        made.map(({ document, id }) => ({
          folded: foldNumber(document.number),
          number: document.number,
          document: id,
          scope: document.scope,
          counter: document.counter,
        })),
      ),
    },
  );
  const all = made.flatMap((one) => one.revisions.map((revision) => ({ ...one, revision })));
  await rows(
    trx,
    `insert into revisions (id, document_id, ordinal, label, change_kind, summary, title, metadata, state, created_at, created_by, latest_version_id, version_count, imported)
     select r.id, r.document, r.ordinal, r.label, r.kind, r.summary, r.title, r.metadata, r.state, :now, :by, r.version, 1, r.imported
     from jsonb_to_recordset(:rows::jsonb) r(id uuid, document uuid, ordinal int, label text, kind text, summary text, title text, metadata jsonb, state text, version uuid, imported jsonb)`,
    {
      by: by.id,
      now,
      rows: json(
        all.map(({ id, revisionFields, revision }) => ({
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
          imported: { signers: revision.signers, import: by.importId },
        })),
      ),
    },
  );
  await rows(
    trx,
    `with v as (
       insert into versions (id, revision_id, n, note, by_id, at, title, metadata)
       select r.version, r.revision, 1, 'Taken over', :by, :now, r.title, r.metadata from jsonb_to_recordset(:rows::jsonb) r(version uuid, revision uuid, title text, metadata jsonb))
     insert into version_files (id, version_id, role, name, sha256, size)
     select r.file, r.version, 'original', r.name, r.sha256, r.size from jsonb_to_recordset(:rows::jsonb) r(file uuid, version uuid, name text, sha256 text, size bigint)`,
    {
      by: by.id,
      now,
      rows: json(
        all.map(({ revisionFields, revision }) => ({
          version: revision.versionId,
          revision: revision.id,
          title: revision.title,
          metadata: revisionFields,
          file: newId(),
          name: baseName(revision.file.path),
          sha256: revision.file.sha256,
          size: revision.file.size,
        })),
      ),
    },
  );
  await rows(
    trx,
    `insert into periods (id, document_id, revision_id, label, from_at, to_at)
     select p.id, p.document, p.revision, p.label, p.start, p.stop from jsonb_to_recordset(:rows::jsonb) p(id uuid, document uuid, revision uuid, label text, start timestamptz, stop timestamptz)`,
    {
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
    },
  );
  // What was released before has a record of its own, over the bytes and fields that came in: readings on it can be signed.
  const records = all
    .filter(({ revision }) => revision.state !== 'draft')
    .map(({ document, id, revisionFields, revision }) => {
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
    });
  await rows(
    trx,
    `insert into signing_records (id, revision_id, digest, text, frozen_at, kind)
     select r.id, r.revision, r.digest, r.text, :now, 'imported' from jsonb_to_recordset(:rows::jsonb) r(id uuid, revision uuid, digest text, text text)`,
    { now, rows: json(records) },
  );
  await refreshWords(trx, [...ids.values()]);
  for (const { document, type, id, revisions, newest } of made)
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
  return ids;
};
