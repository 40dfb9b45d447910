import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { ask, call, queryClient } from '../../app/client.ts';
import { CommandButton, PasswordField, TextField } from '../../ui/controls.tsx';
import { Refusals } from '../../ui/states.tsx';
import { wording } from './wording.ts';

/** Sign-in; on a demo server with the people of the demo to step into. */
export const SignInPage = () => {
  const { data: welcome } = useQuery(ask(api.session.welcome));
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const [error, setError] = useState<Error | null>(null);
  const [busy, setBusy] = useState(false);
  const [params] = useSearchParams();
  const navigate = useNavigate();
  const target = params.get('to');
  const enter = async (as: string, word: string) => {
    setBusy(true);
    setError(null);
    try {
      const me = await call(api.session.signIn, { body: { name: as, password: word } });
      queryClient.clear();
      queryClient.setQueryData(ask(api.session.me).queryKey, me);
      // Only a path of this application: an address of another host would lead away.
      navigate(target?.startsWith('/') && !target.startsWith('//') ? target : '/', { replace: true });
    } catch (failure) {
      setError(failure as Error);
      setBusy(false);
    }
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void enter(name, password);
  };
  const demo = welcome?.demo;
  return (
    <main className="grid min-h-full place-items-center p-6">
      <div className={`grid w-full gap-5 ${demo ? 'max-w-4xl md:grid-cols-[340px_1fr]' : 'max-w-sm'}`}>
        <form onSubmit={submit} className="tb grid self-start">
          <div className="border-b border-line !bg-ink !px-4 !py-3 text-white">
            <span className="text-[19px] font-bold tracking-[.16em] [font-stretch:70%]">{wording.kanonos}</span>
            <span className="block text-[12px] text-mist">{welcome?.organisation ?? ' '}</span>
          </div>
          <div className="flex flex-col gap-3 !p-4">
            <h1>{wording.signIn}</h1>
            <TextField
              label={wording.signInName}
              name="name"
              autoComplete="username"
              autoFocus
              required
              value={name}
              onChange={setName}
            />
            <PasswordField
              label={wording.password}
              name="password"
              autoComplete="current-password"
              value={password}
              onChange={setPassword}
            />
            <Refusals error={error} />
            <CommandButton busy={busy} className="!h-9">
              {wording.signIn}
            </CommandButton>
            <p className="text-[11.5px] text-ink-3">{wording.forgottenYourPasswordAnAdministratorCan}</p>
          </div>
        </form>
        {demo && (
          <section aria-label={wording.peopleInThisDemo} className="pane self-start">
            <div className="border-b border-line bg-ochre-tint px-4 py-2.5">
              <h2>{wording.demoWithInventedData}</h2>
              <p className="text-[12.5px] text-ink-2">
                {wording.everyonesPasswordIs} <b className="num">{demo.password}</b>
                {wording.chooseAPerson}
              </p>
            </div>
            <ul>
              {demo.people.map((person) => (
                <li key={person.signInName} className="border-b border-line-2 last:border-0">
                  <button
                    type="button"
                    disabled={busy}
                    onClick={() => void enter(person.signInName, demo.password)}
                    className="grid w-full grid-cols-[150px_150px_1fr] items-center gap-3 px-4 py-[7px] text-left hover:bg-petrol-tint"
                  >
                    <b className="font-semibold">{person.name}</b>
                    <span className="text-ink-2">{person.department || wording.external}</span>
                    <span className="text-ink-2">{person.part}</span>
                  </button>
                </li>
              ))}
            </ul>
          </section>
        )}
      </div>
    </main>
  );
};
