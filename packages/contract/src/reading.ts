import { z } from 'zod';
import { ChangeKindSchema, Day, DocumentParam, Id, Instant, PersonRef, RowVersion, text } from './common.ts';
import { Mark, SignatureInfo, VersionInfo } from './documents.ts';
import { endpoint } from './endpoint.ts';

export const ReadingStateSchema = z.enum(['signed', 'carried', 'open', 'late', 'not needed', 'overtaken', 'void']);
export const ReadingPolicySchema = z.enum(['read all', 'read the changes', 'carry over']);
export const Requirement = z.object({
  id: Id,
  audience: z.object({
    everyone: z.boolean(),
    units: z.array(z.object({ id: Id, kind: z.string(), name: z.string() })),
    people: z.array(PersonRef),
    except: z.array(PersonRef),
  }),
  kind: z.enum(['read and sign', 'for information']),
  instructions: z.string(),
  workingDays: z.number().int(),
  newcomerDays: z.number().int(),
  perChange: z.partialRecord(ChangeKindSchema, ReadingPolicySchema),
  beforeInForce: z.boolean(),
  from: Day,
  fromType: z.boolean(),
  rowVersion: RowVersion,
});
export type Requirement = z.infer<typeof Requirement>;
export const ReadingTask = z.object({
  id: Id,
  document: z.object({ id: Id, number: z.string(), type: z.string() }),
  label: z.string(),
  title: z.string(),
  mark: Mark,
  state: ReadingStateSchema,
  due: Day,
  newcomer: z.boolean(),
  policy: ReadingPolicySchema,
  kind: z.string(),
  instructions: z.string(),
  minutes: z.number().int(),
  reason: z.string(),
  summary: z.string(),
  changeKind: z.string(),
  lastSigned: z.object({ label: z.string(), at: Instant }).nullable(),
  changes: z.array(z.object({ label: z.string(), before: z.string(), after: z.string() })),
  version: VersionInfo,
  digest: z.string(),
  asksForName: z.boolean(),
  signature: SignatureInfo.nullable(),
  owner: PersonRef,
  maySign: z.boolean(),
  refusals: z.array(z.object({ code: z.string(), detail: z.string() })),
  inForceSince: Instant.nullable(),
  zone: z.string(),
  signInName: z.string(),
  remark: z.string(),
});
export type ReadingTask = z.infer<typeof ReadingTask>;
export const Reader = z.object({
  assignmentId: Id,
  person: PersonRef,
  department: z.string().nullable(),
  state: ReadingStateSchema,
  label: z.string(),
  due: Day,
  closedAt: Instant.nullable(),
  policy: ReadingPolicySchema,
});
export type Reader = z.infer<typeof Reader>;
export const Compliance = z.object({ done: z.number().int(), owed: z.number().int(), percent: z.number().nullable() });
export const Team = z.object({
  name: z.string(),
  scopes: z.array(z.object({ key: z.string(), name: z.string() })),
  scope: z.string(),
  documents: z.array(
    z.object({ id: Id, number: z.string(), label: z.string(), title: z.string(), minutes: z.number().int() }),
  ),
  people: z.array(
    z.object({
      person: PersonRef,
      cells: z.array(z.object({ id: Id, state: ReadingStateSchema, due: Day }).nullable()),
      compliance: Compliance,
    }),
  ),
  total: Compliance,
  late: z.number().int(),
  oldestLateDays: z.number().int(),
  pace: z.array(z.object({ day: Day, percent: z.number() })),
  burden: z.array(z.object({ week: z.string(), minutes: z.number() })),
});
export type Team = z.infer<typeof Team>;

export const reading = {
  mine: endpoint({
    id: 'myReadings',
    feature: 'reading',
    method: 'GET',
    path: '/api/readings',
    summary: 'My readings: open ones first, then signed',
    answer: z.object({
      rows: z.array(
        z.object({
          id: Id,
          number: z.string(),
          title: z.string(),
          label: z.string(),
          mark: Mark,
          state: ReadingStateSchema,
          due: Day,
          minutes: z.number().int(),
          policy: ReadingPolicySchema,
          closedAt: Instant.nullable(),
        }),
      ),
    }),
  }),
  task: endpoint({
    id: 'reading',
    feature: 'reading',
    method: 'GET',
    path: '/api/readings/:id',
    summary: 'One reading with what is to be read',
    params: z.strictObject({ id: Id }),
    answer: ReadingTask,
    problems: ['not_found'],
  }),
  sign: endpoint({
    id: 'signReading',
    feature: 'reading',
    method: 'POST',
    path: '/api/readings/:id/sign',
    summary: 'Sign that it was read, with the password; a remark goes to the owner',
    params: z.strictObject({ id: Id }),
    body: z.strictObject({
      name: z.string().max(200).nullable().default(null),
      password: z.string().max(1000),
      digest: z.string().max(64),
      remark: text(2000).default(''),
    }),
    problems: [
      'not_found',
      'reading_closed',
      'reading_not_in_force',
      'signing_wrong',
      'signing_needs_name',
      'signing_locked',
      'record_changed',
      'input_invalid',
    ],
  }),
  readers: endpoint({
    id: 'readers',
    feature: 'reading',
    method: 'GET',
    path: '/api/documents/:document/readers',
    summary: 'Who must read a document, and who has',
    params: DocumentParam,
    answer: z.object({
      requirements: z.array(Requirement),
      readers: z.array(Reader),
      compliance: Compliance,
      mayManage: z.boolean(),
    }),
    problems: ['not_found'],
  }),
  setRequirement: endpoint({
    id: 'setRequirement',
    feature: 'reading',
    method: 'PUT',
    path: '/api/documents/:document/requirement',
    summary: 'Name who must read the document, with instructions and days',
    params: DocumentParam,
    body: z.strictObject({
      everyone: z.boolean(),
      unitIds: z.array(Id).max(200),
      personIds: z.array(Id).max(500),
      exceptPersonIds: z.array(Id).max(500),
      kind: z.enum(['read and sign', 'for information']),
      instructions: text(2000),
      workingDays: z.number().int().min(0).max(365),
      newcomerDays: z.number().int().min(0).max(365),
      perChange: z.partialRecord(ChangeKindSchema, ReadingPolicySchema),
      beforeInForce: z.boolean(),
      reason: text(400).default(''),
      rowVersion: RowVersion.nullable(),
    }),
    answer: z.object({ id: Id, people: z.number().int() }),
    problems: ['not_found', 'right_missing', 'changed_meanwhile', 'unit_unknown', 'input_invalid'],
  }),
  team: endpoint({
    id: 'teamReading',
    feature: 'reading',
    method: 'GET',
    path: '/api/team-reading',
    summary: 'People × documents of my team (or, with the audit right or as controller, of a department)',
    query: z.strictObject({ scope: z.string().max(80).optional() }),
    answer: Team,
    problems: ['not_found'],
  }),
  remind: endpoint({
    id: 'remindReaders',
    feature: 'reading',
    method: 'POST',
    path: '/api/team-reading/remind',
    summary: 'Remind the late ones of a team by mail',
    body: z.strictObject({ scope: z.string().max(80).optional() }),
    answer: z.object({ people: z.number().int(), readings: z.number().int() }),
    problems: ['not_found', 'nobody_late', 'input_invalid'],
  }),
};
