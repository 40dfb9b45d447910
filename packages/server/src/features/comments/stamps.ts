import type { AnswerOf, api, BodyOf } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { actorOf } from '../access/index.ts';
import * as store from './store.ts';

/** The stamps of the organisation: words and a colour, to which who uses one adds name and day. */
export const listStamps = async (app: App): Promise<AnswerOf<typeof api.comments.stamps>> => ({
  stamps: (await store.listStamps(app.db)).map(({ row_version, ...stamp }) => ({ ...stamp, rowVersion: row_version })),
});

export const saveStamp = (
  app: App,
  viewer: Viewer,
  id: string,
  stamp: BodyOf<typeof api.comments.saveStamp>,
): Promise<void> =>
  app.command(actorOf(viewer), async (work) => {
    const write = stamp.rowVersion === 0 ? store.saveStamp : store.changeStamp;
    if ((await write(work.trx, { id, ...stamp })) === 0) throw refused('changed_meanwhile');
    work.record({
      kind: 'stamp.saved',
      subject: {},
      payload: { text: stamp.text, colour: stamp.colour, retired: stamp.retired },
    });
  });
