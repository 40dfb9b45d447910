import type { Metadata, RevisionState } from '@kanonos/core';
import { type Db, firstRow, HOT, rows } from '../../platform/db/connect.ts';

export type ListRow = {
  document_id: string;
  revision_id: string;
  number: string;
  title: string;
  label: string;
  state: RevisionState;
  on_hold: boolean;
  type_id: string;
  folder_id: string;
  owner: string;
  department_id: string | null;
  planned_on: string | null;
  own_state: string | null;
  blocked_since: Date | null;
  effective_from: Date | null;
  review_on: string | null;
  changed_at: Date;
  out_person: string | null;
  out_since: Date | null;
  version_count: number;
  round: { step: string; n: number; of: number; due: string | null } | null;
  held_up: boolean;
  metadata: Metadata;
  sort_value: string;
};

/**
 * A page of the register: the ids of the page first (from the narrow index), everything else for those rows only.
 * `page` selects document_id, revision_id, number, title, label, state and sort_value in order with a limit.
 */
export const listPage = (
  db: Db,
  page: string,
  bindings: Record<string, unknown>,
  order: string,
  how: { hot?: boolean },
) =>
  rows<ListRow>(
    db,
    `${page}
     select x.document_id, x.revision_id, x.number, x.title, x.label, x.state, x.sort_value, d.hold is not null as on_hold, d.type_id, d.folder_id, o.name as owner, d.department_id, r.planned_on, r.blocked_since, r.own_state, d.review_on, d.changed_at,
       e.from_at as effective_from, k.person as out_person, k.at as out_since, r.version_count, round.round, coalesce(round.held_up, false) as held_up, d.metadata || r.metadata as metadata
     from x join documents d on d.id = x.document_id join revisions r on r.id = x.revision_id join people o on o.id = d.owner_id
     left join lateral (select from_at from periods p where p.document_id = d.id and p.revision_id = r.id order by from_at desc limit 1) e on true
     left join lateral (select p.name as person, c.at from checkouts c join people p on p.id = c.person_id where c.document_id = d.id and c.ended_at is null and c.revision_id = r.id) k on true
     left join lateral (select g.held_up is not null as held_up, (select json_build_object('step', s.name, 'n', s.stage + 1, 'of', (select max(z.stage) + 1 from steps z where z.round_id = g.id), 'due', s.due_on) from steps s where s.round_id = g.id and s.state = 'open' order by s.due_on, s.n limit 1) as round
       from rounds g where g.revision_id = r.id and g.state = 'running' and g.leads_to = 'release') round on true
     order by ${order}`,
    bindings,
    how,
  );

export const listUntil = (db: Db, by: { documentIds: string[]; begin: Date; end: Date }) =>
  rows<{ document_id: string; label: string; to_at: Date }>(
    db,
    'select document_id, label, to_at from periods where document_id = any(:documentIds::uuid[]) and to_at > :begin and to_at < :end order by to_at',
    by,
  );

/** Numbers that begin with a text, as a range over documents_number_prefix. */
export const listByPrefix = (db: Db, prefix: string, where: string, bindings: Record<string, unknown>) =>
  rows<{ id: string; number: string }>(
    db,
    `select d.id, d.number from documents d where d.number ~>=~ :prefix and d.number ~<~ :beyond and d.removed_at is null and (${where}) order by d.number using ~<~ limit 20`,
    {
      ...bindings,
      prefix,
      beyond: `${prefix.slice(0, -1)}${String.fromCharCode(prefix.charCodeAt(prefix.length - 1) + 1)}`,
    },
    HOT,
  );

export type HitRow = {
  document_id: string;
  number: string;
  title: string;
  label: string;
  state: RevisionState;
  on_hold: boolean;
  tier: number;
  passage: string | null;
};
export const listHits = (db: Db, sql: string, bindings: Record<string, unknown>) => rows<HitRow>(db, sql, bindings);

export const listFieldKinds = (db: Db) =>
  rows<{ key: string; kind: string }>(
    db,
    `select distinct f->>'key' as key, f->>'kind' as kind from types, jsonb_array_elements(fields) f`,
  );

/** In how many texts, and in how many titles and metadata, words occur; counted up to a limit. */
export const countHits = (db: Db, { sql, bindings }: { sql: string; bindings: Record<string, unknown> }) =>
  firstRow<{ texts: number; metadata: number }>(db, sql, bindings);

/** How many documents lie in some folders, from the kept counts. */
export const countInFolders = async (db: Db, folderIds: readonly string[]): Promise<number> =>
  (
    await firstRow<{ n: number }>(
      db,
      `select coalesce(sum(n), 0)::bigint as n from document_counts where revision_scope = 'document' and folder_id = any(:folderIds::uuid[])`,
      { folderIds },
      HOT,
    )
  )?.n ?? 0;

/** Which of some numbers a scope may see. */
export const findByNumbers = async (
  db: Db,
  numbers: string[],
  where: string,
  bindings: Record<string, unknown>,
): Promise<string[]> =>
  (
    await rows<{ number: string }>(
      db,
      `select d.number from documents d where d.number = any(:numbers::text[]) and d.removed_at is null and (${where})`,
      { ...bindings, numbers },
      HOT,
    )
  ).map((row) => row.number);

/** The ids that a filter's statement finds. */
export const listIds = async (db: Db, sql: string, bindings: Record<string, unknown>): Promise<string[]> =>
  (await rows<{ id: string }>(db, sql, bindings)).map((row) => row.id);

/** Documents with a shortcut in a folder, or in one below it. */
export const listShortcuts = async (db: Db, folderId: string, below: boolean): Promise<string[]> =>
  (
    await rows<{ id: string }>(
      db,
      below
        ? 'select document_id as id from shortcuts where folder_id in (select id from folders where path @> array[:folderId]::uuid[])'
        : 'select document_id as id from shortcuts where folder_id = :folderId',
      { folderId },
    )
  ).map((row) => row.id);
