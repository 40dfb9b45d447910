import type { Db } from '../packages/server/src/platform/db/connect.ts';
import { rows } from '../packages/server/src/platform/db/connect.ts';

export type Scale = {
  documents: number;
  people: number;
  folders: number;
  readings: number;
  events: number;
  texts: number;
};

/** The scale set of a size: the full one has 200,000 documents; smaller ones keep its proportions. */
export const scaleOf = (documents: number): Scale => ({
  documents,
  people: Math.max(50, documents / 100),
  folders: 400,
  readings: documents * 10,
  events: documents * 15,
  texts: documents,
});

const WORDS =
  'rope grip cabin tower sheave brake drive station rescue wind limit torque bolt pulley carrier inspection record procedure step operator fitter platform spring gauge test force wire splice saddle lubrication evacuation signal'.split(
    ' ',
  );

/**
 * Makes the scale set by SQL, as the owner of the database: 400 folders in 60 areas, four revisions per document, readings,
 * a text per document. Rows follow the rules' shapes, not their history; events are there for their number, the
 * chain that is verified is another.
 */
export const makeScaleSet = async (
  owner: Db,
  scale: Scale,
  by: { type: string; owner: string; department: string[] },
): Promise<void> => {
  const run = (sql: string, bindings: Record<string, unknown> = {}) => rows(owner, sql, bindings);
  await run(`set session_replication_role = replica`);
  await run(
    `insert into folders (id, parent_id, name, code, area_id, path, sort)
     select ('00000000-0000-4000-8000-' || lpad(n::text, 12, '0'))::uuid, case when n < 60 then null else ('00000000-0000-4000-8000-' || lpad((n % 60)::text, 12, '0'))::uuid end, 'Scale ' || n, null,
       ('00000000-0000-4000-8000-' || lpad((n % 60)::text, 12, '0'))::uuid,
       case when n < 60 then array[('00000000-0000-4000-8000-' || lpad(n::text, 12, '0'))::uuid] else array[('00000000-0000-4000-8000-' || lpad((n % 60)::text, 12, '0'))::uuid, ('00000000-0000-4000-8000-' || lpad(n::text, 12, '0'))::uuid] end, n
     from generate_series(0, :folders::int - 1) n`,
    { folders: scale.folders },
  );
  await run(
    `insert into grants (id, folder_id, subject_kind, rights) select gen_random_uuid(), id, 'all', '{read,download}' from folders where name like 'Scale %' and parent_id is null`,
  );
  await run(
    `insert into grants (id, folder_id, subject_kind, subject_id, rights) select gen_random_uuid(), f.id, 'unit', u.id, '{release,manage}' from folders f, units u where f.name like 'Scale %' and f.parent_id is null and u.code = 'CTRL'`,
  );
  await run(
    `insert into documents (id, number, type_id, folder_id, owner_id, department_id, registered_at, registered_by, changed_at, review_on, newest_revision_id, newest_state, newest_label, newest_title, public_revision_id, public_state, public_label, public_title)
     select ('10000000-0000-4000-8000-' || lpad(n::text, 12, '0'))::uuid, 'SCL-' || lpad(n::text, 7, '0'), :type, ('00000000-0000-4000-8000-' || lpad((n % :folders::int)::text, 12, '0'))::uuid, :owner, (:departments::uuid[])[1 + n % :departmentCount::int],
       now() - (n % 2000) * interval '1 day', :owner, now() - (n % 700) * interval '1 hour', current_date + (n % 700) - 60,
       ('20000000-0000-4000-8000-' || lpad((n * 4 + case when n % 7 = 0 then 3 else 2 end)::text, 12, '0'))::uuid, case when n % 7 = 0 then 'draft' else 'in force' end, case when n % 7 = 0 then 'D' else 'C' end, 'Scale document ' || n,
       ('20000000-0000-4000-8000-' || lpad((n * 4 + 2)::text, 12, '0'))::uuid, 'in force', 'C', 'Scale document ' || n
     from generate_series(1, :documents::int) n`,
    {
      type: by.type,
      owner: by.owner,
      departments: by.department,
      departmentCount: by.department.length,
      folders: scale.folders,
      documents: scale.documents,
    },
  );
  await run(
    `insert into revisions (id, document_id, ordinal, label, change_kind, title, state, created_at, created_by, latest_version_id, version_count, search)
     select ('20000000-0000-4000-8000-' || lpad((n * 4 + k)::text, 12, '0'))::uuid, ('10000000-0000-4000-8000-' || lpad(n::text, 12, '0'))::uuid, k + 1, chr(65 + k), 'major', 'Scale document ' || n,
       case k when 2 then 'in force' when 3 then case when n % 7 = 0 then 'draft' else 'abandoned' end else 'superseded' end, now() - interval '3 years' + k * interval '200 days', :owner,
       ('30000000-0000-4000-8000-' || lpad((n * 4 + k)::text, 12, '0'))::uuid, 1, case when k = 2 then to_tsvector('english', 'Scale document ' || n) end
     from generate_series(1, :documents::int) n, generate_series(0, 3) k`,
    { owner: by.owner, documents: scale.documents },
  );
  await run(
    `insert into versions (id, revision_id, n, by_id, at, title) select ('30000000-0000-4000-8000-' || lpad((n * 4 + 2)::text, 12, '0'))::uuid, ('20000000-0000-4000-8000-' || lpad((n * 4 + 2)::text, 12, '0'))::uuid, 1, :owner, now(), 'Scale document ' || n from generate_series(1, :documents::int) n`,
    { owner: by.owner, documents: scale.documents },
  );
  await run(
    `insert into periods (id, document_id, revision_id, label, from_at, to_at)
     select gen_random_uuid(), ('10000000-0000-4000-8000-' || lpad(n::text, 12, '0'))::uuid, ('20000000-0000-4000-8000-' || lpad((n * 4 + k)::text, 12, '0'))::uuid, chr(65 + k), now() - interval '3 years' + k * interval '200 days', case when k < 2 then now() - interval '3 years' + (k + 1) * interval '200 days' end
     from generate_series(1, :documents::int) n, generate_series(0, 2) k`,
    { documents: scale.documents },
  );
  await run(
    `insert into contents (sha256, size, media_type, stored_at, text_state, words) select encode(sha256(('text' || n)::bytea), 'hex'), 2500, 'text/plain', now(), 'done', 400 from generate_series(1, :texts::int) n`,
    { texts: scale.texts },
  );
  await run(
    `insert into texts (sha256, text, words)
     select s, t, to_tsvector('english', t) from (
       select encode(sha256(('text' || n)::bytea), 'hex') as s, 'code' || n || ' ' || (select string_agg((:words::text[])[1 + (hashtext(n || ':' || w) & 31)], ' ') from generate_series(1, 60) w) as t from generate_series(1, :texts::int) n) x`,
    { texts: scale.texts, words: WORDS },
  );
  await run(
    `insert into version_files (id, version_id, role, name, sha256, size) select gen_random_uuid(), ('30000000-0000-4000-8000-' || lpad((n * 4 + 2)::text, 12, '0'))::uuid, 'original', 'text.txt', encode(sha256(('text' || n)::bytea), 'hex'), 2500 from generate_series(1, :documents::int) n`,
    { documents: scale.documents },
  );
  await run(
    `insert into people (id, sign_in_name, name, email, from_day, state)
     select ('40000000-0000-4000-8000-' || lpad(n::text, 12, '0'))::uuid, 'scale.' || n, 'Scale Person ' || n, 'scale.' || n || '@test.example', '2020-01-01', 'active' from generate_series(1, :people::int) n`,
    { people: scale.people },
  );
  await run(
    `insert into reading_requirements (id, document_id, audience, kind, working_days, new_joiner_days, from_day)
     select ('50000000-0000-4000-8000-' || lpad(n::text, 12, '0'))::uuid, ('10000000-0000-4000-8000-' || lpad(n::text, 12, '0'))::uuid, '{"everyone": false, "unitIds": [], "personIds": [], "exceptPersonIds": []}', 'read and sign', 10, 20, '2020-01-01'
     from generate_series(1, :documents::int) n`,
    { documents: scale.documents },
  );
  const perDocument = Math.round(scale.readings / scale.documents);
  await run(
    `insert into reading_assignments (id, requirement_id, document_id, revision_id, person_id, state, policy, due_on, opened_at, closed_at)
     select gen_random_uuid(), ('50000000-0000-4000-8000-' || lpad(n::text, 12, '0'))::uuid, ('10000000-0000-4000-8000-' || lpad(n::text, 12, '0'))::uuid, ('20000000-0000-4000-8000-' || lpad((n * 4 + 2)::text, 12, '0'))::uuid,
       ('40000000-0000-4000-8000-' || lpad((1 + (n * 13 + k * 7) % :people::int)::text, 12, '0'))::uuid, case when (n + k) % 20 = 0 then 'open' else 'signed' end, 'read', current_date + (n % 40) - 10, now() - interval '30 days', case when (n + k) % 20 <> 0 then now() - interval '10 days' end
     from generate_series(1, :documents::int) n, generate_series(1, :perDocument::int) k`,
    { documents: scale.documents, people: scale.people, perDocument },
  );
  await run(
    `insert into events (seq, at, actor, kind, document_id, text, hash, prev)
     select s, timestamptz '2024-01-01 00:00Z' + s * interval '10 seconds', 'scale.' || (1 + s % :people::int), (array['document.registered', 'revision.checked-out', 'revision.checked-in', 'run.started', 'run.decided', 'reading.signed'])[1 + s % 6],
       ('10000000-0000-4000-8000-' || lpad((1 + s % :documents::int)::text, 12, '0'))::uuid, '{"seq":' || s || ',"payload":{"note":"made for the scale set, not chained"}}',
       encode(sha256(s::text::bytea), 'hex'), encode(sha256((s - 1)::text::bytea), 'hex')
     from generate_series((select coalesce(max(seq), 0) + 1 from events), :events::bigint) s`,
    { people: scale.people, documents: scale.documents, events: scale.events },
  );
  await run(`set session_replication_role = default`);
  await run('select count_documents_anew()');
  await owner.raw('vacuum analyze');
};
