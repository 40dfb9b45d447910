import { api, type SignedOutside } from '@kanonos/contract';
import { screen, waitFor, within } from '@testing-library/react';
import { expect, it } from 'vitest';
import { documentPage } from '../../testing/fixtures.ts';
import { at, lastSent, refusedWith, renderPage } from '../../testing/renderPage.tsx';
import { SendToSignDialog } from './SignedOutsideDialogs.tsx';
import { SignedOutsideList } from './SignedOutsideList.tsx';

const item = (changes: Partial<SignedOutside>): SignedOutside => ({
  id: '1',
  label: documentPage().revision.label,
  how: 'brought',
  state: 'signed',
  signers: [],
  note: '',
  by: { id: 'p', name: 'Ines Varga' },
  at: '2026-11-27T08:00:00.000Z',
  isSent: false,
  file: 'agreement.pdf',
  signatures: [],
  endedAt: null,
  why: '',
  mayCancel: false,
  ...changes,
});
const found = (changes: Partial<SignedOutside['signatures'][number]>) => ({
  by: 'Ida Brenn',
  issuedBy: 'Brennhof',
  at: '2026-11-26T08:00:00.000Z',
  intact: true,
  coversAll: true,
  trusted: true,
  ...changes,
});
const draw = (items: SignedOutside[]) =>
  renderPage(<SignedOutsideList page={documentPage()} />, {
    [at(api.signedOutside.list, { document: documentPage().id })]: { items, mayBring: true, hasService: true },
    [at(api.signedOutside.cancel, { id: '2' })]: {},
  });

it('says of each signature whether it holds, and whether its signer is trusted', async () => {
  draw([
    item({
      signatures: [
        found({}),
        found({ by: 'Olaf Kern', trusted: false, coversAll: false }),
        found({ by: 'Somebody', intact: false, trusted: false }),
      ],
    }),
    item({ id: '3', label: 'Z9', file: 'of another revision.pdf' }),
  ]);
  const list = within(await screen.findByRole('list'));
  expect(list.getByText('Signature of Ida Brenn').closest('p')?.textContent).toContain(
    'unchanged since it was signed; trusted',
  );
  expect(list.getByText('Signature of Olaf Kern').closest('p')?.textContent).toContain(
    'something was added after it; not trusted (vouched for by Brennhof)',
  );
  expect(list.getByText('Signature of Somebody').closest('p')?.textContent).toContain('changed after it was signed');
  expect(list.queryByText('of another revision.pdf')).toBeNull();
});

it('leads to where somebody signs, and cancels what waits', async () => {
  const { user } = draw([
    item({
      id: '2',
      how: 'sent',
      state: 'waiting',
      isSent: true,
      file: null,
      mayCancel: true,
      signers: [
        { name: 'Ida Brenn', signedAt: '2026-11-27T09:00:00.000Z', address: null },
        { name: 'Olaf Kern', signedAt: null, address: 'http://127.0.0.1:9/sign/1' },
      ],
    }),
  ]);
  expect((await screen.findByRole('link', { name: 'Page on which Olaf Kern signs' })).getAttribute('href')).toBe(
    'http://127.0.0.1:9/sign/1',
  );
  await user.click(screen.getByRole('button', { name: 'Cancel request' }));
  const dialog = within(await screen.findByRole('dialog'));
  await user.type(dialog.getByRole('textbox', { name: /Reason/ }), 'Signed on paper');
  await user.click(dialog.getByRole('button', { name: 'Cancel request' }));
  await waitFor(() => expect(lastSent()?.body).toEqual({ reason: 'Signed on paper' }));
});

it('asks several people at once, and says why it is refused', async () => {
  const { user } = renderPage(<SendToSignDialog page={documentPage()} close={() => {}} />, {
    [at(api.signedOutside.send, { document: documentPage().id })]: refusedWith(
      409,
      'no_signing_service',
      'No signing service is set up.',
    ),
  });
  await user.click(await screen.findByRole('button', { name: 'Add a person' }));
  for (const [n, name] of ['Ida Brenn', 'Olaf Kern'].entries()) {
    const person = within(screen.getByRole('group', { name: `Person ${n + 1}` }));
    await user.type(person.getByRole('textbox', { name: /^Name/ }), name);
    await user.type(person.getByRole('textbox', { name: /^Mail/ }), `${name.split(' ')[0]}@brennhof.example`);
  }
  await user.click(screen.getByRole('button', { name: 'Send' }));
  await waitFor(() =>
    expect(lastSent()?.body).toMatchObject({
      signers: [
        { name: 'Ida Brenn', mail: 'Ida@brennhof.example' },
        { name: 'Olaf Kern', mail: 'Olaf@brennhof.example' },
      ],
    }),
  );
  expect(await screen.findByText('No signing service is set up.')).toBeTruthy();
});
