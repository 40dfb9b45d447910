import { api, type ContentIncident, type FailedWork } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton } from '../../ui/controls.tsx';
import { count, showDay, showInstant } from '../../ui/format.ts';
import { Failed, Loading, Refusals } from '../../ui/states.tsx';

/** When it was found that stored bytes are not those that were filed. */
const FOUND: Record<string, string> = {
  opening: 'when it was opened',
  signing: 'before it was signed',
  release: 'before its release',
  'nightly check': 'in the nightly check',
  'check now': 'when it was checked again',
};

/** What keeps the system from its work: stored files that failed their check, work that is set aside, mail that was not sent. */
export const SystemPage = () => {
  const { data, error, isPending, refetch } = useQuery({ ...ask(api.system.status), refetchInterval: 15_000 });
  if (isPending) return <Loading what="the system status" />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const calm = data.incidents.length + data.failedWork.length + data.failedMails === 0;
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto px-4 py-3.5">
      <div>
        <h1>System</h1>
        <p className="text-ink-2">
          {calm ? 'Everything works. ' : ''}
          {data.checked.oldest
            ? `All ${data.checked.contents.toLocaleString('en-GB')} stored files have been checked since ${showDay(data.checked.oldest)}.`
            : `${data.checked.contents.toLocaleString('en-GB')} files are stored; some have not had their first nightly check.`}
        </p>
      </div>
      <Part
        title="Files that failed the check"
        about="Their bytes have changed or are missing. They can be neither downloaded nor signed. Restore them from a backup, then check them again."
        empty="Every checked file is intact."
      >
        {data.incidents.map((incident) => (
          <Incident key={incident.sha256} incident={incident} />
        ))}
      </Part>
      <Part
        title="Failed background work"
        about="It failed five times and is not tried again automatically. Other work continues."
        empty="No failed background work."
      >
        {data.failedWork.map((work) => (
          <Work key={`${work.kind} ${work.subject}`} work={work} />
        ))}
      </Part>
      <Part
        title="Unsent mail"
        about="Sending is tried again for five days. You can also send it again now."
        empty="All mail has been sent or is being sent."
      >
        {data.failedMails > 0 && <Mails failed={data.failedMails} />}
      </Part>
    </div>
  );
};

const Part = ({
  title,
  about,
  empty,
  children,
}: {
  title: string;
  about: string;
  empty: string;
  children: ReactNode;
}) => {
  const isEmpty = !children || (Array.isArray(children) && children.length === 0);
  return (
    <section aria-label={title} className="pane">
      <div className="border-b border-line bg-film-2 px-4 py-2">
        <h2>{title}</h2>
        {!isEmpty && <p className="text-[12.5px] text-ink-2">{about}</p>}
      </div>
      {isEmpty ? <p className="px-4 py-2.5 text-ink-2">{empty}</p> : <ul>{children}</ul>}
    </section>
  );
};

const ROW = 'grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-3 border-b border-line-2 px-4 py-2 last:border-b-0';

const Incident = ({ incident }: { incident: ContentIncident }) => {
  const me = useMe();
  const command = useCommand(api.system.checkContent, ({ finding }) =>
    finding === 'intact' ? 'The file is intact again.' : `The file is still ${finding}.`,
  );
  return (
    <li className={ROW}>
      <div className="min-w-0">
        <p>
          <b className="font-semibold text-vermilion">{incident.what === 'missing' ? 'Missing' : 'Altered'}</b>{' '}
          {incident.places.length === 0 && 'a file no document uses'}
          {incident.places.map((place, i) => (
            <span key={place.number + place.label + place.name}>
              {i > 0 && '; '}
              <Link className="link num" to={`/d/${encodeURIComponent(place.number)}`}>
                {place.number}
              </Link>{' '}
              {place.label}, {place.name}
            </span>
          ))}
        </p>
        <p className="text-[12px] text-ink-2">
          Found {FOUND[incident.foundBy] ?? incident.foundBy} on {showInstant(incident.foundAt, me.organisation.zone)} ·
          SHA-256 <span className="num">{incident.sha256.slice(0, 16)}…</span>
        </p>
        <Refusals error={command.error} />
      </div>
      <CommandButton
        type="button"
        tone="plain"
        busy={command.isPending}
        onClick={() => command.mutate({ params: { sha256: incident.sha256 } })}
      >
        Check again
      </CommandButton>
    </li>
  );
};

const Work = ({ work }: { work: FailedWork }) => {
  const me = useMe();
  const command = useCommand(api.system.tryAgain, 'It is tried again within a minute.');
  return (
    <li className={ROW}>
      <div className="min-w-0">
        <p>
          <b className="font-semibold">{work.kind.charAt(0).toUpperCase() + work.kind.slice(1)}</b>:{' '}
          {work.number ? (
            <Link className="link num" to={`/d/${encodeURIComponent(work.number)}`}>
              {work.number}
            </Link>
          ) : (
            work.label
          )}
        </p>
        <p className="text-[12px] break-words text-ink-2">
          {work.reason} · {count(work.tries, 'try', 'tries')} since {showInstant(work.since, me.organisation.zone)}
        </p>
        <Refusals error={command.error} />
      </div>
      <CommandButton
        type="button"
        tone="plain"
        busy={command.isPending}
        onClick={() => command.mutate({ body: { kind: work.kind, subject: work.subject } })}
      >
        Try again
      </CommandButton>
    </li>
  );
};

const Mails = ({ failed }: { failed: number }) => {
  const command = useCommand(api.system.resendMails, ({ mails }) => `${count(mails, 'mail')} will be sent again.`);
  return (
    <li className={ROW}>
      <p>
        {count(failed, 'mail')} could not be sent.{' '}
        <Link className="link" to="/mail">
          Open outgoing mail
        </Link>
      </p>
      <CommandButton type="button" tone="plain" busy={command.isPending} onClick={() => command.mutate({})}>
        Send all again
      </CommandButton>
    </li>
  );
};
