import { dayOf, fillTokens, isReleased } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { type OfficeKind, officeKind, type Placed } from '../../platform/office/metadata.ts';
import { parse } from '../../platform/parsing/index.ts';
import { findContent } from '../content/index.ts';
import type { FileRow, RevisionRow } from '../revisions/index.ts';
import { getFolder, policyOf } from '../rules/index.ts';
import { placedValues } from './placed.ts';
import { allMetadata, type Opened } from './service.ts';

const PDF = 'application/pdf';
const MOST_BYTES = 50 * 1024 * 1024;

/** The values of a file's placeholders for a revision. */
export const valuesOf = async (
  app: App,
  db: Db | Trx,
  { document, type }: Pick<Opened, 'document' | 'type'>,
  revision: RevisionRow,
  version: number,
  language: string,
): Promise<Placed> => {
  const { zone, name } = await app.organisation();
  const common = {
    number: document.number,
    title: revision.title,
    revision: revision.label,
    version: String(version),
    date: dayOf(revision.created_at, zone),
    registered: dayOf(document.registered_at, zone),
    effective: revision.effective_from ? dayOf(revision.effective_from, zone) : (revision.planned_on ?? ''),
    review: document.review_on ?? '',
    type: type.name,
    owner: document.owner_name,
    folder: (await getFolder(db, document.folder_id)).path_names.join(' / '),
    confidentiality: document.confidentiality,
    organisation: name,
  };
  return placedValues(db, type.fields, allMetadata(document, revision), common, language);
};

const readable = (file: { media_type: string; size: number }): OfficeKind | undefined =>
  file.size <= MOST_BYTES ? officeKind(file.media_type) : undefined;

/**
 * The copy of a native file that leaves: it carries the metadata as document properties, content controls and fields, all other parts
 * are byte for byte those that were checked in. Undefined where the file is handed out unchanged: another kind, too large, unreadable, or
 * digitally signed, which any change would break. A PDF of a released revision is marked.
 */
export const filledCopy = async (
  app: App,
  opened: Pick<Opened, 'document' | 'type'>,
  revision: RevisionRow,
  file: Pick<FileRow, 'sha256' | 'media_type' | 'size' | 'language'>,
  version: number,
): Promise<Uint8Array | undefined> => {
  if (file.media_type === PDF && isReleased(revision.state) && file.size <= MOST_BYTES)
    return markedCopy(app, opened, revision, file, version);
  const kind = readable(file);
  if (!kind) return undefined;
  const values = await valuesOf(app, app.db, opened, revision, version, file.language);
  return parse('fillUnsealed', await app.content.intactPath(file.sha256), kind, values);
};

const STATES: Partial<Record<RevisionRow['state'], string>> = {
  'in force': 'in force since',
  superseded: 'superseded on',
  withdrawn: 'withdrawn on',
};

/**
 * The copy of a released PDF: header and footer of each page identify it, by the lines of its type, else number, label and since
 * the start of its validity; one that no longer applies is marked across the page.
 */
const markedCopy = async (
  app: App,
  opened: Pick<Opened, 'document' | 'type'>,
  revision: RevisionRow,
  file: Pick<FileRow, 'sha256' | 'language'>,
  version: number,
): Promise<Uint8Array | undefined> => {
  const { zone } = await app.organisation();
  const { head, foot } = policyOf(opened.type);
  const values = await valuesOf(app, app.db, opened, revision, version, file.language);
  const applies = revision.state === 'in force';
  const at = applies ? revision.effective_from : (revision.effective_to ?? revision.effective_from);
  const usual = [
    values.number,
    values.revision && `rev. ${values.revision}`,
    `${STATES[revision.state] ?? revision.state}${at ? ` ${dayOf(at, zone)}` : ''}`,
  ];
  return parse('markPdf', await app.content.intactPath(file.sha256), {
    head: fillTokens(head, values),
    foot: [foot && fillTokens(foot, values), usual.filter(Boolean).join(' · ')].filter(Boolean).join(' · '),
    across: applies ? '' : revision.state.toUpperCase(),
  });
};

/** Whether a returned file has the content of the filed one, apart from the metadata in either. */
export const differsInMetadataOnly = async (
  app: App,
  db: Db | Trx,
  opened: Pick<Opened, 'document' | 'type'>,
  revision: RevisionRow,
  filed: FileRow,
  sentSha256: string,
): Promise<boolean> => {
  const kind = readable(filed);
  const sent = kind && filed.sha256 !== sentSha256 ? await findContent(db, sentSha256) : undefined;
  if (!kind || !sent || kind !== readable(sent)) return false;
  const values = await valuesOf(app, db, opened, revision, revision.version_count, filed.language);
  return parse(
    'sameButFields',
    await app.content.intactPath(filed.sha256),
    await app.content.intactPath(sent.sha256),
    kind,
    values,
  );
};

const PICTURE = /^image\/(png|jpeg|gif|webp|bmp|tiff|svg\+xml)$/;
/** Shown as a stream or as plain text: there is no other form to show. */
const SHOWN_AS_IT_IS = /^(text|message|audio|video)\//;
const SHOWN_SIDE = 1800;

/**
 * The form of a file for a person who may read but not download it: a PDF with their name across its pages, a picture drawn anew, words
 * and films as they are; undefined for every other kind, which is shown by its rendition.
 */
export const shownCopy = async (
  app: App,
  file: Pick<FileRow, 'sha256' | 'media_type' | 'size'>,
  whose: string,
): Promise<{ bytes: Uint8Array; mediaType: string } | 'as it is' | undefined> => {
  if (SHOWN_AS_IT_IS.test(file.media_type)) return 'as it is';
  if (file.size > MOST_BYTES) return undefined;
  if (file.media_type === PDF) {
    const { zone } = await app.organisation();
    const foot = `Shown to ${whose} on ${dayOf(app.clock(), zone)}. Not to be copied.`;
    const bytes = await parse('markPdf', await app.content.intactPath(file.sha256), { head: '', foot, across: whose });
    return bytes && { bytes, mediaType: PDF };
  }
  if (!PICTURE.test(file.media_type)) return undefined;
  const path = await app.content.intactPath(file.sha256);
  return { bytes: await parse('picture', path, file.media_type, 1, SHOWN_SIDE), mediaType: 'image/png' };
};
