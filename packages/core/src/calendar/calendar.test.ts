import fc from 'fast-check';
import { expect, test } from 'vitest';
import {
  addWorkingDays,
  isWorkingDay,
  type WorkingCalendar,
  workingDayCounter,
  workingDaysBetween,
} from './workingDays.ts';
import { addDays, addMonths, dayInWords, dayOf, firstInstantOf, isDay } from './zone.ts';

const calendar: WorkingCalendar = { week: [1, 2, 3, 4, 5], holidays: new Set(['2026-12-08']) };

test('the n-th working day after a day leaves out the weekend and holidays', () => {
  expect(addWorkingDays('2026-11-27', 2, calendar)).toBe('2026-12-01');
  expect(addWorkingDays('2026-12-04', 2, calendar)).toBe('2026-12-09');
  expect(addWorkingDays('2026-11-28', 1, calendar)).toBe('2026-11-30');
});

test('absences of the person are no working days', () => {
  expect(addWorkingDays('2026-11-27', 2, calendar, [{ from: '2026-11-30', to: '2026-12-02' }])).toBe('2026-12-04');
});

test('a day begins at its first instant in the zone, also when the clock changes', () => {
  expect(firstInstantOf('2026-12-07', 'Europe/Zurich').toISOString()).toBe('2026-12-06T23:00:00.000Z');
  expect(firstInstantOf('2027-03-28', 'Europe/Zurich').toISOString()).toBe('2027-03-27T23:00:00.000Z');
  expect(firstInstantOf('2027-03-29', 'Europe/Zurich').toISOString()).toBe('2027-03-28T22:00:00.000Z');
  // In this zone midnight of that day does not exist.
  expect(firstInstantOf('2018-11-04', 'America/Sao_Paulo').toISOString()).toBe('2018-11-04T03:00:00.000Z');
});

test('the day of an instant is the one a clock on the wall shows, asked once or again, also where the clock goes back over midnight', () => {
  // In this zone the clock went back from 00:01 to 23:01 of the day before.
  const back = ['02:29:30', '02:30:30', '02:31:30', '03:20:00', '03:31:00'].map((at) =>
    dayOf(new Date(`2006-10-29T${at}Z`), 'America/St_Johns'),
  );
  expect(back).toEqual(['2006-10-28', '2006-10-29', '2006-10-28', '2006-10-28', '2006-10-29']);
  const zones = ['Europe/Zurich', 'America/St_Johns', 'Asia/Kathmandu', 'Pacific/Apia', 'America/Sao_Paulo', 'UTC'];
  fc.assert(
    fc.property(
      fc.constantFrom(...zones),
      fc.date({ min: new Date('1990-01-01'), max: new Date('2040-01-01'), noInvalidDate: true }),
      fc.integer({ min: 0, max: 3_600_000 }),
      (zone, instant, later) => {
        const written = new Intl.DateTimeFormat('sv-SE', { timeZone: zone, dateStyle: 'short' });
        for (const one of [instant, new Date(instant.getTime() + later), instant])
          expect(dayOf(one, zone)).toBe(written.format(one));
      },
    ),
  );
});

test('a day is written as people read it', () => {
  expect(dayInWords('2026-09-05')).toBe('5 Sep 2026');
});

test('months are clipped at their end and days are checked', () => {
  expect(addMonths('2026-01-31', 1)).toBe('2026-02-28');
  expect(addMonths('2026-11-25', 12)).toBe('2027-11-25');
  expect(isDay('2026-02-30')).toBe(false);
  expect(isDay('2028-02-29')).toBe(true);
});

test('the first instant of any day lies on that day and the instant before does not', () => {
  const zones = fc.constantFrom(
    'Europe/Zurich',
    'UTC',
    'America/New_York',
    'Pacific/Auckland',
    'Asia/Kolkata',
    'Pacific/Apia',
  );
  fc.assert(
    fc.property(zones, fc.integer({ min: 0, max: 20000 }), (zone, n) => {
      const day = addDays('2000-01-01', n);
      if (zone === 'Pacific/Apia' && day === '2011-12-30') return true; // the zone skipped this day whole
      const instant = firstInstantOf(day, zone);
      return dayOf(instant, zone) === day && dayOf(new Date(instant.getTime() - 1), zone) < day;
    }),
    { numRuns: 300 },
  );
});

test('counting working days is the reverse of adding them', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 4000 }), fc.integer({ min: 1, max: 60 }), (start, n) => {
      const from = addDays('2024-01-01', start);
      const to = addWorkingDays(from, n, calendar);
      return isWorkingDay(to, calendar) && workingDaysBetween(from, to, calendar) === n;
    }),
  );
});

test('counting working days between many pairs gives the same as counting one by one', () => {
  const calendar = { week: [1, 2, 3, 4, 5], holidays: new Set(['2026-12-08', '2026-12-25']) };
  const count = workingDayCounter('2026-11-01', '2027-01-31', calendar);
  for (const from of ['2026-11-01', '2026-11-27', '2026-12-07', '2026-12-24'])
    for (const to of ['2026-11-29', '2026-12-08', '2026-12-31', '2027-01-31'])
      if (from <= to) expect(count(from, to)).toBe(workingDaysBetween(from, to, calendar));
});

test('a counter of working days takes days outside of its span as the ends', () => {
  const count = workingDayCounter('2026-11-02', '2026-11-06', { week: [1, 2, 3, 4, 5], holidays: new Set() });
  expect(count('2020-01-01', '2030-01-01')).toBe(4);
});
