import { z } from 'zod';
import { Id, Instant, MOST_INT, RowVersion, text } from './common.ts';
import { endpoint } from './endpoint.ts';

export const Template = z.object({
  id: Id,
  typeId: Id,
  name: z.string(),
  language: z.string(),
  fileName: z.string(),
  sha256: z.string(),
  kind: z.string(),
  retired: z.boolean(),
  /** Metadata that the file places, by name. */
  places: z.array(z.string()),
  rowVersion: RowVersion,
  editions: z.array(
    z.object({ n: z.number().int(), at: Instant, by: z.string(), reason: z.string(), fileName: z.string() }),
  ),
});
export type Template = z.infer<typeof Template>;
export const TemplateChoice = Template.pick({
  id: true,
  typeId: true,
  name: true,
  language: true,
  fileName: true,
  kind: true,
});
export type TemplateChoice = z.infer<typeof TemplateChoice>;

const TemplateParam = z.strictObject({ id: Id });

/** Native files from which documents are begun, and whose head and foot can be brought onto others. */
export const templates = {
  list: endpoint({
    id: 'templates',
    feature: 'templates',
    method: 'GET',
    path: '/api/rules/templates',
    access: 'administer',
    summary: 'All templates with the metadata that they place and their editions',
    answer: z.object({ templates: z.array(Template) }),
  }),
  choices: endpoint({
    id: 'templateChoices',
    feature: 'templates',
    method: 'GET',
    path: '/api/templates',
    summary: 'Templates to begin a document from',
    answer: z.object({ templates: z.array(TemplateChoice) }),
  }),
  look: endpoint({
    id: 'lookAtTemplate',
    feature: 'templates',
    method: 'POST',
    path: '/api/rules/templates/look',
    access: 'administer',
    summary:
      'What an uploaded file would place as a template of a type: known metadata, unknown names; changes nothing',
    body: z.strictObject({ typeId: Id, uploadId: Id }),
    answer: z.object({
      kind: z.string(),
      places: z.array(z.object({ name: z.string(), label: z.string().nullable() })),
      /** All names that a file of this type can place. */
      names: z.array(z.object({ name: z.string(), label: z.string() })),
    }),
    problems: ['not_found', 'upload_unknown', 'template_kind', 'office_unreadable', 'input_invalid'],
  }),
  save: endpoint({
    id: 'saveTemplate',
    feature: 'templates',
    method: 'POST',
    path: '/api/rules/templates',
    access: 'administer',
    summary: 'Add a template, or save the next edition of one (its file, name, language, or that it is retired)',
    body: z.strictObject({
      id: Id.nullable(),
      typeId: Id,
      name: text(80, 1),
      language: z.string().max(20),
      uploadId: Id.nullable(),
      retired: z.boolean(),
      rowVersion: z.number().int().min(0).max(MOST_INT),
      reason: text(500, 1),
    }),
    answer: z.object({ id: Id }),
    problems: [
      'not_found',
      'upload_unknown',
      'content_missing',
      'template_kind',
      'template_without_file',
      'template_name_taken',
      'office_unreadable',
      'title_language_invalid',
      'changed_meanwhile',
      'nothing_changed',
      'input_invalid',
    ],
  }),
  bring: endpoint({
    id: 'applyTemplate',
    feature: 'templates',
    method: 'POST',
    path: '/api/templates/:id/bring',
    summary:
      'Bring head, foot and styles of a template onto drafts of mine, each as a new version; the others are named',
    params: TemplateParam,
    body: z.strictObject({ ids: z.array(Id).min(1).max(50), note: text(400, 1) }),
    answer: z.object({
      done: z.array(z.object({ id: Id, number: z.string(), version: z.number().int() })),
      refused: z.array(z.object({ id: Id, number: z.string(), reasons: z.array(z.string()) })),
    }),
    problems: ['not_found', 'template_has_no_head', 'input_invalid'],
  }),
};
