import fc from 'fast-check';
import { expect, test } from 'vitest';
import { addDays, firstInstantOf } from '../calendar/zone.ts';
import { inForceOn, overlap, type Period } from './inForceOn.ts';

const zone = 'Europe/Zurich';
const at = (text: string) => new Date(text);
const b: Period = { revisionId: 'b', label: 'B', from: at('2025-03-03T08:00:00Z') };
const c: Period = { revisionId: 'c', label: 'C', from: at('2026-12-03T09:42:00Z') };
const bEnded = { ...b, to: c.from };
const later = at('2026-12-20T12:00:00Z');

test('B until C is released on 3 Dec at 10:42', () => {
  const on = (day: string) => inForceOn([bEnded, c], [], day, zone, later);
  expect(on('2026-12-02')).toEqual({ revisionId: 'b', label: 'B', until: [] });
  expect(on('2026-12-03')).toEqual({ revisionId: 'c', label: 'C', until: [{ label: 'B', time: '10:42' }] });
  expect(on('2026-12-04')).toEqual({ revisionId: 'c', label: 'C', until: [] });
});

test('withdrawn on 5 Dec at 09:00', () => {
  const withdrawn = { ...c, to: at('2026-12-05T08:00:00Z') };
  const on = (day: string) => inForceOn([bEnded, withdrawn], [], day, zone, later);
  expect(on('2026-12-04').label).toBe('C');
  expect(on('2026-12-05')).toEqual({ until: [{ label: 'C', time: '09:00' }] });
});

test('a coming day counts what is planned', () => {
  const now = at('2026-11-25T10:00:00Z');
  const planned = [{ kind: 'release' as const, revisionId: 'c', label: 'C', day: '2026-12-07' }];
  expect(inForceOn([b], planned, '2026-12-06', zone, now).label).toBe('B');
  expect(inForceOn([b], planned, '2026-12-07', zone, now).label).toBe('C');
  expect(inForceOn([b], [{ kind: 'withdrawal', day: '2026-12-01' }], '2026-12-02', zone, now).label).toBeUndefined();
});

test('today is seen as it is now, and before its first period a document has none in force', () => {
  const now = at('2026-12-03T09:00:00Z');
  expect(inForceOn([b], [], '2026-12-03', zone, now).label).toBe('B');
  expect(inForceOn([bEnded, c], [], '2026-12-03', zone, at('2026-12-03T15:00:00Z'))).toMatchObject({
    label: 'C',
    until: [{ label: 'B' }],
  });
  expect(inForceOn([b], [], '2025-03-02', zone, now).label).toBeUndefined();
});

test('on every day at most one revision is in force, and it is the last that began before the day ended', () => {
  const lengths = fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 8 });
  fc.assert(
    fc.property(lengths, fc.integer({ min: 0, max: 200 }), (days, look) => {
      let start = '2026-01-05';
      const periods: Period[] = days.map((length, i) => {
        const period = {
          revisionId: String(i),
          label: String(i),
          from: firstInstantOf(start, zone),
          to: firstInstantOf(addDays(start, length), zone),
        };
        start = addDays(start, length);
        return period;
      });
      const day = addDays('2026-01-01', look);
      const seen = inForceOn(periods, [], day, zone, at('2030-01-01T00:00:00Z'));
      const expected = periods.filter(
        (p) => p.from <= firstInstantOf(day, zone) && (p.to as Date) > firstInstantOf(day, zone),
      );
      return !overlap(periods) && seen.revisionId === expected[0]?.revisionId;
    }),
  );
});
