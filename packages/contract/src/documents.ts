import { COMMANDS, FOLDER_STATES, FORBIDDEN, REVIEW_UNITS } from '@kanonos/core';
import { z } from 'zod';
import {
  ChangeKindSchema,
  ConfidentialitySchema,
  Day,
  Id,
  Instant,
  MetadataSchema,
  PersonRef,
  RefusalSchema,
  RowVersion,
  State,
  TypeRef,
} from './common.ts';
import { VersionChange } from './comparison.ts';
import { Field } from './rules.ts';

export const TypeInfo = TypeRef.extend({
  family: z.string(),
  group: z.string(),
  help: z.string(),
  example: z.string(),
  fields: z.array(Field),
  numbering: z.string().nullable(),
  externalPattern: z.string().nullable(),
  labelGivenBySupplier: z.boolean(),
  route: z.object({
    name: z.string(),
    steps: z.array(
      z.object({ name: z.string(), kind: z.string(), workingDays: z.number(), chosenMinimum: z.number().nullable() }),
    ),
  }),
  readersNeeded: z.boolean(),
  reviewEvery: z.number(),
  reviewUnit: z.enum(REVIEW_UNITS),
  mayRegister: z.boolean(),
  /** Numbers of the type that are reserved for the asker. */
  reserved: z.array(z.string()),
  /** The filing rule; null: chosen at registration. */
  filing: z.string().nullable(),
  /** Its numbers extend the number of another document. */
  underParent: z.boolean(),
  /** Documents come from outside and are watched. */
  isOutside: z.boolean(),
  sharing: z.array(z.object({ code: z.string(), text: z.string() })),
});
export const Folder = z.object({
  id: Id,
  parentId: Id.nullable(),
  name: z.string(),
  area: z.string(),
  mayAuthor: z.boolean(),
  mayWork: z.boolean(),
  state: z.enum(FOLDER_STATES),
  /** The metadata that hold in it, for fields that begin with them. */
  metadata: z.record(z.string(), z.string()),
});
export type TypeInfo = z.infer<typeof TypeInfo>;
export type Folder = z.infer<typeof Folder>;

export const Upload = z.object({
  id: Id,
  name: z.string(),
  size: z.number().int(),
  mediaType: z.string(),
  sha256: z.string(),
  warning: z.string().nullable(),
});
export type Upload = z.infer<typeof Upload>;

export const FileInfo = z.object({
  id: Id,
  role: z.enum(['original', 'attachment', 'rendition']),
  name: z.string(),
  handedOutName: z.string(),
  size: z.number().int(),
  mediaType: z.string(),
  sha256: z.string(),
  show: z.enum([
    'pdf',
    'picture',
    'text',
    'markdown',
    'html',
    'pages',
    'sheets',
    'mail',
    'entries',
    'drawing',
    'model',
    'film',
    'sound',
    'address',
    'paper',
    'none',
  ]),
  description: z.string(),
  language: z.string(),
  sheet: z.number().int().nullable(),
  textState: z.enum(['waiting', 'done', 'none', 'broken']),
  words: z.number().int(),
  minutes: z.number().int(),
});
export type FileInfo = z.infer<typeof FileInfo>;
export const VersionInfo = z.object({
  id: Id,
  n: z.number().int(),
  shown: z.string(),
  note: z.string(),
  by: PersonRef,
  at: Instant,
  files: z.array(FileInfo),
  /** What differs from the version before it; nothing while that is not known. */
  change: VersionChange.nullable(),
});
export type VersionInfo = z.infer<typeof VersionInfo>;

export const SignatureInfo = z.object({
  id: Id,
  printedName: z.string(),
  meaning: z.string(),
  at: Instant,
  zone: z.string(),
  forPerson: z.string().nullable(),
  digest: z.string(),
  state: z.enum(['intact', 'altered', 'void']),
  checkedOn: Day.nullable(),
  voidReason: z.string().nullable(),
});
export const AssignmentInfo = z.object({
  id: Id,
  person: PersonRef,
  state: z.enum(['waiting', 'open', 'answered', 'not needed']),
  dueOn: Day.nullable(),
  since: Instant.nullable(),
  overdue: z.boolean(),
  awayDeputy: PersonRef.nullable(),
  decision: z.string().nullable(),
  comment: z.string(),
  decidedAt: Instant.nullable(),
  decidedBy: PersonRef.nullable(),
  onVersion: z.number().int().nullable(),
  signature: SignatureInfo.nullable(),
});
export const StepInfo = z.object({
  id: Id,
  n: z.number().int(),
  /** Steps of one stage run at the same time. */
  stage: z.number().int(),
  name: z.string(),
  kind: z.string(),
  meaning: z.string().nullable(),
  rule: z.string(),
  state: z.enum(['waiting', 'open', 'done', 'rejected', 'not needed']),
  dueOn: Day.nullable(),
  openedAt: Instant.nullable(),
  assignments: z.array(AssignmentInfo),
});
/** The day by which half, four fifths and nineteen twentieths of like cases are done. */
export const Forecast = z.object({ half: Day, mostly: Day, nearlyAll: Day });
export type Forecast = z.infer<typeof Forecast>;

export const RoundInfo = z.object({
  id: Id,
  n: z.number().int(),
  name: z.string(),
  /** An ad hoc round leaves the revision in its state. */
  isAdHoc: z.boolean(),
  lastDay: Day.nullable(),
  /** What is attached to it: documents that the viewer may see, and files. */
  documents: z.array(z.object({ id: Id, number: z.string() })),
  files: z.array(z.object({ id: Id, name: z.string() })),
  state: z.enum(['running', 'held up', 'done', 'rejected', 'recalled']),
  startedBy: PersonRef,
  startedAt: Instant,
  endedAt: Instant.nullable(),
  message: z.string(),
  blockers: z.array(RefusalSchema),
  digest: z.string().nullable(),
  /** When a running round will be done; null where it is blocked or has ended. */
  forecast: Forecast.nullable(),
  steps: z.array(StepInfo),
});
export type RoundInfo = z.infer<typeof RoundInfo>;
export type StepInfo = z.infer<typeof StepInfo>;
export type AssignmentInfo = z.infer<typeof AssignmentInfo>;
export type SignatureInfo = z.infer<typeof SignatureInfo>;

export const Mark = z.enum(['in force', 'on hold', 'open', 'old']);
/** Why what is in force must not be used, and what to do until it may; texts of whoever put it on hold. */
export const Hold = z.object({ reason: z.string(), wayOut: z.string(), by: z.string(), since: Instant });
export type Hold = z.infer<typeof Hold>;
/** How a document with the revision that is meant stands in a list. */
export const DocumentLine = z.object({
  documentId: Id,
  number: z.string(),
  title: z.string(),
  label: z.string(),
  mark: Mark,
});
/** What is awaited: the one next step of a document. */
export const NextStep = z.object({
  kind: z.enum(['finish', 'checked out', 'decide', 'held up', 'release', 'scheduled', 'blocked', 'withdrawal planned']),
  who: z.array(z.string()),
  step: z.string().nullable(),
  since: Instant.nullable(),
  due: Day.nullable(),
  overdue: z.boolean(),
  afterCommit: z.string().nullable(),
  blockers: z.number().int(),
  mine: z.boolean(),
  assignmentId: Id.nullable(),
});
export type NextStep = z.infer<typeof NextStep>;

export const RevisionInfo = z.object({
  id: Id,
  ordinal: z.number().int(),
  label: z.string(),
  state: State,
  mark: Mark,
  title: z.string(),
  changeKind: ChangeKindSchema,
  reason: z.string(),
  summary: z.string(),
  metadata: MetadataSchema,
  plannedOn: Day.nullable(),
  blocked: z.boolean(),
  /** A state of the organisation's own within its state. */
  ownState: z.string().nullable(),
  effectiveFrom: Instant.nullable(),
  effectiveTo: Instant.nullable(),
  createdAt: Instant,
  createdBy: PersonRef,
  versions: z.number().int(),
  rowVersion: RowVersion,
});
export type RevisionInfo = z.infer<typeof RevisionInfo>;

/** Another document as it is named beside this one. */
export const Relative = z.object({
  id: Id,
  number: z.string(),
  title: z.string(),
  label: z.string(),
  state: z.string(),
});

export const SupportingFileInfo = z.object({
  id: Id,
  name: z.string(),
  note: z.string(),
  by: z.string(),
  at: Instant,
  size: z.number().int(),
  sha256: z.string(),
});
export type SupportingFileInfo = z.infer<typeof SupportingFileInfo>;

export const DocumentPage = z.object({
  id: Id,
  number: z.string(),
  /** What is in force must not be used until further notice; null where it may be. */
  hold: Hold.nullable(),
  /** Its type makes it a change note: it names affected documents and tasks. */
  isChangeNote: z.boolean(),
  /** The change notes that name it, the open ones first. */
  changeNotes: z.array(z.object({ number: z.string(), title: z.string(), isClosed: z.boolean() })),
  type: TypeRef,
  folder: z.object({ id: Id, name: z.string(), path: z.array(z.string()), area: z.string() }),
  owner: PersonRef,
  department: z.object({ id: Id, name: z.string() }).nullable(),
  confidentiality: ConfidentialitySchema,
  /** What that forbids here. */
  forbids: z.array(z.enum(FORBIDDEN)),
  /** Titles in other languages, of the revision in view. */
  titles: z.record(z.string(), z.string()),
  location: z.string(),
  sites: z.array(z.object({ code: z.string(), name: z.string() })),
  /** Further folders in which it is shown. */
  shortcuts: z.array(z.object({ id: Id, path: z.array(z.string()), mayRemove: z.boolean() })),
  parent: Relative.nullable(),
  children: z.array(Relative),
  /** Own interval of review, and that of the type. */
  /** In the unit of the type. */
  reviewEvery: z.object({ own: z.number().nullable(), type: z.number(), unit: z.enum(REVIEW_UNITS) }),
  /** States of the organisation's own that I may give what is in work. */
  ownStates: z.array(z.string()),
  followsNamingRule: z.object({ own: z.boolean().nullable(), holds: z.boolean() }),
  sharing: z.object({
    code: z.string(),
    text: z.string(),
    offered: z.array(z.object({ code: z.string(), text: z.string() })),
  }),
  /** Of a document from outside. */
  origin: z
    .object({ source: z.string(), edition: z.string(), watcher: PersonRef.nullable(), checkOn: Day.nullable() })
    .nullable(),
  keywords: z.array(z.string()),
  metadata: MetadataSchema,
  /** What the people, units and entries that metadata name are called. */
  fieldNames: z.record(z.string(), z.string()),
  fields: z.array(Field),
  reviewOn: Day.nullable(),
  /** Its review is due, or will be within the days ahead of its type. */
  reviewIsDue: z.boolean(),
  registeredAt: Instant,
  registeredBy: PersonRef,
  removedAt: Instant.nullable(),
  /** Whether the person who asks keeps it at hand. */
  favourite: z.boolean(),
  /** Taken over from legacy documents, and nobody has looked at it yet. */
  unverifiedSince: Instant.nullable(),
  rowVersion: RowVersion,
  /** What a command names as the state that it was decided on. */
  stateTag: z.string(),
  revision: RevisionInfo,
  revisions: z.array(RevisionInfo),
  versions: z.array(VersionInfo),
  inForce: z.object({ label: z.string(), since: Instant }).nullable(),
  work: z.object({ label: z.string(), state: State }).nullable(),
  checkout: z
    .object({
      person: PersonRef,
      since: Instant,
      mine: z.boolean(),
      note: z.string(),
      /** What was saved on the network drive under it and is no version yet. */
      saved: z.object({ name: z.string(), at: Instant, size: z.number().int() }).nullable(),
    })
    .nullable(),
  /** Versions of the revision in view that were removed. */
  removedVersions: z.array(
    z.object({ n: z.number().int(), at: Instant, by: z.string(), reason: z.string(), freed: z.number() }),
  ),
  /** Files kept beside the versions of the revision in view: never current. */
  supportingFiles: z.array(SupportingFileInfo),
  rounds: z.array(RoundInfo),
  /** Signatures on the revision that were given outside a round. */
  signatures: z.array(SignatureInfo),
  commands: z.array(z.object({ command: z.enum(COMMANDS), refusals: z.array(RefusalSchema) })),
  next: NextStep.nullable(),
  myReading: Id.nullable(),
  counts: z.object({
    comments: z.number().int(),
    openComments: z.number().int(),
    readers: z.number().int(),
    readersDone: z.number().int(),
  }),
  rights: z.array(z.string()),
  view: z.object({ day: Day, until: z.array(z.object({ label: z.string(), time: z.string() })) }).nullable(),
  change: z
    .object({
      from: z.string(),
      metadata: z.array(z.object({ label: z.string(), before: z.string(), after: z.string() })),
    })
    .nullable(),
  hasRoute: z.boolean(),
  labelsAhead: z.discriminatedUnion('by', [
    z.object({
      by: z.literal('change kind'),
      labels: z.object({ minor: z.string(), major: z.string(), editorial: z.string() }),
    }),
    z.object({ by: z.literal('stage'), stages: z.array(z.object({ stage: z.number().int(), label: z.string() })) }),
    z.object({ by: z.literal('maker') }),
    z.object({ by: z.literal('none') }),
  ]),
  canChooseReviewers: z.number().int().nullable(),
});
export type DocumentPage = z.infer<typeof DocumentPage>;

export const HistoryEntry = z.object({
  at: Instant,
  kind: z.string(),
  actor: z.string(),
  forPerson: z.string().nullable(),
  label: z.string().nullable(),
  seq: z.number().int().nullable(),
  text: z.string(),
  comment: z.string().nullable(),
});
export type HistoryEntry = z.infer<typeof HistoryEntry>;
