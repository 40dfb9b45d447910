import {
  type AccessEntry,
  type Confidentiality,
  type ConfidentialityRules,
  DEFAULT_CONFIDENTIALITY,
  type FieldDefinition,
  type OrganisationRight,
  type Right,
} from '@kanonos/core';
import { groupBy } from '../../platform/collections.ts';
import { type Db, firstRow, HOT, rows, type Trx } from '../../platform/db/connect.ts';
import type { Viewer } from './viewer.ts';

type ViewerRow = {
  id: string;
  sign_in_name: string;
  name: string;
  email: string;
  outside: boolean;
  organisation_rights: OrganisationRight[];
  unit_ids: string[];
  token_hash?: string;
  last_signed_at?: Date | null;
  seer?: { id: string; signInName: string; name: string } | null;
};

const VIEWER_COLUMNS = `p.id, p.sign_in_name, p.name, p.email, p.outside, organisation_rights_of(p.id, :day) as organisation_rights,
  array(select m.ref_id from memberships m where m.person_id = p.id and m.kind <> 'supervisor'
        and m.from_day <= :day and (m.to_day is null or m.to_day >= :day)) as unit_ids`;

export const toViewer = (row: ViewerRow): Viewer => ({
  id: row.id,
  signInName: row.sign_in_name,
  name: row.name,
  email: row.email,
  outside: row.outside,
  organisationRights: new Set(row.organisation_rights),
  unitIds: new Set(row.unit_ids),
  seenBy: row.seer ?? undefined,
  session: row.token_hash ? { tokenHash: row.token_hash, lastSignedAt: row.last_signed_at ?? null } : undefined,
});

export const findViewer = async (db: Db | Trx, by: { personId: string; day: string }): Promise<Viewer | undefined> => {
  const row = await firstRow<ViewerRow>(db, `select ${VIEWER_COLUMNS} from people p where p.id = :personId`, by, HOT);
  return row && toViewer(row);
};

/** The viewer of a living session, noting that it was seen (at most once a minute, so that reading does not write). */
export const findViewerBySession = async (
  db: Db,
  by: { tokenHash: string; day: string; now: Date },
): Promise<Viewer | undefined> => {
  const row = await firstRow<ViewerRow & { last_seen_at: Date }>(
    db,
    `select ${VIEWER_COLUMNS}, s.token_hash, s.last_signed_at, s.last_seen_at,
       case when s.sees_as_id is not null then jsonb_build_object('id', seer.id, 'signInName', seer.sign_in_name, 'name', seer.name) end as seer
     from sessions s join people seer on seer.id = s.person_id join people p on p.id = coalesce(s.sees_as_id, s.person_id)
     where s.token_hash = :tokenHash and s.expires_at > :now and seer.state = 'active' and p.state <> 'deactivated'`,
    by,
    HOT,
  );
  if (!row) return undefined;
  if (by.now.getTime() - row.last_seen_at.getTime() > 60_000) {
    await rows(db, 'update sessions set last_seen_at = :now where token_hash = :tokenHash', by);
  }
  return toViewer(row);
};

type EntryRow = {
  folder_id: string | null;
  document_id: string | null;
  subject_kind: 'person' | 'unit' | 'all';
  subject_id: string | null;
  rights: Right[];
  withheld: boolean;
};

const toEntry = (row: EntryRow): AccessEntry => ({
  subject: row.subject_kind === 'all' ? { kind: 'all' } : { kind: row.subject_kind, id: row.subject_id ?? '' },
  rights: row.rights,
  withheld: row.withheld,
});

const ENTRY = 'folder_id, document_id, subject_kind, subject_id, rights, withheld';

/** The version of the filing plan and its entries; one row, raised by every change. */
export const findAccessVersion = async (db: Db | Trx): Promise<number> =>
  (await firstRow<{ n: number }>(db, 'select n from access_version', {}, HOT))?.n ?? 0;

/** What each level of confidentiality forbids in this organisation. */
export const findConfidentiality = async (db: Db | Trx): Promise<ConfidentialityRules> => ({
  ...DEFAULT_CONFIDENTIALITY,
  ...(await firstRow<{ rules: ConfidentialityRules }>(db, 'select confidentiality as rules from organisation'))?.rules,
});

/** Documents of some levels in some folders, to keep them from outside parties: queried only for their folders, which are few. */
export const listOfLevels = async (
  db: Db | Trx,
  by: { levels: string[]; folders: string[]; documents: string[]; me: string },
): Promise<string[]> =>
  (
    await rows<{ id: string }>(
      db,
      `select id from documents where confidentiality = any(:levels::text[])
         and (folder_id = any(:folders::uuid[]) or id = any(:documents::uuid[]) or owner_id = :me)`,
      by,
    )
  ).map((row) => row.id);

export type FolderEntries = {
  id: string;
  parentId: string | null;
  areaId: string;
  name: string;
  entries: AccessEntry[];
  inPreparation: boolean;
};

/** The filing plan with its entries: few hundred folders, read whole. */
export const listFolderEntries = async (db: Db | Trx): Promise<FolderEntries[]> => {
  const folders = await rows<{ id: string; parent_id: string | null; area_id: string; name: string; state: string }>(
    db,
    'select id, parent_id, area_id, name, state from folders',
  );
  const grants = await rows<EntryRow>(db, `select ${ENTRY} from grants where folder_id is not null`);
  const byFolder = groupBy(grants, (grant) => grant.folder_id ?? '');
  return folders.map((folder) => ({
    id: folder.id,
    parentId: folder.parent_id,
    areaId: folder.area_id,
    name: folder.name,
    inPreparation: folder.state === 'in preparation',
    entries: (byFolder.get(folder.id) ?? []).map(toEntry),
  }));
};

/** A document's row as the place by which rights on it are judged. */
export const toPlace = (row: {
  id: string;
  folder_id: string;
  owner_id: string;
  confidentiality: Confidentiality;
}) => ({
  id: row.id,
  folderId: row.folder_id,
  ownerId: row.owner_id,
  confidentiality: row.confidentiality,
});

export const listTypeNames = (db: Db | Trx) =>
  rows<{ id: string; code: string; name: string; shown: FieldDefinition[] }>(
    db,
    `select id, code, name, (select coalesce(jsonb_agg(f), '[]') from jsonb_array_elements(fields) f where f->>'shown' = 'true') as shown from types`,
  );
export const listUnitNames = (db: Db | Trx) => rows<{ id: string; name: string }>(db, 'select id, name from units');

export const listDocumentEntries = async (db: Db | Trx, documentIds: string[]): Promise<Map<string, AccessEntry[]>> => {
  const found = await rows<EntryRow>(
    db,
    `select ${ENTRY} from grants where document_id = any(:documentIds::uuid[])`,
    {
      documentIds,
    },
    HOT,
  );
  return groupEntries(found);
};

const groupEntries = (found: EntryRow[]): Map<string, AccessEntry[]> =>
  new Map([...groupBy(found, (row) => row.document_id ?? '')].map(([id, entries]) => [id, entries.map(toEntry)]));

/**
 * A person is asked in a step when an open assignment is theirs, or that of somebody absent whose deputy they are. Who has
 * answered stays an assignee while the round goes on, to see its result and to resolve comments of their own. The people stand in an
 * array, so that their open assignments are found by index where thousands are open.
 */
export const ASKED_PERSON = `((a.state = 'answered' and a.decided_by = :personId) or (a.state = 'open' and a.person_id = any(array(select :personId::uuid union all
  select x.person_id from absences x where x.deputy_id = :personId and x.from_day <= :day and x.to_day >= :day and not exists (select 1 from people o where o.id = x.deputy_id and o.outside)))))`;

export const findAsked = async (
  db: Db | Trx,
  by: { personId: string; documentId: string; day: string },
): Promise<{ inStep: boolean; mayCheckIn: boolean; toRead: boolean }> => {
  const found = await firstRow<{ in_step: boolean | null; may_check_in: boolean | null; to_read: boolean }>(
    db,
    `select bool_or(true) as in_step, bool_or(s.editing and a.state = 'open') as may_check_in,
       exists (select 1 from reading_assignments r where r.document_id = :documentId and r.person_id = :personId and r.state in ('open', 'signed', 'carried over')) as to_read
     from assignments a join steps s on s.id = a.step_id join rounds r on r.id = s.round_id
     where r.state = 'running' and r.leads_to = 'release' and r.document_id = :documentId and ${ASKED_PERSON}`,
    by,
    HOT,
  );
  return { inStep: found?.in_step ?? false, mayCheckIn: found?.may_check_in ?? false, toRead: found?.to_read ?? false };
};

/**
 * The single documents that concern a viewer, in one statement, because every list needs it: those with an assignment in a step,
 * those to read, and those with entries of their own for the person or one of the person's units.
 */
export const listConcerned = async (
  db: Db | Trx,
  by: { personId: string; day: string; unitIds: string[]; outside: boolean },
) => {
  const found = await rows<{
    why: 'step' | 'read' | 'entry';
    id: string;
    folder_id: string;
    owner_id: string;
    confidentiality: Confidentiality;
  }>(
    db,
    `select distinct 'step' as why, r.document_id as id, null::uuid as folder_id, null::uuid as owner_id, null::text as confidentiality
     from assignments a join steps s on s.id = a.step_id join rounds r on r.id = s.round_id
     where r.state = 'running' and r.leads_to = 'release' and ${ASKED_PERSON}
     union all
     select distinct 'read', document_id, null::uuid, null::uuid, null::text from reading_assignments where person_id = :personId and state in ('open', 'signed', 'carried over')
     union all
     select 'entry', d.id, d.folder_id, d.owner_id, d.confidentiality from documents d where d.id in (
       select document_id from grants where document_id is not null and (
         (subject_kind = 'person' and subject_id = :personId) or (subject_kind = 'unit' and subject_id = any(:unitIds::uuid[])) or
         (subject_kind = 'all' and not :outside::boolean)))`,
    by,
    HOT,
  );
  const own = found.filter((row) => row.why === 'entry');
  const entries = own.length
    ? await listDocumentEntries(
        db,
        own.map((row) => row.id),
      )
    : new Map<string, AccessEntry[]>();
  return {
    inStep: new Set(found.filter((row) => row.why === 'step').map((row) => row.id)),
    toRead: new Set(found.filter((row) => row.why === 'read').map((row) => row.id)),
    own: own.map((d) => ({ ...toPlace(d), entries: entries.get(d.id) ?? [] })),
  };
};

/** The documents of some folders that a person owns or has assignments on, without those with rights of their own. */
export const listWithheldIn = async (
  db: Db | Trx,
  by: { folders: readonly string[]; me: string; documents: readonly string[]; judged: readonly string[] },
): Promise<string[]> =>
  (
    await rows<{ id: string }>(
      db,
      `select id from documents where folder_id = any(:folders::uuid[]) and (owner_id = :me or id = any(:documents::uuid[]))
         and id <> all(:judged::uuid[])`,
      by,
    )
  ).map((row) => row.id);
