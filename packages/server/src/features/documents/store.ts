import type { Hold } from '@kanonos/contract';
import type { Confidentiality, FolderState, Metadata, RevisionState } from '@kanonos/core';
import { changed, type Db, firstRow, HOT, rows, type Trx } from '../../platform/db/connect.ts';
import { isId } from '../../platform/db/ids.ts';
import { type ListScope, SEES, SEES_WORK } from '../access/index.ts';

export type DocumentRow = {
  id: string;
  number: string;
  type_id: string;
  folder_id: string;
  owner_id: string;
  department_id: string | null;
  confidentiality: Confidentiality;
  parent_id: string | null;
  parent_number: string | null;
  location: string;
  sites: string[];
  review_every: number | null;
  follows_naming_rule: boolean | null;
  sharing: string;
  origin_source: string;
  origin_edition: string;
  origin_watcher: string | null;
  origin_watcher_name: string | null;
  origin_check_on: string | null;
  /** A revision of it was ever sent. */
  was_submitted: boolean;
  /** The organisation wants all stored names by rule. */
  organisation_names_by_rule: boolean;
  metadata: Metadata;
  keywords: string[];
  review_on: string | null;
  withdraw_on: string | null;
  withdraw_reason: string | null;
  hold: Hold | null;
  registered_at: Date;
  registered_by: string;
  changed_at: Date;
  removed_at: Date | null;
  folder_name: string;
  unverified_since: Date | null;
  folder_state: FolderState;
  row_version: number;
  newest_revision_id: string;
  public_revision_id: string | null;
  public_state: RevisionState | null;
  public_label: string | null;
  public_title: string | null;
  newest_state: RevisionState;
  newest_label: string;
  newest_title: string;
  owner_name: string;
  department_name: string | null;
  registered_by_name: string;
};

// Named one by one, so that its plan can be kept: every command and page begins with it.
const DOCUMENT = `select d.id, d.number, d.type_id, d.folder_id, d.owner_id, d.department_id, d.confidentiality, d.metadata, d.keywords, d.review_on, d.withdraw_on,
  d.withdraw_reason, d.registered_at, d.registered_by, d.changed_at, d.removed_at, d.row_version, d.newest_revision_id, d.newest_state, d.newest_label, d.newest_title,
  d.public_revision_id, d.public_state, d.public_label, d.public_title, d.unverified_since, d.parent_id, d.location, d.sites, d.review_every, d.follows_naming_rule,
  d.sharing, d.origin_source, d.origin_edition, d.origin_watcher, d.origin_check_on, d.hold, f.name as folder_name, f.state as folder_state, o.name as owner_name, x.number as parent_number, w.name as origin_watcher_name,
  exists (select 1 from rounds where document_id = d.id and leads_to = 'release') as was_submitted, (select follows_naming_rule from organisation) as organisation_names_by_rule, u.name as department_name, r.name as registered_by_name
  from documents d join folders f on f.id = d.folder_id join people o on o.id = d.owner_id join people r on r.id = d.registered_by left join units u on u.id = d.department_id left join documents x on x.id = d.parent_id left join people w on w.id = d.origin_watcher`;

export const findDocument = (db: Db | Trx, ref: string) =>
  firstRow<DocumentRow>(db, `${DOCUMENT} where ${isId(ref) ? 'd.id = :ref::uuid' : 'd.number = :ref'}`, { ref }, HOT);

/** A document by a number that it bore before it was renumbered. */
export const findByFormerNumber = (db: Db | Trx, number: string) =>
  isId(number)
    ? undefined
    : firstRow<DocumentRow>(
        db,
        `${DOCUMENT} where d.id = (select document_id from numbers where number = :number and state = 'void')`,
        { number },
      );

/** Locks the document's row for the rest of the transaction: commands on one document run one after the other. */
export const lockDocument = (trx: Trx, ref: string) =>
  firstRow<{ id: string }>(
    trx,
    `select id from documents where ${isId(ref) ? 'id = :ref::uuid' : 'number = :ref'} for update`,
    { ref },
  );
export const setRemoved = (trx: Trx, id: string, at: Date | null, reason: string | null, by: string | null) =>
  rows(
    trx,
    'update documents set removed_at = :at, removed_why = :reason, removed_by = :by, row_version = row_version + 1 where id = :id',
    { id, at, reason, by },
  );
/** Removed documents, the last one first. */
export const listRemoved = (db: Db) =>
  rows<{
    id: string;
    number: string;
    title: string;
    folder_id: string;
    owner_id: string;
    confidentiality: Confidentiality;
    removed_at: Date;
    by_name: string;
    removed_why: string;
  }>(
    db,
    `select d.id, d.number, d.newest_title as title, d.folder_id, d.owner_id, d.confidentiality, d.removed_at, coalesce(p.name, '') as by_name, coalesce(d.removed_why, '') as removed_why
     from documents d left join people p on p.id = d.removed_by where d.removed_at is not null order by d.removed_at desc limit 500`,
  );

/** The types of what a person registered lately, the last one first. */
export const listRecent = async (db: Db, personId: string): Promise<string[]> =>
  (
    await rows<{ type_id: string }>(
      db,
      `select type_id from (select type_id, registered_at from documents where registered_by = :personId order by registered_at desc limit 30) d
       group by type_id order by max(registered_at) desc limit 5`,
      { personId },
    )
  ).map((row) => row.type_id);
export const changeDocument = (
  trx: Trx,
  d: {
    id: string;
    metadata: Metadata;
    keywords: string[];
    ownerId: string;
    reviewOn: string | null;
    /** What is left out stays. */
    about?: WrittenAbout;
    now: Date;
    rowVersion: number;
  },
) =>
  changed(
    trx,
    `update documents set metadata = :metadata::jsonb, keywords = :keywords::text[], owner_id = :ownerId, review_on = :reviewOn, changed_at = :now, row_version = row_version + 1
       ${d.about ? ', parent_id = :parentId, department_id = :departmentId, location = :location, sites = :sites::text[], confidentiality = :confidentiality, review_every = :reviewEvery, follows_naming_rule = :followsNamingRule, sharing = :sharing, origin_source = :originSource, origin_edition = :originEdition, origin_watcher = :originWatcher, origin_check_on = :originCheckOn' : ''}
     where id = :id and row_version = :rowVersion`,
    { ...d, ...d.about, metadata: JSON.stringify(d.metadata) },
  );
export const setWithdrawal = (trx: Trx, id: string, day: string | null, reason: string | null) =>
  rows(
    trx,
    'update documents set withdraw_on = :day, withdraw_reason = :reason, row_version = row_version + 1 where id = :id',
    { id, day, reason },
  );
export const setHold = (trx: Trx, id: string, hold: Hold | null) =>
  rows(trx, 'update documents set hold = :hold::jsonb, row_version = row_version + 1 where id = :id', {
    id,
    hold: hold && JSON.stringify(hold),
  });
export const setReviewDay = (trx: Trx, id: string, day: string | null) =>
  rows(trx, 'update documents set review_on = :day where id = :id', { id, day });

/**
 * Brings the columns that lists show in line with the revisions: the newest one for who may read work (in work, else in
 * force, else the last released, else abandoned), the public one for everyone else. Also the words to search by.
 */
export const refreshLists = (trx: Trx, documentId: string, now: Date) =>
  rows(
    trx,
    `with ranked as (
       select r.id, r.state, r.label, r.title,
         row_number() over (order by case when r.state in ('draft','in review','in approval','approved','scheduled') then 0 when r.state = 'in force' then 1
           when r.state in ('superseded','withdrawn') then 2 else 3 end, r.ordinal desc) as newest,
         row_number() over (order by case when r.state = 'in force' then 0 when r.state in ('superseded','withdrawn') then 1 else 9 end, r.ordinal desc) as public,
         r.state in ('in force','superseded','withdrawn') as released
       from revisions r where r.document_id = :documentId),
     words as (
       update revisions r set search = setweight(to_tsvector('simple', d.number), 'A') || setweight(to_tsvector('english', r.title), 'A') ||
         setweight(to_tsvector('english', coalesce((select string_agg(value, ' ') from jsonb_each_text(r.metadata || d.metadata)), '') || ' ' || array_to_string(d.keywords, ' ')), 'B')
       from documents d where d.id = :documentId and r.document_id = d.id and r.id in (select id from ranked where newest = 1 or (public = 1 and released)))
     update documents d set changed_at = greatest(d.changed_at, :now::timestamptz),
       newest_revision_id = n.id, newest_state = n.state, newest_label = n.label, newest_title = n.title,
       public_revision_id = p.id, public_state = p.state, public_label = p.label, public_title = p.title
     from (select * from ranked where newest = 1) n left join (select * from ranked where public = 1 and released) p on true
     where d.id = :documentId`,
    { documentId, now },
  );

/**
 * The words by which the shown revisions of documents are found.
 */
export const refreshWords = (trx: Trx, ids: readonly string[]) =>
  rows(
    trx,
    `update revisions r set search = setweight(to_tsvector('simple', d.number), 'A') || setweight(to_tsvector('english', r.title), 'A') ||
       setweight(to_tsvector('english', coalesce((select string_agg(value, ' ') from jsonb_each_text(r.metadata || d.metadata)), '') || ' ' || array_to_string(d.keywords, ' ')), 'B')
     from documents d where d.id = any(:ids::uuid[]) and r.document_id = d.id and (r.id = d.newest_revision_id or r.id = d.public_revision_id)`,
    { ids },
  );

export const setNumber = (trx: Trx, id: string, number: string) =>
  rows(trx, 'update documents set number = :number, row_version = row_version + 1 where id = :id', { id, number });
export const setCheckDay = (trx: Trx, id: string, on: string | null, edition: string) =>
  rows(
    trx,
    'update documents set origin_check_on = :on, origin_edition = :edition, row_version = row_version + 1 where id = :id',
    { id, on, edition },
  );
export const findAskedToRead = async (db: Db, by: { revisionId: string; personId: string }) =>
  Boolean(
    await firstRow(
      db,
      `select 1 from reading_assignments where revision_id = :revisionId and person_id = :personId and state in ('open', 'signed', 'carried over')`,
      by,
    ),
  );

/** The row of a document without its metadata. */
export type WrittenAbout = {
  parentId: string | null;
  departmentId: string | null;
  location: string;
  sites: string[];
  confidentiality: Confidentiality;
  reviewEvery: number | null;
  followsNamingRule: boolean | null;
  sharing: string;
  originSource: string;
  originEdition: string;
  originWatcher: string | null;
  originCheckOn: string | null;
};

/** Keywords of the documents in a scope, the most used first, from the documents changed last. */
export const listKeywords = (db: Db | Trx, given: ListScope) =>
  rows<{ word: string; documents: number }>(
    db,
    `select word, count(*)::int as documents from (
       select unnest(d.keywords) as word from (
         select d.keywords from documents d
         where d.removed_at is null and cardinality(d.keywords) > 0 and (${SEES_WORK} or (d.public_state is not null and ${SEES}))
         order by d.changed_at desc limit ${LOOKED_AT}) d) words
     group by word order by count(*) desc, word limit 5000`,
    given,
  );

export const findCircle = (db: Trx, given: { parent: string; id: string }) =>
  rows(
    db,
    `with recursive above as (
       select id, parent_id from documents where id = :parent
       union select d.id, d.parent_id from documents d join above a on d.id = a.parent_id)
     select 1 from above where id = :id`,
    given,
  );

export const listRelatives = (db: Db | Trx, given: { id: string; parent: string | null }) =>
  rows<RelativeRow>(
    db,
    `select id, number, folder_id, owner_id, confidentiality, newest_title, newest_label, newest_state, public_title, public_label, public_state
     from documents where (parent_id = :id or id = :parent::uuid) and removed_at is null order by number limit 500`,
    given,
  );

/** In a large organisation the documents changed last are a sufficient sample of the words used. */
const LOOKED_AT = 20_000;

type RelativeRow = Pick<DocumentRow, 'id' | 'number' | 'folder_id' | 'owner_id' | 'confidentiality'> & {
  newest_title: string;
  newest_label: string;
  newest_state: string;
  public_title: string | null;
  public_label: string | null;
  public_state: string | null;
};
