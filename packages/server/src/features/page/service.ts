import type { AnswerOf, api, DocumentPage, RevisionInfo } from '@kanonos/contract';
import {
  addDays,
  allowedCommands,
  dayOf,
  hasRight,
  inForceOn,
  isReleased,
  labelsAhead,
  type Planned,
  stateTag,
  titlesOf,
  withTitles,
} from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { allOf } from '../../platform/collections.ts';
import { hasSmall } from '../../platform/content/kind.ts';
import type { Db } from '../../platform/db/connect.ts';
import { parse } from '../../platform/parsing/index.ts';
import { refused } from '../../platform/refused.ts';
import { forbiddenBy, type Viewer } from '../access/index.ts';
import { findWorkingCopy, listRemovedVersions, listSupportingFiles } from '../authoring/index.ts';
import { notesOn } from '../changes/index.ts';
import { countComments } from '../comments/index.ts';
import { findText } from '../content/index.ts';
import {
  allMetadata,
  type Opened,
  offeredOwnStates,
  openDocument,
  relativesOf,
  rightToRead,
  situationOf,
  taggedState,
  toVersions,
} from '../documents/index.ts';
import { isFavourite } from '../favourites/index.ts';
import { shortcutsOf } from '../filing/index.ts';
import { unitsByCodes } from '../people/index.ts';
import { countReaders, findMine, revisionRead } from '../reading/index.ts';
import {
  fieldChanges,
  lastLabelOf,
  listFiles,
  listPeriods,
  listVersions,
  markOf,
  predecessorOf,
  type RevisionRow,
  visibleRevisions,
} from '../revisions/index.ts';
import { roundsOf, routeSituationOf, signaturesOutside, standingInFor } from '../rounds/index.ts';
import { getFolder, namesInMetadata, policyOf } from '../rules/index.ts';
import { nextStepOf } from './next.ts';

const toRevision = (row: RevisionRow, isOnHold: boolean): RevisionInfo => ({
  id: row.id,
  ordinal: row.ordinal,
  label: row.label,
  state: row.state,
  mark: markOf(row.state, isOnHold),
  title: row.title,
  changeKind: row.change_kind,
  reason: row.reason,
  summary: row.summary,
  metadata: row.metadata,
  plannedOn: row.planned_on,
  blocked: row.blocked_since !== null,
  ownState: row.own_state,
  effectiveFrom: row.effective_from?.toISOString() ?? null,
  effectiveTo: row.effective_to?.toISOString() ?? null,
  createdAt: row.created_at.toISOString(),
  createdBy: { id: row.created_by, name: row.created_by_name },
  versions: row.version_count,
  rowVersion: row.row_version,
});

/** Where an external document comes from, and who watches it; null where the type does not ask and nothing is given. */
const originOf = ({ document, type }: Opened): DocumentPage['origin'] =>
  policyOf(type).origin || document.origin_source
    ? {
        source: document.origin_source,
        edition: document.origin_edition,
        watcher: document.origin_watcher
          ? { id: document.origin_watcher, name: document.origin_watcher_name ?? '' }
          : null,
        checkOn: document.origin_check_on,
      }
    : null;

const checkoutOf = async (db: Db, { checkout }: Opened, viewer: Viewer): Promise<DocumentPage['checkout']> => {
  if (!checkout) return null;
  const saved = await findWorkingCopy(db, checkout.id);
  return {
    person: { id: checkout.person_id, name: checkout.person_name },
    since: checkout.at.toISOString(),
    mine: checkout.person_id === viewer.id,
    note: checkout.note,
    saved: saved ? { name: saved.name, at: saved.at.toISOString(), size: saved.size } : null,
  };
};

const removedVersionsOf = async (db: Db, revisionId: string): Promise<DocumentPage['removedVersions']> =>
  (await listRemovedVersions(db, revisionId)).map(({ by_name, at, freed, ...row }) => ({
    ...row,
    by: by_name,
    at: at.toISOString(),
    freed: Number(freed),
  }));

const supportingFilesOf = async (db: Db, revisionId: string): Promise<DocumentPage['supportingFiles']> =>
  (await listSupportingFiles(db, revisionId)).map((row) => ({
    id: row.id,
    name: row.name,
    note: row.note,
    by: row.by_name,
    at: row.at.toISOString(),
    size: row.size,
    sha256: row.sha256,
  }));

/** The parts of a page that identify and place the document, whatever its revision. */
const aboutOf = async (app: App, viewer: Viewer, opened: Opened, day: string) => {
  const { document, type } = opened;
  const folder = await getFolder(app.db, document.folder_id);
  const policy = policyOf(type);
  return {
    id: document.id,
    number: document.number,
    type: { id: type.id, code: type.code, name: type.name },
    folder: { id: folder.id, name: folder.name, path: folder.path_names, area: folder.area_name },
    owner: { id: document.owner_id, name: document.owner_name },
    department:
      document.department_id && document.department_name
        ? { id: document.department_id, name: document.department_name }
        : null,
    confidentiality: document.confidentiality,
    forbids: [...(await forbiddenBy(app.db, document.confidentiality))],
    location: document.location,
    sites: (await unitsByCodes(app.db, 'site', document.sites)).map(({ code, name }) => ({ code, name })),
    shortcuts: await shortcutsOf(app.db, viewer, document.id),
    isChangeNote: policy.isChangeNote,
    changeNotes: await notesOn(app, viewer, document.id, day),
    ...(await relativesOf(app.db, viewer, document, day)),
    sharing: {
      code: document.sharing,
      text: policy.sharing.find((one) => one.code === document.sharing)?.text ?? '',
      offered: [...policy.sharing],
    },
    origin: originOf(opened),
    reviewEvery: { own: document.review_every, type: type.review_every, unit: policy.review.unit },
    keywords: document.keywords,
    fields: type.fields,
    reviewOn: document.review_on,
    reviewIsDue: document.review_on !== null && document.review_on <= addDays(day, policy.review.daysAhead),
    registeredAt: document.registered_at.toISOString(),
    registeredBy: { id: document.registered_by, name: document.registered_by_name },
    removedAt: document.removed_at?.toISOString() ?? null,
    favourite: await isFavourite(app, viewer, document.id),
    unverifiedSince: document.unverified_since?.toISOString() ?? null,
    rowVersion: document.row_version,
  };
};

/** One document with one revision in view and everything around it that the viewer may see. */
export const documentPage = async (
  app: App,
  viewer: Viewer,
  ref: string,
  requested: { rev?: string | undefined; on?: string | undefined },
): Promise<DocumentPage> => {
  const organisation = await app.organisation();
  const now = app.clock();
  const day = dayOf(now, organisation.zone);
  const opened = await openDocument(app.db, viewer, ref, day);
  const { document, type, rights } = opened;
  const visible = visibleRevisions(opened.revisions, rights);
  const onDay = requested.on ? await viewOn(app, opened, requested.on) : undefined;
  const revision = pick(visible, requested, onDay?.revisionId);
  // Work invisible to a viewer without *read work* does not exist for that viewer, also in labels and coming days.
  const seen: Opened = rights.has('read work') ? opened : { ...opened, work: undefined, checkout: undefined };
  const before = predecessorOf(visible, revision);
  const {
    situated: { route, situation },
    versions,
    runs: { workRuns, rounds },
    comments,
    readers,
    about,
    fieldNames,
    checkout,
    removedVersions,
    supportingFiles,
    signatures,
    standingIn,
    myReading,
  } = await loadPanels(app, viewer, { seen, revision, day });
  const changes = fieldChanges(type.fields, before, revision);
  return {
    ...about,
    titles: titlesOf(revision.metadata),
    ownStates: offeredOwnStates(seen, viewer, organisation.ownStates),
    followsNamingRule: { own: document.follows_naming_rule, holds: situation.followsNamingRule },
    // Titles in other languages are stored among the revision fields; the page shows them separately.
    metadata: withTitles(allMetadata(document, revision), {}),
    fieldNames,
    stateTag: stateTag(taggedState(opened)),
    revision: toRevision(revision, document.hold !== null),
    revisions: visible.map((one) => toRevision(one, document.hold !== null)),
    hold: document.hold,
    versions,
    inForce: opened.inForce?.effective_from
      ? { label: opened.inForce.label, since: opened.inForce.effective_from.toISOString() }
      : null,
    work: seen.work ? { label: seen.work.label, state: seen.work.state } : null,
    checkout,
    removedVersions,
    supportingFiles,
    rounds,
    signatures,
    commands: allowedCommands(situation),
    next: nextStepOf(seen, workRuns, viewer.id, standingIn, 0),
    myReading,
    counts: { comments: comments.n, openComments: comments.open, readers: readers.owed, readersDone: readers.done },
    rights: [...rights],
    view: onDay ? { day: requested.on ?? day, until: onDay.until } : null,
    change: before ? { from: before.label, metadata: changes } : null,
    hasRoute: route.steps > 0,
    // Who may not revise learns nothing of a revision in work by the label that would follow it.
    labelsAhead: rights.has('author')
      ? labelsAhead(type.scheme, lastLabelOf(opened.revisions))
      : { by: 'none' as const },
    canChooseReviewers: route.chosenMinimum,
  };
};

/** All that a page shows around its revision, asked side by side: one after the other would take as many round trips. */
const loadPanels = async (
  app: App,
  viewer: Viewer,
  { seen, revision, day }: { seen: Opened; revision: RevisionRow; day: string },
) => {
  const { db } = app;
  const { document, type, rights } = seen;
  const { ownStates, zone } = await app.organisation();
  const readsWork = rights.has('read work');
  const situate = async () => {
    const route = await routeSituationOf(app, db, seen, viewer, day);
    return { route, situation: await situationOf(db, seen, viewer, route, ownStates) };
  };
  const listShownVersions = async () => {
    const all = await listVersions(db, revision.id);
    // Versions of work concern the authors: after release everyone sees the released one, the last.
    const shown = readsWork ? all : all.slice(0, 1);
    const files = await listFiles(
      db,
      shown.map((v) => v.id),
    );
    return toVersions(seen, revision, shown, files, zone);
  };
  const listRuns = async () => {
    const workRuns = seen.work ? await roundsOf(app, db, viewer, document, seen.work, { isForecast: true }) : [];
    return {
      workRuns,
      rounds: seen.work?.id === revision.id ? workRuns : await roundsOf(app, db, viewer, document, revision),
    };
  };
  return allOf({
    situated: situate(),
    versions: listShownVersions(),
    runs: listRuns(),
    comments: countComments(db, document.id, readsWork),
    readers: countReaders(db, document.id, revisionRead(revision, seen.inForce).id),
    about: aboutOf(app, viewer, seen, day),
    fieldNames: namesInMetadata(db, type.fields, allMetadata(document, revision)),
    checkout: checkoutOf(db, seen, viewer),
    removedVersions: readsWork ? removedVersionsOf(db, revision.id) : Promise.resolve([]),
    supportingFiles: readsWork ? supportingFilesOf(db, revision.id) : Promise.resolve([]),
    signatures: signaturesOutside(db, document, revision),
    standingIn: standingInFor(db, viewer.id, day),
    myReading: findMine(db, { documentId: document.id, revisionId: revision.id, personId: viewer.id }),
  });
};

/** The revision in view: the one of a day, of a label, in work, or, where the address names none, the one in force. */
const pick = (
  visible: RevisionRow[],
  requested: { rev?: string | undefined; on?: string | undefined },
  onDayId: string | undefined,
): RevisionRow => {
  const wanted = requested.on
    ? visible.find((r) => r.id === onDayId)
    : requested.rev !== undefined
      ? (visible.find((r) => r.label === requested.rev && r.state !== 'abandoned') ??
        visible.find((r) => r.label === requested.rev) ??
        (requested.rev === IN_WORK ? inWork(visible) : undefined))
      : (visible.find((r) => r.state === 'in force') ?? inWork(visible));
  if (!wanted) throw refused('not_found');
  return wanted;
};

/** Instead of a label: what is in work, whatever label it will have. */
const IN_WORK = 'work';

/** What is in work; where nothing is, what is in force, else the last one released. */
const inWork = (visible: RevisionRow[]) =>
  visible.find((r) => !isReleased(r.state) && r.state !== 'abandoned') ??
  visible.find((r) => r.state === 'in force') ??
  visible.find((r) => isReleased(r.state)) ??
  visible[0];

const viewOn = async (app: App, opened: Opened, day: string) => {
  const organisation = await app.organisation();
  const periods = (await listPeriods(app.db, opened.document.id)).map((p) => ({
    revisionId: p.revision_id,
    label: p.label,
    from: p.from_at,
    ...(p.to_at ? { to: p.to_at } : {}),
  }));
  const planned: Planned[] = [];
  if (opened.work?.planned_on && opened.rights.has('read work'))
    planned.push({
      kind: 'release',
      revisionId: opened.work.id,
      label: opened.work.label,
      day: opened.work.planned_on,
    });
  if (opened.document.withdraw_on && opened.rights.has('read work'))
    planned.push({ kind: 'withdrawal', day: opened.document.withdraw_on });
  return inForceOn(periods, planned, day, organisation.zone, app.clock());
};

/** What the preview pane shows of a document: what waits for whom, and what changed. */
export const preview = async (
  app: App,
  viewer: Viewer,
  documentId: string,
  revisionId: string | undefined,
): Promise<AnswerOf<typeof api.find.preview>> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const opened = await openDocument(app.db, viewer, documentId, day);
  const visible = visibleRevisions(opened.revisions, opened.rights);
  const revision = (revisionId ? visible.find((r) => r.id === revisionId) : undefined) ?? inWork(visible);
  if (!revision) throw refused('not_found');
  const seen: Opened = opened.rights.has('read work') ? opened : { ...opened, work: undefined, checkout: undefined };
  const rounds = seen.work ? await roundsOf(app, app.db, viewer, opened.document, seen.work) : [];
  const before = predecessorOf(visible, revision);
  const readers = await countReaders(app.db, opened.document.id, revisionRead(revision, seen.inForce).id);
  return {
    documentId,
    number: opened.document.number,
    title: revision.title,
    label: revision.label,
    mark: markOf(revision.state, opened.document.hold !== null),
    state: revision.state,
    owner: { id: opened.document.owner_id, name: opened.document.owner_name },
    now: opened.inForce?.label ?? null,
    next:
      revision.id === seen.work?.id || revision.state === 'in force'
        ? nextStepOf(seen, rounds, viewer.id, await standingInFor(app.db, viewer.id, day), 0)
        : null,
    changeKind: revision.change_kind,
    from: before?.label ?? null,
    reason: revision.reason,
    summary: revision.summary,
    metadata: fieldChanges(opened.type.fields, before, revision),
    ...(await passageOf(app, opened, revision)),
    readers,
  };
};

/** The first words of a revision's text, and the file of which a small picture may be shown. */
const passageOf = async (
  app: App,
  opened: Opened,
  revision: RevisionRow,
): Promise<{ passage: string; passageHtml: string | null; smallOf: string | null }> => {
  if (!hasRight(opened.rights, rightToRead(revision.state))) return { passage: '', passageHtml: null, smallOf: null };
  const [file] = revision.latest_version_id ? await listFiles(app.db, [revision.latest_version_id]) : [];
  const text = file ? await findText(app, file.sha256) : undefined;
  // Form feeds separate the pages of a text extracted from a PDF.
  const passage = text?.slice(0, 900).replaceAll('\f', '\n').trim() ?? '';
  return {
    passage,
    passageHtml: file?.media_type === 'text/markdown' && passage ? await renderedPassage(file.sha256, passage) : null,
    smallOf: file && hasSmall(file.media_type) ? file.id : null,
  };
};

const MOST_RENDERED = 500;
const rendered = new Map<string, string>();

/** The beginning of a Markdown text as it reads, made once for each content: one walks through a list by arrow keys. */
const renderedPassage = async (sha256: string, passage: string): Promise<string> => {
  const known = rendered.get(sha256);
  if (known !== undefined) return known;
  const html = await parse('markdown', passage);
  if (rendered.size >= MOST_RENDERED) rendered.clear();
  rendered.set(sha256, html);
  return html;
};
