import { afterAll, beforeAll, expect, test } from 'vitest';
import { citationsOf, citeWaiting } from '../features/citations/service.ts';
import { extractText } from '../features/content/text.ts';
import { withdraw } from '../features/release/withdraw.ts';
import { rows } from '../platform/db/connect.ts';
import { codeOf, openOrganisation, type TestOrganisation } from './organisation.ts';

let organisation: TestOrganisation;
/** A is cited by B, B by C, C by A again; D is work that only authors see and cites A; E cites what is not there. */
let numbers: { a: string; b: string; c: string; d: string; e: string };

const readAll = async () => {
  const waiting = await rows<{ sha256: string }>(
    organisation.app.db,
    `select sha256 from contents where text_state = 'waiting'`,
  );
  for (const { sha256 } of waiting) await extractText(organisation.app, sha256);
  while ((await citeWaiting(organisation.app)) > 0);
};
const of = async (person: string, number: string) =>
  citationsOf(organisation.app, await organisation.as(person), number);
const cites = async (person: string, number: string) =>
  (await of(person, number)).cites.map((one) => [one.number, one.label, one.kind, one.times]);

beforeAll(async () => {
  organisation = await openOrganisation();
  const register = (text: string, title: string) => organisation.register('author', { text, title });
  const a = await register('See TST-PRO-0003.', 'A');
  const b = await register(`As ${a.number}, rev. A, says; and ${a.number} rev A again. Also ${a.number} rev. B.`, 'B');
  const c = await register(`Follows ${b.number}.`, 'C');
  expect(c.number).toBe('TST-PRO-0003');
  for (const { number } of [a, b, c]) await organisation.toInForce(number);
  const d = await register(`Will change ${a.number}.`, 'D');
  const e = await register('See TST-PRO-0999 and TST-PRO-0005.', 'E');
  numbers = { a: a.number, b: b.number, c: c.number, d: d.number, e: e.number };
  await readAll();
});
afterAll(() => organisation.close());

test('what a text cites is judged for today, each label for itself, with how often', async () => {
  expect(await cites('author', numbers.b)).toEqual([
    [numbers.a, 'A', 'current', 2],
    [numbers.a, 'B', 'no such revision', 1],
  ]);
  expect(await cites('author', numbers.e)).toEqual([
    [numbers.e, null, 'self', 1],
    ['TST-PRO-0999', null, 'unknown number', 1],
  ]);
  const [first] = (await of('author', numbers.b)).cites;
  expect(first).toMatchObject({
    document: { title: 'A' },
    excerpt: expect.stringContaining('As TST-PRO-0001, rev. A, says'),
  });
});

test('what cites a document, and what a change reaches over others, circles and all', async () => {
  const seen = await of('author', numbers.a);
  expect(seen.citedBy.map((one) => [one.number, one.citedLabel, one.kind]).sort()).toEqual([
    [numbers.b, 'A', 'current'],
    [numbers.b, 'B', 'no such revision'],
    [numbers.d, null, 'current'],
  ]);
  expect(seen.reached.filter((one) => one.distance > 1).map((one) => [one.number, one.distance, one.path])).toEqual([
    [numbers.c, 2, [numbers.c, numbers.b, numbers.a]],
  ]);
  expect([seen.complete, seen.capped]).toEqual([true, false]);
});

test('invisible work is left out of names and counts; a hidden document answers like a missing one', async () => {
  expect((await of('reader', numbers.a)).citedBy.map((one) => one.number)).toEqual([numbers.b, numbers.b]);
  expect(await codeOf(of('reader', numbers.d))).toBe('not_found');
  expect(await codeOf(of('stranger', 'TST-PRO-7777'))).toBe('not_found');
  // B hidden from everyone: to who reads A nothing cites it, and C, which cites B, cites a number that nobody has.
  await rows(organisation.app.db, 'update documents set folder_id = :folder where number = :number', {
    folder: organisation.folders.get('closed'),
    number: numbers.b,
  });
  expect((await of('reader', numbers.a)).citedBy).toEqual([]);
  expect(await cites('reader', numbers.c)).toEqual([[numbers.b, null, 'unknown number', 1]]);
  await rows(organisation.app.db, 'update documents set folder_id = :folder where number = :number', {
    folder: organisation.folders.get('1'),
    number: numbers.b,
  });
});

test('a citation follows the life of what it names: ahead of a draft, outdated by its release, withdrawn with it', async () => {
  await organisation.revise('author', numbers.a);
  const labels = async () => (await cites('author', numbers.b)).map(([, label, kind]) => [label, kind]);
  expect(await labels()).toEqual([
    ['A', 'current'],
    ['B', 'ahead'],
  ]);
  // Who may not read work does not learn that there is a revision B.
  expect((await cites('reader', numbers.b)).map(([, label, kind]) => [label, kind])).toEqual([
    ['A', 'current'],
    ['B', 'no such revision'],
  ]);
  await organisation.toInForce(numbers.a);
  expect(await labels()).toEqual([
    ['A', 'outdated'],
    ['B', 'current'],
  ]);
  await withdraw(organisation.app, await organisation.as('controller'), numbers.a, {
    seen: '*',
    reason: 'no longer done',
    on: null,
  });
  expect((await labels()).map(([, kind]) => kind)).toEqual(['withdrawn', 'withdrawn']);
});

test('a text that was not searched for citations yet is reported', async () => {
  const { number } = await organisation.register('author', { text: `New: ${numbers.c}`, title: 'Fresh' });
  expect(await of('author', number)).toMatchObject({ complete: false, cites: [] });
  await readAll();
  expect(await of('author', number)).toMatchObject({ complete: true, cites: [{ number: numbers.c, kind: 'current' }] });
});

test('a long list is looked through in a moment, and its last line too', async () => {
  const lines = Array.from(
    { length: 60_000 },
    (_, i) => `XYZ-PRO-${String(i).padStart(5, '0')}; nothing of this organisation`,
  );
  const { number } = await organisation.register('author', {
    title: 'Long',
    text: `${lines.join('\n')}\n${numbers.c}`,
  });
  const began = performance.now();
  await readAll();
  expect(performance.now() - began).toBeLessThan(20_000);
  expect((await of('author', number)).cites.map((one) => one.number)).toEqual([numbers.c]);
});
