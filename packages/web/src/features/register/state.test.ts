import { describe, expect, test } from 'vitest';
import { readFilter, toggled } from './state.ts';

describe('the address of the register', () => {
  test('says what is shown; what it leaves out is the default', () => {
    expect(
      readFilter(
        new URLSearchParams('revisionScope=newest&state=draft~in+review&q=grip&folder=f&reach=here'),
        'in force',
      ),
    ).toEqual({
      revisionScope: 'newest',
      q: 'grip',
      state: 'draft~in review',
      area: undefined,
      type: undefined,
      department: undefined,
      review: undefined,
      folder: 'f',
      reach: 'here',
      on: undefined,
    });
    expect(readFilter(new URLSearchParams(), 'in force')).toMatchObject({
      revisionScope: 'in force',
      q: '',
      reach: 'below',
    });
  });
});

describe('clicking a value of a facet', () => {
  test('adds it, and clicking it again takes it away', () => {
    expect(toggled('state', [], 'draft')).toEqual(['draft']);
    expect(toggled('state', ['draft'], 'in force')).toEqual(['draft', 'in force']);
    expect(toggled('state', ['draft', 'in force'], 'draft')).toEqual(['in force']);
  });

  test('of the review bounds replaces the one before, for one holds the other', () => {
    expect(toggled('review', ['30'], '90')).toEqual(['90']);
    expect(toggled('review', ['30'], '30')).toEqual([]);
  });
});
