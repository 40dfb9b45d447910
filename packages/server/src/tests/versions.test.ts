import { Readable } from 'node:stream';
import { expect, test } from 'vitest';
import { removeVersion } from '../features/authoring/removingVersions.ts';
import { checkIn, checkOut } from '../features/authoring/service.ts';
import { keepSupportingFile, supportingFile } from '../features/authoring/supportingFiles.ts';
import { takeUpload } from '../features/content/uploads.ts';
import { rows } from '../platform/db/connect.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();

const send = async (text: string) =>
  takeUpload(organisation.app, await organisation.as('author'), 'text.md', Readable.from([Buffer.from(text)]));
const next = async (number: string, text: string) => {
  const author = await organisation.as('author');
  await checkOut(organisation.app, author, number, { seen: '*', note: '', expectedBack: null });
  await checkIn(organisation.app, author, number, { seen: '*', uploadId: (await send(text)).id, note: text });
};
const versions = async (number: string) => (await organisation.page('author', number)).versions;
/** As a day later: what was just sent may still be filed by whoever sent it. */
const tomorrow = () => {
  organisation.clock.now = new Date(organisation.clock.now.getTime() + 25 * 3_600_000);
};
const remove = async (number: string, n: number, reason = 'Scanned by mistake') => {
  const version = (await versions(number)).find((one) => one.n === n);
  return removeVersion(
    organisation.app,
    await organisation.as('owner'),
    number,
    version?.id ?? crypto.randomUUID(),
    reason,
  );
};

test('an older version goes with its bytes, its hashes and the reason stay on record', async () => {
  const { number } = await organisation.register('author', { text: 'first words of this one' });
  await next(number, 'second words of this one');
  const [, first] = await versions(number);
  const file = first?.files[0];
  tomorrow();
  expect(await remove(number, 1)).toEqual({ freed: file?.size });
  await expect.poll(() => organisation.app.content.has(file?.sha256 ?? '')).toBe(false);
  const page = await organisation.page('author', number);
  expect(page.versions.map((version) => version.n)).toEqual([2]);
  expect(page.removedVersions).toMatchObject([{ n: 1, reason: 'Scanned by mistake', freed: file?.size }]);
  const [event] = await rows<{ text: string }>(
    organisation.app.db,
    `select text from events where kind = 'version.removed' order by seq desc limit 1`,
  );
  expect(event?.text).toContain(file?.sha256);
  expect(await codeOf(remove(number, 1))).toBe('not_found');
  // Numbers go on: a removed one is not given again.
  await next(number, 'third words of this one');
  expect((await versions(number)).map((version) => version.n)).toEqual([3, 2]);
  expect((await organisation.verdict()).kind).toBe('intact');
});

test('bytes that something else uses stay: another document, a supporting file, a fresh upload', async () => {
  const { number } = await organisation.register('author', { text: 'shared words' });
  await organisation.register('author', { text: 'shared words' });
  await next(number, 'aside words');
  await next(number, 'just sent words');
  await next(number, 'last words');
  const author = await organisation.as('author');
  await keepSupportingFile(organisation.app, author, number, {
    uploadId: (await send('aside words')).id,
    note: 'A calculation',
  });
  expect((await organisation.page('author', number)).supportingFiles).toMatchObject([
    { note: 'A calculation', name: 'text.md' },
  ]);
  tomorrow();
  await send('just sent words');
  for (const n of [1, 2, 3]) expect(await remove(number, n), String(n)).toEqual({ freed: 0 });
  const [aside] = (await organisation.page('author', number)).supportingFiles;
  expect(await organisation.app.content.has(aside?.sha256 ?? '')).toBe(true);
  expect((await supportingFile(organisation.app, author, aside?.id ?? '')).name).toBe('text.md');
  expect(await codeOf(supportingFile(organisation.app, await organisation.as('reader'), aside?.id ?? ''))).toBe(
    'not_found',
  );
});

test('the last version, a signed one, and without the right nothing is removed', async () => {
  const { number } = await organisation.register('author', { text: 'to be signed' });
  expect(await codeOf(remove(number, 1))).toBe('version_is_last');
  await organisation.submitAndReview(number);
  await organisation.decideAs('owner', number, 'approve');
  for (const name of ['authority', 'authority2'])
    await organisation.decideAs(name, number, 'reject', 'One more figure');
  await next(number, 'with the figure');
  expect(await codeOf(remove(number, 1))).toBe('version_signed');
  const [, first] = await versions(number);
  expect(
    await codeOf(removeVersion(organisation.app, await organisation.as('author'), number, first?.id ?? '', 'x')),
  ).toBe('right_missing');
});
