import { type Db, rows } from '../../platform/db/connect.ts';

export type SignerRow = {
  printed_name: string;
  for_name: string | null;
  meaning: string;
  at: Date;
  zone: string;
  digest: string;
};

/** The signatures of a revision's approval and release that are not void, in their order; not those of its readers. */
export const listSigners = (db: Db, revisionId: string) =>
  rows<SignerRow>(
    db,
    `select s.printed_name, p.name as for_name, s.meaning, s.at, s.zone, s.digest from signatures s left join people p on p.id = s.for_person_id
     where s.revision_id = :revisionId and s.reading_id is null and s.void_at is null order by s.at, s.id`,
    { revisionId },
  );
