import { type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export type MailRecord = {
  id: string;
  person_id: string | null;
  address: string;
  kind: string;
  subject: string;
  html: string;
  text: string;
  created_at: Date;
  state: 'waiting' | 'sent' | 'failed' | 'held for summary';
  sent_at: Date | null;
  error: string | null;
};

export const findReceivers = (trx: Trx, personIds: string[]) =>
  rows<{ id: string; name: string; email: string; mail_mode: string }>(
    trx,
    `select id, name, email, mail_mode from people where id = any(:personIds::uuid[]) and state <> 'deactivated'`,
    { personIds },
  );

export const insertMail = (
  trx: Trx,
  mail: {
    id: string;
    personId: string;
    address: string;
    kind: string;
    subject: string;
    html: string;
    text: string;
    now: Date;
    state: string;
  },
) =>
  rows(
    trx,
    `insert into mails (id, person_id, address, kind, subject, html, text, created_at, state)
     values (:id, :personId, :address, :kind, :subject, :html, :text, :now, :state)`,
    mail,
  );

export const findMail = (db: Db | Trx, id: string) =>
  firstRow<MailRecord>(db, 'select * from mails where id = :id', { id });

/** Newest first by mails_by_time. */
export const listMails = (db: Db, before: string | undefined) =>
  rows<MailRecord>(
    db,
    'select * from mails where created_at < coalesce(:before::timestamptz, :far::timestamptz) order by created_at desc, id limit 100',
    { before: before ?? null, far: '9999-01-01' },
  );

export const markSent = (db: Db, id: string, now: Date) =>
  rows(db, `update mails set state = 'sent', sent_at = :now, error = null, tries = tries + 1 where id = :id`, {
    id,
    now,
  });

export const markFailed = (db: Db, id: string, error: string) =>
  rows(db, `update mails set state = 'failed', error = :error, tries = tries + 1 where id = :id`, { id, error });

export const listHeld = (trx: Trx) =>
  rows<MailRecord>(
    trx,
    `select * from mails where state = 'held for summary' order by person_id, created_at for update skip locked`,
  );

export const closeHeld = (trx: Trx, ids: string[], now: Date) =>
  rows(trx, `update mails set state = 'sent', sent_at = :now where id = any(:ids::uuid[])`, { ids, now });
export const deleteBefore = (db: Db, before: Date) =>
  rows(db, 'delete from mails where created_at < :before', { before });
