import { type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export type WaitingRow = { id: string; round_id: string; document_id: string; number: string };

/** Assignments that are open in steps with escalations, the longest waiting first. */
export const listWaiting = (db: Db): Promise<WaitingRow[]> =>
  rows(
    db,
    `select a.id, u.id as round_id, u.document_id, d.number from rounds u join steps s on s.round_id = u.id and s.state = 'open'
     join assignments a on a.step_id = s.id and a.state = 'open' join documents d on d.id = u.document_id
     where u.state = 'running' and d.removed_at is null and jsonb_array_length(coalesce(u.definition->'steps'->s.n->'escalations', '[]')) > 0
     order by a.opened_at, a.id`,
  );

/** What was done about an assignment since its person was asked. */
export const listDone = async (trx: Trx, assignmentId: string): Promise<ReadonlySet<number>> =>
  new Set(
    (
      await rows<{ place: number }>(
        trx,
        'select e.place from escalations e join assignments a on a.id = e.assignment_id and a.opened_at = e.asked_at where e.assignment_id = :assignmentId',
        { assignmentId },
      )
    ).map(({ place }) => place),
  );

/** Notes it for the time since the person was asked; answers whether it was not noted before. */
export const noteDone = async (trx: Trx, of: { assignmentId: string; place: number; now: Date }): Promise<boolean> =>
  (await firstRow(
    trx,
    `insert into escalations (assignment_id, asked_at, place, at) select id, opened_at, :place, :now from assignments where id = :assignmentId
     on conflict do nothing returning place`,
    of,
  )) !== undefined;
