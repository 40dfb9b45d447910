import { CONFIDENTIALITIES, isDay, REFUSAL_CODES, REVISION_STATES } from '@kanonos/core';
import { z } from 'zod';

export const Id = z.uuid().meta({ description: 'identifier (UUID)' });
export const Day = z
  .string()
  .refine(isDay, 'a day such as 2026-11-25 would be right')
  .meta({ description: 'local day, YYYY-MM-DD', format: 'date' });
export const Instant = z.iso.datetime().meta({ description: 'instant, UTC' });
/** The largest whole number that the database keeps in its usual column. */
export const MOST_INT = 2_147_483_647;
/**
 * The state of a document that a command was decided on: the `stateTag` of its page, or `*` for a program that acts on whatever
 * there is (after `If-Match` of RFC 9110, 13.1.1). Another state than the one seen is refused with `changed_meanwhile`.
 */
export const Seen = z.string().min(1).max(400);
export const RowVersion = z
  .number()
  .int()
  .min(1)
  .max(MOST_INT)
  .meta({ description: 'the version of the row that was seen' });

/** Controls other than tab and line breaks: they can neither be stored nor shown. */
const hasControls = (value: string) => [...value].some((c) => (c < ' ' && !'\t\n\r'.includes(c)) || c === '\u007f');

/** A text without NUL and other controls but line breaks and tabs, trimmed, with bounds. */
export const text = (max: number, min = 0) =>
  z
    .string()
    .max(max, `at most ${max} characters`)
    .refine((value) => !hasControls(value), 'control characters are not taken')
    .transform((value) => value.trim().normalize('NFC'))
    .refine((value) => value.length >= min, min === 1 ? 'must not be empty' : `at least ${min} characters`)
    .meta({ type: 'string', maxLength: max, ...(min ? { minLength: min } : {}) });

export const PersonRef = z.object({ id: Id, name: z.string() });
export const TypeRef = z.object({ id: Id, code: z.string(), name: z.string() });
export const State = z.enum(REVISION_STATES);
export const ChangeKindSchema = z.enum(['first issue', 'minor', 'major', 'editorial']);
export const RefusalSchema = z.object({
  code: z.enum(REFUSAL_CODES),
  params: z.record(z.string(), z.union([z.string(), z.number()])).optional(),
});
export const MetadataSchema = z.record(
  z.string().max(60),
  z.union([z.string().max(4000), z.number(), z.boolean(), z.null(), z.array(z.string().max(200)).max(50)]),
);
/** A file that a signature would bind, and whether this person has opened it. */
export const FileToOpen = z.object({ id: Id, name: z.string(), opened: z.boolean() });
export type FileToOpen = z.infer<typeof FileToOpen>;
/** What is signed by a command that has no task of its own. */
export const ToSign = z.object({ digest: z.string(), asksForName: z.boolean(), files: z.array(FileToOpen) });
export type ToSign = z.infer<typeof ToSign>;

/** Days on which a person is away, with who acts for them. */
export const AbsenceInfo = z.object({ id: Id, from: Day, to: Day, deputy: PersonRef.nullable() });
export const AbsenceBody = z.strictObject({ from: Day, to: Day, deputyId: Id.nullable() });

/** A document is addressed by its id or its number. */
export const DocumentParam = z.strictObject({ document: z.string().min(1).max(100) });

export type PersonRef = z.infer<typeof PersonRef>;
export type TypeRef = z.infer<typeof TypeRef>;

/** RFC 9457 with the refusals that led to it. */
export const ProblemDocument = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  detail: z.string(),
  instance: z.string().optional(),
  code: z.string(),
  refusals: z.array(
    z.object({
      code: z.string(),
      params: z.record(z.string(), z.union([z.string(), z.number()])).optional(),
      detail: z.string(),
      field: z.string().optional(),
    }),
  ),
  requestId: z.string(),
});
export type ProblemDocument = z.infer<typeof ProblemDocument>;

export const ConfidentialitySchema = z.enum(CONFIDENTIALITIES);
/** Titles by language (BCP 47). */
export const TitlesSchema = z.record(z.string().max(20), text(250));
/** The facts about one original among several. */
export const OriginalAbout = z.strictObject({
  description: text(200).default(''),
  language: z.string().max(20).default(''),
  sheet: z.number().int().min(1).max(999).nullable().default(null),
});
export type OriginalAbout = z.infer<typeof OriginalAbout>;
/** What of a document may be given beside the metadata of its type; all of it lives with the document. */
export const DocumentAbout = {
  parent: text(120).nullable(),
  titles: TitlesSchema,
  location: text(200),
  sites: z.array(z.string().max(60)).max(60),
  confidentiality: ConfidentialitySchema,
  reviewEvery: z.number().int().min(0).max(7300).nullable(),
  /** Null: as the type says. */
  followsNamingRule: z.boolean().nullable(),
  sharing: z.string().max(12),
  /** Where a document from outside comes from. */
  origin: z.strictObject({ source: text(300), edition: text(80), watcherId: Id.nullable() }),
};
