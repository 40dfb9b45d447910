import type { Task } from '@kanonos/contract';
import type { Db } from '../../platform/db/connect.ts';
import type { Viewer } from '../access/index.ts';
import type { RevisionRow } from '../revisions/index.ts';
import { type ComparedVersionRow, findLastSeen, findVersion } from './storeTask.ts';

/**
 * What somebody who decides may compare the present version with: the version that they saw last, the one that was submitted, and the
 * revision before. First comes what they would look at: what changed since they saw the same revision, otherwise since the revision
 * before.
 */
export const comparedWith = async (
  db: Db,
  viewer: Viewer,
  on: {
    documentId: string;
    revision: RevisionRow;
    before: RevisionRow | undefined;
    versionId: string;
    /** The version that the round began with. */
    submittedVersion: number;
  },
): Promise<Task['comparedWith']> => {
  const { documentId, revision, before, versionId, submittedVersion } = on;
  const seen = await findLastSeen(db, { personId: viewer.id, documentId, versionId });
  const submitted = await findVersion(db, { revisionId: revision.id, n: submittedVersion });
  const of = (kind: Task['comparedWith'][number]['kind'], row: ComparedVersionRow | undefined) =>
    row ? [{ kind, versionId: row.id, label: row.label, n: row.n }] : [];
  const previous = before?.latest_version_id
    ? [
        {
          kind: 'revision before' as const,
          versionId: before.latest_version_id,
          label: before.label,
          n: before.version_count,
        },
      ]
    : [];
  const lastSeen = of('last seen', seen);
  const isSameRevision = seen?.revision_id === revision.id;
  const all = [
    ...(isSameRevision ? lastSeen : []),
    ...previous,
    ...of('submitted', submitted),
    ...(isSameRevision ? [] : lastSeen),
  ];
  const known = new Set([versionId]);
  return all.filter((one) => !known.has(one.versionId) && known.add(one.versionId));
};
