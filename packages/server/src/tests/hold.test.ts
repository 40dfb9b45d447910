import { describe, expect, test } from 'vitest';
import { desk } from '../features/desk/service.ts';
import { setFavourite } from '../features/favourites/service.ts';
import { registerPage } from '../features/find/service.ts';
import { addLink, linksOf } from '../features/links/service.ts';
import { myReadings } from '../features/reading/service.ts';
import { liftHold, putOnHold } from '../features/release/hold.ts';
import { rows } from '../platform/db/connect.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();

const inForce = async () => {
  const { id, number } = await organisation.register('author');
  await organisation.requireReading(id, ['author2']);
  await organisation.toInForce(number);
  return { id, number };
};
const hold = async (as: string, number: string, seen = '*') =>
  putOnHold(organisation.app, await organisation.as(as), number, {
    seen,
    reason: 'Table 2 has a wrong limit',
    wayOut: 'Ask the technical authority',
  });
const lift = async (number: string) =>
  liftHold(organisation.app, await organisation.as('controller'), number, { seen: '*', reason: 'Checked again' });
const mailsAbout = async (number: string) =>
  (
    await rows<{ name: string; subject: string }>(
      organisation.app.db,
      `select p.name, m.subject from mails m join people p on p.id = m.person_id where m.subject like :like order by p.name`,
      { like: `${number} A is on hold%` },
    )
  ).map(({ name }) => name);

describe('a document on hold', () => {
  test('stays in force, and says so on its page, in the register, in searches and to its readers', async () => {
    const { number } = await inForce();
    await hold('controller', number);
    const page = await organisation.page('author', number);
    expect(page.revision).toMatchObject({ state: 'in force', mark: 'on hold' });
    expect(page.hold).toMatchObject({
      reason: 'Table 2 has a wrong limit',
      wayOut: 'Ask the technical authority',
      by: 'Controller',
    });
    const author = await organisation.as('author');
    const found = await registerPage(organisation.app, author, {
      revisionScope: 'in force',
      reach: 'everywhere',
      sort: 'number',
      order: 'asc',
      limit: 20,
      q: `state:"on hold" number:${number}`,
    });
    expect(found.rows).toMatchObject([{ number, mark: 'on hold', where: 'On hold: do not use' }]);
    const reader = await organisation.as('author2');
    expect((await myReadings(organisation.app, reader)).rows.find((row) => row.number === number)?.mark).toBe(
      'on hold',
    );
    expect(await mailsAbout(number)).toEqual(['Author2', 'Owner']);
  });

  test('is named on the Desk, among favourites, and where another document is linked to it', async () => {
    const { number } = await inForce();
    const other = await organisation.register('author');
    const author = await organisation.as('author');
    await setFavourite(organisation.app, author, number, { favourite: true });
    await addLink(organisation.app, author, other.number, {
      kind: 'refers to',
      goal: { to: 'document', number, pinned: false },
      note: '',
    });
    const shown = async () => {
      const seen = await desk(organisation.app, author);
      return [
        seen.favourites.find((row) => row.number === number)?.onHold,
        seen.newlyInForce.find((row) => row.number === number)?.onHold,
        (await linksOf(organisation.app, author, other.number)).from[0]?.document?.onHold,
      ];
    };
    expect(await shown()).toEqual([false, false, false]);
    await hold('controller', number);
    expect(await shown()).toEqual([true, true, true]);
  });

  test('is lifted with a reason, and only once', async () => {
    const { number } = await inForce();
    expect(await codeOf(lift(number))).toBe('not_on_hold');
    await hold('controller', number);
    expect(await codeOf(hold('controller', number))).toBe('already_on_hold');
    await lift(number);
    expect((await organisation.page('author', number)).hold).toBeNull();
  });

  test('is put and lifted by whoever releases, by what they saw', async () => {
    const { number } = await inForce();
    expect(await codeOf(hold('author', number))).toBe('right_missing');
    const { stateTag } = await organisation.page('controller', number);
    await hold('controller', number, stateTag);
    expect(
      await codeOf(
        liftHold(organisation.app, await organisation.as('controller'), number, { seen: stateTag, reason: 'x' }),
      ),
    ).toBe('changed_meanwhile');
    const draft = await organisation.register('author');
    expect(await codeOf(hold('controller', draft.number))).toBe('nothing_in_force');
  });

  test('ends when the next revision comes into force', async () => {
    const { id, number } = await inForce();
    await hold('controller', number);
    await organisation.revise('author', number);
    expect((await organisation.page('author', number)).hold).not.toBeNull();
    await organisation.toInForce(number);
    const page = await organisation.page('author', number);
    expect(page).toMatchObject({ hold: null, revision: { label: 'B', mark: 'in force' } });
    const events = await rows<{ kind: string }>(
      organisation.app.db,
      `select kind from events where document_id = :id and kind like 'document.%hold%' order by seq`,
      { id },
    );
    expect(events.map(({ kind }) => kind)).toEqual(['document.put-on-hold', 'document.hold-lifted']);
  });
});
