import { api, type ContentIncident, type FailedWork } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { documentAddress, workAddress } from '../../ui/addresses.ts';
import { CommandButton } from '../../ui/controls.tsx';
import { count, showDay, showInstant } from '../../ui/format.ts';
import { Failed, Loading, Refusals } from '../../ui/states.tsx';
import { wording } from './wording.ts';

/** When it was found that stored bytes are not those that were filed. */
const FOUND: Record<string, string> = {
  opening: wording.whenItWasOpened,
  signing: wording.beforeItWasSigned,
  release: wording.beforeItsRelease,
  'nightly check': wording.inTheNightlyCheck,
  'check now': wording.whenItWasCheckedAgain,
};

/** Faults of the system: stored files that failed their check, work set aside, unsent mail. */
export const SystemPage = () => {
  const { data, error, isPending, refetch } = useQuery({ ...ask(api.system.status), refetchInterval: 15_000 });
  if (isPending) return <Loading what={wording.theSystemStatus} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const calm = data.incidents.length + data.failedWork.length + data.failedMails === 0;
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto px-4 py-3.5">
      <div>
        <h1>{wording.system}</h1>
        <p className="text-ink-2">
          {calm ? wording.everythingWorks : ''}
          {data.checked.oldest
            ? wording.allStoredFilesHaveBeenChecked(
                data.checked.contents.toLocaleString('en-GB'),
                showDay(data.checked.oldest),
              )
            : wording.filesAreStoredSomeHaveNot(data.checked.contents.toLocaleString('en-GB'))}
        </p>
      </div>
      <Part
        title={wording.filesThatFailedTheCheck}
        about={wording.theirBytesHaveChangedOrAre}
        empty={wording.everyCheckedFileIsIntact}
      >
        {data.incidents.map((incident) => (
          <Incident key={incident.sha256} incident={incident} />
        ))}
      </Part>
      <Part
        title={wording.failedBackgroundWork}
        about={wording.itFailedFiveTimesAndIs}
        empty={wording.noFailedBackgroundWork}
      >
        {data.failedWork.map((work) => (
          <Work key={`${work.kind} ${work.subject}`} work={work} />
        ))}
      </Part>
      <Part title={wording.unsentMail} about={wording.sendingIsTriedAgainForFive} empty={wording.allMailHasBeenSentOr}>
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
    finding === 'intact' ? wording.theFileIsIntactAgain : wording.theFileIsStill(finding),
  );
  return (
    <li className={ROW}>
      <div className="min-w-0">
        <p>
          <b className="font-semibold text-vermilion">
            {incident.what === 'missing' ? wording.missing : wording.altered}
          </b>{' '}
          {incident.places.length === 0 && wording.aFileNoDocumentUses}
          {incident.places.map((place, i) => (
            <span key={place.number + place.label + place.name}>
              {i > 0 && '; '}
              <Link className="link num" to={documentAddress(place.number)}>
                {place.number}
              </Link>{' '}
              {place.label}, {place.name}
            </span>
          ))}
        </p>
        <p className="text-[12px] text-ink-2">
          {wording.foundOnSha256(
            FOUND[incident.foundBy] ?? incident.foundBy,
            showInstant(incident.foundAt, me.organisation.zone),
          )}{' '}
          <span className="num">{incident.sha256.slice(0, 16)}…</span>
        </p>
        <Refusals error={command.error} />
      </div>
      <CommandButton
        type="button"
        tone="plain"
        busy={command.isPending}
        onClick={() => command.mutate({ params: { sha256: incident.sha256 } })}
      >
        {wording.checkAgain}
      </CommandButton>
    </li>
  );
};

const Work = ({ work }: { work: FailedWork }) => {
  const me = useMe();
  const command = useCommand(api.system.tryAgain, wording.itIsTriedAgainWithinA);
  return (
    <li className={ROW}>
      <div className="min-w-0">
        <p>
          <b className="font-semibold">{work.kind.charAt(0).toUpperCase() + work.kind.slice(1)}</b>:{' '}
          {work.number ? (
            <Link className="link num" to={workAddress(work.number)}>
              {work.number}
            </Link>
          ) : (
            work.label
          )}
        </p>
        <p className="text-[12px] break-words text-ink-2">
          {wording.reasonTriesSinceSince(
            work.reason,
            count(work.tries, 'try', 'tries'),
            showInstant(work.since, me.organisation.zone),
          )}
        </p>
        <Refusals error={command.error} />
      </div>
      <CommandButton
        type="button"
        tone="plain"
        busy={command.isPending}
        onClick={() => command.mutate({ body: { kind: work.kind, subject: work.subject } })}
      >
        {wording.tryAgain}
      </CommandButton>
    </li>
  );
};

const Mails = ({ failed }: { failed: number }) => {
  const command = useCommand(api.system.resendMails, ({ mails }) => wording.willBeSentAgain(count(mails, 'mail')));
  return (
    <li className={ROW}>
      <p>
        {wording.couldNotBeSent(count(failed, 'mail'))}{' '}
        <Link className="link" to="/mail">
          {wording.openOutgoingMail}
        </Link>
      </p>
      <CommandButton type="button" tone="plain" busy={command.isPending} onClick={() => command.mutate({})}>
        {wording.sendAllAgain}
      </CommandButton>
    </li>
  );
};
