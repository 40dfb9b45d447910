import { api, sentenceOf } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { Choice, CommandButton, TextArea, TextField } from '../../ui/controls.tsx';
import { leftToOpen } from '../../ui/FilesToOpen.tsx';
import { count, showDay } from '../../ui/format.ts';
import { SignBox } from '../../ui/SignBox.tsx';
import { SignedFiles } from '../../ui/SignedFiles.tsx';
import { Failed, Loading, Refusals, Why } from '../../ui/states.tsx';
import { TitleBlock } from './TitleBlock.tsx';

const CHECKS: Record<string, string> = {
  signatures: 'All signatures are present and intact',
  record: 'The signed content is unchanged',
  content: 'The files are in the store',
  'check-out': 'Nothing is checked out',
  metadata: 'Required fields have values',
  comments: 'No blocking comment is open',
  readers: 'Readers are defined where the type requires it',
};
const WAYS: Record<string, string> = {
  reopen: 'Return to draft',
  'discard check-out': 'Ask for check-in',
  'resolve comment': 'Open comments',
  'define readers': 'Define readers',
};

/** The preflight, and the release now or on a coming day. */
export const ReleasePage = () => {
  const { number = '' } = useParams();
  const me = useMe();
  const navigate = useNavigate();
  const page = useQuery(ask(api.documents.page, { params: { document: number } }));
  const preflight = useQuery(ask(api.documents.preflight, { params: { document: number } }));
  const [later, setLater] = useState(false);
  const [day, setDay] = useState('');
  const [reason, setReason] = useState('');
  const [sign, setSign] = useState({ name: '', password: '' });
  const address = `/d/${encodeURIComponent(number)}`;
  const release = useCommand(
    api.documents.release,
    ({ state }) => (state === 'in force' ? `${number} is in force.` : `${number} is scheduled.`),
    () => navigate(address),
  );
  const move = useCommand(api.documents.moveDay, 'The date was moved.', () => navigate(address));
  if (page.isPending || preflight.isPending) return <Loading what="the preflight" />;
  if (page.error || preflight.error)
    return <Failed error={page.error ?? preflight.error ?? new Error()} again={() => void preflight.refetch()} />;
  const { revision } = page.data;
  const blockers = preflight.data.lines.filter((line) => line.blocks);
  const scheduled = revision.state === 'scheduled';
  const { signing } = preflight.data;
  const wayTo = (way: string | undefined) =>
    way === 'resolve comment'
      ? `${address}?side=comments`
      : way === 'define readers'
        ? `${address}?tab=readers`
        : way === 'reopen'
          ? `${address}?command=reopen`
          : address;
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto px-3.5 py-3">
      <TitleBlock page={page.data} />
      <div className="grid grid-cols-[minmax(0,1fr)_344px] gap-3">
        <section aria-label="Preflight" className="pane self-start">
          <div className="border-b border-line bg-film-2 px-4 py-2.5">
            <h1>
              {blockers.length === 0
                ? `Nothing blocks the release of ${revision.label || page.data.number}`
                : `${count(blockers.length, 'blocker')} before ${revision.label || page.data.number} can be released`}
            </h1>
            <p className="text-ink-2">
              {preflight.data.supersedes
                ? `${preflight.data.supersedes} is superseded at the moment of release.`
                : 'This is the first release.'}{' '}
              {preflight.data.readers > 0 &&
                `${count(preflight.data.readers, 'person', 'people')} will be asked to read it.`}
            </p>
          </div>
          <ul>
            {preflight.data.lines.map((line) => (
              <li
                key={line.check + JSON.stringify(line.refusal ?? {})}
                className="grid grid-cols-[70px_minmax(0,1fr)_auto] items-center gap-3 border-b border-line-2 px-4 py-2"
              >
                <span className={`cap ${line.blocks ? '!text-vermilion' : '!text-petrol'}`}>
                  {line.blocks ? 'Blocks' : 'Clear'}
                </span>
                <span>
                  {line.refusal
                    ? sentenceOf(line.refusal.code, line.refusal.params, me.organisation.zone)
                    : (CHECKS[line.check] ?? line.check)}
                </span>
                {line.way && (
                  <Link className="btn !h-6" to={wayTo(line.way)}>
                    {WAYS[line.way] ?? line.way}
                  </Link>
                )}
              </li>
            ))}
          </ul>
        </section>
        <form
          className="pane flex flex-col gap-3 self-start p-4"
          onSubmit={(event) => {
            event.preventDefault();
            if (scheduled && later)
              move.mutate({
                params: { document: page.data.id },
                body: { seen: page.data.stateTag, on: day || null, reason },
              });
            else
              release.mutate({
                params: { document: page.data.id },
                body: {
                  seen: page.data.stateTag,
                  on: later ? day : null,
                  name: signing ? sign.name || null : null,
                  password: signing ? sign.password : null,
                  digest: signing?.digest ?? null,
                },
              });
          }}
        >
          <h2>{scheduled ? `Scheduled for ${showDay(revision.plannedOn)}` : 'Release'}</h2>
          <fieldset>
            <legend className="sr-only">When</legend>
            <Choice
              name="when"
              title={scheduled ? 'Release now instead' : 'Now'}
              about="in force immediately"
              checked={!later}
              onChange={() => setLater(false)}
            />
            <Choice
              name="when"
              title={scheduled ? 'Move the date' : 'On a future date'}
              about={`from the start of that day in ${me.organisation.zone}, automatically`}
              checked={later}
              onChange={() => setLater(true)}
            />
          </fieldset>
          {later && (
            <TextField
              label="Date"
              type="date"
              required={!scheduled}
              min={preflight.data.earliestDay}
              value={day}
              onChange={(event) => setDay(event.target.value)}
              hint={
                scheduled
                  ? 'Leave empty to cancel the date; the revision stays approved'
                  : `From ${showDay(preflight.data.earliestDay)} on`
              }
            />
          )}
          {scheduled && later && (
            <TextArea
              label="Reason"
              required
              rows={2}
              value={reason}
              onChange={(event) => setReason(event.target.value)}
            />
          )}
          {signing && (
            <>
              <SignedFiles files={signing.files} askAgain={preflight.refetch} />
              <SignBox asksForName={signing.asksForName} signer={me.name} value={sign} onChange={setSign} />
            </>
          )}
          <Refusals error={release.error ?? move.error} />
          <CommandButton
            busy={release.isPending || move.isPending}
            disabled={blockers.length > 0 || leftToOpen(signing?.files ?? []).length > 0}
            className="!h-9"
          >
            {signing
              ? 'Sign and release'
              : scheduled && later
                ? 'Move the date'
                : later
                  ? 'Schedule the release'
                  : `Release ${revision.label}`}
          </CommandButton>
          {blockers.length > 0 && <Why>Clear the blockers to release it.</Why>}
        </form>
      </div>
    </div>
  );
};
