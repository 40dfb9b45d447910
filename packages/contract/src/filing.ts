import { FOLDER_STATES, RIGHTS } from '@kanonos/core';
import { z } from 'zod';
import { Id, RowVersion, text } from './common.ts';
import { endpoint } from './endpoint.ts';

const FolderMetadata = z.record(z.string().max(60), text(400));
export const FolderGrant = z.object({
  subject: z.object({ kind: z.enum(['person', 'unit', 'all']), id: Id.nullable(), name: z.string() }),
  rights: z.array(z.enum(RIGHTS)),
  withheld: z.boolean(),
});
export type FolderGrant = z.infer<typeof FolderGrant>;
/** Entries as somebody sets them: for each subject one. */
export const GrantsGiven = z
  .array(
    z.strictObject({
      subject: z.strictObject({ kind: z.enum(['person', 'unit', 'all']), id: Id.nullable() }),
      rights: z.array(z.enum(RIGHTS)).max(RIGHTS.length),
      withheld: z.boolean().default(false),
    }),
  )
  .max(200);
export const PlanFolder = z.object({
  id: Id,
  parentId: Id.nullable(),
  name: z.string(),
  code: z.string().nullable(),
  state: z.enum(FOLDER_STATES),
  metadata: FolderMetadata,
  /** What holds in it, with what it has from above. */
  effective: FolderMetadata,
  departmentId: Id.nullable(),
  documents: z.number().int(),
  mayManage: z.boolean(),
  rowVersion: RowVersion,
});
export type PlanFolder = z.infer<typeof PlanFolder>;

const FolderParam = z.strictObject({ id: Id });
const Reason = text(500, 1);
const PROBLEMS = [
  'not_found',
  'right_missing',
  'organisation_right_missing',
  'input_invalid',
  'changed_meanwhile',
  'folder_name_invalid',
  'folder_name_taken',
  'folder_in_itself',
  'folder_too_deep',
  'area_code_invalid',
  'area_code_taken',
  'rule_ambiguous',
  'folder_shut',
] as const;

export const filing = {
  plan: endpoint({
    id: 'filingPlan',
    feature: 'filing',
    method: 'GET',
    path: '/api/filing',
    summary: 'The filing plan as far as I see it, with metadata, states and how many documents lie in each folder',
    answer: z.object({
      folders: z.array(PlanFolder),
      /** Fields that begin with a field of the folder. */
      fields: z.array(z.object({ key: z.string(), label: z.string() })),
    }),
  }),
  grants: endpoint({
    id: 'folderGrants',
    feature: 'filing',
    method: 'GET',
    path: '/api/filing/folders/:id/grants',
    summary: 'Who has which rights on a folder by entries of its own, and by those above',
    params: FolderParam,
    answer: z.object({
      own: z.array(FolderGrant),
      above: z.array(z.object({ folder: z.string(), grants: z.array(FolderGrant) })),
      /** That of the folder, which goes on with each change of its rights. */
      rowVersion: RowVersion,
    }),
    problems: ['not_found', 'right_missing'],
  }),
  add: endpoint({
    id: 'addFolder',
    feature: 'filing',
    method: 'POST',
    path: '/api/filing/folders',
    summary: 'Make a folder in another one (manage), or an area (administer)',
    body: z.strictObject({ parentId: Id.nullable(), name: text(80, 1), code: text(8).nullable().default(null) }),
    answer: z.object({ id: Id }),
    problems: PROBLEMS,
  }),
  change: endpoint({
    id: 'changeFolder',
    feature: 'filing',
    method: 'PUT',
    path: '/api/filing/folders/:id',
    summary: 'Rename a folder, change its metadata, owner department or state, or move it',
    params: FolderParam,
    body: z.strictObject({
      parentId: Id.nullable(),
      name: text(80, 1),
      code: text(8).nullable(),
      metadata: FolderMetadata,
      departmentId: Id.nullable(),
      state: z.enum(FOLDER_STATES),
      rowVersion: RowVersion,
      reason: Reason,
    }),
    problems: [...PROBLEMS, 'folder_state_move', 'folder_has_work', 'nothing_changed'],
  }),
  inherit: endpoint({
    id: 'inheritMetadata',
    feature: 'filing',
    method: 'POST',
    path: '/api/filing/folders/:id/inherited',
    summary: 'Which documents still have inherited values that a change or move of the folder would alter',
    params: FolderParam,
    body: z.strictObject({ parentId: Id.nullable(), metadata: FolderMetadata }),
    answer: z.object({
      documents: z.number().int(),
      /** Sets of documents with the same change, ready for a change in bulk. */
      changes: z.array(z.object({ metadata: z.record(z.string(), z.string().nullable()), ids: z.array(Id) })),
    }),
    problems: ['not_found', 'right_missing'],
  }),
  remove: endpoint({
    id: 'removeFolder',
    feature: 'filing',
    method: 'POST',
    path: '/api/filing/folders/:id/remove',
    summary: 'Remove an empty folder',
    params: FolderParam,
    body: z.strictObject({ reason: Reason }),
    problems: ['not_found', 'right_missing', 'folder_not_empty', 'input_invalid', 'organisation_right_missing'],
  }),
  addShortcuts: endpoint({
    id: 'addShortcuts',
    feature: 'filing',
    method: 'POST',
    path: '/api/filing/shortcuts',
    summary: 'Show documents in a further folder, without a copy and without further rights',
    body: z.strictObject({ ids: z.array(Id).min(1).max(1000), folderId: Id }),
    answer: z.object({
      added: z.number().int(),
      refused: z.array(z.object({ number: z.string(), reason: z.string() })),
    }),
    problems: ['not_found', 'right_missing', 'folder_shut', 'input_invalid'],
  }),
  removeShortcut: endpoint({
    id: 'removeShortcut',
    feature: 'filing',
    method: 'POST',
    path: '/api/filing/shortcuts/remove',
    summary: 'Remove a shortcut; the document stays where it is filed',
    body: z.strictObject({ documentId: Id, folderId: Id }),
    problems: ['not_found', 'right_missing', 'input_invalid'],
  }),
  setGrants: endpoint({
    id: 'setFolderGrants',
    feature: 'filing',
    method: 'PUT',
    path: '/api/filing/folders/:id/grants',
    summary: 'Change the rights on a folder; the nearest entry for a subject counts',
    params: FolderParam,
    body: z.strictObject({
      grants: GrantsGiven,
      reason: Reason,
      rowVersion: RowVersion,
    }),
    problems: ['not_found', 'right_missing', 'input_invalid', 'nothing_changed', 'changed_meanwhile'],
  }),
};
