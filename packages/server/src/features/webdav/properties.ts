import { hasRight } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { RefusalError } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { actorOf } from '../access/index.ts';
import { etagOf, sizeHandedOut } from './content.ts';
import { discover, ensureUnlocked, locksOver, supportedLocks } from './locks.ts';
import * as store from './store.ts';
import { type DocumentNode, ensureMayPut, isCollection, type Node, type Place, subjectOf, type Tree } from './tree.ts';
import { WebdavError } from './webdavError.ts';
import { below, multistatus, type Property, parseBody, propertyOf, response, WEBDAV } from './xml.ts';

/** The request of a PROPFIND: all, only their names, or these (RFC 4918 9.1). */
export type Asked = 'all' | 'names' | readonly Property[];

const MOST_ASKED = 200;

export const readAsked = (text: string): Asked => {
  if (text.trim() === '') return 'all';
  const root = parseBody(text);
  if (root.localName !== 'propfind' || root.namespaceURI !== WEBDAV)
    throw new WebdavError(400, 'The body of PROPFIND must be a propfind.');
  if (below(root, 'propname').length > 0) return 'names';
  if (below(root, 'allprop').length > 0) return 'all';
  const [prop] = below(root, 'prop');
  if (!prop) throw new WebdavError(400, 'PROPFIND needs allprop, propname or prop.');
  const wantedProperties = below(prop);
  // Each is answered for each file of a folder: no program asks for so many.
  if (wantedProperties.length > MOST_ASKED)
    throw new WebdavError(400, `PROPFIND accepts at most ${MOST_ASKED} properties.`);
  return [
    ...new Map(
      wantedProperties.map((one) => [
        `${one.namespaceURI ?? ''} ${one.localName}`,
        { namespace: one.namespaceURI ?? '', name: one.localName },
      ]),
    ).values(),
  ];
};

const webdav = (name: string, value: string): Property => ({ namespace: WEBDAV, name, value });
const text = (value: string) => value.replace(/[&<>]/g, (sign) => `&#${sign.charCodeAt(0)};`);

/** The times of creation and of the last change. */
const timesOf = (node: Node): [Date, Date] | undefined => {
  if (node.kind === 'drive') return [node.row.made_at, node.row.changed_at];
  if (node.kind === 'document') return [node.file.revision_at, node.checkout?.saved_at ?? node.file.version_at];
  return undefined;
};

/** The properties that the server keeps itself (RFC 4918 15). */
const liveOf = async (
  app: App,
  viewer: Viewer,
  { node, name, href }: Listed,
  locks: readonly store.LockRow[],
  inList: boolean,
): Promise<Property[]> => {
  const properties = [
    webdav('displayname', text(name)),
    webdav('resourcetype', isCollection(node) ? '<D:collection/>' : ''),
    webdav('supportedlock', supportedLocks(node)),
    webdav('lockdiscovery', discover(locks, href, app.clock())),
  ];
  const times = timesOf(node);
  if (times)
    properties.push(webdav('creationdate', times[0].toISOString()), webdav('getlastmodified', times[1].toUTCString()));
  const etag = etagOf(node);
  if (etag) properties.push(webdav('getetag', text(etag)));
  if (isCollection(node)) return properties;
  const mine = node.kind === 'document' && node.checkout?.person_id === viewer.id ? node.checkout : undefined;
  const size =
    node.kind === 'drive'
      ? node.row.size
      : (mine?.size ?? (node.kind === 'document' ? await sizeOf(app, viewer, node, inList) : 0));
  const mediaType =
    node.kind === 'drive' ? node.row.media_type : node.kind === 'document' ? node.file.media_type : null;
  if (size !== undefined) properties.push(webdav('getcontentlength', String(size)));
  properties.push(webdav('getcontenttype', text(mediaType ?? 'application/octet-stream')));
  return properties;
};

/** A file whose bytes are missing or altered has no size, and its folder is still read. */
const sizeOf = async (app: App, viewer: Viewer, node: DocumentNode, inList: boolean): Promise<number | undefined> =>
  sizeHandedOut(app, viewer, node, inList).catch((error) => {
    if (error instanceof RefusalError) return undefined;
    throw error;
  });

type Listed = { node: Node; name: string; href: string };

const hrefOf = (base: string, path: readonly string[], node: Node) =>
  `${base}/${path.map(encodeURIComponent).join('/')}${isCollection(node) && path.length > 0 ? '/' : ''}`;

/** Answers a PROPFIND: the resource itself and, at depth 1, its members. */
export const propfind = async (
  app: App,
  viewer: Viewer,
  tree: Tree,
  place: Place,
  { wantedProperties, deep, base }: { wantedProperties: Asked; deep: boolean; base: string },
): Promise<string> => {
  if (!place.node) throw new WebdavError(404, 'Nothing was found at this address.');
  const listed: Listed[] = [
    { node: place.node, name: place.path.at(-1) ?? '', href: hrefOf(base, place.path, place.node) },
    ...(deep ? await tree.children(place.node) : []).map((one) => ({
      ...one,
      href: hrefOf(base, [...place.path, one.name], one.node),
    })),
  ];
  const subjects = listed.map((one) => subjectOf(one.node));
  const dead = await store.listProperties(app.db, { personId: viewer.id, subjects });
  const over = await locksOver(app, place);
  const own = await store.listLocks(app.db, { subjects, now: app.clock() });
  const answers: string[] = [];
  for (const [i, one] of listed.entries()) {
    const subject = subjects[i];
    const locks =
      i === 0 ? over : [...over.filter((lock) => lock.deep), ...own.filter((lock) => lock.subject === subject)];
    const live = await liveOf(
      app,
      viewer,
      one,
      [...new Map(locks.map((lock) => [lock.token, lock])).values()],
      listed.length > 1,
    );
    const all = [...live, ...dead.filter((row) => row.subject === subject)];
    if (wantedProperties === 'all') answers.push(response(one.href, new Map([[200, all]])));
    else if (wantedProperties === 'names')
      answers.push(response(one.href, new Map([[200, all.map(({ namespace, name }) => ({ namespace, name }))]])));
    else {
      const found = (wanted: Property) =>
        all.find((property) => property.namespace === wanted.namespace && property.name === wanted.name);
      answers.push(
        response(
          one.href,
          new Map([
            [200, wantedProperties.flatMap((wanted) => found(wanted) ?? [])],
            [404, wantedProperties.filter((wanted) => !found(wanted))],
          ]),
        ),
      );
    }
  }
  return multistatus(answers);
};

type Change = { property: Property; remove: boolean };

const readChanges = (body: string): Change[] => {
  const root = parseBody(body);
  if (root.localName !== 'propertyupdate' || root.namespaceURI !== WEBDAV)
    throw new WebdavError(400, 'The body of PROPPATCH must be a propertyupdate.');
  return below(root).flatMap((one) => {
    const remove = one.localName === 'remove';
    if (one.namespaceURI !== WEBDAV || (!remove && one.localName !== 'set')) return [];
    return below(one, 'prop').flatMap((prop) => below(prop).map((child) => ({ property: propertyOf(child), remove })));
  });
};

/** Sets and removes a program's own properties of a resource, all or nothing; live properties stay. */
export const proppatch = async (
  app: App,
  viewer: Viewer,
  place: Place,
  { body, base, tokens }: { body: string; base: string; tokens: ReadonlySet<string> },
): Promise<string> => {
  const { node } = place;
  if (!node) throw new WebdavError(404, 'Nothing was found at this address.');
  const changes = readChanges(body);
  await ensureUnlocked(app, place, tokens);
  if (node.kind === 'drive') ensureMayPut(place);
  if (node.kind === 'document' && !hasRight(node.rights, 'read'))
    throw new WebdavError(403, 'You may see it but not change it.');
  const href = hrefOf(base, place.path, node);
  const bare = ({ property: { namespace, name } }: Change) => ({ namespace, name });
  const protectedOnes = changes.filter(({ property }) => property.namespace === WEBDAV);
  if (protectedOnes.length > 0)
    return multistatus([
      response(
        href,
        new Map([
          [403, protectedOnes.map(bare)],
          [424, changes.filter((change) => !protectedOnes.includes(change)).map(bare)],
        ]),
      ),
    ]);
  await app.command(actorOf(viewer), async ({ trx }) => {
    for (const { property, remove } of changes) {
      const key = { personId: viewer.id, subject: subjectOf(node), namespace: property.namespace, name: property.name };
      if (remove) await store.removeProperty(trx, key);
      else await store.setProperty(trx, { ...key, value: property.value ?? '' });
    }
  });
  return multistatus([response(href, new Map([[200, changes.map(bare)]]))]);
};
