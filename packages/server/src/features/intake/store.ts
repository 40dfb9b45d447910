import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export type IncomingFileRow = {
  id: string;
  path: string;
  sha256: string | null;
  size: number;
  arrived_at: Date;
  state: 'waiting' | 'filed' | 'set aside' | 'refused';
  why: string | null;
  by_name: string | null;
  media_type: string | null;
  text_state: string | null;
  text: string | null;
};

/** A new incoming file; nothing when the same file was taken before. */
export const insertIncomingFile = (
  trx: Trx,
  incomingFile: {
    id: string;
    path: string;
    writtenAt: Date;
    sha256: string | null;
    size: number;
    now: Date;
    state: 'waiting' | 'refused';
    why: string | null;
  },
) =>
  changed(
    trx,
    `insert into incoming_files (id, path, written_at, sha256, size, arrived_at, state, why)
     values (:id, :path, :writtenAt, :sha256, :size, :now, :state, :why) on conflict (path, written_at) do nothing`,
    incomingFile,
  );

const INCOMING_FILE = `select a.id, a.path, a.sha256, a.size, a.arrived_at, a.state, a.why, p.name as by_name, c.media_type, c.text_state, left(t.text, 4000) as text
  from incoming_files a left join people p on p.id = a.ended_by left join contents c on c.sha256 = a.sha256 left join texts t on t.sha256 = a.sha256`;

export const listIncomingFiles = (db: Db, states: readonly IncomingFileRow['state'][]) =>
  rows<IncomingFileRow>(
    db,
    `${INCOMING_FILE} where a.state = any(:states::text[]) order by a.arrived_at, a.path limit 300`,
    {
      states,
    },
  );
export const findIncomingFile = (db: Db | Trx, id: string) =>
  firstRow<IncomingFileRow>(db, `${INCOMING_FILE} where a.id = :id`, { id });
export const countWaiting = async (db: Db): Promise<number> =>
  (await firstRow<{ n: number }>(db, `select count(*)::int as n from incoming_files where state = 'waiting'`))?.n ?? 0;

/** Moves an incoming file on while it is still in the state that was seen. */
export const moveIncomingFile = (
  trx: Trx,
  by: {
    id: string;
    from: readonly IncomingFileRow['state'][];
    to: IncomingFileRow['state'];
    why: string | null;
    documentId: string | null;
    personId: string | null;
    now: Date | null;
  },
) =>
  changed(
    trx,
    `update incoming_files set state = :to, why = :why, document_id = :documentId, ended_by = :personId, ended_at = :now
     where id = :id and state = any(:from::text[])`,
    by,
  );

/** The name of somebody known to the organisation, by a mail address in any case of its letters. */
export const nameOfSender = async (db: Db, address: string): Promise<string | undefined> =>
  (
    await firstRow<{ name: string }>(
      db,
      `select name from people where lower(email) = lower(:address) and state <> 'deactivated' limit 1`,
      { address },
    )
  )?.name;
