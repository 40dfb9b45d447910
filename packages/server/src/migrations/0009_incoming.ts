// breaking: no — Incoming files, the network drive with its locks, and supporting files.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table incoming_files (
      id uuid primary key,
      -- Where it lay in the intake folder, and when it was written there: the same file is never taken twice.
      path text not null,
      written_at timestamptz not null,
      sha256 text references contents,
      size bigint not null,
      arrived_at timestamptz not null,
      state text not null,
      why text,
      document_id uuid references documents,
      ended_by uuid references people,
      ended_at timestamptz,
      constraint incoming_file_once unique (path, written_at),
      constraint incoming_file_state_known check (state in ('waiting', 'filed', 'set aside', 'refused')),
      constraint incoming_file_has_content check ((sha256 is not null) or (state in ('refused', 'set aside'))),
      constraint incoming_file_filed_where check ((state = 'filed') = (document_id is not null))
    );
    create index incoming_files_waiting on incoming_files (arrived_at) where (state = ANY (ARRAY['waiting', 'refused']));

    -- What a person keeps in a folder by a desk program and that is no document: files, and folders of such files.
    create table drive_nodes (
      id uuid primary key,
      person_id uuid not null references people,
      folder_id uuid not null references folders,
      parent_id uuid references drive_nodes on delete cascade,
      name text not null,
      is_folder boolean not null,
      upload_id uuid references uploads,
      made_at timestamptz not null,
      changed_at timestamptz not null,
      -- When it was last written with something in it: what rests for half a minute becomes a draft.
      written_at timestamptz,
      document_id uuid references documents,
      why text,
      constraint drive_nodes_check check ((is_folder = (upload_id is null)) or (not is_folder))
    );
    create unique index drive_node_name on drive_nodes (person_id, folder_id, COALESCE(parent_id, folder_id), name);
    create index drive_nodes_below on drive_nodes (parent_id);
    create index drive_nodes_resting on drive_nodes (written_at) where ((document_id is null) and (written_at is not null));

    create table drive_properties (
      person_id uuid references people,
      subject text,
      namespace text,
      name text,
      value text not null,
      primary key (person_id, subject, namespace, name)
    );

    create table drive_locks (
      token text primary key,
      person_id uuid not null references people,
      subject text not null,
      shared boolean not null,
      deep boolean not null,
      owner text not null,
      seconds int not null,
      until timestamptz not null,
      -- The check-out that this lock made, which its end gives back.
      checkout_id uuid references checkouts,
      constraint lock_not_held exclude using gist (subject with =, int8range(
CASE
    WHEN shared THEN hashtextextended(token, (0)::bigint)
    ELSE NULL::bigint
END,
CASE
    WHEN shared THEN hashtextextended(token, (0)::bigint)
    ELSE NULL::bigint
END, '[]') with &&)
    );
    create index drive_locks_on on drive_locks (subject);

    -- A file saved on the network drive under a check-out that is no version yet.
    create table working_copies (
      checkout_id uuid primary key references checkouts,
      upload_id uuid not null references uploads,
      at timestamptz not null
    );

    -- A document that a program has just moved or deleted so as to put its saved file in its place.
    create table drive_hidden (
      person_id uuid references people,
      document_id uuid references documents,
      at timestamptz not null,
      primary key (person_id, document_id)
    );

    -- Files kept beside the versions of a revision: never current, nothing signed.
    create table supporting_files (
      id uuid primary key,
      document_id uuid not null references documents,
      revision_id uuid not null references revisions,
      sha256 text not null references contents,
      name text not null,
      note text not null,
      by_id uuid not null references people,
      at timestamptz not null
    );
    create index supporting_files_of on supporting_files (revision_id);
  `);
};
