import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { Link, useParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton, TextField } from '../../ui/controls.tsx';
import { showInstant } from '../../ui/format.ts';
import { Loading, Refusals } from '../../ui/states.tsx';

/** Where the link from the mail leads: the person, and nobody else, sets the password. */
export const PasswordPage = () => {
  const { token = '' } = useParams();
  const { data, error, isPending } = useQuery({
    ...ask(api.session.passwordLink, { params: { token } }),
    retry: false,
  });
  const [first, setFirst] = useState('');
  const [second, setSecond] = useState('');
  const command = useCommand(api.session.setPassword);
  const differs = second !== '' && first !== second;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!differs) command.mutate({ params: { token }, body: { password: first } });
  };
  return (
    <main className="grid min-h-full place-items-center p-6">
      <div className="tb w-full max-w-sm">
        <div className="border-b border-line !bg-ink !px-4 !py-3 text-[19px] font-bold tracking-[.16em] text-white [font-stretch:70%]">
          KANONOS
        </div>
        <div className="flex flex-col gap-3 !p-4">
          {isPending ? (
            <Loading what="the link" />
          ) : command.isSuccess ? (
            <>
              <h1>Your password is set</h1>
              <p>
                Sign in as <b className="num">{data?.signInName}</b>.
              </p>
              <Link to="/signin" className="btn btn-pri">
                Go to sign-in
              </Link>
            </>
          ) : error ? (
            <>
              <h1>This link does not work</h1>
              <Refusals error={error} />
            </>
          ) : (
            <form onSubmit={submit} className="flex flex-col gap-3">
              <h1>Set your password, {data.name}</h1>
              <p className="text-ink-2">
                Sign-in name <b className="num">{data.signInName}</b>. The link works until {showInstant(data.until)}.
              </p>
              <TextField
                label="New password"
                type="password"
                autoComplete="new-password"
                autoFocus
                required
                value={first}
                onChange={(e) => setFirst(e.target.value)}
                hint="At least 12 characters; a few words make a good one"
              />
              <TextField
                label="Repeat password"
                type="password"
                autoComplete="new-password"
                required
                value={second}
                onChange={(e) => setSecond(e.target.value)}
                error={differs ? 'The passwords differ' : undefined}
              />
              <Refusals error={command.error} />
              <CommandButton busy={command.isPending}>Set password</CommandButton>
            </form>
          )}
        </div>
      </div>
    </main>
  );
};
