import { createHash } from 'node:crypto';
import { type AnswerOf, api, type BodyInOf, type BodyOf, sentenceOf } from '@kanonos/contract';
import {
  addMonths,
  checkOriginals,
  checkTitles,
  dayInWords,
  dayOf,
  firstLabel,
  hasRight,
  isFolderShut,
  isLabel,
  type Metadata,
  makeFileName,
  missingFields,
  type NumberInput,
  ok,
  type Refusal,
  type Result,
  refusal,
  splitMetadata,
  withTitles,
} from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import { newId } from '../../platform/db/ids.ts';
import { assertAllowed, RefusalError, refused } from '../../platform/refused.ts';
import { actorOf, rightsOnFolders, type Viewer } from '../access/index.ts';
import type { UploadRow } from '../content/index.ts';
import { getStored } from '../content/index.ts';
import {
  ensureActive,
  ensureSharing,
  findParent,
  metadataInNames,
  placedValues,
  storedName,
  subjectOf,
} from '../documents/index.ts';
import { folderByRule, mayRegisterType, pathByRule } from '../filing/index.ts';
import { fileIncomingFile } from '../intake/index.ts';
import { departmentFor, namesOf, unitsByIds } from '../people/index.ts';
import { ensureRequirement } from '../reading/index.ts';
import {
  applyPlansDueToday,
  blockRules,
  ensureMetadata,
  ensureSites,
  type FolderRow,
  getFolder,
  getType,
  listFolders,
  metadataRefusals,
  policyOf,
  previewNumber,
  type TypeRow,
  takeNumber,
} from '../rules/index.ts';
import { filledFrom, getTemplate } from '../templates/index.ts';
import { driveFileFiled, findIdempotent, insertIdempotent, insertRegistered, lockKey } from './store.ts';

/** The inputs of a number: codes of type, area and department, the day, and metadata. */
export const numberInput = async (
  db: App['db'] | UnitOfWork['trx'],
  type: TypeRow,
  folder: FolderRow,
  metadata: Metadata,
  day: string,
  departmentId: string | null | undefined,
  parent?: string,
): Promise<NumberInput> => {
  const [department] = departmentId ? await unitsByIds(db, [departmentId]) : [];
  const fields = Object.fromEntries(
    Object.entries(metadata).map(([key, value]) => [key, value === null ? undefined : String(value)]),
  );
  return {
    type: type.code,
    ...(folder.area_code ? { area: folder.area_code } : {}),
    ...(department ? { department: department.code } : {}),
    ...(parent ? { parent } : {}),
    day,
    fields,
  };
};

const labelFor = (type: TypeRow, given: string | null): { label: string | null; refusals: Refusal[] } => {
  if (type.scheme.kind === 'own') {
    if (!given?.trim()) return { label: null, refusals: [refusal('label_given_by_supplier')] };
    return isLabel(type.scheme, given.trim())
      ? { label: given.trim(), refusals: [] }
      : { label: null, refusals: [refusal('label_not_of_scheme', { label: given })] };
  }
  const first = firstLabel(type.scheme);
  return first.ok ? { label: first.value, refusals: [] } : { label: null, refusals: first.refusals };
};

/** Where a document would be filed: the chosen folder, or the path that the type's rule gives. */
const previewPlace = async (
  app: App,
  type: TypeRow,
  { folderId, metadata }: Pick<BodyOf<typeof api.documents.preview>, 'folderId' | 'metadata'>,
  day: string,
): Promise<Result<{ folder: FolderRow; path: { names: string[]; made: number } }>> => {
  if (!type.filing_rule) {
    if (!folderId) throw refused('not_found');
    const folder = await getFolder(app.db, folderId);
    return ok({ folder, path: { names: folder.path_names, made: 0 } });
  }
  const rows = await listFolders(app.db);
  try {
    const { path, made, folderId: found } = pathByRule(rows, type, metadata, day);
    return ok({ folder: rows.find((row) => row.id === found) as FolderRow, path: { names: path, made } });
  } catch (error) {
    if (error instanceof RefusalError) return { ok: false, refusals: [...error.refusals] };
    throw error;
  }
};

/** What registering would give: number, label and file name by the same rules, without taking anything. */
export const previewRegistration = async (
  app: App,
  viewer: Viewer,
  given: BodyInOf<typeof api.documents.preview>,
): Promise<AnswerOf<typeof api.documents.preview>> => {
  const input = api.documents.preview.body.parse(given);
  const type = await getType(app.db, input.typeId);
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const refusals: Refusal[] = [];
  const place = await previewPlace(app, type, input, day);
  if (!place.ok)
    return {
      number: null,
      label: null,
      fileName: null,
      folder: null,
      missing: missingFields(type.fields, input.metadata),
      refusals: place.refusals.map((r) => ({ ...r, detail: sentenceOf(r.code, r.params) })),
    };
  const { folder } = place.value;
  const rights = (await rightsOnFolders(app.db, viewer)).get(folder.id);
  if (!rights || !hasRight(rights, 'see')) throw refused('not_found');
  if (!hasRight(rights, 'author')) refusals.push(refusal('right_missing', { right: 'author' }));
  const department = await departmentFor(app.db, input.departmentId, input.ownerId ?? viewer.id, day);
  const parent = await findParent(app.db, viewer, input.parent, day).catch((error) => {
    if (!(error instanceof RefusalError)) throw error;
    refusals.push(...error.refusals);
    return undefined;
  });
  const metadata = await numberInput(app.db, type, folder, input.metadata, day, department, parent?.number);
  const number = await previewNumber(app.db, { type, metadata, named: input.number, personId: viewer.id });
  if (!number.ok) refusals.push(...number.refusals);
  const label = labelFor(type, input.label);
  if (!mayRegisterType(viewer, type)) refusals.push(refusal('type_not_yours'));
  refusals.push(...label.refusals, ...(await metadataRefusals(app.db, type, input.metadata)));
  return {
    folder: place.value.path,
    number: number.ok ? number.value : null,
    label: label.label,
    fileName:
      number.ok && label.label !== null
        ? makeFileName(
            {
              number: number.value,
              revision: label.label,
              title: input.title,
              extension: input.extension,
              version: '1',
              date: day,
              fields: metadataInNames(input.metadata),
            },
            type.naming_rule,
          )
        : null,
    missing: missingFields(type.fields, input.metadata),
    refusals: refusals.map((r) => ({ ...r, detail: sentenceOf(r.code, r.params) })),
  };
};

/**
 * Registers a document: number, first revision in draft, version 1, in one transaction. With a key the same request twice
 * gives the same document once.
 */
export const registerDocument = async (
  app: App,
  viewer: Viewer,
  input: Registration,
  key: string | null,
): Promise<AnswerOf<typeof api.documents.register>> => {
  await applyPlansDueToday(app);
  return app.command(actorOf(viewer), async (work) => {
    const fingerprint = createHash('sha256').update(JSON.stringify(input)).digest('hex');
    if (key) {
      await lockKey(work.trx, key, viewer.id);
      const before = await findIdempotent(work.trx, { key, personId: viewer.id });
      if (before && (before.endpoint !== 'registerDocument' || before.fingerprint !== fingerprint))
        throw refused('key_used_otherwise');
      if (before) return before.answer as AnswerOf<typeof api.documents.register>;
    }
    const answer = await registerIn(app, work, viewer, input);
    if (key)
      await insertIdempotent(work.trx, {
        key,
        personId: viewer.id,
        endpoint: 'registerDocument',
        fingerprint,
        answer,
        now: work.now,
      });
    return answer;
  });
};

/** A requested registration; the contract gives the defaults. */
type Registration = BodyInOf<typeof api.documents.register>;

const fileOf = ({ name, sha256, size }: UploadRow) => ({ name, sha256, size });

type RegistrationInput = ReturnType<typeof api.documents.register.body.parse>;

/** The folder that a document is registered in: by the filing rule of its type, or as chosen. Refused without the right to author in it. */
const folderToRegisterIn = async (work: UnitOfWork, viewer: Viewer, type: TypeRow, input: RegistrationInput) => {
  const { trx } = work;
  const folderId = type.filing_rule ? await folderByRule(work, viewer, type, input.metadata) : input.folderId;
  if (!folderId) throw refused('not_found');
  const folder = await getFolder(trx, folderId);
  const rights = (await rightsOnFolders(trx, viewer)).get(folder.id);
  if (!rights || !hasRight(rights, 'see')) throw refused('not_found');
  if (!hasRight(rights, 'author')) throw refused('right_missing', { right: 'author' });
  if (isFolderShut(folder.state)) throw refused('folder_shut', { folder: folder.name, state: folder.state });
  if (!mayRegisterType(viewer, type)) throw refused('type_not_yours');
  return folder;
};

/** The first file, begun from a template. It contains the number, so it alone is made after the number is taken. */
const begunFrom = async (
  app: App,
  work: UnitOfWork,
  template: Awaited<ReturnType<typeof getTemplate>>,
  named: {
    number: string;
    label: string;
    type: TypeRow;
    owner: string;
    folder: Awaited<ReturnType<typeof getFolder>>;
  },
  input: RegistrationInput,
) => {
  const common = {
    number: named.number,
    title: input.title,
    revision: named.label,
    version: '1',
    date: dayInWords(work.day),
    type: named.type.name,
    owner: named.owner,
    folder: named.folder.path_names.join(' / '),
    confidentiality: input.confidentiality,
    organisation: work.organisation.name,
  };
  const metadata = withTitles(input.metadata, input.titles);
  const values = await placedValues(work.trx, named.type.fields, metadata, common, template.language);
  return filledFrom(app, work, template, values);
};

/** Gives the files their stored names by the naming rule of the type. */
const nameByRule = (
  files: { name: string }[],
  named: { number: string; label: string; day: string; type: TypeRow },
  input: RegistrationInput,
): void => {
  files.forEach((file, i) => {
    file.name = storedName(file.name, i, {
      number: named.number,
      revision: named.label,
      title: input.title,
      version: '1',
      date: named.day,
      fields: metadataInNames(input.metadata),
      rule: named.type.naming_rule,
    });
  });
};

/** The originals that were sent, in their order; the one that a template gives comes later. */
const uploadedFiles = async (app: App, work: UnitOfWork, viewer: Viewer, input: RegistrationInput) => {
  const main = input.uploadId && !input.templateId ? [{ uploadId: input.uploadId, ...input.about }] : [];
  const files = [];
  for (const { uploadId, ...about } of [...main, ...input.more])
    files.push({ id: newId(), ...about, ...fileOf(await getStored(app, work.trx, viewer, uploadId)) });
  return files;
};

/** Who will own the document: somebody who is there and has not left. */
const ownerToBe = async (work: UnitOfWork, ownerId: string) => {
  const owner = (await namesOf(work.trx, [ownerId])).get(ownerId);
  if (!owner || owner.state === 'deactivated') throw refused('not_found');
  return owner;
};

/** Where an outside document comes from, who watches its source, and when that is looked at next. */
const originOf = (type: TypeRow, { origin }: RegistrationInput, ownerId: string, day: string) => {
  const watched = policyOf(type).origin;
  return {
    originSource: origin.source,
    originEdition: origin.edition,
    originWatcher: watched ? (origin.watcherId ?? ownerId) : origin.watcherId,
    originCheckOn: watched ? addMonths(day, watched.checkMonths) : null,
  };
};

/** The parts of a registration, each checked: its type, folder, first label, parent and template. */
const checkedRegistration = async (work: UnitOfWork, viewer: Viewer, input: RegistrationInput) => {
  const { trx } = work;
  // From here on nobody changes the rules by which this number is made.
  await blockRules(trx);
  const type = await getType(trx, input.typeId);
  if (type.retired) throw refused('type_retired');
  const folder = await folderToRegisterIn(work, viewer, type, input);
  await ensureMetadata(trx, type, input.metadata);
  const { label, refusals } = labelFor(type, input.label);
  if (label === null) throw new RefusalError(refusals);
  assertAllowed([...checkTitles(input.titles), ...checkOriginals([input.about, ...input.more])]);
  await ensureSites(trx, input.sites);
  const parent = await findParent(trx, viewer, input.parent, work.day);
  if (!input.uploadId && !input.templateId) throw refused('original_missing');
  const template = input.templateId ? await getTemplate(work, input.templateId, type.id) : undefined;
  return { type, folder, label, parent, template };
};

/** Records the event of a registration: properties at their default are left out. */
const recordRegistered = (
  work: UnitOfWork,
  input: RegistrationInput,
  made: Awaited<ReturnType<typeof checkedRegistration>> & {
    documentId: string;
    revisionId: string;
    number: string;
    owner: Awaited<ReturnType<typeof ownerToBe>>;
    files: Awaited<ReturnType<typeof uploadedFiles>>;
    arrived: Awaited<ReturnType<typeof fileIncomingFile>> | undefined;
  },
): void => {
  const { number, label, type, folder, parent, template, arrived } = made;
  work.record({
    kind: 'document.registered',
    subject: subjectOf({ id: made.documentId, number }, { id: made.revisionId, label }),
    payload: {
      type: type.code,
      title: input.title,
      folder: folder.path_names.join(' / '),
      owner: made.owner.signInName,
      metadata: input.metadata,
      files: made.files.map(({ name, sha256, size }) => ({ name, sha256, size })),
      ...(parent ? { parent: parent.number } : {}),
      ...(arrived ? { arrived } : {}),
      ...(template ? { template: template.name, templateEdition: template.n } : {}),
      ...(input.confidentiality === 'internal' ? {} : { confidentiality: input.confidentiality }),
    },
  });
};

/** Registers a document within a command of more. */
export const registerIn = async (app: App, work: UnitOfWork, viewer: Viewer, given: Registration) => {
  const { trx } = work;
  const input = api.documents.register.body.parse(given);
  const { type, folder, label, parent, template } = await checkedRegistration(work, viewer, input);
  const files = await uploadedFiles(app, work, viewer, input);
  const ownerId = input.ownerId ?? viewer.id;
  const owner = await ownerToBe(work, ownerId);
  const departmentId = await departmentFor(trx, input.departmentId, ownerId, work.day);
  const metadata = await numberInput(trx, type, folder, input.metadata, work.day, departmentId, parent?.number);
  const { revisionFields, documentFields } = splitMetadata(type.fields, input.metadata);
  const [documentId, revisionId] = [newId(), newId()];
  // The counter's row stays locked until the commit: it is taken when nothing but inserts and the trail is left to do.
  const number = await takeNumber(trx, { type, metadata, named: input.number, personId: viewer.id }, documentId);
  if (template) {
    const named = { number, label, type, owner: owner.name, folder };
    files.unshift({ id: newId(), ...input.about, ...(await begunFrom(app, work, template, named, input)) });
  }
  const policy = policyOf(type);
  ensureSharing(type, input.sharing);
  await ensureActive(trx, input.origin.watcherId);
  if (input.followsNamingRule ?? (policy.followsNamingRule || work.organisation.followsNamingRule))
    nameByRule(files, { number, label, day: work.day, type }, input);
  await insertRegistered(trx, {
    documentId,
    revisionId,
    versionId: newId(),
    number,
    label,
    typeId: type.id,
    folderId: folder.id,
    ownerId,
    departmentId,
    title: input.title,
    summary: input.summary,
    note: input.note,
    revisionFields: withTitles(revisionFields, input.titles),
    documentFields,
    keywords: input.keywords,
    parentId: parent?.id ?? null,
    location: input.location,
    sites: input.sites,
    confidentiality: input.confidentiality,
    reviewEvery: input.reviewEvery,
    followsNamingRule: input.followsNamingRule,
    sharing: input.sharing,
    ...originOf(type, input, ownerId, work.day),
    by: viewer.id,
    now: work.now,
    files,
  });
  const arrived = input.incomingFileId
    ? await fileIncomingFile(work, viewer, input.incomingFileId, documentId)
    : undefined;
  if (input.uploadId) await driveFileFiled(trx, { uploadId: input.uploadId, documentId });
  await ensureRequirement(work, documentId, type);
  recordRegistered(work, input, {
    documentId,
    revisionId,
    number,
    label,
    type,
    folder,
    owner,
    files,
    parent,
    arrived,
    template,
  });
  return { id: documentId, number, label };
};
