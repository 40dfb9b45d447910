// breaking: no — Organisation-wide rights and fallback approvers of units, the first steps of a new organisation, and download
// packages of work.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    -- Members of a unit have these organisation-wide rights beside their own.
    alter table units add column organisation_rights text[] not null default '{}';
    -- Asked where a step of a document of the department would find nobody, and its type names nobody.
    alter table units add column fallback_approver_id uuid references people;
    create index units_with_rights on units (id) where (organisation_rights <> '{}');

    -- none: an organisation that was set up otherwise; open: its first steps are offered; done: finished or dismissed.
    alter table organisation add column first_steps text not null default 'none';
    alter table organisation add constraint first_steps_known check (first_steps in ('none', 'open', 'done'));

    -- released: what is in force, else the newest; work: the revision in work, as for a check-out.
    alter table download_packages add column content text not null default 'released';
    alter table download_packages add constraint download_package_content_known check (content in ('released', 'work'));

    create function organisation_rights_of(person uuid, day date) returns text[] language sql stable as $$
      select array(
        select unnest(p.organisation_rights) from people p where p.id = person
        union
        select unnest(u.organisation_rights) from memberships m join units u on u.id = m.ref_id
        where m.person_id = person and m.kind <> 'supervisor' and u.organisation_rights <> '{}'
          and m.from_day <= day and (m.to_day is null or m.to_day >= day))
    $$;
  `);
};
