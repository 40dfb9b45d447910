import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { rebaseDraft } from './rebaseDraft.ts';

const RULE = {
  name: 'Procedure',
  help: '',
  fields: [
    { key: 'limit', label: 'Limit', mandatory: false },
    { key: 'site', label: 'Site', mandatory: true },
  ],
  units: ['ops', 'safety'],
  reading: { workingDays: 10, everyone: false },
  route: { steps: [{ name: 'Review' }, { name: 'Approve' }] },
};

describe('changes brought onto what somebody else saved meanwhile', () => {
  test('different places: both are kept, in either direction', () => {
    const mine = { ...RULE, name: 'Work procedure', reading: { workingDays: 5, everyone: false } };
    const theirs = { ...RULE, help: 'How work is done', reading: { workingDays: 10, everyone: true } };
    const wanted = {
      ...RULE,
      name: 'Work procedure',
      help: 'How work is done',
      reading: { workingDays: 5, everyone: true },
    };
    expect(rebaseDraft(RULE, mine, theirs)).toEqual({ value: wanted, both: [] });
    expect(rebaseDraft(RULE, theirs, mine)).toEqual({ value: wanted, both: [] });
  });

  test('the same place: mine is kept, and the place is named', () => {
    const mine = {
      ...RULE,
      name: 'Work procedure',
      fields: [{ ...RULE.fields[0], label: 'Upper limit' }, RULE.fields[1]],
    };
    const theirs = { ...RULE, name: 'Rule', fields: [{ ...RULE.fields[0], label: 'Most' }, RULE.fields[1]] };
    const { value, both } = rebaseDraft<object>(RULE, mine, theirs);
    expect(value).toEqual(mine);
    expect(both).toEqual(['name', 'fields.limit.label']);
  });

  test('the same change by both is no clash', () => {
    const changed = { ...RULE, name: 'Work procedure' };
    expect(rebaseDraft(RULE, changed, { ...changed, help: 'x' })).toEqual({
      value: { ...changed, help: 'x' },
      both: [],
    });
  });

  test('fields added by either side are there, removed ones are not', () => {
    const [limit, site] = RULE.fields;
    const [load, speed] = ['load', 'speed'].map((key) => ({ key, label: key, mandatory: false }));
    const mine = { ...RULE, fields: [limit, load] };
    const theirs = { ...RULE, fields: [speed, limit, site] };
    const { value, both } = rebaseDraft<{ fields: unknown[] }>(RULE, mine, theirs);
    expect(value.fields).toEqual([speed, limit, load]);
    expect(both).toEqual([]);
  });

  test('a field that one took out and the other changed is named', () => {
    const mine = { ...RULE, fields: [RULE.fields[1]] };
    const theirs = { ...RULE, fields: [{ ...RULE.fields[0], mandatory: true }, RULE.fields[1]] };
    const { value, both } = rebaseDraft<{ fields: unknown[] }>(RULE, mine, theirs);
    expect(value.fields).toEqual([RULE.fields[1]]);
    expect(both).toEqual(['fields.limit']);
  });

  test('an order that I changed is kept, also one that only the other changed', () => {
    const turned = { ...RULE, fields: [...RULE.fields].reverse() };
    expect(rebaseDraft(RULE, turned, { ...RULE, help: 'x' }).value.fields).toEqual(turned.fields);
    expect(rebaseDraft(RULE, { ...RULE, help: 'x' }, turned).value.fields).toEqual(turned.fields);
  });

  test('words are brought as a set; steps, which have no key, as one value', () => {
    const mine = { ...RULE, units: ['ops', 'safety', 'rescue'], route: { steps: [{ name: 'Approve' }] } };
    const theirs = { ...RULE, units: ['ops', 'line'], route: { steps: [{ name: 'Check' }, { name: 'Approve' }] } };
    const { value, both } = rebaseDraft<typeof RULE>(RULE, mine, theirs);
    expect(value.units).toEqual(['ops', 'line', 'rescue']);
    expect(value.route).toEqual(mine.route);
    expect(both).toEqual(['route.steps']);
  });

  const anything = fc.dictionary(
    fc.constantFrom('a', 'b', 'c'),
    fc.oneof(
      fc.integer({ min: 0, max: 3 }),
      fc.uniqueArray(fc.constantFrom('x', 'y', 'z')),
      fc.dictionary(fc.constantFrom('d', 'e'), fc.integer({ min: 0, max: 2 })),
    ),
  );

  test('a side without changes gets the other side; applying twice changes nothing', () => {
    fc.assert(
      fc.property(anything, anything, anything, (base, mine, theirs) => {
        expect(rebaseDraft(base, base, theirs)).toEqual({ value: theirs, both: [] });
        expect(rebaseDraft(base, mine, base)).toEqual({ value: mine, both: [] });
        expect(rebaseDraft(base, mine, mine)).toEqual({ value: mine, both: [] });
        const { value } = rebaseDraft(base, mine, theirs);
        expect(rebaseDraft(theirs, value, theirs)).toEqual({ value, both: [] });
      }),
    );
  });

  test('without a clash it does not matter who was first, but for the order of lists', () => {
    const sorted = (value: unknown): unknown =>
      Array.isArray(value)
        ? [...value].sort()
        : typeof value === 'object' && value !== null
          ? Object.fromEntries(Object.entries(value).map(([key, part]) => [key, sorted(part)]))
          : value;
    fc.assert(
      fc.property(anything, anything, anything, (base, mine, theirs) => {
        const one = rebaseDraft(base, mine, theirs);
        const other = rebaseDraft(base, theirs, mine);
        expect(other.both.sort()).toEqual(one.both.sort());
        if (one.both.length === 0) expect(sorted(other.value)).toEqual(sorted(one.value));
      }),
    );
  });
});
