import {
  CHANGE_NOTE_DEMANDS,
  CHANGE_NOTE_USES,
  CONFIDENTIALITIES,
  DRAFT_NUMBERS,
  FIELD_KINDS,
  FIELD_LEVELS,
  FORBIDDEN,
  OWN_STATE_WITHIN,
  PLAIN_REVIEW,
  NEW_TYPE as PLAIN_TYPE,
  REVIEW_STARTS,
  REVIEW_UNITS,
} from '@kanonos/core';
import { z } from 'zod';
import { Day, Id, Instant, PersonRef, RefusalSchema, RowVersion, State, text } from './common.ts';
import { endpoint } from './endpoint.ts';

export const FieldOption = z.object({
  code: text(60, 1),
  text: text(200),
  under: z.string().max(60).optional(),
  retired: z.boolean().optional(),
});
export const Field = z.object({
  key: z.string().max(60),
  label: text(80),
  kind: z.enum(FIELD_KINDS),
  mandatory: z.boolean(),
  level: z.enum(FIELD_LEVELS),
  unit: text(20).optional(),
  list: z.string().max(60).optional(),
  options: z.array(FieldOption).max(2000).optional(),
  dependsOn: z.string().max(60).optional(),
  pattern: z.string().max(300).optional(),
  patternWords: text(200).optional(),
  unique: z.boolean().optional(),
  shown: z.boolean().optional(),
  default: z
    .discriminatedUnion('from', [
      z.strictObject({ from: z.literal('fixed'), value: text(400) }),
      z.strictObject({ from: z.literal('today') }),
      z.strictObject({ from: z.literal('me') }),
      z.strictObject({ from: z.literal('folder') }),
      z.strictObject({ from: z.literal('parent') }),
    ])
    .optional(),
  fills: z.record(z.string().max(60), z.string().max(60)).optional(),
  remind: z.strictObject({ days: z.number().int().min(0).max(365), to: z.string().max(60) }).optional(),
  help: text(400).optional(),
});
export type Field = z.infer<typeof Field>;
export type FieldOption = z.infer<typeof FieldOption>;

const whole = (min: number, max: number) => z.number().int().min(min).max(max);
const Stage = z.union([
  z.strictObject({ letters: z.literal(true) }),
  z.strictObject({ prefix: z.string().max(6), width: whole(1, 4) }),
]);
/** How versions are shown before the first release. */
const Drafts = { drafts: z.enum(DRAFT_NUMBERS).optional() };
export const Scheme = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('letters'), ...Drafts }),
  z.strictObject({
    kind: z.literal('integers'),
    first: z.union([z.literal(0), z.literal(1)]),
    width: whole(1, 4).optional(),
    ...Drafts,
  }),
  z.strictObject({ kind: z.literal('major.minor'), ...Drafts }),
  z.strictObject({ kind: z.literal('none'), ...Drafts }),
  z.strictObject({ kind: z.literal('own'), ...Drafts }),
  z.strictObject({ kind: z.literal('staged'), stages: z.array(Stage).max(12), ...Drafts }),
]);
export type Scheme = z.infer<typeof Scheme>;

export const AssigneeRule = z.discriminatedUnion('by', [
  z.strictObject({ by: z.literal('person'), personId: Id }),
  z.strictObject({ by: z.literal('unit'), unitId: Id }),
  z.strictObject({ by: z.literal('owner') }),
  z.strictObject({ by: z.literal('owner supervisor') }),
  z.strictObject({ by: z.literal('author') }),
  z.strictObject({ by: z.literal('field'), key: z.string().max(60) }),
  z.strictObject({ by: z.literal('chosen'), minimum: whole(0, 20), fromUnitId: Id.optional() }),
]);
const EscalationTo = z.discriminatedUnion('by', [
  z.strictObject({ by: z.literal('supervisor') }),
  z.strictObject({ by: z.literal('owner') }),
  z.strictObject({ by: z.literal('submitter') }),
  z.strictObject({ by: z.literal('person'), personId: Id }),
]);
const AfterDays = { afterDays: whole(1, 365) };
const EscalationRule = z.discriminatedUnion('action', [
  z.strictObject({ action: z.literal('remind'), ...AfterDays }),
  z.strictObject({ action: z.literal('tell'), to: EscalationTo, ...AfterDays }),
  z.strictObject({ action: z.literal('also ask'), to: EscalationTo, ...AfterDays }),
  z.strictObject({ action: z.literal('hand over'), to: EscalationTo, ...AfterDays }),
]);
export const Step = z.strictObject({
  name: text(80, 1),
  kind: z.enum(['review', 'acknowledge', 'task', 'approval']),
  meaning: text(120).optional(),
  assignees: z.array(AssigneeRule).max(30),
  rule: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('all') }),
    z.strictObject({ kind: z.literal('any one') }),
    z.strictObject({ kind: z.literal('k of n'), k: whole(1, 50) }),
    z.strictObject({ kind: z.literal('in sequence') }),
  ]),
  workingDays: whole(0, 365),
  editing: z.boolean().optional(),
  onReject: z.union([z.literal('draft'), whole(0, 30)]),
  /** A day field of the type; where a document has a day in it, the step is due then. */
  dueField: z.string().max(60).optional(),
  /** After a rejection to an earlier step, reviews that agreed later than it keep their answers. */
  keepsAgreed: z.boolean().optional(),
  /** Its decisions stay after a later check-in in review. */
  keepsDecisions: z.boolean().optional(),
  /** Runs at the same time as the step before it. */
  beside: z.boolean().optional(),
  /** Asked only where this condition on fields holds, in the grammar of the search. */
  when: text(500).optional(),
  escalations: z.array(EscalationRule).max(10).optional(),
});
export type Step = z.infer<typeof Step>;
export const Route = z.strictObject({
  name: text(80),
  steps: z.array(Step).max(20),
  /** Decisions given before a check-in in review stay in all steps; otherwise as each step says. */
  keepsDecisions: z.boolean().optional(),
  /** Its documents are decided on one by one, never several with one password. */
  decidedAlone: z.boolean().optional(),
  /** Its rounds inform or record: they leave the revision in its state. */
  leadsTo: z.literal('nothing').optional(),
});
export type Route = z.infer<typeof Route>;
export const FurtherRoute = z.strictObject({
  route: Route,
  taken: z.discriminatedUnion('by', [
    z.strictObject({ by: z.literal('condition'), when: text(500, 1) }),
    z.strictObject({ by: z.literal('choice'), mayChoose: z.enum(['author', 'controller']) }),
  ]),
});
export type FurtherRoute = z.infer<typeof FurtherRoute>;
export const TypeReading = z.strictObject({
  unitIds: z.array(Id).max(100),
  everyone: z.boolean().optional(),
  workingDays: whole(0, 365),
  newJoinerDays: whole(0, 365),
  perChange: z.record(z.string().max(20), z.string().max(30)),
  instructions: text(2000),
});
export type TypeReading = z.infer<typeof TypeReading>;

/** The rules of a type for the life of its documents. */
const policy = {
  route: Route.default({ name: '', steps: [] }),
  routes: z.strictObject({ minor: Route.optional(), major: Route.optional(), editorial: Route.optional() }).default({}),
  furtherRoutes: z.array(FurtherRoute).max(20).default([]),
  reading: TypeReading.nullable().default(null),
  fallbackApproverId: Id.nullable().default(null),
  followsNamingRule: z.boolean().default(false),
  origin: z
    .strictObject({ checkMonths: whole(1, 240) })
    .nullable()
    .default(null),
  sharing: z
    .array(z.strictObject({ code: text(12, 1), text: text(120) }))
    .max(60)
    .default([]),
  head: text(200).default(''),
  foot: text(200).default(''),
  cover: z.boolean().default(false),
  changeNote: z.enum(CHANGE_NOTE_USES).default('may'),
  changeNoteDemand: z.enum(CHANGE_NOTE_DEMANDS).default('tasks'),
  isChangeNote: z.boolean().default(false),
  review: z
    .strictObject({
      unit: z.enum(REVIEW_UNITS),
      from: z.enum(REVIEW_STARTS),
      fixedDay: z
        .string()
        .regex(/^\d{2}-\d{2}$/)
        .nullable(),
      minorChange: z.enum(['counts as review', 'leaves the day']),
      daysAhead: whole(0, 365),
      mostDaysPostponed: whole(0, 730),
      escalateAfterDays: whole(0, 365).nullable(),
    })
    .default(PLAIN_REVIEW),
  keeping: z
    .strictObject({ years: whole(1, 200), from: z.enum(['superseded', 'withdrawn']) })
    .nullable()
    .default(null),
};

/** The rules of the organisation for a type of documents. */
export const TypeRule = z.strictObject({
  code: text(12),
  name: text(80),
  family: text(80),
  group: text(80),
  help: text(400),
  example: text(200),
  numbering: text(160).nullable(),
  externalPattern: z.string().max(300).nullable(),
  naming: text(160),
  filing: text(300).nullable().default(null),
  scheme: Scheme,
  fields: z.array(Field).max(200),
  readersNeeded: z.boolean(),
  reviewEvery: z.number(),
  releaseWithoutRoute: z.boolean(),
  takeOver: z.boolean(),
  registerUnitIds: z.array(Id).max(50),
  retired: z.boolean(),
  ...policy,
});
export type TypeRule = z.infer<typeof TypeRule>;

/** A type before anything is configured for it. */
export const NEW_TYPE: TypeRule = { ...PLAIN_TYPE } as TypeRule;

export const Difference = z.object({ what: z.string(), before: z.string(), after: z.string() });
export type Difference = z.infer<typeof Difference>;
export const Edition = z.object({
  n: z.number().int(),
  at: Instant,
  by: z.string(),
  reason: z.string(),
  differences: z.array(Difference),
});
export type Edition = z.infer<typeof Edition>;

export const TypeSummary = z.object({
  id: Id,
  code: z.string(),
  name: z.string(),
  family: z.string(),
  group: z.string(),
  retired: z.boolean(),
  numbering: z.string().nullable(),
  documents: z.number().int(),
  planned: Day.nullable(),
});
export type TypeSummary = z.infer<typeof TypeSummary>;
export const TypeDetail = z.object({
  id: Id,
  rule: TypeRule,
  rowVersion: RowVersion,
  planned: z
    .object({
      from: Day,
      reason: z.string(),
      by: z.string(),
      blockedReason: z.string().nullable(),
      rule: TypeRule,
      differences: z.array(Difference),
    })
    .nullable(),
  editions: z.array(Edition),
});
export type TypeDetail = z.infer<typeof TypeDetail>;

/** What a change of a type would do, without doing it. */
export const TypeTrial = z.object({
  refusals: z.array(RefusalSchema.extend({ detail: z.string() })),
  differences: z.array(Difference),
  /** Documents of the type, and of these the ones whose revision is a draft. */
  documents: z.number().int(),
  drafts: z.number().int(),
  /** Mandatory metadata that documents would lack: `reached` documents have no value, `filled` of them would get the fixed one. */
  gaps: z.array(
    z.object({
      key: z.string(),
      label: z.string(),
      level: z.enum(FIELD_LEVELS),
      reached: z.number().int(),
      fills: z.boolean(),
    }),
  ),
  /** Metadata that documents have and that would no longer be asked. */
  dropped: z.array(z.object({ label: z.string(), documents: z.number().int() })),
  /** Scopes that no rule would count in any more. */
  leftBehind: z.array(z.object({ scope: z.string(), last: z.number().int() })),
  /** How the newest documents of the type are numbered and named today, and how the next one would be. */
  examples: z.array(z.object({ number: z.string(), title: z.string(), fileName: z.string() })),
});
export type TypeTrial = z.infer<typeof TypeTrial>;

export const ChoiceList = z.object({
  key: z.string(),
  name: z.string(),
  dependsOn: z.string().nullable(),
  options: z.array(FieldOption),
  rowVersion: RowVersion,
  usedBy: z.array(z.string()),
});
export type ChoiceList = z.infer<typeof ChoiceList>;
export const LookupField = z.strictObject({
  key: z.string().max(40),
  label: text(80, 1),
  kind: z.enum(['text', 'number', 'date']),
});
export const LookupEntry = z.strictObject({
  code: text(60, 1),
  name: text(200, 1),
  metadata: z.record(z.string().max(40), z.string().max(400)),
  retired: z.boolean(),
});
export const Lookup = z.object({
  key: z.string(),
  name: z.string(),
  metadata: z.array(LookupField),
  entries: z.array(LookupEntry),
  rowVersion: RowVersion,
  usedBy: z.array(z.string()),
});
export type LookupEntry = z.infer<typeof LookupEntry>;
export type Lookup = z.infer<typeof Lookup>;

const Confidential = z.record(z.enum(CONFIDENTIALITIES), z.array(z.enum(FORBIDDEN)).max(3));
/** Whether a name is one of the IANA time zone database. */
const isZone = (name: string): boolean => {
  try {
    return Boolean(new Intl.DateTimeFormat('en', { timeZone: name }));
  } catch {
    return false;
  }
};

const GroupRule = z.strictObject({ groupId: Id, unitIds: z.array(Id).max(20) });

/** A state of the organisation's own; without units, whoever may author sets it. */
const OwnStateBody = z.strictObject({
  name: text(40, 1),
  within: z.enum(OWN_STATE_WITHIN),
  unitIds: z.array(Id).max(50),
});

const TypeParam = z.strictObject({ id: Id });
const KeyParam = z.strictObject({ key: z.string().max(40) });
const Reason = text(500, 1);
const RULE_PROBLEMS = ['not_found', 'input_invalid', 'changed_meanwhile', 'rule_ambiguous'] as const;
const TYPE_PROBLEMS = [
  ...RULE_PROBLEMS,
  'type_code_invalid',
  'type_code_taken',
  'type_without_name',
  'type_number_source',
  'rule_brace_unmatched',
  'rule_token_unknown',
  'rule_without_counter',
  'rule_with_two_counters',
  'rule_token_twice',
  'rule_per_not_in_rule',
  'rule_field_unknown',
  'rule_field_free',
  'rule_field_not_mandatory',
  'number_too_long',
  'external_pattern_unreadable',
  'naming_brace_unmatched',
  'naming_token_unknown',
  'naming_without_ext',
  'naming_says_nothing',
  'filing_brace_unmatched',
  'filing_part_empty',
  'filing_area_fixed',
  'filing_token_unknown',
  'filing_in_circle',
  'scheme_width_invalid',
  'scheme_without_stages',
  'scheme_stage_twice',
  'scheme_stage_invalid',
  'scheme_in_use',
  'fields_too_many',
  'field_without_label',
  'field_key_invalid',
  'field_key_reserved',
  'field_key_twice',
  'field_kind_unknown',
  'field_kind_in_use',
  'field_without_options',
  'field_without_list',
  'field_list_unknown',
  'field_pattern_unreadable',
  'field_depends_on_nothing',
  'field_depends_in_circle',
  'field_fills_nothing',
  'field_default_misfits',
  'option_code_invalid',
  'option_code_twice',
  'review_every_invalid',
  'review_fixed_day_unknown',
  'sharing_code_twice',
  'way_names_unknown',
  'step_field_unknown',
  'step_after_approval',
  'step_asks_nobody',
  'step_k_too_small',
  'step_days_invalid',
  'step_reject_not_earlier',
  'nothing_changed',
] as const;
const LIST_PROBLEMS = [
  ...RULE_PROBLEMS,
  'list_key_invalid',
  'list_key_taken',
  'list_depends_in_circle',
  'list_depends_unknown',
  'option_code_invalid',
  'option_code_twice',
  'option_under_unknown',
  'option_in_use',
  'nothing_changed',
] as const;

export const rules = {
  types: endpoint({
    id: 'ruleTypes',
    feature: 'rules',
    method: 'GET',
    path: '/api/rules/types',
    access: 'administer',
    summary: 'All types by their place in the classification, with how many documents they have',
    answer: z.object({ types: z.array(TypeSummary) }),
  }),
  type: endpoint({
    id: 'ruleType',
    feature: 'rules',
    method: 'GET',
    path: '/api/rules/types/:id',
    access: 'administer',
    summary: 'One type as configured, what is planned for it, and its editions',
    params: TypeParam,
    answer: TypeDetail,
    problems: ['not_found'],
  }),
  tryType: endpoint({
    id: 'tryType',
    feature: 'rules',
    method: 'POST',
    path: '/api/rules/types/trial',
    access: 'administer',
    summary: 'What a new or changed type would do: refusals, differences, documents affected; changes nothing',
    body: z.strictObject({ id: Id.nullable(), rule: TypeRule }),
    answer: TypeTrial,
    problems: ['not_found', 'input_invalid'],
  }),
  addType: endpoint({
    id: 'addType',
    feature: 'rules',
    method: 'POST',
    path: '/api/rules/types',
    access: 'administer',
    summary: 'Add a type',
    body: z.strictObject({ rule: TypeRule, reason: Reason }),
    answer: z.object({ id: Id }),
    problems: TYPE_PROBLEMS,
  }),
  changeType: endpoint({
    id: 'changeType',
    feature: 'rules',
    method: 'PUT',
    path: '/api/rules/types/:id',
    access: 'administer',
    summary: 'Change a type, now or from a day on; fixed default values can be filled into existing documents',
    params: TypeParam,
    body: z.strictObject({
      rule: TypeRule,
      reason: Reason,
      rowVersion: RowVersion,
      from: Day.nullable().default(null),
      fill: z.array(z.string().max(60)).max(200).default([]),
    }),
    answer: z.object({ filled: z.number().int() }),
    problems: [...TYPE_PROBLEMS, 'day_not_after_today', 'rule_planned_already'],
  }),
  dropPlan: endpoint({
    id: 'cancelPlannedRule',
    feature: 'rules',
    method: 'POST',
    path: '/api/rules/types/:id/planned/drop',
    access: 'administer',
    summary: 'Cancel the planned change of a type',
    params: TypeParam,
    body: z.strictObject({ reason: Reason }),
    problems: ['not_found', 'input_invalid'],
  }),
  lists: endpoint({
    id: 'ruleLists',
    feature: 'rules',
    method: 'GET',
    path: '/api/rules/lists',
    access: 'administer',
    summary: 'Choice lists and look-up lists that types share',
    answer: z.object({ choices: z.array(ChoiceList), lookups: z.array(Lookup) }),
  }),
  listEditions: endpoint({
    id: 'listEditions',
    feature: 'rules',
    method: 'GET',
    path: '/api/rules/lists/:kind/:key/editions',
    access: 'administer',
    summary: 'The editions of a choice list or a look-up list: who changed what, when and why',
    params: z.strictObject({ kind: z.enum(['choices', 'lookup']), key: z.string().max(40) }),
    answer: z.object({ editions: z.array(Edition) }),
  }),
  saveChoices: endpoint({
    id: 'saveChoiceList',
    feature: 'rules',
    method: 'PUT',
    path: '/api/rules/choices/:key',
    access: 'administer',
    summary: 'Add or change a choice list (row version 0: new); the types that use it follow',
    params: KeyParam,
    body: z.strictObject({
      name: text(80, 1),
      dependsOn: z.string().max(40).nullable(),
      options: z.array(FieldOption).max(2000),
      rowVersion: whole(0, 1_000_000),
      reason: Reason,
    }),
    problems: LIST_PROBLEMS,
  }),
  saveLookup: endpoint({
    id: 'saveLookup',
    feature: 'rules',
    method: 'PUT',
    path: '/api/rules/lookups/:key',
    access: 'administer',
    summary: 'Add or change a look-up list with its entries (row version 0: new)',
    params: KeyParam,
    body: z.strictObject({
      name: text(80, 1),
      metadata: z.array(LookupField).max(30),
      entries: z.array(LookupEntry).max(5000),
      rowVersion: whole(0, 1_000_000),
      reason: Reason,
    }),
    problems: LIST_PROBLEMS,
  }),
  entries: endpoint({
    id: 'lookupEntries',
    feature: 'rules',
    method: 'GET',
    path: '/api/lookups/:key',
    summary: 'Entries of a look-up list to choose from, by a few letters',
    params: KeyParam,
    query: z.strictObject({ find: z.string().max(100).default('') }),
    answer: z.object({ entries: z.array(LookupEntry.omit({ retired: true })) }),
    problems: ['not_found'],
  }),
  organisation: endpoint({
    id: 'organisationRule',
    feature: 'rules',
    method: 'GET',
    path: '/api/rules/organisation',
    access: 'administer',
    summary: 'Settings of the organisation as a whole',
    answer: z.object({
      name: z.string(),
      code: z.string(),
      zone: z.string(),
      week: z.array(whole(1, 7)),
      holidays: z.array(z.object({ day: Day, name: z.string() })),
      signingIdleMinutes: z.number().int(),
      fallbackApprover: PersonRef.nullable(),
      confidentiality: Confidential,
      followsNamingRule: z.boolean(),
      colour: z.string(),
      logo: z.boolean(),
      stateWords: z.record(z.string(), z.string()),
      groupRules: z.array(GroupRule),
      signatureMeanings: z.array(z.string()),
      /** States of its own within draft and in review, and who may set them. */
      ownStates: z.array(OwnStateBody),
      rowVersion: RowVersion,
      editions: z.array(Edition),
    }),
  }),
  changeOrganisation: endpoint({
    id: 'changeOrganisation',
    feature: 'rules',
    method: 'PUT',
    path: '/api/rules/organisation',
    access: 'administer',
    summary:
      'Change name, code, zone, working week, holidays, signing period and the fallback approver of the organisation',
    body: z.strictObject({
      name: text(120, 1),
      /** What is left out stays as it is. */
      code: z
        .string()
        .regex(/^[A-Z0-9]{1,8}$/, 'one to eight capital letters or digits would be right, such as THR')
        .optional(),
      zone: z.string().max(60).refine(isZone, 'a time zone such as Europe/Zurich would be right').optional(),
      week: z.array(whole(1, 7)).min(1, 'at least one working day').max(7),
      holidays: z.array(z.strictObject({ day: Day, name: text(80, 1) })).max(1000),
      signingIdleMinutes: whole(1, 480),
      fallbackApproverId: Id.nullable(),
      confidentiality: Confidential.optional(),
      followsNamingRule: z.boolean().optional(),
      colour: z
        .string()
        .regex(/^(#[0-9a-f]{6})?$/, 'a colour such as #0b5364 would be right')
        .optional(),
      logoUploadId: Id.nullable().optional(),
      stateWords: z.partialRecord(State, text(30)).optional(),
      groupRules: z.array(GroupRule).max(100).optional(),
      /** What a signature outside a round may mean. */
      signatureMeanings: z.array(text(120, 1)).max(50).optional(),
      ownStates: z.array(OwnStateBody).max(50).optional(),
      rowVersion: RowVersion,
      reason: Reason,
    }),
    problems: [
      'input_invalid',
      'changed_meanwhile',
      'not_found',
      'holiday_twice',
      'zone_fixed',
      'nothing_changed',
      'person_inactive',
      'upload_unknown',
      'content_missing',
      'logo_wrong',
      'group_rule_wrong',
      'own_state_twice',
    ],
  }),
  logo: endpoint({
    id: 'organisationLogo',
    feature: 'rules',
    method: 'GET',
    path: '/api/organisation/logo',
    access: 'public',
    summary: 'The logo of the organisation, as shown in mails',
    stream: 'bytes',
    problems: ['not_found'],
  }),
};
