import { type AnswerOf, api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton, PasswordField, Select, TextField } from '../../ui/controls.tsx';
import { Loading, Refusals } from '../../ui/states.tsx';
import { wording } from './wording.ts';

type MailState = AnswerOf<typeof api.setup.state>['mail'];
type Security = NonNullable<MailState['settings']>['security'];

/** Which mail server is in use, setting another one, and a test mail to oneself. */
export const MailStep = () => {
  const me = useMe();
  const { data } = useQuery(ask(api.setup.state));
  const command = useCommand(api.setup.testMail, wording.testMailSent(me.email));
  if (!data) return <Loading what={wording.theFirstSteps} />;
  const { mail } = data;
  return (
    <div className="flex max-w-xl flex-col gap-3">
      <dl className="tb grid-cols-2 max-md:grid-cols-1">
        <div className="border-r border-line">
          <dt className="cap">{wording.mailServer}</dt>
          <dd className="num mt-0.5">{mail.server ?? '–'}</dd>
        </div>
        <div>
          <dt className="cap">{wording.mailFrom}</dt>
          <dd className="num mt-0.5">{mail.from}</dd>
        </div>
      </dl>
      {mail.server === null && <p className="text-ochre">{wording.mailNobody}</p>}
      {mail.setBy === 'environment' ? (
        <p className="text-ink-2">{wording.mailByEnvironment}</p>
      ) : (
        <ServerForm key={JSON.stringify(mail.settings)} settings={mail.settings} />
      )}
      <div className="flex items-center gap-3 border-t border-line-2 pt-3">
        <CommandButton type="button" busy={command.isPending} onClick={() => command.mutate({})}>
          {wording.sendTestMail}
        </CommandButton>
        <Link className="btn" to="/mail">
          {wording.outgoingMail}
        </Link>
      </div>
      <Refusals error={command.error} />
    </div>
  );
};

const PORTS: Record<Security, number> = { upgrade: 587, encrypted: 465, none: 25 };
const SECURITIES = Object.keys(PORTS) as Security[];

const ServerForm = ({ settings }: { settings: MailState['settings'] }) => {
  const [server, setServer] = useState({
    host: settings?.host ?? '',
    port: String(settings?.port ?? PORTS.upgrade),
    security: settings?.security ?? ('upgrade' as Security),
    user: settings?.user ?? '',
    password: '',
    sender: settings?.sender ?? '',
  });
  const edit = (change: Partial<typeof server>) => setServer((before) => ({ ...before, ...change }));
  const save = useCommand(api.setup.saveMailServer, wording.mailServerSaved);
  const remove = useCommand(api.setup.removeMailServer, wording.mailServerRemoved);
  return (
    <form
      className="grid grid-cols-2 gap-3.5 max-md:grid-cols-1"
      onSubmit={(event) => {
        event.preventDefault();
        const { password, port, ...rest } = server;
        save.mutate({ body: { ...rest, port: Number(port), password: password === '' ? null : password } });
      }}
    >
      <TextField
        label={wording.mailHost}
        required
        value={server.host}
        onChange={(host) => edit({ host: host.trim() })}
        hint={wording.mailHostHint}
      />
      <TextField
        label={wording.mailPort}
        required
        inputMode="numeric"
        pattern="[0-9]+"
        value={server.port}
        onChange={(port) => edit({ port })}
      />
      <Select
        label={wording.mailSecurity}
        value={server.security}
        onChange={(value) => {
          const security = value as Security;
          // A port that was never touched follows what is usual.
          const isUsual = server.port === String(PORTS[server.security]);
          edit({ security, ...(isUsual ? { port: String(PORTS[security]) } : {}) });
        }}
        options={SECURITIES.map((value) => ({ value, text: wording.mailSecurities[value] }))}
      />
      <TextField
        label={wording.mailFrom}
        required
        type="email"
        value={server.sender}
        onChange={(sender) => edit({ sender })}
      />
      <TextField
        label={wording.mailUser}
        optional
        autoComplete="off"
        value={server.user}
        onChange={(user) => edit({ user })}
      />
      <PasswordField
        label={wording.mailPassword}
        autoComplete="new-password"
        required={false}
        optional
        value={server.password}
        onChange={(password) => edit({ password })}
        {...(settings?.hasPassword ? { hint: wording.mailPasswordKept } : {})}
      />
      <div className="col-span-full flex flex-wrap items-center gap-3">
        <CommandButton busy={save.isPending}>{wording.saveMailServer}</CommandButton>
        {settings && (
          <button type="button" className="btn btn-quiet" disabled={remove.isPending} onClick={() => remove.mutate({})}>
            {wording.removeMailServer}
          </button>
        )}
      </div>
      <div className="col-span-full empty:hidden">
        <Refusals error={save.error ?? remove.error} />
      </div>
    </form>
  );
};
