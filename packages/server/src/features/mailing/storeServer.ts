import { type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export type MailServerRow = {
  host: string;
  port: number;
  security: 'none' | 'upgrade' | 'encrypted';
  user_name: string;
  password: string | null;
  sender: string;
};

export const findMailServer = (db: Db | Trx): Promise<MailServerRow | undefined> =>
  firstRow<MailServerRow>(db, 'select host, port, security, user_name, password, sender from mail_server');

export const keepMailServer = (trx: Trx, server: MailServerRow) =>
  rows(
    trx,
    `insert into mail_server (host, port, security, user_name, password, sender)
     values (:host, :port, :security, :user_name, :password, :sender)
     on conflict (id) do update set host = excluded.host, port = excluded.port, security = excluded.security,
       user_name = excluded.user_name, password = excluded.password, sender = excluded.sender`,
    server,
  );

export const removeMailServer = (trx: Trx) => rows(trx, 'delete from mail_server');
