import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  type AccessEntry,
  type AccessPlace,
  expandRights,
  explainRights,
  hasRight,
  isWithheldIn,
  RIGHTS,
  type Right,
  rightsWithin,
  type Subject,
  withRight,
} from './rights.ts';

const yuki = { personId: 'yuki', unitIds: new Set(['operations']), isOutside: false };
const rafael = { personId: 'rafael', unitIds: new Set(['operations']), isOutside: false };
const plain = { isOwner: false, assignedInStep: false, assigneeMayCheckIn: false, assignedToRead: false };
const grant = (id: string, kind: 'person' | 'unit', ...rights: Right[]): AccessEntry => ({
  subject: { kind, id },
  rights,
  withheld: false,
});
const withhold = (id: string): AccessEntry => ({ subject: { kind: 'person', id }, rights: [], withheld: true });
const folder: AccessPlace = { name: 'Operations', entries: [grant('operations', 'unit', 'read')] };
const rights = (person: typeof yuki, places: AccessPlace[], metadata = plain) =>
  explainRights(person, places, metadata).rights;

test('a right includes those of its row', () => {
  expect([...rightsWithin('author')].sort()).toEqual(
    ['author', 'comment', 'download', 'print', 'read', 'read past', 'read work', 'see'].sort(),
  );
  expect(rightsWithin('manage').has('author')).toBe(true);
  expect(rightsWithin('manage').has('release')).toBe(false);
  expect(rightsWithin('release').has('read work')).toBe(true);
});

test('a granted right brings those it includes; a removed one leaves what others grant', () => {
  expect(withRight(['see', 'read'], 'author', true)).toEqual(['author']);
  expect(withRight(['manage'], 'manage', false)).toEqual(['author']);
  expect(withRight(['author', 'release'], 'comment', false)).toEqual(['download', 'print', 'release']);
  expect(withRight(['read'], 'see', false)).toEqual([]);
  fc.assert(
    fc.property(fc.subarray([...RIGHTS]), fc.constantFrom(...RIGHTS), fc.boolean(), (given, right, on) => {
      const after = withRight(given, right, on);
      expect(expandRights(after).has(right)).toBe(on);
      for (const one of expandRights(given)) if (on) expect(expandRights(after).has(one)).toBe(true);
    }),
  );
});

test("a document's own entry lets one of a department author, the others read", () => {
  const document: AccessPlace = { name: 'document', entries: [grant('yuki', 'person', 'author')] };
  expect(rights(yuki, [document, folder]).has('author')).toBe(true);
  expect(rights(rafael, [document, folder]).has('read')).toBe(true);
  expect(rights(rafael, [document, folder]).has('author')).toBe(false);
});

describe('withheld from a person', () => {
  const document: AccessPlace = { name: 'document', entries: [withhold('yuki')] };
  test('beats every grant to others, ownership and being asked', () => {
    expect(rights(yuki, [document, folder], { ...plain, isOwner: true, assignedInStep: true }).size).toBe(0);
    expect(rights(rafael, [document, folder]).has('read')).toBe(true);
  });
});

test('the nearest folder with an entry for a subject replaces the outer one', () => {
  const outer: AccessPlace = { name: 'outer', entries: [grant('operations', 'unit', 'manage')] };
  expect(rights(yuki, [folder, outer]).has('author')).toBe(false);
});

test('nothing granted, nothing seen; the outside party is not of the organisation', () => {
  const everyone: AccessPlace = {
    name: 'folder',
    entries: [{ subject: { kind: 'all' }, rights: ['read'], withheld: false }],
  };
  expect(rights({ ...yuki, unitIds: new Set() }, [folder]).size).toBe(0);
  expect(rights(yuki, [everyone]).has('read')).toBe(true);
  expect(rights({ ...yuki, isOutside: true, unitIds: new Set() }, [everyone]).size).toBe(0);
});

test('the owner manages, who is asked in a step reads work and comments, who is asked to read reads', () => {
  expect(rights(yuki, [], { ...plain, isOwner: true }).has('manage')).toBe(true);
  const assigned = rights(yuki, [], { ...plain, assignedInStep: true });
  expect([assigned.has('read work'), assigned.has('comment'), assigned.has('author')]).toEqual([true, true, false]);
  expect([...rights(yuki, [], { ...plain, assignedToRead: true })].sort()).toEqual(['read', 'see']);
});

test('the reasons name place and subject of each entry that counted', () => {
  const { reasons } = explainRights(yuki, [{ name: 'document', entries: [] }, folder], plain);
  expect(reasons).toEqual([{ place: 'Operations', subject: 'unit:operations', rights: ['read'], withheld: false }]);
});

test('expanding rights twice adds nothing, and more grants never take a right away', () => {
  const some = fc.subarray([...RIGHTS]);
  fc.assert(
    fc.property(some, some, (a, b) => {
      const once = expandRights(a);
      const twice = expandRights(once);
      const more = expandRights([...a, ...b]);
      return twice.size === once.size && [...once].every((right) => more.has(right) && hasRight(new Set(a), right));
    }),
  );
});

describe('withheld by name', () => {
  const entry = fc.record({
    subject: fc.constantFrom<Subject>({ kind: 'person', id: 'me' }, { kind: 'person', id: 'other' }, { kind: 'all' }),
    rights: fc.constant<Right[]>(['read']),
    withheld: fc.boolean(),
  });
  const place = fc.record({
    name: fc.constant('folder'),
    entries: fc.uniqueArray(entry, { maxLength: 3, selector: (one) => JSON.stringify(one.subject) }),
  });

  test('is what leaves even the owner without any right', () => {
    fc.assert(
      fc.property(fc.array(place, { minLength: 1, maxLength: 4 }), (places) => {
        const owner = { isOwner: true, assignedInStep: true, assigneeMayCheckIn: false, assignedToRead: true };
        const { rights } = explainRights({ personId: 'me', unitIds: new Set(), isOutside: false }, places, owner);
        expect(isWithheldIn('me', places)).toBe(rights.size === 0);
      }),
    );
  });
});
