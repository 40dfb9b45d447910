import type { api, BodyOf } from '@kanonos/contract';
import {
  addMonths,
  checkTitles,
  type FieldDefinition,
  hasRight,
  isFolderShut,
  type Json,
  type Metadata,
  splitMetadata,
  withTitles,
} from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import { assertAllowed, refused } from '../../platform/refused.ts';
import type { HandlerOf, Viewer } from '../access/index.ts';
import {
  allMetadata,
  assertCommand,
  changeDocument,
  ensureActive,
  ensureMayStandUnder,
  ensureSharing,
  findParent,
  type Opened,
  refreshLists,
  renameByRule,
  runCommand,
  subjectOf,
} from '../documents/index.ts';
import { knownDepartment, namesOf, unitsByIds } from '../people/index.ts';
import { changeRevision } from '../revisions/index.ts';
import { ensureMetadata, ensureSites, policyOf } from '../rules/index.ts';

/** The part of a correction that the revision keeps: refused when it is frozen, or was changed meanwhile. */
const correctRevision = async (
  app: App,
  work: UnitOfWork,
  viewer: Viewer,
  opened: Opened,
  revision: Opened['revisions'][number],
  revisionFields: Opened['revisions'][number]['metadata'],
  input: BodyOf<typeof api.documents.correctMetadata>,
): Promise<void> => {
  await assertCommand(app, work, viewer, opened, 'correct metadata');
  if (
    (await changeRevision(work.trx, {
      id: revision.id,
      title: input.title,
      summary: input.summary,
      metadata: revisionFields,
      rowVersion: input.revisionRowVersion,
    })) === 0
  )
    throw refused('changed_meanwhile');
  // Where stored names follow the rule, a new title is a new name: the same bytes, as the next version.
  if (input.title !== revision.title)
    await renameByRule(work, opened, {
      ...revision,
      title: input.title,
      summary: input.summary,
      metadata: revisionFields,
    });
};

/** The part of a correction that the document keeps, at any time, with a reason unless its first text is still a draft. */
const correctDocument = async (
  work: UnitOfWork,
  opened: Opened,
  revision: Opened['revisions'][number],
  documentFields: Metadata,
  about: Awaited<ReturnType<typeof aboutAfter>>['after'],
  input: BodyOf<typeof api.documents.correctMetadata>,
): Promise<void> => {
  const { document } = opened;
  const draft = revision.state === 'draft' && hasRight(opened.rights, 'author');
  if (!hasRight(opened.rights, 'manage') && !draft) throw refused('right_missing', { right: 'manage' });
  if (isFolderShut(document.folder_state))
    throw refused('folder_shut', { folder: document.folder_name, state: document.folder_state });
  if (!input.reason && !draft) throw refused('reason_missing');
  const owner = (await namesOf(work.trx, [input.ownerId])).get(input.ownerId);
  if (!owner || (input.ownerId !== document.owner_id && owner.state === 'deactivated')) throw refused('not_found');
  const saved = await changeDocument(work.trx, {
    id: document.id,
    metadata: documentFields,
    keywords: input.keywords,
    ownerId: input.ownerId,
    reviewOn: input.reviewOn,
    about,
    now: work.now,
    rowVersion: input.rowVersion,
  });
  if (saved === 0) throw refused('changed_meanwhile');
};

/** Corrects revision fields of a draft and document fields of the document; living ones with a reason, at any time. */
export const correctMetadata: HandlerOf<typeof api.documents.correctMetadata> = (app, viewer, ref, input) =>
  runCommand(app, viewer, { document: ref }, async (work, opened) => {
    const { document, type } = opened;
    const revision = opened.work ?? opened.inForce ?? opened.revisions[0];
    if (!revision) throw refused('not_found');
    const before = allMetadata(document, revision);
    await ensureMetadata(work.trx, type, input.metadata, before, document.id);
    assertAllowed(checkTitles(input.titles ?? {}));
    const about = await aboutAfter(work, viewer, opened, input);
    // Metadata that the type asks no more stay as they are.
    const unasked = Object.entries(before).filter(([key]) => !type.fields.some((field) => field.key === key));
    const { revisionFields: fromInput, documentFields } = apartAsBefore(
      type.fields,
      { ...Object.fromEntries(unasked), ...input.metadata },
      revision.metadata,
    );
    const revisionFields = input.titles ? withTitles(fromInput, input.titles) : fromInput;
    const revisionFieldsChange =
      input.title !== revision.title ||
      input.summary !== revision.summary ||
      JSON.stringify(sorted(revisionFields)) !== JSON.stringify(sorted(revision.metadata));
    const documentFieldsChange =
      JSON.stringify(sorted(documentFields)) !== JSON.stringify(sorted(document.metadata)) ||
      input.keywords.join('\n') !== document.keywords.join('\n') ||
      input.ownerId !== document.owner_id ||
      input.reviewOn !== document.review_on ||
      about.changes.length > 0;
    if (revisionFieldsChange)
      await correctRevision(app, work, viewer, { ...opened, document }, revision, revisionFields, input);
    if (documentFieldsChange) {
      await correctDocument(work, opened, revision, documentFields, about.after, input);
    }
    if (revisionFieldsChange || documentFieldsChange) {
      await refreshLists(work.trx, document.id, work.now);
      work.record({
        kind: 'metadata.corrected',
        subject: subjectOf(document, revision),
        payload: {
          before: {
            title: revision.title,
            summary: revision.summary,
            metadata: allMetadata(document, revision),
            keywords: document.keywords,
            owner: document.owner_name,
            reviewOn: document.review_on,
            ...Object.fromEntries(about.changes.map(({ what, before: was }) => [what, was])),
          },
          after: {
            title: input.title,
            summary: input.summary,
            metadata: input.metadata,
            keywords: input.keywords,
            owner: (await namesOf(work.trx, [input.ownerId])).get(input.ownerId)?.name ?? '',
            reviewOn: input.reviewOn,
            ...Object.fromEntries(about.changes.map(({ what, after }) => [what, after])),
          },
          reason: input.reason,
        },
      });
    }
    return { rowVersion: documentFieldsChange ? input.rowVersion + 1 : input.rowVersion };
  });

/** The properties of a document beside the metadata of its type, before and after a correction. */
const aboutAfter = async (
  work: UnitOfWork,
  viewer: Viewer,
  opened: Opened,
  input: BodyOf<typeof api.documents.correctMetadata>,
) => {
  const { document } = opened;
  let parent = document.parent_number;
  let parentId = document.parent_id;
  if (input.parent !== undefined && input.parent !== parent) {
    const found = await findParent(work.trx, viewer, input.parent, work.day);
    await ensureMayStandUnder(work.trx, opened, found);
    parent = found?.number ?? null;
    parentId = found?.id ?? null;
  }
  if (input.sites)
    await ensureSites(
      work.trx,
      input.sites.filter((site) => !document.sites.includes(site)),
    );
  const after = {
    parentId,
    departmentId:
      input.departmentId === undefined ? document.department_id : await knownDepartment(work.trx, input.departmentId),
    location: input.location ?? document.location,
    sites: input.sites ?? document.sites,
    confidentiality: input.confidentiality ?? document.confidentiality,
    reviewEvery: input.reviewEvery === undefined ? document.review_every : input.reviewEvery,
    followsNamingRule: input.followsNamingRule === undefined ? document.follows_naming_rule : input.followsNamingRule,
    sharing: input.sharing ?? document.sharing,
    originSource: input.origin?.source ?? document.origin_source,
    originEdition: input.origin?.edition ?? document.origin_edition,
    originWatcher: input.origin === undefined ? document.origin_watcher : input.origin.watcherId,
    originCheckOn: document.origin_check_on,
  };
  if (after.sharing !== document.sharing) ensureSharing(opened.type, after.sharing);
  if (after.originWatcher !== document.origin_watcher) await ensureActive(work.trx, after.originWatcher);
  const { origin } = policyOf(opened.type);
  if (origin && (after.originWatcher || after.originSource) && after.originCheckOn === null)
    after.originCheckOn = addMonths(work.day, origin.checkMonths);
  const compared: { what: string; before: Json; after: Json }[] = [
    { what: 'parent', before: document.parent_number, after: parent },
    {
      what: 'department',
      before: document.department_name,
      after: after.departmentId ? ((await unitsByIds(work.trx, [after.departmentId]))[0]?.name ?? null) : null,
    },
    { what: 'location', before: document.location, after: after.location },
    { what: 'sites', before: document.sites, after: after.sites },
    { what: 'confidentiality', before: document.confidentiality, after: after.confidentiality },
    { what: 'reviewEvery', before: document.review_every, after: after.reviewEvery },
    { what: 'followsNamingRule', before: document.follows_naming_rule, after: after.followsNamingRule },
    { what: 'sharing', before: document.sharing, after: after.sharing },
    { what: 'source', before: document.origin_source, after: after.originSource },
    { what: 'edition', before: document.origin_edition, after: after.originEdition },
    { what: 'watcher', before: document.origin_watcher, after: after.originWatcher },
  ];
  return { after, changes: compared.filter((one) => JSON.stringify(one.before) !== JSON.stringify(one.after)) };
};

/** Signed and document fields apart; one that the type asks no more stays where it was. */
export const apartAsBefore = (
  fields: readonly FieldDefinition[],
  metadata: Metadata,
  revisionFieldsBefore: Metadata,
) => {
  const dropped = Object.keys(revisionFieldsBefore).filter((key) => !fields.some((field) => field.key === key));
  const { revisionFields, documentFields } = splitMetadata(fields, metadata);
  for (const key of dropped) delete (documentFields as Record<string, unknown>)[key];
  return {
    revisionFields: {
      ...revisionFields,
      ...Object.fromEntries(dropped.map((key) => [key, revisionFieldsBefore[key] ?? null])),
    },
    documentFields,
  };
};

const sorted = (metadata: Metadata) => Object.entries(metadata).sort(([a], [b]) => (a < b ? -1 : 1));
