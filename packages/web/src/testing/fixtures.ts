import type { DocumentPage, Field, FileInfo, ReadingTask, Task, TypeInfo, Upload } from '@kanonos/contract';
import { COMMANDS, type Command, type Refusal } from '@kanonos/core';

const ID = (n: number) => `01a0000a-0000-7000-8000-${String(n).padStart(12, '0')}`;
const otto = { id: ID(10), name: 'Otto Brandvik' };

/** The page of a procedure whose revision C is a draft, and whose revision B is in force; `changes` is what a test is about. */
export const documentPage = (changes: Partial<DocumentPage> = {}): DocumentPage => {
  const revision: DocumentPage['revision'] = {
    id: ID(20),
    ordinal: 3,
    label: 'C',
    state: 'draft',
    mark: 'open',
    title: 'Grip overhaul and slip-force test',
    changeKind: 'major',
    reason: 'Slip-force limit raised',
    summary: '',
    metadata: {},
    plannedOn: null,
    blocked: false,
    effectiveFrom: null,
    effectiveTo: null,
    createdAt: '2026-11-02T08:00:00.000Z',
    createdBy: otto,
    versions: 2,
    rowVersion: 4,
  };
  return {
    id: ID(1),
    hold: null,
    number: 'THR-PRO-0118',
    type: { id: ID(2), code: 'PRO', name: 'Procedure' },
    folder: { id: ID(3), name: 'Grips', path: ['Carriers', 'Grips'], area: 'Carriers' },
    owner: otto,
    department: { id: 'u1', name: 'Maintenance' },
    confidentiality: 'internal',
    forbids: [],
    titles: {},
    location: '',
    sites: [],
    shortcuts: [],
    parent: null,
    children: [],
    reviewMonths: { own: null, type: 36 },
    followsNamingRule: { own: null, holds: false },
    sharing: { code: '', text: '', offered: [] },
    origin: null,
    keywords: [],
    metadata: {},
    fieldNames: {},
    fields: [],
    reviewOn: '2028-03-09',
    registeredAt: '2021-03-01T08:00:00.000Z',
    registeredBy: otto,
    removedAt: null,
    favourite: false,
    unverifiedSince: null,
    rowVersion: 7,
    stateTag: 'seen-1',
    revision,
    revisions: [revision],
    versions: [],
    inForce: { label: 'B', since: '2025-03-08T23:00:00.000Z' },
    work: { label: 'C', state: 'draft' },
    checkout: null,
    removedVersions: [],
    supportingFiles: [],
    rounds: [],
    commands: [],
    next: null,
    myReading: null,
    counts: { comments: 0, openComments: 0, readers: 14, readersDone: 12 },
    rights: ['see', 'read', 'read work', 'comment', 'author', 'download'],
    view: null,
    change: null,
    hasRoute: true,
    labelsAhead: { by: 'change kind', labels: { minor: 'C', major: 'D', editorial: 'C' } },
    canChooseReviewers: null,
    ...changes,
  };
};

/** All commands of a page: possible, but for those that are refused here. */
export const commandsWith = (refused: Partial<Record<Command, Refusal>>): DocumentPage['commands'] =>
  COMMANDS.map((command) => {
    const refusal = refused[command];
    return { command, refusals: refusal ? [refusal] : [] };
  });

/** An original of a version; `changes` is what a test is about. */
export const original = (changes: Partial<FileInfo> = {}): FileInfo => ({
  id: ID(40),
  role: 'original',
  name: 'grip-overhaul.docx',
  handedOutName: 'THR-PRO-0118_C_Grip-overhaul.docx',
  size: 48_210,
  mediaType: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  sha256: 'a1'.repeat(32),
  show: 'pages',
  description: '',
  language: '',
  sheet: null,
  textState: 'done',
  words: 1_240,
  minutes: 7,
  ...changes,
});

/** A version with these files, the newest of its revision. */
export const version = (files: FileInfo[] = [original()]): DocumentPage['versions'][number] => ({
  id: ID(30),
  n: 2,
  shown: 'C.2',
  note: 'Limits of table 2',
  by: otto,
  at: '2026-11-10T08:00:00.000Z',
  files,
  change: null,
});

/** The server's answer to an uploaded file. */
export const uploaded = (changes: Partial<Upload> = {}): Upload => ({
  id: ID(50),
  name: 'grip-overhaul-new.docx',
  size: 50_100,
  mediaType: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  sha256: 'b2'.repeat(32),
  warning: null,
  ...changes,
});

/** A field of a type, of a kind that a test is about. */
export const fieldOf = (changes: Partial<Field> & Pick<Field, 'kind'>): Field => ({
  key: changes.kind,
  label: changes.kind[0]?.toUpperCase() + changes.kind.slice(1),
  mandatory: false,
  level: 'document',
  ...changes,
});

/** An approval that waits for the signed-in person; `changes` is what a test is about. */
export const approvalTask = (changes: Partial<Task> = {}): Task => ({
  assignmentId: ID(60),
  document: { id: ID(1), number: 'THR-PRO-0118', type: 'Procedure' },
  label: 'C',
  title: 'Grip overhaul and slip-force test',
  mark: 'open',
  step: 'Approval',
  stepKind: 'approval',
  meaning: 'approved for use',
  stepOf: '2 of 2',
  due: '2026-12-03',
  overdue: false,
  askedBy: otto,
  message: 'Please before the winter.',
  asDeputyFor: null,
  reason: 'Slip-force limit raised',
  summary: '',
  changeKind: 'major',
  changes: [{ label: 'Slip-force limit', before: '12 kN', after: '14 kN' }],
  inForceLabel: 'B',
  beforeVersionId: null,
  version: version([original({ show: 'none' })]),
  round: {
    id: ID(70),
    n: 1,
    state: 'running',
    startedBy: otto,
    startedAt: '2026-11-20T08:00:00.000Z',
    endedAt: null,
    message: '',
    blockers: [],
    digest: null,
    forecast: null,
    steps: [],
  },
  decisions: ['approve', 'reject'],
  signs: true,
  digest: 'd1'.repeat(32),
  files: [{ id: ID(40), name: 'grip-overhaul.docx', opened: true }],
  asksForName: false,
  refusals: [],
  revisionId: ID(20),
  covers: {
    files: [{ role: 'original', name: 'grip-overhaul.docx', sha256: 'a1'.repeat(32) }],
    fields: [{ label: 'Equipment', value: 'Grips of the cabins' }],
  },
  mayEdit: false,
  decidedAlone: false,
  zone: 'Europe/Vienna',
  signInName: 'mara.quill',
  ...changes,
});

/** A reading that waits for the signed-in person. */
export const readingTask = (changes: Partial<ReadingTask> = {}): ReadingTask => ({
  id: ID(80),
  document: { id: ID(1), number: 'THR-PRO-0118', type: 'Procedure' },
  label: 'C',
  title: 'Grip overhaul and slip-force test',
  mark: 'in force',
  state: 'open',
  due: '2026-12-03',
  newJoiner: false,
  policy: 'read all',
  kind: 'read',
  instructions: '',
  minutes: 7,
  reason: 'Slip-force limit raised',
  summary: 'Table 2 has new limits.',
  changeKind: 'major',
  lastSigned: null,
  changes: [],
  version: version([original({ show: 'none' })]),
  digest: 'd2'.repeat(32),
  files: [{ id: ID(40), name: 'grip-overhaul.docx', opened: true }],
  asksForName: false,
  signature: null,
  owner: otto,
  maySign: true,
  refusals: [],
  inForceSince: '2026-11-25T23:00:00.000Z',
  zone: 'Europe/Vienna',
  signInName: 'mara.quill',
  remark: '',
  ...changes,
});

/** A type as the registration page gets it. */
export const typeInfo = (changes: Partial<TypeInfo> = {}): TypeInfo => ({
  id: ID(2),
  code: 'PRO',
  name: 'Procedure',
  family: 'Operation',
  group: 'Instructions',
  help: 'How a task is done, step by step',
  example: 'Grip overhaul',
  fields: [],
  numbering: 'THR-{type}-{counter:4}',
  externalPattern: null,
  labelGivenBySupplier: false,
  route: { name: '', steps: [] },
  readersNeeded: false,
  reviewMonths: 36,
  mayRegister: true,
  reserved: [],
  filing: null,
  underParent: false,
  isOutside: false,
  sharing: [],
  ...changes,
});
