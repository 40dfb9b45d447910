// breaking: no — PDFs that people outside sign: sent through a service, or brought back by hand.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table signed_outside (
      id uuid primary key,
      document_id uuid not null references documents,
      revision_id uuid not null references revisions,
      how text not null check (how in ('sent', 'brought')),
      state text not null check (state in ('waiting', 'signed', 'declined', 'cancelled')),
      -- Whom a service asks, with how far each is by what it said last.
      signers jsonb not null default '[]',
      note text not null default '',
      by_id uuid not null references people,
      at timestamptz not null,
      -- What left, and by which reference the service knows it.
      sent_sha256 text references contents,
      reference text,
      -- What came back, and what was found in it.
      name text,
      sha256 text references contents,
      signatures jsonb,
      ended_at timestamptz,
      why text not null default '',
      constraint signed_outside_result check ((state = 'signed') = (sha256 is not null))
    );
    create index signed_outside_of on signed_outside (document_id, at);
    create index signed_outside_waiting on signed_outside (at) where (state = 'waiting');
    create index signed_outside_content on signed_outside (sha256) where (sha256 is not null);
    create index signed_outside_sent on signed_outside (sent_sha256) where (sent_sha256 is not null);
  `);
};
