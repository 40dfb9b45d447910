import { expect, test } from 'vitest';
import { arrangeDesk, desk } from '../features/desk/service.ts';
import { orderFavourites, setFavourite } from '../features/favourites/service.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();
const deskOf = async (name: string) => desk(organisation.app, await organisation.as(name));
const keep = async (name: string, ref: string, favourite = true) =>
  setFavourite(organisation.app, await organisation.as(name), ref, { favourite });
const keptBy = async (name: string) => (await deskOf(name)).favourites.map(({ number, label }) => `${number} ${label}`);

test('a document is kept at hand by each for themselves, in an order of their own, until it is let go', async () => {
  const [one, two, three] = await Promise.all(
    ['One', 'Two', 'Three'].map((title) => organisation.register('author', { title })),
  );
  for (const { number } of [one, two, three] as { number: string }[]) await keep('author', number);
  await keep('author', two?.number ?? '');
  const labelled = (...all: ({ number: string } | undefined)[]) => all.map((document) => `${document?.number} A`);
  expect(await keptBy('author')).toEqual(labelled(one, two, three));
  expect(await keptBy('controller')).toEqual([]);
  const ids = [three?.id ?? '', one?.id ?? ''];
  await orderFavourites(organisation.app, await organisation.as('author'), { documentIds: ids });
  expect(await keptBy('author')).toEqual(labelled(three, one, two));
  expect((await organisation.page('author', one?.number ?? '')).favourite).toBe(true);
  expect((await organisation.page('controller', one?.number ?? '')).favourite).toBe(false);
  await keep('author', one?.number ?? '', false);
  expect(await keptBy('author')).toEqual(labelled(three, two));
});

test('what one may not see cannot be kept, and is no longer shown when one may see it no more', async () => {
  const { number } = await organisation.register('author', { title: 'A draft' });
  expect(await codeOf(keep('reader', number))).toBe('not_found');
  await organisation.toInForce(number);
  await keep('reader', number);
  expect(await keptBy('reader')).toEqual([`${number} A`]);
  // The next revision in work is not for readers: they keep what is in force.
  await organisation.revise('author', number);
  expect(await keptBy('reader')).toEqual([`${number} A`]);
  await organisation.app.db.raw('update documents set removed_at = now() where number = ?', [number]);
  expect(await keptBy('reader')).toEqual([]);
});

test('the cards are in the order of the person; one that is not named follows, what needs attention stays', async () => {
  const before = await deskOf('reader2');
  expect(before.cards.slice(0, 2)).toEqual(['stuck', 'decide']);
  await arrangeDesk(organisation.app, await organisation.as('reader2'), {
    cards: ['read', 'recently opened', 'read'],
    hidden: ['waiting', 'attention'],
  });
  const after = await deskOf('reader2');
  expect(after.cards.slice(0, 3)).toEqual(['read', 'recently opened', 'stuck']);
  expect(new Set(after.cards)).toEqual(new Set(before.cards));
  expect(after.cards).toHaveLength(before.cards.length);
  expect(after.hiddenCards).toEqual(['waiting']);
  expect((await deskOf('reader')).hiddenCards).toEqual([]);
});
