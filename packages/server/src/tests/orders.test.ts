import { describe, expect, test } from 'vitest';
import { desk } from '../features/desk/service.ts';
import { changeOrder, endOrder, giveOrder, orders, ordersOfDocument } from '../features/orders/service.ts';
import { rows } from '../platform/db/connect.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();
const idOf = (person: string) => organisation.ids[person] ?? '';
const DUE = '2030-03-01';
const inForce = async () => {
  const { id, number } = await organisation.register('author');
  await organisation.toInForce(number);
  return { id, number };
};
const revise = async (as: string, document: string, more: { to?: string; dueOn?: string } = {}) =>
  giveOrder(organisation.app, await organisation.as(as), {
    kind: 'revise',
    document,
    assigneeId: idOf(more.to ?? 'author2'),
    dueOn: more.dueOn ?? DUE,
    why: 'The limit is out of date',
  });
const write = async (as: string, more: { to?: string; reserve?: boolean } = {}) =>
  giveOrder(organisation.app, await organisation.as(as), {
    kind: 'write',
    typeId: organisation.types.get('PRO') ?? '',
    folderId: organisation.folders.get('1') ?? '',
    title: 'Rescue at night',
    reserve: more.reserve ?? true,
    assigneeId: idOf(more.to ?? 'author2'),
    dueOn: DUE,
    why: 'Asked for by the authority',
  });
const of = async (as: string, id: string, all = false) =>
  (await orders(organisation.app, await organisation.as(as), all)).orders.find((one) => one.id === id);
const end = async (as: string, id: string, how: 'withdrawn' | 'declined') =>
  endOrder(organisation.app, await organisation.as(as), id, { how, reason: 'Not needed' });

describe('an order to revise', () => {
  test('is on both Desks until what was begun for it is submitted', async () => {
    const { number } = await inForce();
    const { id, number: order } = await revise('controller', number);
    expect(order).toMatch(/^ORD-\d{4}-\d{4}$/);
    for (const person of ['author2', 'controller'])
      expect(
        (await desk(organisation.app, await organisation.as(person))).rows.find((row) => row.id === id),
      ).toMatchObject({ kind: 'order', number, due: DUE });
    expect((await of('author2', id))?.standing).toBe('not begun');
    expect(await of('reader', id)).toBeUndefined();
    await organisation.revise('author2', number);
    expect((await of('author2', id))?.standing).toBe('in writing');
    await organisation.submit('author2', number);
    expect(await of('author2', id)).toBeUndefined();
    expect((await of('author2', id, true))?.standing).toBe('submitted');
    expect((await organisation.verdict()).kind).toBe('intact');
  });

  test('is given by whoever controls or owns the document, once, to somebody who may write it', async () => {
    const { number } = await inForce();
    expect(await codeOf(revise('author', number))).toBe('right_missing');
    expect(await codeOf(revise('controller', number, { to: 'reader' }))).toBe('order_cannot_author');
    expect(await codeOf(revise('controller', number, { dueOn: '2020-01-01' }))).toBe('day_not_after_today');
    await revise('owner', number);
    expect(await codeOf(revise('controller', number))).toBe('already_ordered');
    const seen = async (as: string) => ordersOfDocument(organisation.app, await organisation.as(as), number);
    expect((await seen('author')).orders).toHaveLength(1);
    expect(await seen('reader')).toEqual({ orders: [], mayOrder: false });
  });

  test('is given to somebody else, withdrawn by who gave it, declined by who has it', async () => {
    const { number } = await inForce();
    const { id } = await revise('controller', number);
    const change = async (as: string) =>
      changeOrder(organisation.app, await organisation.as(as), id, {
        assigneeId: idOf('author'),
        dueOn: '2030-04-01',
        reason: 'Ill',
      });
    expect(await codeOf(change('author2'))).toBe('order_not_yours');
    await change('controller');
    expect(await of('controller', id)).toMatchObject({ assignee: { name: 'Author' }, dueOn: '2030-04-01' });
    expect(await codeOf(end('author2', id, 'declined'))).toBe('not_found');
    await end('author', id, 'declined');
    expect(await codeOf(end('controller', id, 'withdrawn'))).toBe('order_ended');
    const mails = await rows<{ subject: string }>(
      organisation.app.db,
      'select subject from mails where person_id = :person and subject like :like',
      { person: idOf('controller'), like: `${number}: the order was declined` },
    );
    expect(mails).toHaveLength(1);
  });
});

describe('an order to write', () => {
  test('keeps a number, under which it is registered and followed', async () => {
    const { id } = await write('controller');
    const order = await of('author2', id);
    expect(order).toMatchObject({ title: 'Rescue at night', document: null, standing: 'not begun' });
    const number = order?.reservedNumber ?? '';
    expect(number).toMatch(/^TST-PRO-\d{4}$/);
    // The next document does not take it.
    expect((await organisation.register('author')).number).not.toBe(number);
    await organisation.registerAs('author2', {
      typeId: organisation.types.get('PRO') ?? '',
      folderId: organisation.folders.get('1') ?? '',
      uploadId: await organisation.upload('author2', '# Rescue at night'),
      number,
    });
    expect(await of('author2', id)).toMatchObject({ document: { number }, standing: 'in writing' });
    await organisation.submit('author2', number);
    expect((await of('controller', id, true))?.standing).toBe('submitted');
  });

  test('gives its number up when it is withdrawn', async () => {
    const { id } = await write('controller');
    const number = (await of('controller', id))?.reservedNumber ?? '';
    await end('controller', id, 'withdrawn');
    expect(
      await codeOf(
        organisation.registerAs('author2', {
          typeId: organisation.types.get('PRO') ?? '',
          folderId: organisation.folders.get('1') ?? '',
          uploadId: await organisation.upload('author2', '# Late'),
          number,
        }),
      ),
    ).toBe('number_not_reserved');
  });

  test('is given by whoever controls the folder, to somebody who may register there', async () => {
    expect(await codeOf(write('author'))).toBe('right_missing');
    expect(await codeOf(write('controller', { to: 'reader' }))).toBe('order_cannot_author');
    expect((await of('controller', (await write('controller', { reserve: false })).id))?.reservedNumber).toBeNull();
  });
});
