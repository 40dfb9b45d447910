import type { DocumentPage } from '@kanonos/contract';
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
    number: 'THR-PRO-0118',
    type: { id: ID(2), code: 'PRO', name: 'Procedure' },
    folder: { id: ID(3), name: 'Grips', path: ['Carriers', 'Grips'], area: 'Carriers' },
    owner: otto,
    department: 'Maintenance',
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
