import { z } from 'zod';
import { Id, Instant, MOST_INT, RowVersion, text } from './common.ts';
import { endpoint } from './endpoint.ts';

export const Blueprint = z.object({
  id: Id,
  name: z.string(),
  folderId: Id,
  folder: z.string(),
  outline: z.string(),
  /** The look-up list whose entries give the values, if any: its code and metadata by key. */
  lookup: z.string().nullable(),
  placeholders: z.array(z.string()),
  retired: z.boolean(),
  /** Files from which first documents may begin, by name. */
  files: z.array(z.string()),
  projects: z.number().int(),
  rowVersion: RowVersion,
});
export type Blueprint = z.infer<typeof Blueprint>;
export const LaidFolder = z.object({
  depth: z.number().int(),
  name: z.string(),
  isNew: z.boolean(),
  metadata: z.record(z.string(), z.string()),
  starters: z.array(z.object({ type: z.string(), template: z.string().nullable(), title: z.string() })),
  grants: z.array(z.object({ unit: z.string(), rights: z.array(z.string()) })),
});
export type LaidFolder = z.infer<typeof LaidFolder>;
export const Project = z.object({
  id: Id,
  values: z.record(z.string(), z.string()),
  at: Instant,
  by: z.string(),
  folderId: Id.nullable(),
  /** Folders that the blueprint has by now and the project lacks. */
  lacks: z.array(z.string()),
});
export type Project = z.infer<typeof Project>;

/** As it is named in the outline, where brackets and bars have a meaning. */
const FileName = text(160, 1).refine((name) => !/[()|\\/]/.test(name), 'without round brackets, bars and slashes');
const BlueprintParam = z.strictObject({ id: Id });
const Values = z.record(z.string().max(40), text(200));
const OUTLINE = [
  'outline_empty',
  'outline_name_missing',
  'outline_field_value_wrong',
  'outline_brace_wrong',
  'outline_starter_alone',
  'outline_starter_wrong',
  'outline_right_wrong',
  'outline_too_long',
] as const;
const LAYING = [
  'not_found',
  'right_missing',
  'input_invalid',
  'placeholder_missing',
  'folder_name_invalid',
  'folder_name_taken',
  'folder_too_deep',
  'folder_shut',
] as const;

export const blueprints = {
  list: endpoint({
    id: 'blueprints',
    feature: 'blueprints',
    method: 'GET',
    path: '/api/blueprints',
    summary: 'Blueprints for folders that I may manage',
    answer: z.object({ blueprints: z.array(Blueprint) }),
  }),
  save: endpoint({
    id: 'saveBlueprint',
    feature: 'blueprints',
    method: 'POST',
    path: '/api/blueprints',
    access: 'administer',
    summary: 'Add a blueprint, or change one (with its id and row version)',
    body: z.strictObject({
      id: Id.nullable(),
      name: text(80, 1),
      folderId: Id,
      outline: z.string().max(40_000),
      lookup: z.string().max(40).nullable(),
      retired: z.boolean().default(false),
      /** All its files; one that was sent anew has its upload, one that stays has none. Left out, they stay as they are. */
      files: z
        .array(z.strictObject({ name: FileName, uploadId: Id.nullable() }))
        .max(50)
        .optional(),
      rowVersion: z.number().int().min(0).max(MOST_INT),
      reason: text(500, 1),
    }),
    answer: z.object({ id: Id }),
    problems: [
      'not_found',
      'input_invalid',
      'changed_meanwhile',
      'blueprint_name_taken',
      'blueprint_type_unknown',
      'blueprint_unit_unknown',
      'blueprint_template_unknown',
      'upload_unknown',
      'content_missing',
      'nothing_changed',
      ...OUTLINE,
    ],
  }),
  try: endpoint({
    id: 'tryLayOut',
    feature: 'blueprints',
    method: 'POST',
    path: '/api/blueprints/:id/trial',
    summary: 'Which folders would be created and which exist; changes nothing',
    params: BlueprintParam,
    body: z.strictObject({ values: Values }),
    answer: z.object({ folders: z.array(LaidFolder) }),
    problems: LAYING,
  }),
  layOut: endpoint({
    id: 'createProjects',
    feature: 'blueprints',
    method: 'POST',
    path: '/api/blueprints/:id/lay-out',
    summary: 'Create one project or many: folders, metadata and first documents, all or none',
    params: BlueprintParam,
    body: z.strictObject({ projects: z.array(Values).min(1).max(100) }),
    answer: z.object({ folders: z.number().int(), documents: z.array(z.string()), folderId: Id.nullable() }),
    problems: [
      ...LAYING,
      'type_retired',
      'number_needs_field_value',
      'number_is_external',
      'field_wrong_kind',
      'rule_ambiguous',
    ],
  }),
  projects: endpoint({
    id: 'laidOutProjects',
    feature: 'blueprints',
    method: 'GET',
    path: '/api/blueprints/:id/projects',
    summary: 'Projects created from a blueprint, with what they lack of it as it is now',
    params: BlueprintParam,
    answer: z.object({ projects: z.array(Project) }),
    problems: ['not_found'],
  }),
};
