import type { AnswerOf, api, BodyOf, FolderGrant, RightReason } from '@kanonos/contract';
import { type AccessReason, dayOf, hasRight, holdersOf, RIGHTS, type Right } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { refused } from '../../platform/refused.ts';
import {
  accessPlaces,
  changeGrants,
  ensureRight,
  explain,
  grantsTag,
  listGrants,
  toPlace,
  type Viewer,
  viewerOf,
} from '../access/index.ts';
import { type Opened, openDocument, runCommand, subjectOf } from '../documents/index.ts';
import { namesOf } from './store.ts';

const today = async (app: App): Promise<string> => dayOf(app.clock(), (await app.organisation()).zone);

const open = async (app: App, viewer: Viewer, ref: string): Promise<Opened> =>
  openDocument(app.db, viewer, ref, await today(app));

/** Who administers the organisation may set rights anywhere they see; everyone else where they manage. */
const mayChange = (viewer: Viewer, { rights }: Opened): boolean =>
  rights.has('manage') || viewer.organisationRights.has('administer');

const ownGrants = async (db: Db | Trx, documentId: string): Promise<FolderGrant[]> =>
  (await listGrants(db, { documentId })).map(({ folderId: _, ...grant }) => grant);

/** The entries on a document and on the folders that it is filed in, the nearest first. */
export const documentGrants = async (
  app: App,
  viewer: Viewer,
  ref: string,
): Promise<AnswerOf<typeof api.rights.grants>> => {
  const opened = await open(app, viewer, ref);
  if (!mayChange(viewer, opened)) throw refused('right_missing', { right: 'manage' });
  const own = await ownGrants(app.db, opened.document.id);
  const [, ...folders] = await accessPlaces(app.db, toPlace(opened.document));
  const all = await listGrants(app.db, { folderIds: folders.map((folder) => folder.id) });
  return {
    own,
    above: folders
      .map(({ id, name }) => ({
        folder: name,
        grants: all.filter(({ folderId }) => folderId === id).map(({ folderId: _, ...grant }) => grant),
      }))
      .filter(({ grants }) => grants.length > 0),
    tag: grantsTag(own),
  };
};

/** Sets the entries of one document. Refuses when somebody changed them since they were looked at. */
export const setDocumentGrants = (
  app: App,
  viewer: Viewer,
  ref: string,
  { grants, tag, reason }: BodyOf<typeof api.rights.setGrants>,
): Promise<void> =>
  runCommand(app, viewer, { document: ref }, async (work, opened) => {
    if (!mayChange(viewer, opened)) ensureRight(opened.rights, 'manage');
    const { document } = opened;
    const before = await ownGrants(work.trx, document.id);
    if (grantsTag(before) !== tag) throw refused('changed_meanwhile');
    const differences = await changeGrants(work.trx, { documentId: document.id }, before, grants);
    work.record({ kind: 'document.rights-changed', subject: subjectOf(document), payload: { differences, reason } });
  });

/**
 * What a person may do with a document and why: each entry that counts, ownership, tasks, and what its confidentiality takes away.
 * Everyone may ask for themselves; for others who manages the document, administers or audits.
 */
export const explainRights = async (
  app: App,
  viewer: Viewer,
  ref: string,
  personId: string = viewer.id,
): Promise<AnswerOf<typeof api.rights.explain>> => {
  const day = await today(app);
  const opened = await openDocument(app.db, viewer, ref, day);
  const mayAskOthers = mayChange(viewer, opened) || viewer.organisationRights.has('audit');
  if (personId !== viewer.id && !mayAskOthers) throw refused('right_missing', { right: 'manage' });
  const person = personId === viewer.id ? viewer : await viewerOf(app.db, personId, day);
  const { rights, reasons } = await explain(app.db, person, toPlace(opened.document), day);
  const names = await namesOf(
    app.db,
    reasons.flatMap(({ subject }) => subject.split(':')[1] ?? []),
  );
  return {
    person: { id: person.id, name: person.name },
    rights: RIGHTS.filter((right) => hasRight(rights, right)),
    reasons: reasons.map((reason) => inWords(reason, names)),
    mayAskOthers,
    mayChange: mayChange(viewer, opened),
  };
};

const BESIDES = ['owner', 'assigned in a step', 'asked to read'] as const;

const inWords = (
  { place, subject, rights, withheld }: AccessReason,
  names: ReadonlyMap<string, string>,
): RightReason => {
  const besides = BESIDES.find((why) => why === subject);
  const [kind, id] = subject.split(':');
  const why = besides ?? (kind === 'all' || id ? 'entry' : 'confidentiality');
  return {
    why,
    folder: place === 'document' ? null : place,
    subject: kind === 'all' ? 'everyone in the organisation' : id ? (names.get(id) ?? 'somebody') : subject,
    rights: [...rights],
    withheld,
  };
};

/** Who has a right on a document: its owner where that includes it, then the subjects of entries, the nearest first. */
export const rightHolders = async (
  app: App,
  viewer: Viewer,
  ref: string,
  right: Right,
): Promise<AnswerOf<typeof api.rights.holders>> => {
  const { document } = await open(app, viewer, ref);
  const holders = holdersOf(await accessPlaces(app.db, toPlace(document)), right).map(({ subject }) => subject);
  const ids = holders.flatMap((subject) => (subject.kind === 'all' ? [] : [subject.id]));
  const owner = hasRight(new Set(['manage']), right) ? [document.owner_id] : [];
  const names = await namesOf(app.db, [...owner, ...ids]);
  const named = [...owner, ...ids].map((id) => names.get(id) ?? '');
  if (holders.some((subject) => subject.kind === 'all')) named.push('everyone in the organisation');
  return { holders: [...new Set(named)].filter(Boolean) };
};
