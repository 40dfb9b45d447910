import { expect, test } from 'vitest';
import { fileDifferences } from './fileDifferences.ts';

const page = {
  fields: [
    { key: 'limit', label: 'Limit value', kind: 'text', mandatory: false, level: 'revision' },
    { key: 'minutes', label: 'Takes about', kind: 'number', unit: 'min', mandatory: false, level: 'revision' },
    {
      key: 'interval',
      label: 'Interval',
      kind: 'choice',
      mandatory: false,
      level: 'revision',
      options: [
        { code: 'd', text: 'daily' },
        { code: 'w', text: 'weekly' },
      ],
    },
  ],
  metadata: { limit: '6.2 kN', minutes: 20, interval: 'd' },
  titles: { de: 'Klemmenprüfung' },
  revision: { title: 'Grip test' },
} as never;
const keys = (named: Record<string, string>) => fileDifferences(page, named).map(({ key, value }) => [key, value]);

test('an unchanged copy has no differences, also with its title in another language', () => {
  expect(keys({ limit: '6.2 kN', minutes: '20 min', interval: 'daily', title: 'Klemmenprüfung' })).toEqual([]);
  expect(keys({ number: 'THR-PRO-0118', unknown: 'x' })).toEqual([]);
});

test('what was changed in the file is offered in the form of its field, with both values in words', () => {
  expect(fileDifferences(page, { title: 'Grip overhaul', 'limit value': '6.8 kN', interval: 'WEEKLY' })).toEqual([
    { key: 'title', label: 'Title', before: 'Grip test', after: 'Grip overhaul', value: 'Grip overhaul' },
    { key: 'limit', label: 'Limit value', before: '6.2 kN', after: '6.8 kN', value: '6.8 kN' },
    { key: 'interval', label: 'Interval', before: 'daily', after: 'weekly', value: 'w' },
  ]);
});

test('what does not fit its field is left out', () => {
  expect(keys({ minutes: 'half an hour', interval: 'hourly', limit: '' })).toEqual([]);
});
