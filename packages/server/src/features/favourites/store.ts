import type { RevisionState } from '@kanonos/core';
import { type Db, firstRow, rows } from '../../platform/db/connect.ts';
import { type ListScope, SEES, SEES_WORK } from '../access/index.ts';

type Favourite = { personId: string; documentId: string };

export const insertFavourite = (db: Db, by: Favourite) =>
  rows(
    db,
    `insert into favourites (person_id, document_id, sort)
     select :personId, :documentId, coalesce(max(sort), 0) + 1 from favourites where person_id = :personId on conflict do nothing`,
    by,
  );

export const deleteFavourite = (db: Db, by: Favourite) =>
  rows(db, 'delete from favourites where person_id = :personId and document_id = :documentId', by);

export const findFavourite = async (db: Db, by: Favourite): Promise<boolean> =>
  (await firstRow(db, 'select 1 from favourites where person_id = :personId and document_id = :documentId', by)) !==
  undefined;

export const sortFavourites = (db: Db, by: { personId: string; documentIds: readonly string[] }) =>
  rows(
    db,
    `update favourites f set sort = w.sort from (
       select document_id, row_number() over (order by array_position(:documentIds::uuid[], document_id) nulls last, sort) as sort
       from favourites where person_id = :personId) w
     where f.person_id = :personId and f.document_id = w.document_id and f.sort <> w.sort`,
    by,
  );

/** With the title and label in force for who sees no more, else those of the revision in work or of the last. */
export const listFavourites = (db: Db, personId: string, scope: ListScope) =>
  rows<{ document_id: string; number: string; title: string; label: string; state: RevisionState; on_hold: boolean }>(
    db,
    `select d.id as document_id, d.number, coalesce(d.public_title, r.title) as title, coalesce(d.public_label, r.label) as label,
       coalesce(d.public_state, r.state) as state, d.hold is not null as on_hold
     from favourites f join documents d on d.id = f.document_id
     join lateral (select title, label, state from revisions where document_id = d.id order by ordinal desc limit 1) r on true
     where f.person_id = :personId and d.removed_at is null and (${SEES_WORK} or (${SEES} and d.public_state is not null)) order by f.sort`,
    { ...scope, personId },
  );
