import { dayInWords, dayOf, fillTokens, isReleased, timeOf } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import type { PageMarks } from '../../platform/office/markPdf.ts';
import { type OfficeKind, officeKind, type Placed } from '../../platform/office/metadata.ts';
import { parse } from '../../platform/parsing/index.ts';
import { sealOf } from '../../platform/seal/organisationSeal.ts';
import { sealPdf } from '../../platform/seal/sealPdf.ts';
import { findContent } from '../content/index.ts';
import type { FileRow, RevisionRow } from '../revisions/index.ts';
import { getFolder, policyOf } from '../rules/index.ts';
import { placedValues } from './placed.ts';
import { allMetadata, type Opened } from './service.ts';
import { listSigners } from './storeSigners.ts';

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

/** In groups of eight, so that two fingerprints can be held against each other. */
const inGroups = (digest: string): string => digest.match(/.{1,8}/g)?.join(' ') ?? '';

/** The signatures of a revision as a page; nothing where it has none. */
const signaturePage = async (
  app: App,
  { document }: Pick<Opened, 'document'>,
  revision: RevisionRow,
): Promise<Pick<PageMarks, 'signatures'>> => {
  const signers = await listSigners(app.db, revision.id);
  if (signers.length === 0) return {};
  return {
    signatures: {
      title: 'Signatures',
      about: [document.number, revision.label && `revision ${revision.label}`, revision.title]
        .filter(Boolean)
        .join(' · '),
      signatures: signers.map((one) => ({
        who: one.for_name ? `${one.printed_name}, for ${one.for_name}` : one.printed_name,
        meaning: one.meaning,
        when: `${dayInWords(dayOf(one.at, one.zone))}, ${timeOf(one.at, one.zone)} ${one.zone}`,
        fingerprint: `SHA-256 ${inGroups(one.digest)}`,
      })),
      note: 'Electronic signatures. Each is bound to the files and metadata of this revision by the fingerprint of their record; whether it still is, is shown with the document.',
    },
  };
};

const ON_HOLD = 'ON HOLD: DO NOT USE';

const STATES: Partial<Record<RevisionRow['state'], string>> = {
  'in force': 'in force since',
  superseded: 'superseded on',
  withdrawn: 'withdrawn on',
};

/**
 * The copy of a released PDF: header and footer of each page identify it, by the lines of its type, else number, label and since
 * the start of its validity; one that no longer applies, or must not be used, is marked across the page. Its signatures are its last
 * page. Where the organisation has a certificate, all of it is sealed.
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
  const marked = await parse('markPdf', await app.content.intactPath(file.sha256), {
    head: fillTokens(head, values),
    foot: [foot && fillTokens(foot, values), usual.filter(Boolean).join(' · ')].filter(Boolean).join(' · '),
    ...(await signaturePage(app, opened, revision)),
    across: !applies ? revision.state.toUpperCase() : opened.document.hold ? ON_HOLD : '',
  });
  const seal = marked && (await sealOf(app));
  return seal ? sealPdf(marked, seal, { reason: usual.filter(Boolean).join(' · '), at: app.clock() }) : marked;
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
