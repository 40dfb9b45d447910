// breaking: no — Change notes: documents of types that are set so, with what they affect and the tasks that they bring.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    -- The change note that a revision is made under.
    alter table revisions add column change_note_id uuid references documents;
    create index revisions_of_change_note on revisions (change_note_id, document_id) where (change_note_id is not null);

    create table change_note_documents (
      note_id uuid not null references documents,
      document_id uuid not null references documents,
      -- How it came onto the note: picked, or by a tie to another document on it.
      way text not null,
      what text not null default '',
      -- Why nothing changes in it; null where something does, or nobody has said.
      no_change_reason text,
      added_by uuid not null references people,
      added_at timestamptz not null,
      primary key (note_id, document_id)
    );
    create index change_note_documents_of on change_note_documents (document_id);

    create table change_note_tasks (
      id uuid primary key,
      note_id uuid not null references documents,
      n int not null,
      what text not null,
      assignee_id uuid not null references people,
      due_on date,
      before text not null check (before in ('release', 'closure')),
      state text not null default 'open' check (state in ('open', 'done', 'dropped')),
      -- The result of a task that is done, or why one was dropped.
      result text not null default '',
      -- Files that came with the result: supporting files of the note.
      file_ids uuid[] not null default '{}',
      created_by uuid not null references people,
      created_at timestamptz not null,
      ended_by uuid references people,
      ended_at timestamptz,
      unique (note_id, n)
    );
    create index change_note_tasks_open on change_note_tasks (assignee_id) where (state = 'open');

    create table change_note_closings (
      note_id uuid primary key references documents,
      result text not null,
      by_id uuid not null references people,
      at timestamptz not null
    );
  `);
};
