import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { documentAddress, workAddress } from '../../ui/addresses.ts';
import { Choice, CommandButton } from '../../ui/controls.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { leftToOpen } from '../../ui/FilesToOpen.tsx';
import { showDay } from '../../ui/format.ts';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { SignBox } from '../../ui/SignBox.tsx';
import { SignedFiles } from '../../ui/SignedFiles.tsx';
import { Failed, Loading, Refusals, Why } from '../../ui/states.tsx';
import { PreflightList } from './PreflightList.tsx';
import { TitleBlock } from './TitleBlock.tsx';
import { wording } from './wording.ts';

/** The preflight, and the release now or on a coming day. */
export const ReleasePage = () => {
  const { number = '' } = useParams();
  const me = useMe();
  const navigate = useNavigate();
  const page = useQuery(ask(api.documents.page, { params: { document: number }, query: { rev: 'work' } }));
  const [later, setLater] = useState(false);
  const [day, setDay] = useState('');
  const [reason, setReason] = useState('');
  const [sign, setSign] = useState({ name: '', password: '' });
  const address = workAddress(number);
  const release = useCommand(
    api.documents.release,
    ({ state }) => (state === 'in force' ? wording.isInForce(number) : wording.isScheduled(number)),
    ({ state }) => navigate(state === 'in force' ? documentAddress(number) : address),
  );
  const move = useCommand(api.documents.moveDay, wording.theDateWasMoved, () => navigate(address));
  // What is in force has no preflight: once the release is under way it is not asked for again.
  const preflight = useQuery({
    ...ask(api.documents.preflight, { params: { document: number } }),
    enabled: release.isIdle || release.isError,
  });
  if (page.isPending || preflight.isPending) return <Loading what={wording.thePreflight} />;
  if (page.error || preflight.error)
    return <Failed error={page.error ?? preflight.error ?? new Error()} again={() => void preflight.refetch()} />;
  const { revision } = page.data;
  const blockers = preflight.data.lines.filter((line) => line.blocks);
  const scheduled = revision.state === 'scheduled';
  const { signing } = preflight.data;
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto px-3.5 py-3">
      <TitleBlock page={page.data} />
      <div className="grid grid-cols-[minmax(0,1fr)_344px] gap-3 max-lg:grid-cols-1">
        <PreflightList page={page.data} preflight={preflight.data} />
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
          <h2>{scheduled ? wording.scheduledFor(showDay(revision.plannedOn)) : wording.release}</h2>
          <fieldset>
            <legend className="sr-only">{wording.when}</legend>
            <Choice
              name="when"
              title={scheduled ? wording.releaseNowInstead : wording.now}
              about={wording.inForceImmediately}
              checked={!later}
              onChange={() => setLater(false)}
            />
            <Choice
              name="when"
              title={scheduled ? wording.moveTheDate : wording.onAFutureDate}
              about={wording.fromTheStartOfThatDay(me.organisation.zone)}
              checked={later}
              onChange={() => setLater(true)}
            />
          </fieldset>
          {later && (
            <DateField
              label={wording.date}
              required={!scheduled}
              min={preflight.data.earliestDay}
              value={day}
              onChange={setDay}
              hint={scheduled ? wording.leaveEmptyToCancelTheDate : wording.fromOn(showDay(preflight.data.earliestDay))}
            />
          )}
          {scheduled && later && <ReasonField value={reason} onChange={setReason} />}
          {signing && (
            <>
              <SignedFiles files={signing.files} askAgain={preflight.refetch} />
              <SignBox asksForName={signing.asksForName} value={sign} onChange={setSign} error={release.error} />
            </>
          )}
          <Refusals error={release.error ?? move.error} />
          <CommandButton
            busy={release.isPending || move.isPending}
            disabled={blockers.length > 0 || leftToOpen(signing?.files ?? []).length > 0}
            className="!h-9"
          >
            {signing
              ? wording.signAndRelease
              : scheduled && later
                ? wording.moveTheDate
                : later
                  ? wording.scheduleTheRelease
                  : wording.releaseRevision(revision.label)}
          </CommandButton>
          {blockers.length > 0 && <Why>{wording.clearTheBlockersToReleaseIt}</Why>}
        </form>
      </div>
    </div>
  );
};
