import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton } from '../../ui/controls.tsx';
import { Refusals } from '../../ui/states.tsx';
import { wording } from './wording.ts';

/** Which mail server is in use, and a test mail to oneself. */
export const MailStep = () => {
  const me = useMe();
  const { data } = useQuery(ask(api.setup.state));
  const command = useCommand(api.setup.testMail, wording.testMailSent(me.email));
  return (
    <div className="flex max-w-xl flex-col gap-3">
      <dl className="tb grid-cols-2 max-md:grid-cols-1">
        <div className="border-r border-line">
          <dt className="cap">{wording.mailServer}</dt>
          <dd className="num mt-0.5">{data?.mail.server ?? '–'}</dd>
        </div>
        <div>
          <dt className="cap">{wording.mailFrom}</dt>
          <dd className="num mt-0.5">{data?.mail.from}</dd>
        </div>
      </dl>
      {data?.mail.server === null && <p className="text-ochre">{wording.mailNobody}</p>}
      <p className="text-ink-2">{wording.mailHow}</p>
      <div className="flex items-center gap-3">
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
