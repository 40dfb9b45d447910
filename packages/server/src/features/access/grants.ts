import { createHash } from 'node:crypto';
import type { FolderGrant } from '@kanonos/contract';
import { canonicalJson, type Right, type RuleDifference, ruleDifferences } from '@kanonos/core';
import { type Db, rows, type Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { refused } from '../../platform/refused.ts';

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

/** What entries are now, in short: who changes them names it, so that nobody overwrites what they have not seen. */
export const grantsTag = (grants: readonly FolderGrant[]): string =>
  createHash('sha256')
    .update(canonicalJson(inWords(grants)))
    .digest('base64url')
    .slice(0, 16);

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

/**
 * Changes the entries of a folder or document to those given.
 *
 * @returns the differences, for the audit trail
 * @throws RefusalError `not_found` for a subject that there is not, `nothing_changed`
 */
export const changeGrants = async (
  trx: Trx,
  place: GrantPlace,
  before: readonly FolderGrant[],
  grants: readonly GrantGiven[],
): Promise<RuleDifference[]> => {
  const subjects = grants.flatMap(({ subject }) => (subject.id ? [subject.id] : []));
  const known = await listSubjects(trx, subjects);
  if (subjects.some((subject) => !known.has(subject))) throw refused('not_found');
  const differences = ruleDifferences({ grants: inWords(before) }, { grants: inWords(grants) }).filter(
    ({ what }) => what !== 'grants, order',
  );
  if (differences.length === 0) throw refused('nothing_changed');
  await replaceGrants(trx, place, grants);
  return differences;
};

const inWords = (grants: readonly GrantGiven[]) =>
  grants.map(({ subject, rights, withheld }) => ({
    key: `${subject.kind} ${subject.id ?? ''}`.trim(),
    rights: withheld ? 'withheld' : [...rights].sort().join(', '),
  }));

/** Which of some people and units there are. */
const listSubjects = async (trx: Trx, ids: string[]): Promise<Set<string>> =>
  new Set(
    (
      await rows<{ id: string }>(
        trx,
        'select id from people where id = any(:ids::uuid[]) union select id from units where id = any(:ids::uuid[])',
        { ids },
      )
    ).map((row) => row.id),
  );
