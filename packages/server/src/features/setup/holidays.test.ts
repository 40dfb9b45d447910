import { expect, test } from 'vitest';
import { publicHolidays } from './holidays.ts';

test('countries are named in English and in order, without holidays until one is chosen', () => {
  const { countries, regions, holidays } = publicHolidays({ country: '', region: '' }, 2026);
  expect(countries.find(({ code }) => code === 'CH')).toEqual({ code: 'CH', name: 'Switzerland' });
  expect(countries.map(({ name }) => name)).toEqual(
    [...countries.map(({ name }) => name)].sort((a, b) => a.localeCompare(b, 'en')),
  );
  expect([regions, holidays]).toEqual([[], []]);
});

test('a country has its public holidays for three years, each day once and in order', () => {
  const { holidays } = publicHolidays({ country: 'DE', region: '' }, 2026);
  expect(holidays).toContainEqual({ day: '2026-12-25', name: 'Christmas Day' });
  expect(new Set(holidays.map(({ day }) => day.slice(0, 4)))).toEqual(new Set(['2026', '2027', '2028']));
  const days = holidays.map(({ day }) => day);
  expect(days).toEqual([...new Set(days)].sort());
});

test('a region adds its own, and an unknown one counts as none', () => {
  const of = (region: string) => publicHolidays({ country: 'DE', region }, 2026).holidays.map(({ day }) => day);
  expect(of('BY')).toContain('2026-01-06');
  expect(of('')).not.toContain('2026-01-06');
  expect(of('XX')).toEqual(of(''));
  expect(publicHolidays({ country: 'ZZ', region: '' }, 2026).holidays).toEqual([]);
});
