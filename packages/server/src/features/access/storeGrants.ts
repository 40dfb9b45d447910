import type { FolderGrant } from '@kanonos/contract';
import type { Right } from '@kanonos/core';
import { type Db, rows, type Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';

/** Where entries are kept: on a folder, for all that is filed below it, or on one document. */
export type GrantPlace = { folderId: string } | { documentId: string };

/** An entry as somebody sets it. */
export type GrantGiven = {
  subject: { kind: 'person' | 'unit' | 'all'; id: string | null };
  rights: readonly Right[];
  withheld: boolean;
};

type GrantRow = {
  folder_id: string | null;
  subject_kind: 'person' | 'unit' | 'all';
  subject_id: string | null;
  name: string | null;
  rights: Right[];
  withheld: boolean;
};

/** The entries on some folders and on a document, with the names of their subjects. */
export const listGrants = async (
  db: Db | Trx,
  { folderIds = [], documentId = null }: { folderIds?: readonly string[]; documentId?: string | null },
): Promise<(FolderGrant & { folderId: string | null })[]> =>
  (
    await rows<GrantRow>(
      db,
      `select g.folder_id, g.subject_kind, g.subject_id, coalesce(p.name, u.name) as name, g.rights, g.withheld
       from grants g left join people p on g.subject_kind = 'person' and p.id = g.subject_id
       left join units u on g.subject_kind = 'unit' and u.id = g.subject_id
       where g.folder_id = any(:folderIds::uuid[]) or g.document_id = :documentId order by g.subject_kind, name`,
      { folderIds: [...folderIds], documentId },
    )
  ).map((row) => ({
    folderId: row.folder_id,
    subject: { kind: row.subject_kind, id: row.subject_id, name: row.name ?? 'everyone in the organisation' },
    rights: row.rights,
    withheld: row.withheld,
  }));

/** Puts entries in the place of those of a folder or document, without a check. */
export const replaceGrants = async (trx: Trx, place: GrantPlace, grants: readonly GrantGiven[]): Promise<void> => {
  const at = { folderId: null, documentId: null, ...place };
  await rows(trx, 'delete from grants where folder_id = :folderId or document_id = :documentId', at);
  for (const { subject, rights, withheld } of grants)
    await rows(
      trx,
      `insert into grants (id, folder_id, document_id, subject_kind, subject_id, rights, withheld)
       values (:id, :folderId, :documentId, :kind, :subjectId, :rights::text[], :withheld)`,
      { ...at, id: newId(), kind: subject.kind, subjectId: subject.id, rights: [...rights], withheld },
    );
};

/** Which of some people and units there are. */
export const listSubjects = async (trx: Trx, ids: string[]): Promise<Set<string>> =>
  new Set(
    (
      await rows<{ id: string }>(
        trx,
        'select id from people where id = any(:ids::uuid[]) union select id from units where id = any(:ids::uuid[])',
        { ids },
      )
    ).map((row) => row.id),
  );
