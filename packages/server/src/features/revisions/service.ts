import {
  equalMetadata,
  type FieldDefinition,
  isReleased,
  type Metadata,
  type OriginalAbout,
  type RevisionState,
  type Right,
  showFieldValue,
  titlesOf,
} from '@kanonos/core';
import type { UnitOfWork } from '../../platform/app.ts';
import type { Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { refused } from '../../platform/refused.ts';
import * as revisionsStore from './store.ts';

/** What of the revisions a viewer may see: those in work or abandoned need *read work*. */
export const visibleRevisions = (
  revisions: revisionsStore.RevisionRow[],
  rights: ReadonlySet<Right>,
): revisionsStore.RevisionRow[] =>
  rights.has('read work') ? revisions : revisions.filter((revision) => isReleased(revision.state));

export type NewFile = {
  role: 'original' | 'attachment';
  name: string;
  sha256: string;
  size: number;
} & Partial<OriginalAbout>;

/** A file of an earlier version as one of the next. */
export const sameFile = (file: revisionsStore.FileRow): NewFile => ({
  role: file.role === 'attachment' ? 'attachment' : 'original',
  name: file.name,
  sha256: file.sha256,
  size: file.size,
  description: file.description,
  language: file.language,
  sheet: file.sheet,
});

const NOTHING_SAID: OriginalAbout = { description: '', language: '', sheet: null };

/** Adds the next version to a revision in work: files, metadata and title as they then are. */
export const addVersion = async (
  work: UnitOfWork,
  revision: { id: string; version_count: number },
  input: { files: readonly NewFile[]; note: string; title: string; summary: string; metadata: Metadata },
): Promise<{ id: string; n: number }> => {
  const id = newId();
  const n = revision.version_count + 1;
  await revisionsStore.insertVersion(work.trx, {
    id,
    revisionId: revision.id,
    n,
    note: input.note,
    by: work.actor.id ?? '',
    now: work.now,
    title: input.title,
    metadata: input.metadata,
  });
  for (const [sort, file] of input.files.entries())
    await revisionsStore.insertFile(work.trx, { id: newId(), versionId: id, sort, ...NOTHING_SAID, ...file });
  await revisionsStore.setLatestVersion(work.trx, {
    id: revision.id,
    versionId: id,
    n,
    title: input.title,
    summary: input.summary,
    metadata: input.metadata,
  });
  return { id, n };
};

/** Moves a revision on, refusing when somebody else moved it meanwhile. */
export const moveRevision = async (
  trx: Trx,
  revision: { id: string; state: RevisionState },
  to: RevisionState,
  plannedOn: string | null = null,
): Promise<void> => {
  if ((await revisionsStore.moveState(trx, { id: revision.id, from: revision.state, to, plannedOn })) === 0)
    throw refused('changed_meanwhile');
};

export type FieldChange = { label: string; before: string; after: string };

/** What changed in title and metadata from one revision to the next, in words. */
export const fieldChanges = (
  fields: readonly FieldDefinition[],
  before: { title: string; metadata: Metadata } | undefined,
  after: { title: string; metadata: Metadata },
): FieldChange[] => {
  if (!before) return [];
  const changes: FieldChange[] =
    before.title === after.title ? [] : [{ label: 'Title', before: before.title, after: after.title }];
  const [titlesBefore, titles] = [titlesOf(before.metadata), titlesOf(after.metadata)];
  for (const language of new Set([...Object.keys(titlesBefore), ...Object.keys(titles)])) {
    const [a, b] = [titlesBefore[language] ?? '–', titles[language] ?? '–'];
    if (a !== b) changes.push({ label: `Title (${language})`, before: a, after: b });
  }
  for (const field of fields) {
    const [a, b] = [before.metadata[field.key] ?? null, after.metadata[field.key] ?? null];
    if (!equalMetadata(a, b))
      changes.push({ label: field.label, before: showFieldValue(field, a), after: showFieldValue(field, b) });
  }
  return changes;
};

/** The revision that a revision follows: the one in force before it, else the released one with the next lower ordinal. */
export const predecessorOf = (
  revisions: readonly revisionsStore.RevisionRow[],
  revision: revisionsStore.RevisionRow,
): revisionsStore.RevisionRow | undefined =>
  revisions
    .filter((other) => other.ordinal < revision.ordinal && isReleased(other.state))
    .sort((a, b) => b.ordinal - a.ordinal)[0];

/** The label that the next one follows: of the newest revision that was not abandoned. */
export const lastLabelOf = (revisions: readonly { state: string; label: string }[]): string =>
  (revisions.find((r) => r.state !== 'abandoned') ?? revisions[0])?.label ?? '';

export const markOf = (state: RevisionState, isOnHold = false) =>
  state === 'in force'
    ? isOnHold
      ? ('on hold' as const)
      : ('in force' as const)
    : isReleased(state) || state === 'abandoned'
      ? ('old' as const)
      : ('open' as const);
