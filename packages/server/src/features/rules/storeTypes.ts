import type { TypeRule } from '@kanonos/contract';
import { type FieldLevel, NO_POLICY, type TypePolicy } from '@kanonos/core';
import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';
import type { TypeRow } from './store.ts';

/** A type's row as the rule that is edited and kept by editions. */
export const toTypeRule = (row: TypeRow): TypeRule => ({
  code: row.code,
  name: row.name,
  family: row.family,
  group: row.group_name,
  help: row.help,
  example: row.example,
  numbering: row.numbering_rule,
  externalPattern: row.external_pattern,
  naming: row.naming_rule,
  filing: row.filing_rule,
  scheme: row.scheme as TypeRule['scheme'],
  fields: row.fields,
  readersNeeded: row.readers_needed,
  reviewEvery: row.review_every,
  releaseWithoutRoute: row.release_without_route,
  takeOver: row.take_over,
  registerUnitIds: row.register_unit_ids,
  retired: row.retired,
  ...(policyOf(row) as Pick<TypeRule, keyof TypePolicy>),
});

/** The rules of a type for the life of its documents. */
export const policyOf = (row: TypeRow): TypePolicy => ({
  ...NO_POLICY,
  ...row.policy,
  route: row.route,
  reading: row.reading,
});

const columnsOf = (rule: TypeRule) => ({
  code: rule.code,
  name: rule.name,
  family: rule.family,
  group: rule.group,
  help: rule.help,
  example: rule.example,
  numbering: rule.numbering,
  pattern: rule.externalPattern,
  naming: rule.naming,
  filing: rule.filing,
  scheme: JSON.stringify(rule.scheme),
  fields: JSON.stringify(rule.fields),
  readersNeeded: rule.readersNeeded,
  reviewEvery: rule.reviewEvery,
  releaseWithoutRoute: rule.releaseWithoutRoute,
  takeOver: rule.takeOver,
  units: rule.registerUnitIds,
  retired: rule.retired,
  route: JSON.stringify(rule.route),
  reading: rule.reading ? JSON.stringify(rule.reading) : null,
  policy: JSON.stringify({
    routes: rule.routes,
    furtherRoutes: rule.furtherRoutes,
    fallbackApproverId: rule.fallbackApproverId,
    followsNamingRule: rule.followsNamingRule,
    origin: rule.origin,
    sharing: rule.sharing,
    head: rule.head,
    foot: rule.foot,
    cover: rule.cover,
    keeping: rule.keeping,
    review: rule.review,
    changeNote: rule.changeNote,
    changeNoteDemand: rule.changeNoteDemand,
    isChangeNote: rule.isChangeNote,
  }),
});

export const insertType = (trx: Trx, type: { id: string; rule: TypeRule }) =>
  rows(
    trx,
    `insert into types (id, code, name, family, group_name, help, example, numbering_rule, external_pattern, naming_rule, filing_rule, scheme, fields, route, reading,
       readers_needed, review_every, release_without_route, take_over, register_unit_ids, retired, policy, sort)
     select :id, :code, :name, :family, :group, :help, :example, :numbering, :pattern, :naming, :filing, :scheme::jsonb, :fields::jsonb, :route::jsonb, :reading::jsonb,
       :readersNeeded, :reviewEvery, :releaseWithoutRoute, :takeOver, :units::uuid[], :retired, :policy::jsonb, coalesce(max(sort), 0) + 1 from types`,
    { id: type.id, ...columnsOf(type.rule) },
  );

export const updateType = (trx: Trx, type: { id: string; rule: TypeRule; rowVersion: number }) =>
  changed(
    trx,
    `update types set code = :code, name = :name, family = :family, group_name = :group, help = :help, example = :example, numbering_rule = :numbering,
       external_pattern = :pattern, naming_rule = :naming, filing_rule = :filing, scheme = :scheme::jsonb, fields = :fields::jsonb, readers_needed = :readersNeeded,
       review_every = :reviewEvery, release_without_route = :releaseWithoutRoute, take_over = :takeOver, register_unit_ids = :units::uuid[],
       retired = :retired, route = :route::jsonb, reading = :reading::jsonb, policy = :policy::jsonb, row_version = row_version + 1
     where id = :id and row_version = :rowVersion`,
    { id: type.id, rowVersion: type.rowVersion, ...columnsOf(type.rule) },
  );

/** Only the fields, when a list that they use has changed. */
export const updateFields = (trx: Trx, by: { id: string; fields: unknown }) =>
  changed(trx, 'update types set fields = :fields::jsonb, row_version = row_version + 1 where id = :id', {
    id: by.id,
    fields: JSON.stringify(by.fields),
  });

export const countDocuments = (db: Db | Trx) =>
  rows<{ type_id: string; documents: number; drafts: number }>(
    db,
    `select type_id, count(*)::int as documents, count(*) filter (where newest_state = 'draft')::int as drafts
     from documents where removed_at is null group by type_id`,
  );

/** How many documents of a type have no value of a document field, or how many drafts none of a signed one. */
export const countWithout = async (
  db: Db | Trx,
  by: { typeId: string; key: string; level: FieldLevel },
): Promise<number> =>
  (
    await firstRow<{ n: number }>(
      db,
      by.level === 'revision'
        ? `select count(*)::int as n from documents d join revisions r on r.id = d.newest_revision_id
           where d.type_id = :typeId and d.removed_at is null and d.newest_state = 'draft' and not jsonb_exists(r.metadata, :key)`
        : `select count(*)::int as n from documents d where d.type_id = :typeId and d.removed_at is null and not jsonb_exists(d.metadata, :key)`,
      by,
    )
  )?.n ?? 0;

/** How many documents have a value of a field, present or signed. */
export const countWith = async (db: Db | Trx, by: { typeId: string; key: string }): Promise<number> =>
  (
    await firstRow<{ n: number }>(
      db,
      `select count(*)::int as n from documents d where d.type_id = :typeId and d.removed_at is null
         and (jsonb_exists(d.metadata, :key) or exists (select 1 from revisions r where r.document_id = d.id and jsonb_exists(r.metadata, :key)))`,
      by,
    )
  )?.n ?? 0;

/** The option codes of a field that documents of a type use. */
export const usedOptions = async (
  db: Db | Trx,
  by: { typeId: string; key: string; codes: string[] },
): Promise<string[]> =>
  (
    await rows<{ code: string }>(
      db,
      `select code from unnest(:codes::text[]) code where exists (
         select 1 from documents d where d.type_id = :typeId and (d.metadata -> :key @> to_jsonb(code)
           or exists (select 1 from revisions r where r.document_id = d.id and r.metadata -> :key @> to_jsonb(code))))`,
      by,
    )
  ).map((row) => row.code);

/** Fills a document field of all documents of a type that have none. */
export const fillLiving = (trx: Trx, by: { typeId: string; key: string; value: unknown; now: Date }) =>
  changed(
    trx,
    `update documents set metadata = metadata || jsonb_build_object(:key::text, :value::jsonb), row_version = row_version + 1
     where type_id = :typeId and removed_at is null and not jsonb_exists(metadata, :key)`,
    { typeId: by.typeId, key: by.key, value: JSON.stringify(by.value) },
  );
/** Fills a revision field of all drafts of a type that have none; later states keep the values that were or will be signed. */
export const fillDrafts = (trx: Trx, by: { typeId: string; key: string; value: unknown }) =>
  changed(
    trx,
    `update revisions r set metadata = r.metadata || jsonb_build_object(:key::text, :value::jsonb), row_version = r.row_version + 1
     from documents d where d.id = r.document_id and d.type_id = :typeId and d.removed_at is null and r.state = 'draft' and not jsonb_exists(r.metadata, :key)`,
    { typeId: by.typeId, key: by.key, value: JSON.stringify(by.value) },
  );

/** The newest documents of a type, to show the effect of a rule on real ones. */
export const newestOf = (db: Db | Trx, typeId: string) =>
  rows<{
    number: string;
    title: string;
    label: string;
    metadata: Record<string, string | null>;
    name: string | null;
  }>(
    db,
    `select d.number, d.newest_title as title, d.newest_label as label, r.metadata || d.metadata as metadata,
       (select f.name from version_files f where f.version_id = r.latest_version_id order by f.sort limit 1) as name
     from documents d join revisions r on r.id = d.newest_revision_id
     where d.type_id = :typeId and d.removed_at is null order by d.registered_at desc limit 3`,
    { typeId },
  );

/** Whether all of these units, or people who may still act, are there. */
export const countKnown = async (db: Db | Trx, table: 'units' | 'people', ids: readonly string[]): Promise<boolean> => {
  const wanted = new Set(ids);
  if (wanted.size === 0) return true;
  const found = await firstRow<{ n: number }>(
    db,
    `select count(*)::int as n from ${table} where id = any(:ids::uuid[])${table === 'people' ? ` and state <> 'deactivated'` : ''}`,
    { ids: [...wanted] },
  );
  return found?.n === wanted.size;
};
