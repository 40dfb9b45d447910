import type { api, QueryOf } from '@kanonos/contract';
import { dayOf } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { listFiles, listVersions } from '../revisions/index.ts';
import { openDocument } from './service.ts';

/**
 * The id of the file that a lasting address names: of what is in force, of a revision by its label, or of one of its versions; the
 * first original, or another one by its place. Whether it may be opened is judged with the file itself.
 *
 * @throws RefusalError `nothing_in_force`, or `not_found` for a revision, version or original that there is not
 */
export const lastingFile = async (
  app: App,
  viewer: Viewer,
  ref: string,
  { rev, v, original }: QueryOf<typeof api.documents.lastingFile>,
): Promise<string> => {
  const opened = await openDocument(app.db, viewer, ref, dayOf(app.clock(), (await app.organisation()).zone));
  const revision =
    rev === undefined
      ? opened.inForce
      : (opened.revisions.find((one) => one.label === rev && one.state !== 'abandoned') ??
        opened.revisions.find((one) => one.label === rev));
  if (!revision) throw rev === undefined ? refused('nothing_in_force') : refused('not_found');
  const versionId =
    v === undefined
      ? revision.latest_version_id
      : (await listVersions(app.db, revision.id)).find((version) => version.n === v)?.id;
  const files = versionId ? await listFiles(app.db, [versionId]) : [];
  const file = files[original - 1];
  if (!file) throw refused('not_found');
  return file.id;
};
