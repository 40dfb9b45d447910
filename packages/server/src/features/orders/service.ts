import type { AnswerOf, api, BodyOf, Order } from '@kanonos/contract';
import {
  addDays,
  dayInWords,
  dayOf,
  decideOrderChange,
  decidePlannedDay,
  hasRight,
  isFolderShut,
  isOrderOpen,
  type OrderActor,
  orderNumber,
  orderStanding,
  type Right,
} from '@kanonos/core';
import { documentAddress } from '../../platform/addresses.ts';
import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { assertAllowed, refused } from '../../platform/refused.ts';
import {
  actorOf,
  type Handler,
  rightsOn,
  rightsOnFolders,
  rightsOnMany,
  toPlace,
  type Viewer,
  viewerOf,
} from '../access/index.ts';
import { ensureActive, type Opened, openDocument, subjectOf } from '../documents/index.ts';
import { notify } from '../mailing/index.ts';
import { endReservationIn, reserveIn } from '../numbers/index.ts';
import { namesOf } from '../people/index.ts';
import { markOf } from '../revisions/index.ts';
import { getFolder, getType } from '../rules/index.ts';
import * as store from './store.ts';

export const ORDERS_ADDRESS = '/changes?show=orders';
/** How long a number is kept beyond the day by which it was to be used. */
const KEPT_DAYS = 365;
const NONE: ReadonlySet<Right> = new Set();

const controls = (rights: ReadonlySet<Right>): boolean => hasRight(rights, 'release') || hasRight(rights, 'manage');

/** The rights that a viewer has on what each order is about: its document, or the folder where it will lie. */
const rightsOnOrders = async (db: Db | Trx, viewer: Viewer, found: readonly store.OrderRow[]) => {
  const places = found.flatMap((row) =>
    row.document_id && row.owner_id && row.confidentiality
      ? [
          toPlace({
            id: row.document_id,
            folder_id: row.folder_id,
            owner_id: row.owner_id,
            confidentiality: row.confidentiality,
          }),
        ]
      : [],
  );
  const onDocuments = await rightsOnMany(db, viewer, places);
  const onFolders = await rightsOnFolders(db, viewer);
  return (row: store.OrderRow): ReadonlySet<Right> =>
    (row.document_id ? onDocuments.get(row.document_id) : onFolders.get(row.folder_id)) ?? NONE;
};

const standingOf = (row: store.OrderRow) => orderStanding(row.ended, row.state);
const actorTowards = (row: store.OrderRow, viewer: Viewer, rights: ReadonlySet<Right>): OrderActor => ({
  isGiver: row.by_id === viewer.id,
  isAssignee: row.assignee_id === viewer.id,
  isController: controls(rights),
});

const toOrder = (row: store.OrderRow, viewer: Viewer, rights: ReadonlySet<Right>, today: string): Order => {
  const standing = standingOf(row);
  return {
    id: row.id,
    number: row.number,
    kind: row.kind,
    document:
      row.document_id && row.document_number
        ? {
            id: row.document_id,
            number: row.document_number,
            label: row.label ?? '',
            mark: row.state ? markOf(row.state, row.on_hold === true) : 'open',
          }
        : null,
    type: { code: row.type_code, name: row.type_name },
    folderId: row.folder_id,
    title: row.title ?? row.document_title ?? '',
    reservedNumber: row.reserved_number,
    why: row.why,
    assignee: { id: row.assignee_id, name: row.assignee_name },
    dueOn: row.due_on,
    overdue: isOrderOpen(standing) && row.due_on < today,
    by: { id: row.by_id, name: row.by_name },
    at: row.at.toISOString(),
    standing,
    endedReason: row.ended_reason,
    mine: row.assignee_id === viewer.id,
    mayChange:
      decideOrderChange({ number: row.number, standing }, 'changed', actorTowards(row, viewer, rights)).length === 0,
  };
};

const today = async (app: App) => dayOf(app.clock(), (await app.organisation()).zone);

/** What concerns a viewer of some orders: those they gave, theirs, and those about what they control. */
const concerning = async (app: App, viewer: Viewer, found: readonly store.OrderRow[]) => {
  const day = await today(app);
  const rightsOf = await rightsOnOrders(app.db, viewer, found);
  return found.flatMap((row) => {
    const rights = rightsOf(row);
    const concerns = row.by_id === viewer.id || row.assignee_id === viewer.id || controls(rights);
    return concerns ? [toOrder(row, viewer, rights, day)] : [];
  });
};

/** Orders that concern a viewer; without `all` those that are open. */
export const orders = async (app: App, viewer: Viewer, all: boolean): Promise<AnswerOf<typeof api.orders.list>> => {
  const found = await concerning(app, viewer, await store.listOrders(app.db, all));
  return { orders: all ? found : found.filter(({ standing }) => isOrderOpen(standing)) };
};

/** Open orders that a person gave or has, for the Desk. */
export const openOrdersFor = async (app: App, viewer: Viewer): Promise<Order[]> =>
  (await concerning(app, viewer, await store.listOrdersFor(app.db, viewer.id))).filter(({ standing }) =>
    isOrderOpen(standing),
  );

const mayOrder = ({ document, rights }: Pick<Opened, 'document' | 'rights'>, viewer: Viewer): boolean =>
  document.owner_id === viewer.id || controls(rights);

export const ordersOfDocument = async (
  app: App,
  viewer: Viewer,
  ref: string,
): Promise<AnswerOf<typeof api.orders.ofDocument>> => {
  const day = await today(app);
  const opened = await openDocument(app.db, viewer, ref, day);
  const found = (await store.listOrdersOf(app.db, opened.document.id)).filter((row) => isOrderOpen(standingOf(row)));
  // An order tells of work to come: readers learn of it when it is there.
  const isSeen = (row: store.OrderRow) =>
    opened.rights.has('read work') || row.assignee_id === viewer.id || row.by_id === viewer.id;
  return {
    orders: found.filter(isSeen).map((row) => toOrder(row, viewer, opened.rights, day)),
    mayOrder: mayOrder(opened, viewer),
  };
};

/** The name of whoever is to write: there, and with the right to author it. */
const assigneeOf = async (
  work: UnitOfWork,
  personId: string,
  rightsFor: (person: Viewer) => Promise<ReadonlySet<Right>>,
): Promise<string> => {
  await ensureActive(work.trx, personId);
  const who = (await namesOf(work.trx, [personId])).get(personId)?.name ?? '';
  const rights = await rightsFor(await viewerOf(work.trx, personId, work.day));
  if (!hasRight(rights, 'author')) throw refused('order_cannot_author', { who });
  return who;
};

const authorsIn = (work: UnitOfWork, folderId: string) => async (person: Viewer) =>
  (await rightsOnFolders(work.trx, person)).get(folderId) ?? NONE;
const authorsOn = (work: UnitOfWork, document: Opened['document']) => async (person: Viewer) =>
  rightsOn(work.trx, person, toPlace(document), work.day);

type Given = BodyOf<typeof api.orders.give>;

const tell = async (
  app: App,
  work: UnitOfWork,
  viewer: Viewer,
  to: string,
  mail: { subject: string; lead: string; quote: string },
) => {
  if (to === viewer.id) return;
  await notify(app, work, [to], { kind: 'task', ...mail, link: { path: ORDERS_ADDRESS, label: 'Open the orders' } });
};

/** Orders a document to be written or revised; whoever it is for is told. */
export const giveOrder: Handler<typeof api.orders.give> = (app, viewer, input) =>
  app.command(actorOf(viewer), async (work) => {
    assertAllowed(decidePlannedDay(input.dueOn, work.day));
    const subject = input.kind === 'revise' ? await toRevise(work, viewer, input) : await toWrite(work, viewer, input);
    const year = Number(work.day.slice(0, 4));
    const n = await store.nextOfYear(work.trx, year);
    const [id, number] = [newId(), orderNumber(year, n)];
    const { kind, why, assigneeId, dueOn } = input;
    const { what, who, document, ...row } = subject;
    await store.insertOrder(work.trx, {
      id,
      year,
      n,
      number,
      kind,
      why,
      assigneeId,
      dueOn,
      by: viewer.id,
      now: work.now,
      ...row,
    });
    work.record({
      kind: 'order.given',
      subject: document ? subjectOf(document) : {},
      payload: { number, order: kind, what, who, dueOn, why },
    });
    await tell(app, work, viewer, assigneeId, {
      subject: `${what}: please ${kind} it by ${dayInWords(dueOn)}`,
      lead: `${viewer.name} orders ${kind === 'write' ? 'this document' : 'a revision of this document'} by ${dayInWords(dueOn)}.`,
      quote: why,
    });
    return { id, number };
  });

const toRevise = async (work: UnitOfWork, viewer: Viewer, input: Extract<Given, { kind: 'revise' }>) => {
  const opened = await openDocument(work.trx, viewer, input.document, work.day);
  const { document } = opened;
  if (!mayOrder(opened, viewer)) throw refused('right_missing', { right: 'release' });
  const open = (await store.listOrdersOf(work.trx, document.id)).find((row) => isOrderOpen(standingOf(row)));
  if (open) throw refused('already_ordered', { number: open.number, who: open.assignee_name });
  return {
    what: document.number,
    who: await assigneeOf(work, input.assigneeId, authorsOn(work, document)),
    document,
    documentId: document.id,
    // A draft that is there already is what is ordered; otherwise the next revision.
    afterOrdinal: opened.work?.state === 'draft' ? opened.work.ordinal - 1 : (opened.revisions[0]?.ordinal ?? 0),
    typeId: null,
    folderId: null,
    title: null,
    reservedNumber: null,
    reservationId: null,
  };
};

const toWrite = async (work: UnitOfWork, viewer: Viewer, input: Extract<Given, { kind: 'write' }>) => {
  const type = await getType(work.trx, input.typeId);
  if (type.retired) throw refused('type_retired');
  const folder = await getFolder(work.trx, input.folderId);
  const rights = (await rightsOnFolders(work.trx, viewer)).get(folder.id) ?? NONE;
  if (!hasRight(rights, 'see')) throw refused('not_found');
  if (!controls(rights)) throw refused('right_missing', { right: 'release' });
  if (isFolderShut(folder.state)) throw refused('folder_shut', { folder: folder.name, state: folder.state });
  const who = await assigneeOf(work, input.assigneeId, authorsIn(work, folder.id));
  const reserved = input.reserve
    ? await reserveIn(work, viewer, {
        typeId: type.id,
        folderId: folder.id,
        metadata: {},
        count: 1,
        forPersonId: input.assigneeId,
        reason: `Ordered: ${input.title}`,
        until: addDays(input.dueOn, KEPT_DAYS),
      })
    : undefined;
  return {
    what: [reserved?.first, input.title].filter(Boolean).join(' '),
    who,
    document: undefined,
    documentId: null,
    afterOrdinal: 0,
    typeId: type.id,
    folderId: folder.id,
    title: input.title,
    reservedNumber: reserved?.first ?? null,
    reservationId: reserved?.id ?? null,
  };
};

/** An order under its lock, for whoever may do this to it. */
const openOrder = async (
  work: UnitOfWork,
  viewer: Viewer,
  id: string,
  what: Parameters<typeof decideOrderChange>[1],
): Promise<store.OrderRow> => {
  await store.lockOrder(work.trx, id);
  const row = await store.findOrder(work.trx, id);
  if (!row) throw refused('not_found');
  const actor = actorTowards(row, viewer, (await rightsOnOrders(work.trx, viewer, [row]))(row));
  if (!actor.isAssignee && !actor.isController && !actor.isGiver) throw refused('not_found');
  assertAllowed(decideOrderChange({ number: row.number, standing: standingOf(row) }, what, actor));
  return row;
};

const subjectOfOrder = (row: store.OrderRow) =>
  row.document_id && row.document_number ? subjectOf({ id: row.document_id, number: row.document_number }) : {};
const nameOf = (row: store.OrderRow) =>
  row.document_number ?? [row.reserved_number, row.title].filter(Boolean).join(' ');

/** Gives an order to somebody else, or moves its day; both people are told. */
export const changeOrder = (
  app: App,
  viewer: Viewer,
  id: string,
  { assigneeId, dueOn, reason }: BodyOf<typeof api.orders.change>,
): Promise<void> =>
  app.command(actorOf(viewer), async (work) => {
    const row = await openOrder(work, viewer, id, 'changed');
    if (dueOn !== row.due_on) assertAllowed(decidePlannedDay(dueOn, work.day));
    const document = row.document_id
      ? (await openDocument(work.trx, viewer, row.document_id, work.day)).document
      : undefined;
    const rightsFor = document ? authorsOn(work, document) : authorsIn(work, row.folder_id);
    const who = assigneeId === row.assignee_id ? row.assignee_name : await assigneeOf(work, assigneeId, rightsFor);
    await store.updateOrder(work.trx, { id, assigneeId, dueOn });
    work.record({
      kind: 'order.changed',
      subject: subjectOfOrder(row),
      payload: { number: row.number, what: nameOf(row), who, dueOn, reason },
    });
    const subject = `${nameOf(row)}: ordered from ${who} by ${dayInWords(dueOn)}`;
    const lead = `${viewer.name} changed the order ${row.number}.`;
    for (const person of new Set([row.assignee_id, assigneeId]))
      await tell(app, work, viewer, person, { subject, lead, quote: reason });
  });

/** Ends an order before it is fulfilled; the number that was kept for it becomes void, and the other side is told. */
export const endOrder = (
  app: App,
  viewer: Viewer,
  id: string,
  { how, reason }: BodyOf<typeof api.orders.end>,
): Promise<void> =>
  app.command(actorOf(viewer), async (work) => {
    const row = await openOrder(work, viewer, id, how);
    await store.endOrder(work.trx, { id, how, reason, now: work.now });
    if (row.reservation_id && row.document_id === null)
      await endReservationIn(work, row.reservation_id, `${row.number} was ${how}`);
    work.record({
      kind: 'order.ended',
      subject: subjectOfOrder(row),
      payload: { number: row.number, what: nameOf(row), how, reason },
    });
    await tell(app, work, viewer, how === 'declined' ? row.by_id : row.assignee_id, {
      subject: `${nameOf(row)}: the order was ${how}`,
      lead: `${viewer.name} ${how === 'declined' ? 'declined' : 'withdrew'} the order ${row.number}.`,
      quote: reason,
    });
  });

/** Where whoever has an order takes it up: at the document, or where it is registered under the number that is kept for it. */
export const addressOfOrder = (order: Order): string => {
  if (order.document) return documentAddress(order.document.number, 'rev=work');
  const given = {
    type: order.type.code,
    folder: order.folderId,
    title: order.title,
    number: order.reservedNumber ?? '',
  };
  return `/new?${new URLSearchParams(Object.entries(given).filter(([, value]) => value !== ''))}`;
};
