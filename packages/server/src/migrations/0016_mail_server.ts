// breaking: no — The mail server can be set in the browser.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table mail_server (
      id int primary key default 1,
      host text not null,
      port int not null,
      security text not null,
      user_name text not null default '',
      -- Hidden with the key of this installation, never handed out.
      password text,
      sender text not null,
      constraint mail_server_id_check check (id = 1),
      constraint mail_server_security_check check (security in ('none', 'upgrade', 'encrypted'))
    );
  `);
};
