import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { typedDay } from './typedDay.ts';
import { isWorkingDay } from './workingDays.ts';
import { addDays, dayInWords } from './zone.ts';

const calendar = { week: [1, 2, 3, 4, 5], holidays: new Set(['2026-12-25', '2026-12-28']) };
// A Saturday.
const today = '2026-11-28';
const typed = (text: string) => typedDay(text, today, calendar);

describe('a day as somebody types it', () => {
  it.each([
    ['28 Nov 2026', '2026-11-28'],
    ['3 dec', '2026-12-03'],
    ['3. December', '2026-12-03'],
    ['Dec 3rd, 2027', '2027-12-03'],
    ['1 oct', '2026-10-01'],
    ['3 jan', '2027-01-03'],
    ['29 feb 2028', '2028-02-29'],
    ['2026-12-03', '2026-12-03'],
    ['today', '2026-11-28'],
    ['Tomorrow', '2026-11-29'],
    ['sat', '2026-12-05'],
    ['Monday', '2026-11-30'],
    ['+1wd', '2026-11-30'],
    ['+20 wd', '2026-12-29'],
    ['-1wd', '2026-11-27'],
    ['+10 working days', '2026-12-11'],
    ['+2w', '2026-12-12'],
    ['-3d', '2026-11-25'],
    ['+3 months', '2027-02-28'],
    ['+1y', '2027-11-28'],
    ['end of month', '2026-11-30'],
    ['end of next month', '2026-12-31'],
    ['end of year', '2026-12-31'],
  ])('%s', (text, day) => expect(typed(text)).toBe(day));

  it.each([
    '',
    '03/12/2026',
    '3.12.2026',
    '12/3',
    '31 nov',
    '29 feb 2027',
    '3 de',
    'soon',
    '2026-13-01',
    '+5',
    '20261203',
  ])('is not read from %s', (text) => expect(typed(text)).toBeUndefined());

  it('reads back every day as it is shown', () => {
    fc.assert(
      fc.property(fc.integer({ min: -4000, max: 4000 }), (n) => {
        const day = addDays(today, n);
        expect(typed(dayInWords(day))).toBe(day);
        expect(typed(day)).toBe(day);
      }),
    );
  });

  it('counts working days to a working day, on and back', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 300 }), fc.constantFrom('+', '-'), (n, sign) => {
        expect(isWorkingDay(typed(`${sign}${n}wd`) ?? '', calendar)).toBe(true);
      }),
    );
  });
});
