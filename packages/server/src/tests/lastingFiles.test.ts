import { beforeAll, expect, test } from 'vitest';
import { cookieOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

// Addresses of files that stay: of what is in force, of a revision, of a version.

const organisation = withOrganisation();
let base: string;
const cookies: Record<string, string> = {};
let number: string;

beforeAll(async () => {
  base = await organisation.listen();
  for (const name of ['author', 'reader']) cookies[name] = await cookieOf(base, name);
  ({ number } = await organisation.register('author', { text: '# Revision A' }));
  await organisation.toInForce(number);
  await organisation.revise('author', number);
}, 180_000);

const get = async (as: string, document: string, query = '') => {
  const answer = await fetch(`${base}/api/documents/${encodeURIComponent(document)}/file?as=exact${query}`, {
    headers: { cookie: cookies[as] ?? '' },
  });
  const text = await answer.text();
  return answer.ok ? text : (JSON.parse(text) as { code: string }).code;
};

test('lead to what is in force, also while the next revision is in work', async () => {
  expect(await get('author', number)).toBe('# Revision A');
  expect(await get('author', number, '&rev=A')).toBe('# Revision A');
  expect(await get('author', number, '&rev=A&v=1')).toBe('# Revision A');
});

test('lead to a revision in work for who may read it, for nobody else', async () => {
  expect(await get('author', number, '&rev=B')).toBe('# Revision A');
  expect(await get('reader', number, '&rev=B')).toBe('not_found');
});

test('name what there is not', async () => {
  for (const query of ['&rev=Z', '&rev=A&v=9', '&original=2'])
    expect(await get('author', number, query)).toBe('not_found');
  const draft = await organisation.register('author');
  expect(await get('author', draft.number)).toBe('nothing_in_force');
  expect(await get('author', number, '&v=x')).toBe('input_invalid');
});
