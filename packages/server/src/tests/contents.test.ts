import { Readable } from 'node:stream';
import { beforeEach, expect, test } from 'vitest';
import { removeVersion } from '../features/authoring/removingVersions.ts';
import { discardCheckout } from '../features/authoring/service.ts';
import { saveWorkingText, workingText } from '../features/authoring/workingText.ts';
import { deleteUnreferencedContent, tidyContents } from '../features/content/service.ts';
import { extractText, findText } from '../features/content/text.ts';
import { takeUpload } from '../features/content/uploads.ts';
import { firstRow } from '../platform/db/connect.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();

const HOUR_MS = 3_600_000;
const later = (hours: number) => {
  organisation.clock.now = new Date(organisation.clock.now.getTime() + hours * HOUR_MS);
};
const settled = () => new Promise((resolve) => setTimeout(resolve, 80));
const send = async (text: string) =>
  takeUpload(organisation.app, await organisation.as('author'), 'text.md', Readable.from([Buffer.from(text)]));
const stateOf = async (sha256: string) =>
  (
    await firstRow<{ text_state: string }>(
      organisation.app.db,
      'select text_state from contents where sha256 = :sha256',
      {
        sha256,
      },
    )
  )?.text_state;
const isThere = (sha256: string) => organisation.app.content.has(sha256);
const draftOf = async (number: string) =>
  (
    await firstRow<{ sha256: string }>(
      organisation.app.db,
      `select u.sha256 from working_copies k join uploads u on u.id = k.upload_id join checkouts c on c.id = k.checkout_id
       join documents d on d.id = c.document_id where d.number = :number order by k.at desc limit 1`,
      { number },
    )
  )?.sha256 ?? '';

let number = '';
let say = 0;
/** Words that no other test files. */
const fresh = (words = 'words') => `${words} ${++say}`;
beforeEach(async () => {
  ({ number } = await organisation.register('author', { text: fresh('first') }));
});
const save = async (text: string, over?: string | null) => {
  const author = await organisation.as('author');
  const seen = over === undefined ? (await workingText(organisation.app, author, number)).savedAt : over;
  return (await saveWorkingText(organisation.app, author, number, { text, over: seen })).savedAt;
};
const take = async () => organisation.checkOut('author', number);

test('of texts saved in the browser only the last is kept, and its text is indexed once it is filed', async () => {
  await take();
  const kept: string[] = [];
  for (let i = 0; i < 5; i++) {
    await save(fresh('typing'));
    kept.push(await draftOf(number));
  }
  expect(new Set(kept).size).toBe(5);
  for (const hash of kept.slice(0, -1)) {
    await expect.poll(() => isThere(hash)).toBe(false);
    expect(await stateOf(hash)).toBeUndefined();
  }
  const last = kept.at(-1) ?? '';
  expect(await stateOf(last)).toBe('unread');
  await extractText(organisation.app, last);
  expect(await stateOf(last)).toBe('unread');
  await organisation.checkIn('author', number, { uploadId: null, note: 'Typed' });
  expect(await stateOf(last)).toBe('waiting');
  await extractText(organisation.app, last);
  expect(await findText(organisation.app, last)).toContain('typing');
});

test('two windows on one text: the second is warned, and what the first saved stays until it is accepted or overwritten', async () => {
  await take();
  const first = await save(fresh('one window'), null);
  organisation.clock.now = new Date(organisation.clock.now.getTime() + 1500);
  expect(await codeOf(save(fresh('other window'), null))).toBe('saved_elsewhere');
  expect((await workingText(organisation.app, await organisation.as('author'), number)).text).toContain('one window');
  const second = await save(fresh('one window, more'), first);
  expect(await codeOf(save(fresh('overdue'), first))).toBe('saved_elsewhere');
  await save(fresh('kept over it'), second);
  expect((await workingText(organisation.app, await organisation.as('author'), number)).text).toContain('kept over it');
});

test('of two windows that save at the same moment one is warned', async () => {
  await take();
  const base = await save(fresh('base'), null);
  organisation.clock.now = new Date(organisation.clock.now.getTime() + 1500);
  const codes = await Promise.all([1, 2, 3, 4].map(() => codeOf(save(fresh('at once'), base))));
  expect(codes.filter((code) => code === 'saved_elsewhere')).toHaveLength(3);
});

test('a draft whose bytes are filed elsewhere stays when it is saved anew', async () => {
  const words = fresh('filed');
  const filed = await organisation.register('author', { text: words });
  const [version] = (await organisation.page('author', filed.number)).versions;
  await take();
  await save(words);
  const shared = await draftOf(number);
  expect(version?.files[0]?.sha256).toBe(shared);
  await save(fresh());
  await settled();
  expect(await isThere(shared)).toBe(true);
  expect(await stateOf(shared)).not.toBe('gone');
});

test('the night takes what nobody used, and drafts of check-outs that ended a week ago', async () => {
  const unused = await send(fresh('never filed'));
  await take();
  await save(fresh('discarded'));
  const draft = await draftOf(number);
  await discardCheckout(organisation.app, await organisation.as('author'), number, { seen: '*' });
  await tidyContents(organisation.app);
  expect([await isThere(unused.sha256), await isThere(draft)]).toEqual([true, true]);
  later(25);
  await tidyContents(organisation.app);
  expect([await isThere(unused.sha256), await isThere(draft)]).toEqual([false, true]);
  later(7 * 24);
  await tidyContents(organisation.app);
  expect(await isThere(draft)).toBe(false);
  // What is filed outlasts every night.
  const [version] = (await organisation.page('author', number)).versions;
  expect(await isThere(version?.files[0]?.sha256 ?? '')).toBe(true);
});

test('an open check-out keeps its draft however long it lasts', async () => {
  await take();
  await save(fresh('long work'));
  const draft = await draftOf(number);
  later(60 * 24);
  await tidyContents(organisation.app);
  expect(await isThere(draft)).toBe(true);
  await organisation.checkIn('author', number, { uploadId: null, note: 'At last' });
  expect((await organisation.page('author', number)).versions[0]?.files[0]?.sha256).toBe(draft);
});

test('bytes of a removed version that are sent again are there again, with their text', async () => {
  const words = fresh('removed and sent again');
  const first = await send(words);
  await take();
  await organisation.checkIn('author', number, { uploadId: first.id, note: 'Second' });
  await extractText(organisation.app, first.sha256);
  await take();
  await organisation.checkIn('author', number, { uploadId: (await send(fresh())).id, note: 'Third' });
  later(25);
  const [, second] = (await organisation.page('author', number)).versions;
  await removeVersion(organisation.app, await organisation.as('owner'), number, second?.id ?? '', 'By mistake');
  await expect.poll(() => isThere(first.sha256)).toBe(false);
  expect(await stateOf(first.sha256)).toBe('gone');
  expect(await findText(organisation.app, first.sha256)).toBeUndefined();
  await send(words);
  expect([await isThere(first.sha256), await stateOf(first.sha256)]).toEqual([true, 'waiting']);
  await extractText(organisation.app, first.sha256);
  expect(await findText(organisation.app, first.sha256)).toContain('removed and sent again');
});

test('bytes sent while the same ones are let go are never lost', async () => {
  for (let round = 0; round < 12; round++) {
    const words = fresh('at once');
    const { sha256 } = await send(words);
    later(25);
    await Promise.all([
      deleteUnreferencedContent(organisation.app, [sha256]),
      send(words),
      deleteUnreferencedContent(organisation.app, [sha256]),
      send(words),
    ]);
    expect(await isThere(sha256), `round ${round}`).toBe(true);
    expect(await stateOf(sha256)).toBe('waiting');
  }
});

test('bytes that a server set aside and did not delete are restored by the nightly check', async () => {
  const [version] = (await organisation.page('author', number)).versions;
  const sha256 = version?.files[0]?.sha256 ?? '';
  await organisation.app.content.leave(sha256);
  expect(await isThere(sha256)).toBe(false);
  await tidyContents(organisation.app);
  expect(await isThere(sha256)).toBe(true);
  // What is rightly aside goes with the sweep.
  const unused = await send(fresh());
  later(25);
  await tidyContents(organisation.app);
  expect(await organisation.app.content.leaving()).toContain(unused.sha256);
  await organisation.app.content.sweep(-1);
  expect(await organisation.app.content.leaving()).toEqual([]);
});
