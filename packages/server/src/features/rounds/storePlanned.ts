import type { Refusal } from '@kanonos/core';
import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export type PlannedFile = { name: string; sha256: string };
export type PlannedRow = {
  id: string;
  document_id: string;
  revision_id: string;
  label: string;
  number: string;
  by_id: string;
  by_name: string;
  starts_on: string;
  name: string;
  asked: unknown;
  files: PlannedFile[];
  ended_at: Date | null;
};
const PLANNED = `select o.id, o.document_id, o.revision_id, r.label, d.number, o.by_id, p.name as by_name, o.starts_on, o.name, o.asked, o.files, o.ended_at
  from planned_rounds o join revisions r on r.id = o.revision_id join documents d on d.id = o.document_id join people p on p.id = o.by_id`;

export const listPlannedOf = (db: Db | Trx, documentId: string) =>
  rows<PlannedRow>(
    db,
    `${PLANNED} where o.document_id = :documentId and o.ended_at is null order by o.starts_on, o.at`,
    {
      documentId,
    },
  );
export const listPlannedDue = (db: Db, day: string) =>
  rows<PlannedRow>(
    db,
    `${PLANNED} where o.ended_at is null and o.starts_on <= :day order by o.starts_on, o.at limit 200`,
    {
      day,
    },
  );
export const findPlanned = (db: Db | Trx, id: string) =>
  firstRow<PlannedRow>(db, `${PLANNED} where o.id = :id`, { id });
export const insertPlanned = (
  trx: Trx,
  planned: {
    id: string;
    documentId: string;
    revisionId: string;
    by: string;
    now: Date;
    startsOn: string;
    name: string;
    asked: unknown;
    files: readonly PlannedFile[];
  },
) =>
  rows(
    trx,
    `insert into planned_rounds (id, document_id, revision_id, by_id, at, starts_on, name, asked, files)
     values (:id, :documentId, :revisionId, :by, :now, :startsOn, :name, :asked::jsonb, :files::jsonb)`,
    { ...planned, asked: JSON.stringify(planned.asked), files: JSON.stringify(planned.files) },
  );
/** Ends a plan once: started, impossible on its day, or cancelled. */
export const endPlanned = (
  trx: Trx,
  of: { id: string; now: Date; roundId?: string; problems?: readonly Refusal[]; cancelled?: string },
) =>
  changed(
    trx,
    `update planned_rounds set ended_at = :now, round_id = :roundId, problems = :problems::jsonb, cancelled = :cancelled where id = :id and ended_at is null`,
    {
      id: of.id,
      now: of.now,
      roundId: of.roundId ?? null,
      problems: of.problems ? JSON.stringify(of.problems) : null,
      cancelled: of.cancelled ?? null,
    },
  );
