import type { OrganisationRight } from '@kanonos/core';
import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export type PersonRecord = {
  id: string;
  sign_in_name: string;
  name: string;
  email: string;
  password_hash: string | null;
  state: 'active' | 'invited' | 'reset' | 'deactivated';
  organisation_rights: OrganisationRight[];
  mail_mode: 'at once' | 'daily' | 'desk only';
  outside: boolean;
  part: string;
  from_day: string;
  to_day: string | null;
  signing_wrong: number;
  signing_locked_until: Date | null;
  row_version: number;
};

export const findPersonByName = (db: Db | Trx, name: string) =>
  firstRow<PersonRecord>(db, 'select * from people where lower(sign_in_name) = lower(:name)', { name });
export const findPerson = (db: Db | Trx, id: string) =>
  firstRow<PersonRecord>(db, 'select * from people where id = :id', { id });

export const insertSession = (trx: Trx, session: { tokenHash: string; personId: string; now: Date; expires: Date }) =>
  rows(
    trx,
    'insert into sessions (token_hash, person_id, created_at, last_seen_at, expires_at) values (:tokenHash, :personId, :now, :now, :expires)',
    session,
  );
export const deleteSession = (trx: Trx, tokenHash: string) =>
  rows(trx, 'delete from sessions where token_hash = :tokenHash', { tokenHash });
export const deleteSessions = (trx: Trx, personId: string, but: string | null = null) =>
  rows(trx, 'delete from sessions where person_id = :personId and token_hash is distinct from :but', { personId, but });

/**
 * Counts a try before it is judged, so that simultaneous tries are not all judged: after the first few each has to wait, twice as
 * long as the one before. Answers the seconds to wait where it came too early; it is then not counted.
 */
export const countTry = async (
  db: Db | Trx,
  by: { key: string; now: Date; free: number; longest: number },
): Promise<number | undefined> => {
  const wait = `case when t.wrong < :free then 0 else least(:longest, power(2, least(t.wrong - :free + 1, 20))) end`;
  const counted = await firstRow(
    db,
    `insert into sign_in_tries as t (key, wrong, last_at) values (:key, 1, :now)
     on conflict (key) do update set last_at = :now, wrong = case when t.last_at < :now::timestamptz - interval '1 hour' then 1 else t.wrong + 1 end
     where t.last_at + make_interval(secs => ${wait}) <= :now returning 1`,
    by,
  );
  if (counted) return undefined;
  const left = await firstRow<{ seconds: number }>(
    db,
    `select ceil(extract(epoch from t.last_at + make_interval(secs => ${wait}) - :now::timestamptz))::int as seconds from sign_in_tries t where key = :key`,
    by,
  );
  return Math.max(1, left?.seconds ?? 1);
};
/** A try that was not wrong does not count. */
export const takeBackTry = (db: Db | Trx, key: string) =>
  rows(db, 'update sign_in_tries set wrong = greatest(wrong - 1, 0) where key = :key', { key });
export const forgetWrong = (trx: Trx, key: string) => rows(trx, 'delete from sign_in_tries where key = :key', { key });

export const setPasswordHash = (trx: Trx, personId: string, hash: string) =>
  rows(
    trx,
    `update people set password_hash = :hash, state = 'active', signing_wrong = 0, signing_locked_until = null, row_version = row_version + 1 where id = :personId`,
    { personId, hash },
  );

export const deleteProgramPasswords = (trx: Trx, personId: string) =>
  changed(trx, 'delete from program_passwords where person_id = :personId', { personId });
export const listAddresses = async (db: Db | Trx, personId: string): Promise<string[]> =>
  (
    await rows<{ address: string }>(db, 'select address from person_addresses where person_id = :personId', {
      personId,
    })
  ).map((row) => row.address);

export const changeProfile = (trx: Trx, change: { id: string; mailMode: string; rowVersion: number }) =>
  changed(
    trx,
    'update people set mail_mode = :mailMode, row_version = row_version + 1 where id = :id and row_version = :rowVersion',
    change,
  );

export const insertLink = (trx: Trx, link: { tokenHash: string; personId: string; kind: string; expires: Date }) =>
  rows(
    trx,
    'insert into password_links (token_hash, person_id, kind, expires_at) values (:tokenHash, :personId, :kind, :expires)',
    link,
  );
export const voidLinks = (trx: Trx, personId: string, now: Date) =>
  rows(trx, 'update password_links set used_at = :now where person_id = :personId and used_at is null', {
    personId,
    now,
  });
export const findLink = (db: Db | Trx, tokenHash: string, now: Date) =>
  firstRow<{ person_id: string; expires_at: Date; name: string; sign_in_name: string; state: string }>(
    db,
    `select l.person_id, l.expires_at, p.name, p.sign_in_name, p.state from password_links l join people p on p.id = l.person_id
     where l.token_hash = :tokenHash and l.used_at is null and l.expires_at > :now and p.state <> 'deactivated'`,
    { tokenHash, now },
  );
export const useLink = (trx: Trx, tokenHash: string, now: Date) =>
  changed(trx, 'update password_links set used_at = :now where token_hash = :tokenHash and used_at is null', {
    tokenHash,
    now,
  });

export const countSupervised = async (db: Db, personId: string, day: string) =>
  (
    await firstRow<{ n: number }>(
      db,
      `select count(*)::int as n from memberships where kind = 'supervisor' and ref_id = :personId and from_day <= :day and (to_day is null or to_day >= :day)`,
      { personId, day },
    )
  )?.n ?? 0;
export const departmentOf = async (db: Db, personId: string, day: string) =>
  (
    await firstRow<{ name: string }>(
      db,
      `select u.name from memberships m join units u on u.id = m.ref_id where m.person_id = :personId and m.kind = 'department' and m.from_day <= :day and (m.to_day is null or m.to_day >= :day)`,
      { personId, day },
    )
  )?.name ?? null;

export const listDemoPeople = (db: Db, day: string) =>
  rows<{ sign_in_name: string; name: string; department: string | null; part: string }>(
    db,
    `select p.sign_in_name, p.name, p.part, (select u.name from memberships m join units u on u.id = m.ref_id where m.person_id = p.id and m.kind = 'department' and m.from_day <= :day and (m.to_day is null or m.to_day >= :day) limit 1) as department
     from people p where p.part <> '' and p.state = 'active' order by p.id`,
    { day },
  );

export const listAbsences = (db: Db, personId: string, day: string) =>
  rows<{ id: string; from_day: string; to_day: string; deputy_id: string | null; deputy_name: string | null }>(
    db,
    'select a.id, a.from_day, a.to_day, a.deputy_id, p.name as deputy_name from absences a left join people p on p.id = a.deputy_id where a.person_id = :personId and a.to_day >= :day order by a.from_day',
    { personId, day },
  );
export const listStandingIn = (db: Db, personId: string, day: string) =>
  rows<{ person_id: string; name: string; from_day: string; to_day: string }>(
    db,
    'select a.person_id, p.name, a.from_day, a.to_day from absences a join people p on p.id = a.person_id where a.deputy_id = :personId and a.to_day >= :day order by a.from_day',
    { personId, day },
  );
export const insertAbsence = (
  trx: Trx,
  absence: { id: string; personId: string; from: string; to: string; deputyId: string | null },
) =>
  rows(
    trx,
    'insert into absences (id, person_id, from_day, to_day, deputy_id) values (:id, :personId, :from, :to, :deputyId)',
    absence,
  );
export const deleteAbsence = (trx: Trx, by: { id: string; personId: string }) =>
  changed(trx, 'delete from absences where id = :id and person_id = :personId', by);
