import { api } from '@kanonos/contract';
import { screen } from '@testing-library/react';
import { Route, Routes } from 'react-router';
import { describe, expect, it } from 'vitest';
import { at, lastSent, refusedWith, renderPage } from '../../testing/renderPage.tsx';
import { AddLink } from './AddLink.tsx';
import { ItemPage } from './ItemPage.tsx';
import { LinksSection } from './LinksSection.tsx';

const NUMBER = 'THR-PRO-0118';
const KINDS = [
  { code: 'asset', text: 'Asset' },
  { code: 'part', text: 'Part' },
];
const add = at(api.links.add, { document: NUMBER });

describe('linking', () => {
  it('to another document waits until one is chosen', () => {
    renderPage(<AddLink number={NUMBER} itemKinds={KINDS} close={() => {}} />);
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Add link' }).disabled).toBe(true);
  });

  it('to the web sends the address', async () => {
    const { user } = renderPage(<AddLink number={NUMBER} itemKinds={KINDS} close={() => {}} />, { [add]: {} });
    await user.click(screen.getByRole('button', { name: 'Web address' }));
    await user.type(screen.getByLabelText('Address'), 'rules.example/grips');
    await user.type(screen.getByLabelText(/^Reason/), 'The law');
    await user.click(screen.getByRole('button', { name: 'Add link' }));
    expect(lastSent()?.body).toEqual({
      kind: 'refers to',
      goal: { to: 'web', address: 'https://rules.example/grips' },
      note: 'The law',
    });
  });

  it('to an outside item sends its kind and code', async () => {
    const { user } = renderPage(<AddLink number={NUMBER} itemKinds={KINDS} close={() => {}} />, { [add]: {} });
    await user.click(screen.getByRole('button', { name: 'External item' }));
    await user.selectOptions(screen.getByRole('combobox'), 'part');
    await user.type(screen.getByLabelText('Code'), 'GR-44');
    await user.click(screen.getByRole('button', { name: 'Add link' }));
    expect(lastSent()?.body).toMatchObject({ goal: { to: 'item', kind: 'part', code: 'GR-44', name: '' } });
  });

  it('shows a refusal', async () => {
    const { user } = renderPage(<AddLink number={NUMBER} itemKinds={KINDS} close={() => {}} />, {
      [add]: refusedWith(422, 'address_invalid', 'Enter an address that starts with https.', 'address'),
    });
    await user.click(screen.getByRole('button', { name: 'Web address' }));
    await user.click(screen.getByRole('button', { name: 'Add link' }));
    expect(await screen.findByText('Enter an address that starts with https.')).toBeTruthy();
  });
});

it('links are shown from both ends, and mark a pinned one as outdated', async () => {
  const link = {
    id: 'l1',
    kind: 'form of',
    document: { number: 'THR-FRM-0002', label: 'A', title: 'Test record' },
    pinned: true,
    outdated: true,
    address: null,
    item: null,
    note: '',
    mayEnd: true,
  };
  renderPage(<LinksSection number={NUMBER} />, {
    [at(api.links.list, { document: NUMBER })]: {
      from: [],
      to: [link],
      mayLink: true,
      itemKinds: KINDS,
    },
  });
  expect(await screen.findByText('has the form')).toBeTruthy();
  expect(screen.getByRole('link', { name: /THR-FRM-0002/ })).toBeTruthy();
  expect(screen.getByText(/^pinned to a revision that is/)).toBeTruthy();
});

describe('an item outside', () => {
  const PAGE = at(api.links.item, { kind: 'asset', code: 'GR-44' });

  it('shows the documents that are linked to it, and leads to them', async () => {
    renderPage(
      <Routes>
        <Route path="/items/:kind/:code" element={<ItemPage />} />
      </Routes>,
      {
        [PAGE]: {
          kind: { code: 'asset', text: 'Asset' },
          code: 'GR-44',
          name: 'Grip of carrier 31',
          documents: [
            {
              id: 'l1',
              number: NUMBER,
              title: 'Grip overhaul',
              label: 'B',
              state: 'in force',
              note: 'Trial',
              by: 'Joren Adeyemi',
              at: '2026-11-12T09:12:00Z',
            },
          ],
        },
      },
      '/items/asset/GR-44',
    );
    expect(await screen.findByRole('heading', { name: 'Grip of carrier 31' })).toBeTruthy();
    expect(screen.getByText('1 document is linked to it.')).toBeTruthy();
    expect(screen.getByRole('link', { name: NUMBER }).getAttribute('href')).toContain(NUMBER);
    expect(screen.getByRole('link', { name: 'Open in the register' }).getAttribute('href')).toBe(
      '/register?q=item%3A%22GR-44%22',
    );
  });

  it('says so where nothing is linked', async () => {
    renderPage(
      <Routes>
        <Route path="/items/:kind/:code" element={<ItemPage />} />
      </Routes>,
      { [PAGE]: { kind: { code: 'asset', text: 'Asset' }, code: 'GR-44', name: '', documents: [] } },
      '/items/asset/GR-44',
    );
    expect(await screen.findByText('No document is linked to it')).toBeTruthy();
  });
});
