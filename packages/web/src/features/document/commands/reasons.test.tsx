import { api, type Endpoint } from '@kanonos/contract';
import { screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { documentPage, original } from '../../../testing/fixtures.ts';
import { at, lastSent, refusedWith, renderPage } from '../../../testing/renderPage.tsx';
import { ReasonDialogs } from './ReasonDialogs.tsx';

const page = documentPage();
const of = (endpoint: Endpoint) => at(endpoint, { document: page.id });
const dialog = (command: string, answers = {}, close = () => {}) =>
  renderPage(<ReasonDialogs page={page} command={command} close={close} />, answers);

describe('commands that ask for a reason', () => {
  it.each([
    ['recall', 'Recall', api.documents.recall],
    ['take over check-out', 'Take over', api.documents.takeOverCheckout],
    ['abandon', 'Abandon', api.documents.abandon],
    ['remove', 'Remove document', api.documents.remove],
    ['restore', 'Restore', api.documents.restore],
    ['reopen', 'Return to draft', api.documents.reopen],
    ['cancel withdrawal', 'Cancel withdrawal', api.documents.cancelWithdrawal],
    ['lift hold', 'Lift hold', api.documents.liftHold],
  ] as const)(
    '%s: the button says what it does, the reason goes with what was seen',
    async (command, button, endpoint) => {
      const close = vi.fn();
      const { user, router } = dialog(command, { [of(endpoint)]: { rowVersion: 8 } }, close);
      await user.type(screen.getByLabelText('Reason'), 'Entered twice');
      await user.click(screen.getByRole('button', { name: button }));
      expect(`${lastSent()?.method} ${lastSent()?.path}`).toBe(of(endpoint));
      expect(lastSent()?.body).toEqual({ seen: 'seen-1', reason: 'Entered twice' });
      // What was given up is no longer in work: the document itself is shown.
      if (command === 'abandon')
        await vi.waitFor(() => expect(router.state.location.pathname).toBe(`/d/${page.number}`));
      else await vi.waitFor(() => expect(close).toHaveBeenCalled());
    },
  );

  it('stay open with the reason when refused', async () => {
    const close = vi.fn();
    const { user } = dialog(
      'recall',
      { [of(api.documents.recall)]: refusedWith(409, 'changed_meanwhile', 'Somebody else changed it meanwhile.') },
      close,
    );
    await user.type(screen.getByLabelText('Reason'), 'Wrong limits');
    await user.click(screen.getByRole('button', { name: 'Recall' }));
    expect(await screen.findByText('Somebody else changed it meanwhile.')).toBeTruthy();
    expect(screen.getByLabelText<HTMLTextAreaElement>('Reason').value).toBe('Wrong limits');
    expect(close).not.toHaveBeenCalled();
  });

  it('are none for a name that is no command', () => {
    dialog('constructor');
    expect(screen.queryByRole('dialog')).toBeNull();
  });
});

it('putting on hold asks why, and what to do until then', async () => {
  const { user } = dialog('put on hold', { [of(api.documents.putOnHold)]: {} });
  expect(screen.getByText(/^It stays in force but must not be used/)).toBeTruthy();
  await user.type(screen.getByLabelText('Reason'), 'Wrong limit');
  await user.type(screen.getByLabelText(/^Until then/), 'Ask Otto');
  await user.click(screen.getByRole('button', { name: 'Put on hold' }));
  expect(lastSent()?.body).toEqual({ seen: 'seen-1', reason: 'Wrong limit', wayOut: 'Ask Otto' });
});

describe('withdrawing', () => {
  it('says how many open readings end with it, and is done now unless a day is given', async () => {
    const { user } = dialog('withdraw', { [of(api.documents.withdraw)]: { rowVersion: 8 } });
    expect(screen.getByText(/2 open readings will be cancelled/)).toBeTruthy();
    await user.type(screen.getByLabelText('Reason'), 'The carrier is scrapped');
    await user.click(screen.getByRole('button', { name: 'Withdraw' }));
    expect(lastSent()?.body).toEqual({ seen: 'seen-1', reason: 'The carrier is scrapped', on: null });
  });

  it('is planned for the day that is given', async () => {
    const { user } = dialog('withdraw', { [of(api.documents.withdraw)]: { rowVersion: 8 } });
    await user.type(screen.getByLabelText(/^On a future date/), 'end of year');
    await user.type(screen.getByLabelText('Reason'), 'Replaced');
    await user.click(screen.getByRole('button', { name: 'Withdraw' }));
    expect(lastSent()?.body).toMatchObject({ on: '2026-12-31' });
  });
});

it('reinstating shows what is signed, and sends its digest with the signature', async () => {
  const { user } = dialog('reinstate', {
    [of(api.documents.reinstatement)]: { signing: { asksForName: false, digest: 'd1', files: [original()] } },
    [of(api.documents.reinstate)]: { rowVersion: 8 },
  });
  await user.type(await screen.findByLabelText('Password of Mara Quill'), 'not a real one');
  await user.type(screen.getByLabelText('Reason'), 'Still needed');
  await user.click(screen.getByRole('button', { name: 'Sign and reinstate' }));
  expect(lastSent()?.body).toEqual({
    seen: 'seen-1',
    reason: 'Still needed',
    name: null,
    password: 'not a real one',
    digest: 'd1',
  });
});
