import { describe, expect, test } from 'vitest';
import {
  ago,
  count,
  fingerprint,
  initials,
  inWords,
  saidWords,
  showDay,
  showDayNarrow,
  showInstant,
  showInstantDay,
  showSize,
} from './format.ts';

const THIS_YEAR = new Date().getFullYear();

describe('days', () => {
  test('are written out, and nothing is a dash', () => {
    expect(showDay('2024-03-05')).toBe('5 Mar 2024');
    expect(showDay(null)).toBe('–');
    expect(showDay(undefined)).toBe('–');
  });

  test('in short leave out this year and give two digits of another', () => {
    expect(showDay(`${THIS_YEAR}-12-07`, true)).toBe('7 Dec');
    expect(showDay('2019-12-07', true)).toBe('7 Dec 19');
    expect(showDayNarrow('2019-12-07')).toBe('7 Dec 19');
    expect(showDayNarrow(null)).toBe('–');
  });

  test('of an instant are those of the organisation’s zone, whatever the browser’s', () => {
    expect(showInstantDay('2026-12-06T23:00:00Z', 'Europe/Zurich')).toBe('7 Dec 2026');
    expect(showInstantDay('2026-12-06T23:00:00Z', 'America/New_York')).toBe('6 Dec 2026');
    expect(showInstantDay(null, 'Europe/Zurich')).toBe('–');
    expect(showInstant('2026-12-03T09:42:00Z', 'Europe/Zurich')).toBe('3 Dec 2026, 10:42');
    expect(showInstant('2026-07-03T22:42:00Z', 'Europe/Zurich')).toBe('4 Jul 2026, 00:42');
  });
});

describe('amounts', () => {
  test('sizes in the unit that people use', () => {
    expect([0, 999, 1000, 999_499, 1_000_000, 200_000_000].map(showSize)).toEqual([
      '0 bytes',
      '999 bytes',
      '1 kB',
      '999 kB',
      '1.0 MB',
      '200.0 MB',
    ]);
  });

  test('counts with the right form of the word', () => {
    expect(count(1, 'reader')).toBe('1 reader');
    expect(count(0, 'reader')).toBe('0 readers');
    expect(count(12_345, 'person', 'people')).toBe('12,345 people');
    expect(inWords(0)).toBe('Nothing');
    expect(inWords(12)).toBe('Twelve');
    expect(inWords(13)).toBe('13');
  });

  test('how long ago in the words people use', () => {
    const before = (minutes: number) => ago(new Date(Date.now() - minutes * 60_000).toISOString());
    expect([0, 5, 61, 26 * 60, 72 * 60].map(before)).toEqual([
      'just now',
      '5 min ago',
      '1 h ago',
      'yesterday',
      '3 days ago',
    ]);
  });
});

test('a fingerprint shows enough of a digest to compare by eye', () => {
  expect(fingerprint('573eb47079a68ecf76b8d0748ec8b88f9e49b0c983ed160ba5e3ad3e7df0432d')).toBe('573e b470 79a6 … 432d');
});

test('a decision reads as part of a sentence', () => {
  expect(['approve', 'reject', 'with comments', 'no objection', 'done', null].map(saidWords)).toEqual([
    'approved',
    'rejected',
    'had comments',
    'had no objection',
    'did it',
    '',
  ]);
});

test('initials are those of the first two names', () => {
  expect(initials('Joren Adeyemi')).toBe('JA');
  expect(initials('Mara van den Berg')).toBe('MV');
  expect(initials('')).toBe('');
});
