import type { Covered } from '@kanonos/contract';
import type { Metadata } from '@kanonos/core';
import type { Db } from '../../platform/db/connect.ts';
import { shownMetadata, type TypeRow } from '../rules/index.ts';
import { filesOfRecord, type RecordRow } from '../signing/index.ts';

/** What every record has beside the fields of its type, in the order in which it is read. */
const COMMON = [
  ['title', 'Title'],
  ['reason', 'Reason'],
  ['summary', 'Summary'],
] as const;

/** What a signature on a record covers, in plain words: its files with their hashes, and its fields as they are shown. */
export const coveredBy = async (db: Db, record: Pick<RecordRow, 'text'>, type: TypeRow): Promise<Covered> => {
  const { metadata } = JSON.parse(record.text) as { metadata: Metadata };
  const [shown = {}] = await shownMetadata(db, [{ fields: type.fields, metadata }]);
  return {
    files: filesOfRecord(record).files,
    fields: [
      ...COMMON.flatMap(([key, label]) => (metadata[key] ? [{ label, value: String(metadata[key]) }] : [])),
      ...type.fields.flatMap(({ key, label }) => (shown[key] ? [{ label, value: shown[key] }] : [])),
    ],
  };
};
