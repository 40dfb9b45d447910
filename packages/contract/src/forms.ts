import { FORM_PURPOSES, QUESTION_KINDS } from '@kanonos/core';
import { z } from 'zod';
import { DocumentParam, Id, Instant, MetadataSchema, PersonRef, RowVersion, text } from './common.ts';
import { endpoint } from './endpoint.ts';

export const FormQuestionBody = z.strictObject({
  key: z.string().regex(/^[a-z][a-z0-9_]{0,59}$/, 'small letters, digits and _ would be right, such as lost_time'),
  label: text(200, 1),
  kind: z.enum(QUESTION_KINDS),
  mandatory: z.boolean(),
  help: text(500).optional(),
  unit: text(20).optional(),
  options: z
    .array(z.strictObject({ code: text(60, 1), text: text(200, 1) }))
    .max(200)
    .optional(),
  pattern: z.string().max(300).optional(),
  patternWords: text(200).optional(),
  min: z.number().optional(),
  max: z.number().optional(),
  when: text(500, 1).optional(),
});
export type FormQuestionBody = z.infer<typeof FormQuestionBody>;
export const FormSectionBody = z.strictObject({
  title: text(120, 1),
  help: text(1000),
  when: text(500, 1).optional(),
  questions: z.array(FormQuestionBody).max(100),
});
export type FormSectionBody = z.infer<typeof FormSectionBody>;

export const FormInfo = z.object({
  id: Id,
  code: z.string(),
  purpose: z.enum(FORM_PURPOSES),
  name: z.string(),
  about: z.string(),
  /** Of which version these sections are. */
  version: z.number().int(),
  sections: z.array(FormSectionBody),
});
export type FormInfo = z.infer<typeof FormInfo>;

const Record = z.object({
  id: Id,
  /** Null for a draft: it gets its number when it is sent. */
  number: z.string().nullable(),
  form: FormInfo,
  document: z.object({ id: Id, number: z.string(), title: z.string() }).nullable(),
  by: PersonRef,
  savedAt: Instant,
  sentAt: Instant.nullable(),
  rowVersion: RowVersion,
});
/** A record in a list: what it says first. */
export const RecordLine = Record.extend({
  form: z.object({ id: Id, code: z.string(), name: z.string() }),
  first: z.string(),
});
export type RecordLine = z.infer<typeof RecordLine>;
export const FormRecord = Record.extend({
  answers: MetadataSchema,
  /** Names of the people in the answers, by field. */
  names: z.record(z.string(), z.string()),
  inWords: z.array(
    z.object({
      title: z.string(),
      lines: z.array(z.object({ key: z.string(), label: z.string(), value: z.string() })),
    }),
  ),
  files: z.array(z.object({ id: Id, name: z.string(), size: z.number().int() })),
  /** The change request that it was sent as. */
  request: z.string().nullable(),
  mine: z.boolean(),
});
export type FormRecord = z.infer<typeof FormRecord>;

const Answers = {
  answers: MetadataSchema,
  /** Files that are sent with it: those that were kept before, and new uploads. */
  keptFiles: z.array(Id).max(20).default([]),
  uploads: z.array(Id).max(20).default([]),
};
const RecordParam = z.strictObject({ id: Id });
const ANSWER_PROBLEMS = ['not_found', 'input_invalid', 'field_unknown', 'field_wrong_kind', 'upload_unknown'] as const;

/** Forms that an administrator makes, and the records that people send with them. */
export const forms = {
  offered: endpoint({
    id: 'formsOffered',
    feature: 'forms',
    method: 'GET',
    path: '/api/forms',
    summary: 'The forms for records that I may fill in, my drafts, and the records that I sent or that come to me',
    answer: z.object({
      forms: z.array(FormInfo),
      drafts: z.array(RecordLine),
      records: z.array(RecordLine),
    }),
  }),
  forChange: endpoint({
    id: 'formForChange',
    feature: 'forms',
    method: 'GET',
    path: '/api/documents/:document/change-form',
    summary: 'The form by which a change of a document is suggested, and my draft of one; null where there is none',
    params: DocumentParam,
    answer: z.object({ form: FormInfo.nullable(), draft: Id.nullable() }),
    problems: ['not_found'],
  }),
  record: endpoint({
    id: 'formRecord',
    feature: 'forms',
    method: 'GET',
    path: '/api/form-records/:id',
    summary: 'A record that I made, or that comes to me',
    params: RecordParam,
    answer: FormRecord,
    problems: ['not_found'],
  }),
  save: endpoint({
    id: 'saveFormRecord',
    feature: 'forms',
    method: 'POST',
    path: '/api/form-records',
    summary: 'Keep a draft of a record; gaps may stay',
    body: z.strictObject({
      id: Id.optional(),
      rowVersion: RowVersion.optional(),
      formId: Id,
      /** What a change request is about. */
      document: text(240, 1).optional(),
      ...Answers,
    }),
    answer: z.object({ id: Id, rowVersion: RowVersion }),
    problems: [
      ...ANSWER_PROBLEMS,
      'right_missing',
      'changed_meanwhile',
      'form_not_offered',
      'form_needs_document',
      'record_sent',
    ],
  }),
  send: endpoint({
    id: 'sendFormRecord',
    feature: 'forms',
    method: 'POST',
    path: '/api/form-records/:id/send',
    summary: 'Send a record as it is kept: it gets its number, stays as it is, and comes to whoever the form says',
    params: RecordParam,
    body: z.strictObject({ rowVersion: RowVersion }),
    answer: z.object({ number: z.string(), request: z.string().nullable() }),
    problems: [
      ...ANSWER_PROBLEMS,
      'right_missing',
      'changed_meanwhile',
      'field_value_missing',
      'form_not_offered',
      'record_sent',
      'content_missing',
    ],
  }),
  discard: endpoint({
    id: 'discardFormRecord',
    feature: 'forms',
    method: 'POST',
    path: '/api/form-records/:id/discard',
    summary: 'Discard a draft of mine',
    params: RecordParam,
    body: z.strictObject({ rowVersion: RowVersion }),
    problems: ['not_found', 'changed_meanwhile', 'record_sent'],
  }),
  pdf: endpoint({
    id: 'formRecordPdf',
    feature: 'forms',
    method: 'GET',
    path: '/api/form-records/:id/pdf',
    summary: 'A record as a PDF',
    params: RecordParam,
    stream: 'bytes',
    problems: ['not_found'],
  }),
  file: endpoint({
    id: 'formRecordFile',
    feature: 'forms',
    method: 'GET',
    path: '/api/form-record-files/:id',
    summary: 'A file that came with a record',
    params: RecordParam,
    stream: 'bytes',
    problems: ['not_found', 'content_missing'],
  }),
  all: endpoint({
    id: 'allForms',
    feature: 'forms',
    method: 'GET',
    path: '/api/rules/forms',
    access: 'administer',
    summary: 'Every form with its versions, for whoever edits them',
    answer: z.object({
      forms: z.array(
        FormInfo.extend({
          rowVersion: RowVersion,
          active: z.boolean(),
          typeIds: z.array(Id),
          receiverIds: z.array(Id),
          records: z.number().int(),
          versions: z.array(
            z.object({
              n: z.number().int(),
              at: Instant,
              by: z.string(),
              reason: z.string(),
              sections: z.array(FormSectionBody),
            }),
          ),
        }),
      ),
    }),
  }),
  edit: endpoint({
    id: 'saveForm',
    feature: 'forms',
    method: 'POST',
    path: '/api/rules/forms',
    access: 'administer',
    summary: 'Make a form or a new version of one; records keep the version that they were filled in by',
    body: z.strictObject({
      id: Id.optional(),
      rowVersion: RowVersion.optional(),
      code: z
        .string()
        .regex(/^[A-Z][A-Z0-9]{1,7}$/, 'two to eight capital letters or digits would be right, such as INC'),
      purpose: z.enum(FORM_PURPOSES),
      name: text(120, 1),
      about: text(1000),
      active: z.boolean(),
      /** Of a change request: the types of its documents; none means all. */
      typeIds: z.array(Id).max(200),
      /** Whose members get the records; those of a change request go to whoever answers it. */
      receiverIds: z.array(Id).max(50),
      sections: z.array(FormSectionBody).max(30),
      reason: text(500, 1),
    }),
    answer: z.object({ id: Id, version: z.number().int() }),
    problems: [
      'input_invalid',
      'not_found',
      'changed_meanwhile',
      'form_code_taken',
      'form_asks_nothing',
      'form_section_empty',
      'form_key_twice',
      'form_choice_empty',
      'form_option_twice',
      'form_range_empty',
      'form_pattern_wrong',
      'form_condition_unreadable',
      'form_condition_not_earlier',
    ],
  }),
};
