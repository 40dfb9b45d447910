import { beforeAll, expect, test } from 'vitest';
import { find, registerPage } from '../features/find/service.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();
beforeAll(async () => {
  for (const [title, type] of [
    ['Grip overhaul: spring pack', 'PRO'],
    ['Jaw lining: slip force', 'PRO'],
    ['Rope splice in spring', 'TWO'],
    ['Snow fences', 'TWO'],
  ] as const)
    await organisation.register('author', { title, type });
});

const registered = async (q: string) => {
  const list = await registerPage(organisation.app, await organisation.as('author'), {
    revisionScope: 'newest',
    q,
    reach: 'everywhere',
    sort: 'title',
    order: 'asc',
    limit: 20,
  });
  return list.rows.map((row) => row.title);
};
const found = async (q: string) =>
  (await find(organisation.app, await organisation.as('author'), q, 20)).hits.map((hit) => hit.title).sort();

test.each([
  ['grip or jaw', ['Grip overhaul: spring pack', 'Jaw lining: slip force']],
  ['grip or jaw or splice', ['Grip overhaul: spring pack', 'Jaw lining: slip force', 'Rope splice in spring']],
  ['spring grip or splice', ['Grip overhaul: spring pack', 'Rope splice in spring']],
  ['"slip force" or "spring pack"', ['Grip overhaul: spring pack', 'Jaw lining: slip force']],
  ['spring type:PRO or title:snow', ['Grip overhaul: spring pack']],
  ['type:TWO or title:jaw', ['Jaw lining: slip force', 'Rope splice in spring', 'Snow fences']],
  ['type:PRO or not title:snow not grip', ['Jaw lining: slip force', 'Rope splice in spring']],
  // A code means that code, whatever names hold its letters; what is none is looked for in names.
  ['type:two', ['Rope splice in spring', 'Snow fences']],
  ['type:once', ['Rope splice in spring', 'Snow fences']],
  ['winter or summer', []],
  ['snow or ja', ['Jaw lining: slip force', 'Snow fences']],
])('%s finds what any side finds', async (q, titles) => {
  expect(await registered(q)).toEqual(titles);
  expect(await found(q)).toEqual(titles);
});

test('an “or” without two sides is refused with its place', async () => {
  expect(await codeOf(registered('grip or'))).toBe('search_or_alone');
  expect(await codeOf(registered('grip or type:PRO'))).toBe('search_or_mixed');
});
