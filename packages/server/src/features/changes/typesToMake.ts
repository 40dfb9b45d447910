import type { AnswerOf, api } from '@kanonos/contract';
import { hasRight, isFolderShut } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { rightsOnFolders, type Viewer } from '../access/index.ts';
import type { Opened } from '../documents/index.ts';
import { mayRegisterType } from '../filing/index.ts';
import { getFolder, listTypes, policyOf } from '../rules/index.ts';
import { findLastFolder } from './store.ts';

/** The types of change notes that a viewer may register, each with the folder where one would lie and what must be filled in. */
export const typesToMake = async (
  app: App,
  viewer: Viewer,
  { document }: Opened,
): Promise<AnswerOf<typeof api.changes.open>['types']> => {
  const rights = await rightsOnFolders(app.db, viewer);
  const found: AnswerOf<typeof api.changes.open>['types'] = [];
  for (const type of await listTypes(app.db)) {
    if (!policyOf(type).isChangeNote || type.retired || !mayRegisterType(viewer, type)) continue;
    // Beside the last note of the type, or else beside the document.
    const last = await findLastFolder(app.db, type.id);
    const candidates = [last, document.folder_id].filter((id) => id !== undefined);
    const folders = await Promise.all(candidates.map((id) => getFolder(app.db, id)));
    const folder = folders.find(
      ({ id, state }) => hasRight(rights.get(id) ?? new Set(), 'author') && !isFolderShut(state),
    );
    if (!folder && !type.filing_rule) continue;
    found.push({
      id: type.id,
      code: type.code,
      name: type.name,
      folder: type.filing_rule || !folder ? null : { id: folder.id, name: folder.path_names.join(' / ') },
      fields: type.fields.filter(({ mandatory }) => mandatory) as AnswerOf<
        typeof api.changes.open
      >['types'][number]['fields'],
    });
  }
  return found;
};
