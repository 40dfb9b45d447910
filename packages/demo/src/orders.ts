import { addDays } from '@kanonos/core';
import { orders } from '@kanonos/server';
import { type Context, idOf } from './context.ts';

/** Lays what is ordered on the line of time: one to be written, with its number, one late, one to be revised. */
export const planOrders = (c: Context): void => {
  c.add(c.at(12, 220), () =>
    write(c, {
      type: 'TRN',
      folder: '4/rescue',
      title: 'Rescue from a cabin at night',
      reserve: true,
      who: 'joren.adeyemi',
      inDays: 9,
      why: 'The exercise of November showed that nobody knows where the lamps are kept.',
    }),
  );
  c.add(c.at(30, 225), () =>
    write(c, {
      type: 'PRO',
      folder: '4/daily',
      title: 'Start after a night below minus twenty degrees',
      reserve: false,
      who: 'petra.lindqvist',
      inDays: -2,
      why: 'The drive needs to warm up; how long is decided anew each time.',
    }),
  );
  c.add(c.at(3, 230), async () => {
    await orders.giveOrder(c.app, await c.as('ines.varga'), {
      kind: 'revise',
      document: 'THR-PRO-0120',
      assigneeId: idOf(c.ids, 'joren.adeyemi'),
      dueOn: addDays(c.day, 16),
      why: 'The new wind gauge shows gusts over ten seconds, and the procedure still speaks of three.',
    });
  });
};

type DemoOrder = {
  type: string;
  folder: string;
  title: string;
  reserve: boolean;
  who: string;
  inDays: number;
  why: string;
};

const write = async (c: Context, { type, folder, title, reserve, who, inDays, why }: DemoOrder) => {
  await orders.giveOrder(c.app, await c.as('ines.varga'), {
    kind: 'write',
    typeId: c.types.get(type) ?? '',
    folderId: c.folders.get(folder) ?? '',
    title,
    reserve,
    assigneeId: idOf(c.ids, who),
    dueOn: addDays(c.day, inDays),
    why,
  });
};
