import { Readable } from 'node:stream';
import { unzipSync } from 'fflate';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { checkIn, checkOut } from '../features/authoring/service.ts';
import { comparedPair, comparedSide, comparedSides, compareWaiting } from '../features/comparison/service.ts';
import { extractText } from '../features/content/text.ts';
import { takeUpload } from '../features/content/uploads.ts';
import { rows } from '../platform/db/connect.ts';
import { codeOf, openOrganisation, type TestOrganisation } from './organisation.ts';

let organisation: TestOrganisation;
let number: string;

const extractAll = async () => {
  const waiting = await rows<{ sha256: string }>(
    organisation.app.db,
    `select sha256 from contents where text_state = 'waiting'`,
  );
  for (const { sha256 } of waiting) await extractText(organisation.app, sha256);
};
const version = async (text: string, metadata: Record<string, string> = {}, note = 'changed') => {
  const author = await organisation.as('author');
  const { id } = await takeUpload(organisation.app, author, 'text.md', Readable.from([Buffer.from(text)]));
  await checkOut(organisation.app, author, number, { seen: '*', note: '', expectedBack: null });
  await checkIn(organisation.app, author, number, { seen: '*', uploadId: id, note, metadata });
};
const sides = async (person: string) => comparedSides(organisation.app, await organisation.as(person), number);
const side = async (person: string, id: string | undefined) =>
  comparedSide(organisation.app, await organisation.as(person), id ?? '', undefined);

const ONE = 'The grip is opened and cleaned.\n\nThe limit is 12 kN.\n';
beforeAll(async () => {
  organisation = await openOrganisation();
  ({ number } = await organisation.register('author', { text: ONE }));
  await organisation.toInForce(number);
  await organisation.revise('author', number, { reason: 'Trial' });
  await version(ONE.replace('12', '13'), { limit: '13 kN' });
  await version(`${ONE.replace('12', '13')}\nBoth fitters sign.\n`);
});
afterAll(() => organisation.close());

test('the newest version is compared with the one in force by default', async () => {
  const found = await sides('author');
  expect(found.sides.map((one) => [one.label, one.n, one.state])).toEqual([
    ['B', 3, 'draft'],
    ['B', 2, 'draft'],
    ['B', 1, 'draft'],
    ['A', 1, 'in force'],
  ]);
  expect(found.usual).toEqual({ old: found.sides[3]?.versionId, new: found.sides[0]?.versionId });
});

test('without *read work* one sees the released versions, and not that there are others', async () => {
  const found = await sides('reader');
  expect(found.sides.map((one) => [one.label, one.n])).toEqual([['A', 1]]);
  expect(found.usual).toBeNull();
  const [newest, , , released] = (await sides('author')).sides;
  expect(await codeOf(side('reader', newest?.versionId))).toBe('not_found');
  expect((await side('reader', released?.versionId)).label).toBe('A');
  expect(await codeOf(side('reader', '00000000-0000-7000-8000-000000000001'))).toBe('not_found');
});

test('a side gives its text once extracted, and its revision fields; the view is recorded', async () => {
  const [newest] = (await sides('author')).sides;
  expect(await side('author', newest?.versionId)).toMatchObject({ textState: 'waiting', text: '' });
  await extractAll();
  expect(await side('author', newest?.versionId)).toMatchObject({
    textState: 'done',
    // As its blocks give it: the last one ends the text.
    text: `${ONE.replace('12', '13')}\nBoth fitters sign.`,
    metadata: [
      { label: 'Title', value: 'A procedure' },
      { label: 'Limit', value: '13 kN' },
    ],
    document: { number },
  });
  const [opened] = await rows<{ n: number }>(
    organisation.app.db,
    `select count(*)::int as n from usage u join people p on p.id = u.person_id where p.sign_in_name = 'author' and u.version = 3 and u.action = 'opened'`,
  );
  expect(opened?.n).toBe(1);
});

test('each version gets a one-line summary of its changes, once both texts are there', async () => {
  await extractAll();
  await compareWaiting(organisation.app);
  const page = await organisation.page('author', number);
  expect(page.versions.map((one) => [one.n, one.change])).toEqual([
    [3, { inserted: 3, deleted: 0, moved: 0, places: 1, metadata: 0 }],
    [2, { inserted: 1, deleted: 1, moved: 0, places: 1, metadata: 1 }],
    // The revision begins with the very bytes of the one before it.
    [1, { inserted: 0, deleted: 0, moved: 0, places: 0, metadata: 0 }],
  ]);
  expect(await compareWaiting(organisation.app)).toBe(0);
});

test('a pair without text on one side has no summary, and is not tried again', async () => {
  const picture = Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAQAAAC1HAwCAAAAC0lEQVR42mNk+A8AAQUBAScY42YAAAAASUVORK5CYII=',
    'base64',
  );
  const author = await organisation.as('author');
  const { id } = await takeUpload(organisation.app, author, 'plan.png', Readable.from([picture]));
  await checkOut(organisation.app, author, number, { seen: '*', note: '', expectedBack: null });
  await checkIn(organisation.app, author, number, { seen: '*', uploadId: id, note: 'now a picture' });
  await extractAll();
  expect(await compareWaiting(organisation.app)).toBe(1);
  expect((await organisation.page('author', number)).versions[0]).toMatchObject({ n: 4, change: null });
  expect(await side('author', (await sides('author')).sides[0]?.versionId)).toMatchObject({ textState: 'none' });
});

test('two versions are handed out as a pair, to people who may read both', async () => {
  const { sides: all } = await sides('author');
  const pair = { old: all.at(-1)?.versionId ?? '', new: all[0]?.versionId ?? '' };
  const { bytes, name } = await comparedPair(organisation.app, await organisation.as('author'), pair);
  expect(name).toBe(`${number}-pair.zip`);
  const files = Object.entries(unzipSync(bytes));
  expect(files.map(([file]) => file.slice(0, 4))).toEqual(['old_', 'new_']);
  expect(Buffer.from(files[0]?.[1] ?? []).toString()).toBe(ONE);
  expect(await codeOf(comparedPair(organisation.app, await organisation.as('reader'), pair))).toBe('not_found');
});
