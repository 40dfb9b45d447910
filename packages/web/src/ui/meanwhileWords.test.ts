import { expect, test } from 'vitest';
import { meanwhileWords } from './meanwhileWords.ts';

test('changes by the other person are named, at most four', () => {
  expect(meanwhileWords({ theirs: ['title'], both: [] })).toBe(
    'Somebody else changed title in the meantime. What you typed is still here.',
  );
  expect(meanwhileWords({ theirs: ['title', 'nextReview', 'metadata.haulRope', 'about.watcher'], both: [] })).toContain(
    'changed title, next review, haul rope and watcher in the meantime',
  );
  expect(meanwhileWords({ theirs: ['a', 'b', 'c', 'd', 'e'], both: [] })).toContain('changed a, b, c and 2 more');
});

test('what both changed is named, and a place is named once', () => {
  expect(meanwhileWords({ theirs: ['name', 'departmentId'], both: ['departmentId'] })).toBe(
    'Somebody else changed name and department in the meantime. You also changed department. What you typed is still here.',
  );
  expect(meanwhileWords({ theirs: ['steps.1', 'steps.2'], both: [] }, () => 'Route')).toContain(
    'changed Route in the meantime',
  );
});
