import { api } from '@kanonos/contract';
import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { at, lastSent, ME, refusedWith, renderPage } from '../../testing/renderPage.tsx';
import { PasswordPage } from './PasswordPage.tsx';
import { SignInPage } from './SignInPage.tsx';

describe('signing in', () => {
  const draw = (answer: unknown, address = '/signin', demo: unknown = null) =>
    renderPage(
      <SignInPage />,
      { [at(api.session.welcome)]: { organisation: 'Thornway', demo }, [at(api.session.signIn)]: answer },
      address,
    );
  const enter = async (user: ReturnType<typeof draw>['user']) => {
    await user.type(await screen.findByLabelText('Sign-in name'), 'mara.quill');
    await user.type(screen.getByLabelText('Password'), 'not a real one');
    await user.click(screen.getByRole('button', { name: 'Sign in' }));
  };

  it('leads to where one wanted to go', async () => {
    const { user, router } = draw(ME, '/signin?to=%2Fregister%3Fq%3Dgrip');
    await enter(user);
    await waitFor(() => expect(router.state.location.pathname).toBe('/register'));
    expect(router.state.location.search).toBe('?q=grip');
    expect(lastSent()?.body).toEqual({ name: 'mara.quill', password: 'not a real one' });
  });

  it.each(['https%3A%2F%2Felsewhere.example', '%2F%2Felsewhere.example'])('leads nowhere else: %s', async (to) => {
    const { user, router } = draw(ME, `/signin?to=${to}`);
    await enter(user);
    await waitFor(() => expect(router.state.location.pathname).toBe('/'));
  });

  it('shows the refusal, and lets one try again', async () => {
    const { user } = draw(refusedWith(401, 'sign_in_wrong', 'Sign-in name or password is not right.'));
    await enter(user);
    expect(await screen.findByText('Sign-in name or password is not right.')).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>('Sign-in name').value).toBe('mara.quill');
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Sign in' }).disabled).toBe(false);
  });

  it('offers the people of a demo', async () => {
    const people = [
      { signInName: 'ines.varga', name: 'Ines Varga', department: 'Document control', part: 'controller' },
    ];
    const { user } = draw(ME, '/signin', { password: 'demo-password', people });
    await user.click(await screen.findByRole('button', { name: /^Ines Varga/ }));
    expect(lastSent()?.body).toEqual({ name: 'ines.varga', password: 'demo-password' });
  });
});

describe('setting a password', () => {
  const link = at(api.session.passwordLink, { token: '' });
  const set = at(api.session.setPassword, { token: '' });
  const known = { name: 'Mara Quill', signInName: 'mara.quill', until: '2026-11-30T12:00:00.000Z' };

  it('is done twice the same, and then leads to signing in', async () => {
    const { user } = renderPage(<PasswordPage />, { [link]: known, [set]: {} });
    await user.type(await screen.findByLabelText('New password'), 'long enough words');
    await user.type(screen.getByLabelText('Repeat password'), 'long enough word');
    expect(screen.getByText(/passwords differ/i)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Set password' }));
    expect(lastSent()).toBeUndefined();
    await user.type(screen.getByLabelText('Repeat password'), 's');
    await user.click(screen.getByRole('button', { name: 'Set password' }));
    expect(lastSent()?.body).toEqual({ password: 'long enough words' });
    expect(await screen.findByRole('link', { name: /sign.in/i })).toBeTruthy();
  });

  it('says that a link no longer works', async () => {
    renderPage(<PasswordPage />, { [link]: refusedWith(410, 'link_used', 'This link was used already.') });
    expect(await screen.findByText('This link was used already.')).toBeTruthy();
    expect(screen.queryByLabelText('New password')).toBeNull();
  });
});
