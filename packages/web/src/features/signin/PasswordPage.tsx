import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { Link, useLocation, useParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton, PasswordField } from '../../ui/controls.tsx';
import { showInstant } from '../../ui/format.ts';
import { Loading, Refusals } from '../../ui/states.tsx';
import { wording } from './wording.ts';

/** Where the link from the mail leads: the person, and nobody else, sets the password. */
export const PasswordPage = () => {
  const { token = '' } = useParams();
  const { search } = useLocation();
  const [first, setFirst] = useState('');
  const [second, setSecond] = useState('');
  const command = useCommand(api.session.setPassword);
  // A used link is void: once the password is set it is not asked for again.
  const { data, error, isPending } = useQuery({
    ...ask(api.session.passwordLink, { params: { token } }),
    retry: false,
    enabled: !command.isSuccess && !command.isPending,
  });
  const differs = second !== '' && first !== second;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!differs) command.mutate({ params: { token }, body: { password: first } });
  };
  return (
    <main className="grid min-h-full place-items-center p-6">
      <div className="tb w-full max-w-sm">
        <div className="border-b border-line !bg-ink !px-4 !py-3 text-[19px] font-bold tracking-[.16em] text-white [font-stretch:70%]">
          {wording.kanonos}
        </div>
        <div className="flex flex-col gap-3 !p-4">
          {isPending ? (
            <Loading what={wording.theLink} />
          ) : command.isSuccess ? (
            <>
              <h1>{wording.yourPasswordIsSet}</h1>
              <p>
                {wording.signInAs} <b className="num">{data?.signInName}</b>.
              </p>
              <Link to={`/signin${search}`} className="btn btn-pri">
                {wording.goToSignIn}
              </Link>
            </>
          ) : error ? (
            <>
              <h1>{wording.thisLinkDoesNotWork}</h1>
              <Refusals error={error} />
            </>
          ) : (
            <form onSubmit={submit} className="flex flex-col gap-3">
              <h1>{wording.setYourPassword(data.name)}</h1>
              <p className="text-ink-2">
                {wording.signInName} <b className="num">{data.signInName}</b>
                {wording.theLinkWorksUntil(showInstant(data.until))}
              </p>
              <PasswordField
                label={wording.newPassword}
                autoComplete="new-password"
                autoFocus
                value={first}
                onChange={setFirst}
                hint={wording.atLeast12CharactersAFew}
              />
              <PasswordField
                label={wording.repeatPassword}
                autoComplete="new-password"
                value={second}
                onChange={setSecond}
                error={differs ? wording.thePasswordsDiffer : undefined}
              />
              <Refusals error={command.error} />
              <CommandButton busy={command.isPending}>{wording.setPassword}</CommandButton>
            </form>
          )}
        </div>
      </div>
    </main>
  );
};
