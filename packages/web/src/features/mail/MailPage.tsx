import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useSearchParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton } from '../../ui/controls.tsx';
import { ExportMenu, listOf } from '../../ui/ExportMenu.tsx';
import { showInstant } from '../../ui/format.ts';
import { headings } from '../../ui/headings.ts';
import { Empty, Failed, Loading, Refusals } from '../../ui/states.tsx';
import { wording } from './wording.ts';

/** Outgoing mail: content, receivers, delivery, and its look on arrival. */
export const MailPage = () => {
  const me = useMe();
  const [params, setParams] = useSearchParams();
  const { data, error, isPending, refetch } = useQuery({ ...ask(api.evidence.mails), refetchInterval: 10_000 });
  if (isPending) return <Loading what={wording.outgoingMail} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const chosen = params.get('mail') ?? data.rows[0]?.id;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)] max-lg:grid-cols-1 max-lg:grid-rows-2">
      <section aria-label={wording.mails} className="flex min-h-0 flex-col border-r border-line bg-sheet">
        <div className="border-b border-line bg-film-2 px-4 py-2.5">
          <div className="flex items-start justify-between gap-3">
            <h1>{wording.outgoingMail2}</h1>
            <ExportMenu
              disabled={data.rows.length === 0}
              list={listOf(wording.outgoingMail2, data.rows, [
                [headings.subject, (row) => row.subject],
                [headings.receiver, (row) => row.to],
                [headings.at, (row) => showInstant(row.createdAt, me.organisation.zone)],
                [headings.state, (row) => row.state],
              ])}
            />
          </div>
          <p className="text-ink-2">
            {data.standIn ? wording.noMailServerIsConfiguredThe : wording.mailsAreSentThroughTheConfigured}
          </p>
        </div>
        {data.rows.length === 0 && <Empty title={wording.noMailsYet} />}
        <ul className="min-h-0 flex-1 overflow-y-auto">
          {data.rows.map((row) => (
            <li key={row.id}>
              <button
                type="button"
                aria-pressed={row.id === chosen}
                onClick={() => setParams({ mail: row.id })}
                className={`block w-full border-b border-line-2 px-4 py-2 text-left ${row.id === chosen ? 'bg-petrol-tint' : ''}`}
              >
                <b className="block truncate font-semibold">{row.subject}</b>
                <span className="text-[12px] text-ink-2">
                  {row.to} · {showInstant(row.createdAt, me.organisation.zone)} ·{' '}
                  <span className={row.state === 'failed' ? 'text-vermilion' : ''}>{row.state}</span>
                </span>
              </button>
            </li>
          ))}
        </ul>
      </section>
      {chosen ? <One id={chosen} /> : <section />}
    </div>
  );
};

const One = ({ id }: { id: string }) => {
  const me = useMe();
  const { data, error, isPending } = useQuery(ask(api.evidence.mail, { params: { id } }));
  const resend = useCommand(api.system.resendMail, wording.theMailWillBeSentAgain);
  if (isPending) return <Loading what={wording.theMail} />;
  if (error) return <Failed error={error} />;
  return (
    <section aria-label={wording.mail} className="flex min-h-0 flex-col">
      <div className="border-b border-line bg-film-2 px-4 py-2.5">
        <h2>{data.subject}</h2>
        <p className="text-[12px] text-ink-2">
          {wording.toTo(data.to)}
          {data.arrived && wording.asReceivedByTheStandIn}
          {data.error && <span className="text-vermilion"> · {data.error}</span>}
          {data.nextTryAt && wording.nextTry(showInstant(data.nextTryAt, me.organisation.zone))}
        </p>
        {data.redacted && <p className="text-[12px] text-ink-2">{wording.theLinkWasRemovedFromThis}</p>}
        {data.state === 'failed' && (
          <CommandButton
            type="button"
            tone="plain"
            className="mt-1.5"
            busy={resend.isPending}
            onClick={() => resend.mutate({ params: { id } })}
          >
            {wording.sendAgain}
          </CommandButton>
        )}
        <Refusals error={resend.error} />
      </div>
      {/* A frame that may run nothing; links open in the window. */}
      <iframe
        title={wording.mailPreview}
        sandbox="allow-top-navigation-by-user-activation"
        srcDoc={data.html.replace('<body', '<base target="_top"><body')}
        className="min-h-0 flex-1 bg-film"
      />
    </section>
  );
};
