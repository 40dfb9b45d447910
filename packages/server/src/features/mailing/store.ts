import type { Confidentiality } from '@kanonos/core';
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
  tries: number;
  next_try_at: Date | null;
  secret: string | null;
  error: string | null;
};

export const findReceivers = (trx: Trx, personIds: string[]) =>
  rows<{ id: string; name: string; email: string; mail_mode: string; outside: boolean }>(
    trx,
    `select id, name, email, mail_mode, outside from people where id = any(:personIds::uuid[]) and state <> 'deactivated'`,
    { personIds },
  );

/** The folder of a document, and whether it or a folder above withholds it from anybody. */
export const findPlace = (trx: Trx, documentId: string) =>
  firstRow<{
    id: string;
    folder_id: string;
    owner_id: string;
    confidentiality: Confidentiality;
    withholds: boolean;
  }>(
    trx,
    `select d.id, d.folder_id, d.owner_id, d.confidentiality,
       exists (select 1 from grants g where g.withheld and (g.document_id = d.id or g.folder_id = any(f.path))) as withholds
     from documents d join folders f on f.id = d.folder_id where d.id = :documentId`,
    { documentId },
  );

export const insertMail = (
  trx: Trx,
  mail: {
    id: string;
    personId: string | null;
    address: string;
    kind: string;
    subject: string;
    html: string;
    text: string;
    now: Date;
    state: string;
    secret: string | null;
  },
) =>
  rows(
    trx,
    `insert into mails (id, person_id, address, kind, subject, html, text, created_at, state, secret)
     values (:id, :personId, :address, :kind, :subject, :html, :text, :now, :state, :secret)`,
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

/** Many mails in one statement. */
export const insertMails = (
  trx: Trx,
  mails: readonly {
    id: string;
    personId: string;
    address: string;
    kind: string;
    subject: string;
    html: string;
    text: string;
    state: string;
  }[],
  now: Date,
) =>
  rows(
    trx,
    `insert into mails (id, person_id, address, kind, subject, html, text, created_at, state)
     select m.id, m.person, m.address, m.kind, m.subject, m.html, m.text, :now, m.state
     from unnest(:ids::uuid[], :people::uuid[], :addresses::text[], :kinds::text[], :subjects::text[], :htmls::text[], :texts::text[], :states::text[])
       as m(id, person, address, kind, subject, html, text, state)`,
    {
      now,
      ids: mails.map((m) => m.id),
      people: mails.map((m) => m.personId),
      addresses: mails.map((m) => m.address),
      kinds: mails.map((m) => m.kind),
      subjects: mails.map((m) => m.subject),
      htmls: mails.map((m) => m.html),
      texts: mails.map((m) => m.text),
      states: mails.map((m) => m.state),
    },
  );

export const markSent = (db: Db, id: string, now: Date) =>
  rows(
    db,
    `update mails set state = 'sent', sent_at = :now, error = null, tries = tries + 1, next_try_at = null, secret = null where id = :id`,
    { id, now },
  );

export const markFailed = (db: Db, f: { id: string; error: string; next: Date | null }) =>
  rows(
    db,
    `update mails set state = 'failed', error = :error, tries = tries + 1, next_try_at = :next where id = :id and state <> 'sent'`,
    f,
  );
/** Failed mails whose next try has come, by mails_failed; they wait again. */
export const takeDue = (trx: Trx, now: Date) =>
  rows<{ id: string }>(
    trx,
    `update mails set state = 'waiting', next_try_at = null where state = 'failed' and next_try_at <= :now returning id`,
    { now },
  );
export const tryAgain = (trx: Trx, id: string | null) =>
  rows<{ id: string }>(
    trx,
    `update mails set state = 'waiting', next_try_at = null, tries = 0 where state = 'failed' and (:id::uuid is null or id = :id) returning id`,
    { id },
  );
export const countFailed = async (db: Db): Promise<number> =>
  (await firstRow<{ n: number }>(db, `select count(*)::int as n from mails where state = 'failed'`))?.n ?? 0;

export const listBlocked = (trx: Trx) =>
  rows<MailRecord>(
    trx,
    `select * from mails where state = 'held for summary' order by person_id, created_at for update skip locked`,
  );

export const closeBlocked = (trx: Trx, ids: string[], now: Date) =>
  rows(trx, `update mails set state = 'sent', sent_at = :now where id = any(:ids::uuid[])`, { ids, now });
export const deleteBefore = (db: Db, before: Date) =>
  rows(db, 'delete from mails where created_at < :before', { before });
