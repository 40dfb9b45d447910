import { hasRight } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { rightsOnFolders, type Viewer } from '../access/index.ts';
import { teamOf } from '../people/index.ts';

/** What somebody oversees: the folders whose documents they control (release or manage), and the people they supervise. */
export const overseenBy = async (
  app: App,
  viewer: Viewer,
  day: string,
): Promise<{ controlFolders: string[]; team: string[] }> => ({
  controlFolders: [...(await rightsOnFolders(app.db, viewer))]
    .filter(([, own]) => hasRight(own, 'release') || hasRight(own, 'manage'))
    .map(([id]) => id),
  team: (await teamOf(app.db, viewer.id, day)).map(({ id }) => id),
});
