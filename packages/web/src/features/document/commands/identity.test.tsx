import { api, type Endpoint } from '@kanonos/contract';
import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { documentPage, version } from '../../../testing/fixtures.ts';
import { at, lastSent, renderPage } from '../../../testing/renderPage.tsx';
import { IdentityDialogs } from './IdentityDialogs.tsx';

const page = documentPage({ versions: [version()] });
const of = (endpoint: Endpoint) => at(endpoint, { document: page.id });
const dialog = (command: string, answers = {}, about = page) =>
  renderPage(<IdentityDialogs page={about} command={command} close={() => {}} />, answers);

describe('renumbering', () => {
  const type = (numbering: string | null) => ({
    'GET /api/types': { types: [{ ...page.type, numbering, reserved: ['THR-PRO-0400'] }] },
  });

  it('takes the next number by rule, and leads to the document under it', async () => {
    const { user, router } = dialog('renumber', {
      ...type('THR-{type}-{counter:4}'),
      [of(api.documents.renumber)]: { number: 'THR-PRO-0401' },
    });
    expect(await screen.findByRole('option', { name: 'Next number by rule' })).toBeTruthy();
    await user.type(screen.getByLabelText('Reason'), 'Registered under the wrong type');
    await user.click(screen.getByRole('button', { name: 'Renumber' }));
    expect(lastSent()?.body).toMatchObject({ seen: 'seen-1', number: null });
    await waitFor(() => expect(router.state.location.pathname).toBe('/d/THR-PRO-0401'));
  });

  it('offers the numbers that are reserved for oneself', async () => {
    const { user } = dialog('renumber', {
      ...type('THR-{type}-{counter:4}'),
      [of(api.documents.renumber)]: { number: 'THR-PRO-0400' },
    });
    await screen.findByRole('option', { name: 'THR-PRO-0400, reserved for you' });
    await user.selectOptions(screen.getByLabelText('New number'), 'THR-PRO-0400');
    await user.type(screen.getByLabelText('Reason'), 'As announced');
    await user.click(screen.getByRole('button', { name: 'Renumber' }));
    expect(lastSent()?.body).toMatchObject({ number: 'THR-PRO-0400' });
  });

  it('asks for the number that somebody else gave, where the type has no rule', async () => {
    const { user } = dialog('renumber', { ...type(null), [of(api.documents.renumber)]: { number: 'EN 1709' } });
    await user.type(await screen.findByLabelText('External number'), 'EN 1709');
    await user.type(screen.getByLabelText('Reason'), 'Mistyped');
    await user.click(screen.getByRole('button', { name: 'Renumber' }));
    expect(lastSent()?.body).toMatchObject({ number: 'EN 1709' });
  });
});

describe('renaming the file', () => {
  it('offers the name by rule until it is that', async () => {
    const { user } = dialog('rename file', { [of(api.documents.rename)]: { version: 3 } });
    expect(screen.getByLabelText<HTMLInputElement>('Stored name').value).toBe('grip-overhaul.docx');
    await user.click(screen.getByRole('button', { name: 'Use this name' }));
    expect(screen.queryByRole('button', { name: 'Use this name' })).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Rename' }));
    expect(lastSent()?.body).toEqual({ seen: 'seen-1', name: 'THR-PRO-0118_C_Grip-overhaul.docx' });
  });
});

describe('using the content of another document', () => {
  it('waits until one is chosen', () => {
    dialog('replace content');
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Use content' }).disabled).toBe(true);
  });
});

describe('checking the source of an outside document', () => {
  const outside = documentPage({
    origin: { source: 'Standards office of Vess', edition: '2019' } as unknown as ReturnType<
      typeof documentPage
    >['origin'],
  });

  it('says where to look, and notices by itself that the edition found is another one', async () => {
    const { user } = dialog('check source', { [of(api.documents.checkSource)]: { checkOn: '2027-11-28' } }, outside);
    expect(screen.getByText('Standards office of Vess')).toBeTruthy();
    const newer = screen.getByRole<HTMLInputElement>('checkbox', { name: /^It differs from the edition/ });
    expect(newer.checked).toBe(false);
    const found = screen.getByLabelText('Edition found');
    await user.clear(found);
    await user.type(found, '2026');
    expect(newer.checked).toBe(true);
    await user.click(screen.getByRole('button', { name: 'Record check' }));
    expect(lastSent()?.body).toEqual({ edition: '2026', isNewer: true, note: '' });
  });

  it('does not take the same edition for a newer one', async () => {
    const { user } = dialog('check source', { [of(api.documents.checkSource)]: { checkOn: null } }, outside);
    await user.type(screen.getByLabelText('Edition found'), ' ');
    expect(screen.getByRole<HTMLInputElement>('checkbox', { name: /^It differs/ }).checked).toBe(false);
    await user.type(screen.getByLabelText(/^Note/), 'Asked by telephone');
    await user.click(screen.getByRole('button', { name: 'Record check' }));
    expect(lastSent()?.body).toMatchObject({ isNewer: false, note: 'Asked by telephone' });
  });
});
