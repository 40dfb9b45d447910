import type { FileInfo, VersionInfo } from '@kanonos/contract';
import {
  dayOf,
  extensionOf,
  hasRight,
  isReleased,
  type Metadata,
  makeFileName,
  type Right,
  readingMinutes,
  versionLabel,
} from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { showOf } from '../../platform/content/kind.ts';
import { parse } from '../../platform/parsing/index.ts';
import { RefusalError, refused } from '../../platform/refused.ts';
import { lookerOf, type Viewer } from '../access/index.ts';
import {
  type FileRow,
  findFile,
  listFiles,
  listVersions,
  type RevisionRow,
  type VersionRow,
} from '../revisions/index.ts';
import type { TypeRow } from '../rules/index.ts';
import { recordUsage } from '../usage/index.ts';
import { filledCopy, shownCopy } from './copies.ts';
import { allMetadata, type Opened, openDocument } from './service.ts';
import * as store from './store.ts';

/** Names, sizes and showable parts of a version's files; names by rule, as for a download. */
export const toFileInfo = (
  file: FileRow,
  about: { number: string; label: string; title: string; type: TypeRow; n: number; metadata: Metadata; day: string },
): FileInfo => ({
  id: file.id,
  role: file.role,
  name: file.name,
  handedOutName: makeFileName(
    {
      number: about.number,
      revision: about.label,
      title: about.title,
      extension: extensionOf(file.name),
      version: String(about.n),
      date: about.day,
      fields: metadataInNames(about.metadata),
    },
    about.type.naming_rule,
  ),
  size: file.size,
  mediaType: file.media_type,
  sha256: file.sha256,
  description: file.description,
  language: file.language,
  sheet: file.sheet,
  show: file.text_state === 'broken' ? 'none' : showOf(file.media_type),
  textState: file.text_state,
  words: file.words,
  minutes: readingMinutes({ words: file.words, pictures: file.pictures }),
});

/** Metadata as file names show them: codes and texts; several joined by hyphens. */
export const metadataInNames = (metadata: Metadata): Record<string, string> =>
  Object.fromEntries(
    Object.entries(metadata).map(([key, value]) => [key, Array.isArray(value) ? value.join('-') : String(value ?? '')]),
  );

export const toVersions = (
  opened: Pick<Opened, 'document' | 'type'>,
  revision: RevisionRow,
  versions: VersionRow[],
  files: FileRow[],
  zone: string,
): VersionInfo[] =>
  versions.map((version) => ({
    id: version.id,
    n: version.n,
    shown: versionLabel(opened.type.scheme, isReleased(revision.state) || revision.ordinal > 1, version.n),
    note: version.note,
    by: { id: version.by_id, name: version.by_name },
    at: version.at.toISOString(),
    change: version.change,
    files: files
      .filter((file) => file.version_id === version.id)
      .map((file) =>
        toFileInfo(file, {
          number: opened.document.number,
          label: revision.label,
          title: version.title,
          type: opened.type,
          n: version.n,
          metadata: { ...opened.document.metadata, ...version.metadata },
          day: dayOf(revision.created_at, zone),
        }),
      ),
  }));

/** Which right it takes to read a revision by its state. */
export const rightToRead = (state: RevisionRow['state']): Right =>
  state === 'in force' ? 'read' : isReleased(state) ? 'read past' : 'read work';

/** A filed file for people who may or must read its revision. */
export const openFile = async (app: App, viewer: Viewer, fileId: string) => {
  const file = await findFile(app.db, fileId);
  if (!file) throw refused('not_found');
  const opened = await openDocument(
    app.db,
    viewer,
    file.document_id,
    dayOf(app.clock(), (await app.organisation()).zone),
  );
  const revision = opened.revisions.find((r) => r.id === file.revision_id);
  // A reading assignment gives the right to read that revision, whatever its state.
  const isAssigned = await isAssignedToRead(app, viewer, file.revision_id);
  if (!revision || (!hasRight(opened.rights, rightToRead(file.state)) && !isAssigned))
    throw refused(hasRight(opened.rights, 'see') && isReleased(file.state) ? 'right_missing' : 'not_found', {
      right: rightToRead(file.state),
    });
  // Versions of work concern the authors: without *read work* one gets the released version, the last.
  if (!opened.rights.has('read work') && file.version_id !== revision.latest_version_id) throw refused('not_found');
  return { file, opened, revision, isAssigned };
};

const isAssignedToRead = async (app: App, viewer: Viewer, revisionId: string) =>
  store.findAskedToRead(app.db, { revisionId, personId: viewer.id });

/**
 * A file for opening or download, under its rule-made name; recorded before the answer. A download carries its metadata
 * (`filled`); `exact` are the bytes that were checked in and signed.
 */
export const handOut = async (app: App, viewer: Viewer, fileId: string, as: 'open' | 'download' | 'exact') => {
  const { file, opened, revision } = await openFile(app, viewer, fileId);
  // Who has it checked out takes it along to work on it, whatever confidentiality forbids readers.
  const mine = opened.checkout?.person_id === viewer.id;
  const mayTake = mine || opened.rights.has('download');
  if (as !== 'open' && !mayTake) throw refused('right_missing', { right: 'download' });
  await recordLook(app, viewer, file, as === 'open' ? 'opened' : 'downloaded');
  const info = toFileInfo(file, {
    number: opened.document.number,
    label: revision.label,
    title: revision.title,
    type: opened.type,
    n: file.n,
    metadata: allMetadata(opened.document, revision),
    day: dayOf(revision.created_at, (await app.organisation()).zone),
  });
  const filled = as === 'download' ? await filledVersion(app, opened, revision, file) : undefined;
  return { file, name: info.handedOutName, filled, mayTake };
};

/**
 * A file for viewing: the filed bytes for people who may download them, else their showable form (`bytes`). Refused where nothing
 * but the filed bytes could be shown.
 */
export const lookAt = async (app: App, viewer: Viewer, fileId: string) => {
  const { file, name, mayTake } = await handOut(app, viewer, fileId, 'open');
  const shown = mayTake ? 'as it is' : await shownCopy(app, file, viewer.name);
  if (!shown) throw refused('right_missing', { right: 'download' });
  return { file, name, shown: shown === 'as it is' ? undefined : shown };
};

/** Refuses where the bytes of a file are missing or altered, and names it. */
/** Records that a person looked at a file or took it along, after seeing that its bytes are there. */
const recordLook = async (
  app: App,
  viewer: Viewer,
  file: NonNullable<Awaited<ReturnType<typeof findFile>>>,
  action: 'opened' | 'downloaded',
): Promise<void> => {
  await ensureThere(app, file);
  await recordUsage(app, {
    personId: lookerOf(viewer),
    documentId: file.document_id,
    revisionId: file.revision_id,
    version: file.n,
    fileId: file.id,
    action,
  });
};

const ensureThere = async (app: App, file: Pick<FileRow, 'sha256' | 'name'>): Promise<void> => {
  await app.content.intactPath(file.sha256).catch((error) => {
    if (!(error instanceof RefusalError)) throw error;
    throw new RefusalError(
      error.refusals.map(({ code, params }) => ({ code, params: { ...params, name: file.name } })),
    );
  });
};

/** A version's copy carries the metadata of that version, also when later versions of its revision differ. */
const filledVersion = async (
  app: App,
  opened: Opened,
  revision: RevisionRow,
  file: FileRow & { n: number },
): Promise<Uint8Array | undefined> => {
  const version = (await listVersions(app.db, revision.id)).find((one) => one.id === file.version_id);
  const { title, metadata } = version ?? revision;
  return filledCopy(app, opened, { ...revision, title, metadata }, file, file.n);
};

/** The originals of a revision's last version under their rule-made names, each recorded as downloaded before it leaves. */
export const handedOutFiles = async (
  app: App,
  viewer: Viewer,
  { document, type }: Pick<Opened, 'document' | 'type'>,
  revision: RevisionRow,
): Promise<{ name: string; sha256: string; filled: Uint8Array | undefined }[]> => {
  const { zone } = await app.organisation();
  const files = revision.latest_version_id ? await listFiles(app.db, [revision.latest_version_id]) : [];
  const taken = [];
  for (const file of files.filter((one) => one.role === 'original')) {
    if (!(await app.content.has(file.sha256))) continue;
    await recordUsage(app, {
      personId: lookerOf(viewer),
      documentId: document.id,
      revisionId: revision.id,
      version: revision.version_count,
      fileId: file.id,
      action: 'downloaded',
    });
    const info = toFileInfo(file, {
      number: document.number,
      label: revision.label,
      title: revision.title,
      type,
      n: revision.version_count,
      metadata: allMetadata(document, revision),
      day: dayOf(revision.created_at, zone),
    });
    const filled = await filledCopy(app, { document, type }, revision, file, revision.version_count);
    taken.push({ name: info.handedOutName, sha256: file.sha256, filled });
  }
  return taken;
};

/** The bytes of a file with its metadata filled in, for people who may read it; undefined where it is handed out unchanged. */
export const filledFile = async (app: App, viewer: Viewer, fileId: string): Promise<Uint8Array | undefined> => {
  const { file, opened, revision } = await openFile(app, viewer, fileId);
  return filledVersion(app, opened, revision, file);
};

const MOST_BYTES = 40 * 1024 * 1024;

/** A Word or Markdown file as clean reading text: structure and words, nothing that runs. */
export const readingText = async (
  app: App,
  viewer: Viewer,
  fileId: string,
): Promise<{ html: string; words: number }> => {
  const { file } = await openFile(app, viewer, fileId);
  const show = showOf(file.media_type);
  if ((show !== 'html' && show !== 'markdown') || file.size > MOST_BYTES || file.text_state === 'broken')
    throw refused('cannot_be_shown');
  await recordLook(app, viewer, file, 'opened');
  const path = await app.content.intactPath(file.sha256);
  try {
    return { html: await parse('readingText', path, show), words: file.words };
  } catch (error) {
    throw error instanceof RefusalError ? error : refused('cannot_be_shown');
  }
};
