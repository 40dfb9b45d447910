import type { Audience, ReadingPolicy, RevisionState } from '@kanonos/core';
import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export type RequirementRow = {
  id: string;
  document_id: string;
  audience: Audience;
  kind: 'read and sign' | 'for information';
  instructions: string;
  working_days: number;
  new_joiner_days: number;
  per_change: Record<string, ReadingPolicy>;
  before_in_force: boolean;
  from_type: boolean;
  from_day: string;
  to_day: string | null;
  row_version: number;
};
export type ReadingRow = {
  id: string;
  requirement_id: string;
  document_id: string;
  revision_id: string;
  person_id: string;
  state: 'open' | 'signed' | 'carried over' | 'not needed' | 'overtaken' | 'void';
  policy: ReadingPolicy;
  new_joiner: boolean;
  due_on: string;
  opened_at: Date;
  closed_at: Date | null;
  remark: string;
  reminded_at: Date | null;
};

/** Whether the reading `a` has a valid signature: the signature counts, not a column. */
export const HAS_SIGNATURE = `exists (select 1 from signatures sg where sg.reading_id = a.id and sg.void_at is null)`;
/** The state of the reading `a`: signed only with a signature, else open as before. */
const STATE = `case when a.state = 'signed' and not ${HAS_SIGNATURE} then 'open' else a.state end`;
/** All columns of the reading `a`, its state as it counts. */
const READING = `a.id, a.requirement_id, a.document_id, a.revision_id, a.person_id, ${STATE} as state, a.policy, a.new_joiner, a.due_on, a.opened_at,
  case when a.state = 'signed' and not ${HAS_SIGNATURE} then null else a.closed_at end as closed_at, a.remark, a.reminded_at`;

export const findRequirement = (db: Db | Trx, documentId: string) =>
  firstRow<RequirementRow>(
    db,
    'select * from reading_requirements where document_id = :documentId and to_day is null',
    { documentId },
  );
/** What a reading requirement says: of whom, how, and by when. */
type RequirementFields = {
  audience: Audience;
  kind: string;
  instructions: string;
  workingDays: number;
  newJoinerDays: number;
  perChange: unknown;
  beforeInForce: boolean;
};
export const insertRequirement = (
  trx: Trx,
  r: RequirementFields & { id: string; documentId: string; fromType: boolean; from: string },
) =>
  rows(
    trx,
    `insert into reading_requirements (id, document_id, audience, kind, instructions, working_days, new_joiner_days, per_change, before_in_force, from_type, from_day)
     values (:id, :documentId, :audience::jsonb, :kind, :instructions, :workingDays, :newJoinerDays, :perChange::jsonb, :beforeInForce, :fromType, :from)`,
    { ...r, audience: JSON.stringify(r.audience), perChange: JSON.stringify(r.perChange) },
  );
export const changeRequirement = (trx: Trx, r: RequirementFields & { id: string; rowVersion: number }) =>
  changed(
    trx,
    `update reading_requirements set audience = :audience::jsonb, kind = :kind, instructions = :instructions, working_days = :workingDays, new_joiner_days = :newJoinerDays, per_change = :perChange::jsonb,
       before_in_force = :beforeInForce, from_type = false, row_version = row_version + 1 where id = :id and row_version = :rowVersion`,
    { ...r, audience: JSON.stringify(r.audience), perChange: JSON.stringify(r.perChange) },
  );

export const listStored = (trx: Trx, by: { requirementId: string; revisionId: string }) =>
  rows<{ person_id: string; state: ReadingRow['state'] }>(
    trx,
    'select person_id, state from reading_assignments where requirement_id = :requirementId and revision_id = :revisionId',
    by,
  );
/** Who has signed an earlier revision of the document under the same duty. */
export const listSignedEarlier = async (trx: Trx, by: { requirementId: string; documentId: string; ordinal: number }) =>
  (
    await rows<{ person_id: string }>(
      trx,
      `select distinct a.person_id from reading_assignments a join revisions r on r.id = a.revision_id where a.requirement_id = :requirementId and a.document_id = :documentId and r.ordinal < :ordinal and ${STATE} in ('signed', 'carried over')`,
      by,
    )
  ).map((row) => row.person_id);

/** All new readings of a revision in one statement; who came back after leaving is asked again. */
export const insertReadings = (
  trx: Trx,
  base: { requirementId: string; documentId: string; revisionId: string; now: Date },
  list: { id: string; personId: string; state: string; policy: string; newJoiner: boolean; due: string }[],
) =>
  rows(
    trx,
    `insert into reading_assignments (id, requirement_id, document_id, revision_id, person_id, state, policy, new_joiner, due_on, opened_at, closed_at)
     select u.id, :requirementId, :documentId, :revisionId, u.person_id, u.state, u.policy, u.new_joiner, u.due, :now, case when u.state = 'carried over' then :now::timestamptz end
     from unnest(:ids::uuid[], :people::uuid[], :states::text[], :policies::text[], :newJoiners::boolean[], :dues::date[]) as u(id, person_id, state, policy, new_joiner, due)
     on conflict on constraint reading_once do update set state = excluded.state, policy = excluded.policy, due_on = excluded.due_on, opened_at = excluded.opened_at, closed_at = excluded.closed_at
     where reading_assignments.state = 'not needed'`,
    {
      ...base,
      ids: list.map((x) => x.id),
      people: list.map((x) => x.personId),
      states: list.map((x) => x.state),
      policies: list.map((x) => x.policy),
      newJoiners: list.map((x) => x.newJoiner),
      dues: list.map((x) => x.due),
    },
  );
export const closeReadings = async (
  trx: Trx,
  by: { documentId: string; revisionId: string | null; personIds: string[] | null; state: string; now: Date },
) =>
  (
    await rows<{ person_id: string }>(
      trx,
      `update reading_assignments set state = :state, closed_at = :now where document_id = :documentId and state = 'open' and (:revisionId::uuid is null or revision_id = :revisionId) and (:personIds::uuid[] is null or person_id = any(:personIds)) returning person_id`,
      by,
    )
  ).length;
/** Readings over content that is reopened become void, signed ones too: they stay on record. */
export const voidReadings = (trx: Trx, revisionId: string, now: Date) =>
  changed(
    trx,
    `update reading_assignments set state = 'void', closed_at = coalesce(closed_at, :now) where revision_id = :revisionId and state in ('open', 'signed', 'carried over')`,
    { revisionId, now },
  );

export const findReading = (db: Db | Trx, id: string) =>
  firstRow<ReadingRow>(db, `select ${READING} from reading_assignments a where a.id = :id`, { id });
export const lockReading = (trx: Trx, id: string) =>
  firstRow<ReadingRow>(trx, `select ${READING} from reading_assignments a where a.id = :id for update of a`, { id });
/** Whoever was asked to read a revision and is not excused from it. */
export const listAsked = async (trx: Trx, revisionId: string): Promise<string[]> =>
  (
    await rows<{ id: string }>(
      trx,
      `select person_id as id from reading_assignments where revision_id = :revisionId and state in ('open', 'signed')`,
      { revisionId },
    )
  ).map(({ id }) => id);

export const signReading = (trx: Trx, by: { id: string; now: Date; remark: string }) =>
  changed(
    trx,
    `update reading_assignments set state = 'signed', closed_at = :now, remark = :remark where id = :id and state in ('open', 'signed')`,
    by,
  );

/** My open readings by readings_open. */
export const listMine = (db: Db, personId: string) =>
  rows<
    ReadingRow & {
      number: string;
      title: string;
      label: string;
      revision_state: RevisionState;
      on_hold: boolean;
      words: number;
      pictures: number;
    }
  >(
    db,
    `select ${READING}, d.number, r.title, r.label, r.state as revision_state, d.hold is not null as on_hold, coalesce(f.words, 0)::int as words, coalesce(f.pictures, 0)::int as pictures
     from reading_assignments a join documents d on d.id = a.document_id join revisions r on r.id = a.revision_id
     left join lateral (select sum(c.words) as words, sum(c.pictures) as pictures from version_files vf join contents c on c.sha256 = vf.sha256 where vf.version_id = r.latest_version_id) f on true
     where a.person_id = :personId and a.state in ('open', 'signed', 'carried over') order by (${STATE} = 'open') desc, a.due_on, d.number limit 300`,
    { personId },
  );
export const findMine = async (db: Db, by: { documentId: string; revisionId: string; personId: string }) =>
  (
    await firstRow<{ id: string }>(
      db,
      `select id from reading_assignments where document_id = :documentId and revision_id = :revisionId and person_id = :personId and state = 'open'`,
      by,
    )
  )?.id ?? null;
export const findLastSigned = (db: Db, by: { documentId: string; personId: string; ordinal: number }) =>
  firstRow<{ revision_id: string; label: string; closed_at: Date }>(
    db,
    `select a.revision_id, r.label, a.closed_at from reading_assignments a join revisions r on r.id = a.revision_id where a.document_id = :documentId and a.person_id = :personId and a.state = 'signed' and ${HAS_SIGNATURE} and r.ordinal < :ordinal order by r.ordinal desc limit 1`,
    by,
  );

export type ReaderRow = ReadingRow & { person_name: string; department: string | null; label: string };
export const listReaders = (db: Db, documentId: string, revisionIds: string[], day: string) =>
  rows<ReaderRow>(
    db,
    `select ${READING}, p.name as person_name, r.label, (select u.name from memberships m join units u on u.id = m.ref_id where m.person_id = p.id and m.kind = 'department' and m.from_day <= :day and (m.to_day is null or m.to_day >= :day) limit 1) as department
     from reading_assignments a join people p on p.id = a.person_id join revisions r on r.id = a.revision_id where a.document_id = :documentId and a.revision_id = any(:revisionIds::uuid[]) order by r.ordinal desc, p.name`,
    { documentId, revisionIds, day },
  );
export const countReaders = async (db: Db | Trx, documentId: string, revisionId: string | null) =>
  (await firstRow<{ owed: number; done: number }>(
    db,
    `select count(*)::int as owed, count(*) filter (where ${STATE} in ('signed', 'carried over'))::int as done from reading_assignments a where document_id = :documentId and revision_id = :revisionId and state in ('open', 'signed', 'carried over')`,
    { documentId, revisionId },
  )) ?? { owed: 0, done: 0 };

/** Every current duty of some people: readings of revisions that are in force or may be read before. */
export const listTeamReadings = (db: Db, personIds: string[]) =>
  rows<{
    id: string;
    person_id: string;
    document_id: string;
    revision_id: string;
    state: ReadingRow['state'];
    due_on: string;
    closed_at: Date | null;
    opened_at: Date;
    number: string;
    label: string;
    title: string;
    words: number;
    pictures: number;
  }>(
    db,
    `select a.id, a.person_id, a.document_id, a.revision_id, ${STATE} as state, a.due_on, a.closed_at, a.opened_at, d.number, r.label, r.title, coalesce(f.words, 0)::int as words, coalesce(f.pictures, 0)::int as pictures
     from reading_assignments a join documents d on d.id = a.document_id join revisions r on r.id = a.revision_id
     left join lateral (select sum(c.words) as words, sum(c.pictures) as pictures from version_files vf join contents c on c.sha256 = vf.sha256 where vf.version_id = r.latest_version_id) f on true
     where a.person_id = any(:personIds::uuid[]) and a.state in ('open', 'signed', 'carried over') and r.state in ('in force', 'scheduled') order by d.number`,
    { personIds },
  );
export const noteReminded = (trx: Trx, ids: string[], now: Date) =>
  rows(trx, 'update reading_assignments set reminded_at = :now where id = any(:ids::uuid[])', { ids, now });

/** Documents whose readers may have changed: with an open requirement and a revision that may be read. */
export const listDutiful = (db: Db | Trx) =>
  rows<{ document_id: string; revision_id: string; number: string }>(
    db,
    `select q.document_id, r.id as revision_id, d.number from reading_requirements q join revisions r on r.document_id = q.document_id join documents d on d.id = q.document_id
     where q.to_day is null and (r.state = 'in force' or (q.before_in_force and r.state = 'scheduled'))`,
  );
export const readableSince = async (db: Db | Trx, revisionId: string) =>
  (
    await firstRow<{ from_at: Date }>(
      db,
      'select from_at from periods where revision_id = :revisionId order by from_at desc limit 1',
      { revisionId },
    )
  )?.from_at;
