import type { AnswerOf, api } from '@kanonos/contract';
import { isFolderShut, metadataInFolder } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { rightsOnFolders, type Viewer } from '../access/index.ts';
import { listRecent } from '../documents/index.ts';
import { listFolders, listTypes, policyOf, reservedFor, type TypeRow } from '../rules/index.ts';
import { toPlan } from './service.ts';

/** The choices when registering: types with their questions, recently used ones first. */
export const typesFor = async (app: App, viewer: Viewer): Promise<AnswerOf<typeof api.documents.types>> => {
  const rights = await rightsOnFolders(app.db, viewer);
  const mayRegister = [...rights.values()].some((given) => given.has('author'));
  const types = await listTypes(app.db);
  const reserved = await reservedFor(app.db, viewer.id);
  return {
    recent: await listRecent(app.db, viewer.id),
    types: types
      // An outside party learns of the types that it hands in, and of no others.
      .filter((type) => !type.retired && (!viewer.outside || (mayRegister && mayRegisterType(viewer, type))))
      .map((type) => ({
        id: type.id,
        code: type.code,
        name: type.name,
        family: type.family,
        group: type.group_name,
        help: type.help,
        example: type.example,
        fields: type.fields,
        numbering: type.numbering_rule,
        externalPattern: type.external_pattern,
        labelGivenBySupplier: type.scheme.kind === 'own',
        readersNeeded: type.readers_needed,
        reviewEvery: type.review_every,
        reviewUnit: policyOf(type).review.unit,
        mayRegister: mayRegister && mayRegisterType(viewer, type),
        filing: type.filing_rule,
        isOutside: policyOf(type).origin !== null,
        sharing: [...policyOf(type).sharing],
        underParent: type.numbering_rule?.includes('{parent}') ?? false,
        reserved: reserved.get(type.id) ?? [],
        route: {
          name: type.route.name,
          steps: type.route.steps.map((step) => ({
            name: step.name,
            kind: step.kind,
            workingDays: step.workingDays,
            chosenMinimum: step.assignees.flatMap((a) => (a.by === 'chosen' ? [a.minimum] : []))[0] ?? null,
          })),
        },
      })),
  };
};

/** The folders that a viewer may see, with the way to them and the metadata that hold in them. */
export const foldersFor = async (app: App, viewer: Viewer): Promise<AnswerOf<typeof api.documents.folders>> => {
  const rights = await rightsOnFolders(app.db, viewer);
  const folders = await listFolders(app.db);
  const plan = toPlan(folders);
  // A folder is shown when it or something below it may be seen, so that the way to it is there.
  const shown = new Set(folders.filter((folder) => rights.get(folder.id)?.has('see')).flatMap((folder) => folder.path));
  return {
    folders: folders
      .filter((folder) => shown.has(folder.id))
      .map((folder) => ({
        id: folder.id,
        parentId: folder.parent_id,
        name: folder.name,
        area: folder.area_name,
        mayAuthor: (rights.get(folder.id)?.has('author') ?? false) && !isFolderShut(folder.state),
        mayWork: rights.get(folder.id)?.has('read work') ?? false,
        state: folder.state,
        metadata: metadataInFolder(folder.id, plan),
      })),
  };
};

/** Whether a type is for this person to register: for everyone with *author*, unless it names units. */
export const mayRegisterType = (viewer: Viewer, type: TypeRow): boolean =>
  type.register_unit_ids.length === 0 || type.register_unit_ids.some((id) => viewer.unitIds.has(id));
