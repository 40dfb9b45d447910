import type { StoredSignature } from '@kanonos/core';
import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export type RecordRow = { id: string; revision_id: string; digest: string; text: string; frozen_at: Date };
export type SignatureRow = StoredSignature & {
  record_id: string;
  for_name: string | null;
  void_at: Date | null;
  void_reason: string | null;
  record_text: string;
  record_digest: string;
  seal: string | null;
  sign_in_name: string;
  /** The hashed text of the event of its command, which proves what was signed whatever the columns hold. */
  event_text: string | null;
  event_hash: string | null;
  /** What the round leads to in which it was given; null outside a round. */
  round_leads_to: 'release' | 'nothing' | null;
};

export const insertRecord = (
  trx: Trx,
  record: { id: string; revisionId: string; digest: string; text: string; now: Date },
) =>
  rows(
    trx,
    'insert into signing_records (id, revision_id, digest, text, frozen_at) values (:id, :revisionId, :digest, :text, :now)',
    record,
  );
export const findRecord = (db: Db | Trx, id: string) =>
  firstRow<RecordRow>(db, 'select * from signing_records where id = :id', { id });
export const findLatestRecord = (db: Db | Trx, revisionId: string) =>
  firstRow<RecordRow>(
    db,
    'select * from signing_records where revision_id = :revisionId order by frozen_at desc, id desc limit 1',
    { revisionId },
  );

export const insertSignature = (
  trx: Trx,
  s: {
    id: string;
    recordId: string;
    revision: string;
    person: string;
    printedName: string;
    meaning: string;
    now: Date;
    zone: string;
    method: string;
    for: string | null;
    digest: string;
    assignment: string | null;
    reading: string | null;
    seal: string;
  },
) =>
  rows(
    trx,
    `insert into signatures (id, record_id, revision_id, person_id, printed_name, meaning, at, zone, method, for_person_id, digest, assignment_id, reading_id, seal)
     values (:id, :recordId, :revision, :person, :printedName, :meaning, :now, :zone, :method, :for, :digest, :assignment, :reading, :seal)`,
    s,
  );
const SIGNATURE = `select s.*, f.name as for_name, p.sign_in_name, r.text as record_text, r.digest as record_digest, e.text as event_text, e.hash as event_hash,
    (select u.leads_to from assignments a join steps t on t.id = a.step_id join rounds u on u.id = t.round_id where a.id = s.assignment_id) as round_leads_to
  from signatures s join signing_records r on r.id = s.record_id join people p on p.id = s.person_id left join people f on f.id = s.for_person_id
  left join lateral (select text, hash from events where signature_id = s.id order by seq limit 1) e on true`;
export const listSignatures = (db: Db | Trx, revisionIds: string[]) =>
  rows<SignatureRow>(
    db,
    `${SIGNATURE} where s.revision_id = any(:revisionIds::uuid[]) and s.reading_id is null order by s.at`,
    { revisionIds },
  );
export const findReadingSignature = (db: Db | Trx, readingId: string) =>
  firstRow<SignatureRow>(db, `${SIGNATURE} where s.reading_id = :readingId order by s.at desc limit 1`, { readingId });
export const voidSignatures = (
  trx: Trx,
  by: { revisionId: string; now: Date; reason: string; roundId: string | null },
) =>
  changed(
    trx,
    `update signatures s set void_at = :now, void_reason = :reason where s.revision_id = :revisionId and s.void_at is null and (:roundId::uuid is null or s.assignment_id in
       (select a.id from assignments a join steps t on t.id = a.step_id where t.round_id = :roundId))`,
    by,
  );

export const findSigner = (db: Db | Trx, id: string) =>
  firstRow<{
    password_hash: string | null;
    sign_in_name: string;
    signing_wrong: number;
    signing_locked_until: Date | null;
    state: string;
  }>(db, 'select password_hash, sign_in_name, signing_wrong, signing_locked_until, state from people where id = :id', {
    id,
  });
/**
 * Counts a try before it is judged; undefined where signing is locked, or where the allowed number of tries is under way. A lock that
 * has run out begins the count anew.
 */
export const countTry = async (
  db: Db | Trx,
  by: { id: string; now: Date; most: number },
): Promise<number | undefined> =>
  (
    await firstRow<{ signing_wrong: number }>(
      db,
      `update people set signing_wrong = case when signing_locked_until is null then signing_wrong else 0 end + 1, signing_locked_until = null
       where id = :id and (signing_locked_until <= :now or (signing_locked_until is null and signing_wrong < :most)) returning signing_wrong`,
      by,
    )
  )?.signing_wrong;
/** A try that was not wrong does not count. */
export const takeBackTry = (db: Db | Trx, id: string) =>
  rows(db, 'update people set signing_wrong = greatest(signing_wrong - 1, 0) where id = :id', { id });
/** Locks signing where it is not locked; answers until when. */
export const lockSigning = async (db: Db | Trx, by: { id: string; until: Date }): Promise<Date | undefined> =>
  (
    await firstRow<{ at: Date }>(
      db,
      'update people set signing_locked_until = coalesce(signing_locked_until, :until) where id = :id returning signing_locked_until as at',
      by,
    )
  )?.at;
export const noteSigned = async (trx: Trx, by: { personId: string; tokenHash: string | null; now: Date }) => {
  await rows(trx, 'update people set signing_wrong = 0 where id = :personId and signing_wrong > 0', by);
  if (by.tokenHash) await rows(trx, 'update sessions set last_signed_at = :now where token_hash = :tokenHash', by);
};
export const listSecurity = (db: Db | Trx, day: string) =>
  rows<{ id: string }>(
    db,
    `select id from people where state = 'active' and 'security' = any(organisation_rights_of(id, :day))`,
    { day },
  );
