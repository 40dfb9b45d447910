import { api } from '@kanonos/contract';
import { expect, test } from 'vitest';
import { citationsOf } from '../features/citations/service.ts';
import { registerPage } from '../features/find/service.ts';
import { addLink, endLink, itemOf, linksOf } from '../features/links/service.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();

const make = async (title: string, inForce = false) => {
  const { number } = await organisation.register('author', { title });
  if (inForce) await organisation.toInForce(number);
  return number;
};
const author = () => organisation.as('author');
const link = async (from: string, to: string, more: { pinned?: boolean; kind?: 'refers to' | 'form of' } = {}) =>
  addLink(organisation.app, await author(), from, {
    kind: more.kind ?? 'refers to',
    goal: { to: 'document', number: to, pinned: more.pinned ?? false },
    note: '',
  });

test('a link is shown from both ends, once, and is removed', async () => {
  const [a, b] = [await make('A'), await make('B', true)];
  const { id } = await link(a, b);
  expect(await codeOf(link(a, b))).toBe('link_there');
  expect(await codeOf(link(a, a))).toBe('link_self');
  expect((await linksOf(organisation.app, await author(), a)).from).toMatchObject([
    { kind: 'refers to', document: { number: b, label: 'A', state: 'in force' }, pinned: false, outdated: false },
  ]);
  expect((await linksOf(organisation.app, await author(), b)).to).toMatchObject([{ document: { number: a } }]);
  // A draft that links to it is nothing that a reader knows of.
  expect((await linksOf(organisation.app, await organisation.as('reader'), b)).to).toEqual([]);
  await endLink(organisation.app, await author(), a, id);
  expect(await codeOf(endLink(organisation.app, await author(), a, id))).toBe('not_found');
  expect((await linksOf(organisation.app, await author(), b)).to).toEqual([]);
});

test('pinned it stays with a revision, and there is one to pin it to', async () => {
  const [a, b, draft] = [await make('A'), await make('B', true), await make('Draft')];
  expect(await codeOf(link(a, draft, { pinned: true }))).toBe('link_nothing_in_force');
  await link(a, b, { pinned: true });
  await link(a, b);
  const { from } = await linksOf(organisation.app, await author(), a);
  expect(from.map((one) => one.pinned).sort()).toEqual([false, true]);
});

test('invisible documents cannot be linked to, and links elsewhere are addresses and codes', async () => {
  const a = await make('A');
  expect(await codeOf(link(a, 'TST-PRO-9999'))).toBe('not_found');
  const elsewhere = async (goal: Parameters<typeof addLink>[3]['goal']) =>
    codeOf(addLink(organisation.app, await author(), a, { kind: 'refers to', goal, note: '' }));
  expect(await elsewhere({ to: 'web', address: 'javascript:alert(1)' })).toBe('link_address_wrong');
  expect(await elsewhere({ to: 'item', kind: 'asset', code: 'GR-44', name: 'Grip' })).toBe('done');
  expect(await elsewhere({ to: 'item', kind: 'planet', code: 'GR-44', name: '' })).toBe('link_item_kind_unknown');
  expect(
    await codeOf(
      addLink(organisation.app, await organisation.as('reader'), a, {
        kind: 'refers to',
        goal: { to: 'web', address: 'https://a.example' },
        note: '',
      }),
    ),
  ).toBe('not_found');
});

test('an item has all documents that hang on it, as far as one may see them, and is a search term', async () => {
  const [seen, hidden] = [await make('Seen', true), await make('Work')];
  const item = { to: 'item' as const, kind: 'order', code: 'PO-7', name: 'Forty spring packs' };
  for (const number of [seen, hidden])
    await addLink(organisation.app, await author(), number, { kind: 'refers to', goal: item, note: 'delivered' });
  const numbersFor = async (who: Awaited<ReturnType<typeof author>>) =>
    (await itemOf(organisation.app, who, { kind: 'order', code: 'po-7' })).documents.map((one) => one.number);
  expect((await numbersFor(await author())).sort()).toEqual([hidden, seen].sort());
  expect(await numbersFor(await organisation.as('reader'))).toEqual([seen]);
  expect(await itemOf(organisation.app, await author(), { kind: 'order', code: 'PO-7' })).toMatchObject({
    kind: { code: 'order', text: 'order' },
    name: 'Forty spring packs',
  });
  for (const q of ['item:po-7', 'item:"Forty spring packs"', 'item:order']) {
    const { rows: found } = await registerPage(
      organisation.app,
      await organisation.as('reader'),
      api.find.register.query.parse({ q }),
    );
    expect(found.map((row) => row.number)).toEqual([seen]);
  }
});

test('a change reaches over links, and lists name them', async () => {
  const [form, procedure, far] = [await make('Form'), await make('Procedure', true), await make('Far')];
  await link(form, procedure, { kind: 'form of' });
  await link(far, form);
  const { reached, edges, citedBy } = await citationsOf(organisation.app, await author(), procedure);
  expect(reached.map((one) => [one.number, one.distance])).toEqual([
    [form, 1],
    [far, 2],
  ]);
  expect(edges).toEqual(expect.arrayContaining([{ from: form, to: procedure, by: 'link' }]));
  expect(citedBy).toEqual([]);
  const query = api.find.register.query.parse({ revisionScope: 'newest', limit: '100' });
  const { rows } = await registerPage(organisation.app, await author(), query);
  expect(rows.find((row) => row.number === form)).toMatchObject({ links: [`form of ${procedure}`], openComments: 0 });
});
