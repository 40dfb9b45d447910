import type { DocumentPage } from '@kanonos/contract';
import { api } from '@kanonos/contract';
import { Link } from 'react-router';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { documentAddress, workAddress } from '../../ui/addresses.ts';
import { showDay, showInstantDay } from '../../ui/format.ts';
import { useOpenCommand } from './commands/openCommand.ts';
import { worksElsewhere } from './inWork.ts';
import { nextSentence } from './sentences.ts';
import { wording } from './wording.ts';

/** Who does what next, until when, what blocks it, and the one main command. Only where something is awaited. */
export const NextStrip = ({ page }: { page: DocumentPage }) => {
  const me = useMe();
  const openCommand = useOpenCommand(page);
  const remind = useCommand(api.tasks.remind, (answer) =>
    wording.reminderSentTo(answer.reminded === 1 ? wording.onePerson : `${answer.reminded} people`),
  );
  const { next } = page;
  const may = (command: string) => page.commands.find((a) => a.command === command)?.refusals.length === 0;
  if (page.view) return null;
  if (page.myReading && page.revision.state === 'in force') {
    return (
      <Strip lead={wording.youAreAskedToReadThis} rest={wording.andSignThatYouHaveRead}>
        <Link className="btn btn-pri" to={`/reading/${page.myReading}`}>
          {wording.readAndSign}
        </Link>
      </Strip>
    );
  }
  if (!next && page.reviewIsDue && page.reviewOn && page.revision.mark === 'in force' && may('review'))
    return (
      <Strip
        lead={(page.reviewOn < me.organisation.today ? wording.reviewWasDue : wording.reviewIsDue)(
          showDay(page.reviewOn),
        )}
        rest={wording.reviewWhat}
      >
        <Link className="btn" to={`${documentAddress(page.number)}/review`}>
          {wording.reviewDocument}
        </Link>
      </Strip>
    );
  if (!next) return null;
  const elsewhere = worksElsewhere(page);
  const sentence = nextSentence(next, me.organisation.zone);
  const { checkout } = page;
  // Also in review: whoever waits for a decision sees that somebody is editing.
  const holder =
    checkout && next.kind !== 'checked out'
      ? wording.checkedOutSince(
          checkout.mine ? wording.you : checkout.person.name,
          showInstantDay(checkout.since, me.organisation.zone),
        )
      : '';
  const address = `/d/${encodeURIComponent(page.number)}`;
  return (
    <Strip {...sentence} rest={`${sentence.rest}${holder}`}>
      {elsewhere && (
        <Link className="btn" to={workAddress(page.number)}>
          {wording.showRevisionInWork(page.work?.label ?? '')}
        </Link>
      )}
      {next.kind === 'decide' &&
        !next.mine &&
        (page.rights.includes('release') || page.rounds[0]?.startedBy.id === me.id) && (
          <button
            type="button"
            className="btn"
            onClick={() => remind.mutate({ params: { document: page.id }, body: {} })}
          >
            {wording.sendReminder}
          </button>
        )}
      {next.kind === 'decide' && next.mine && next.assignmentId && (
        <Link className="btn btn-pri" to={`/tasks/${next.assignmentId}`}>
          {wording.decide}
        </Link>
      )}
      {next.kind === 'checked out' && next.mine && /^text\//.test(page.versions[0]?.files[0]?.mediaType ?? '') && (
        <Link className="btn" to={`${address}/edit`}>
          {wording.editInBrowser}
        </Link>
      )}
      {next.kind === 'checked out' && next.mine && (
        <button type="button" className="btn btn-pri" onClick={() => openCommand('check in')}>
          {wording.checkIn2}
        </button>
      )}
      {next.kind === 'finish' && may('check out') && (
        <button type="button" className="btn" onClick={() => openCommand('check out')}>
          {wording.checkOut2}
        </button>
      )}
      {next.kind === 'finish' && page.rights.includes('author') && page.hasRoute && (
        <button type="button" className="btn btn-pri" onClick={() => openCommand('submit')}>
          {wording.submitForReview2}
        </button>
      )}
      {(next.kind === 'release' ||
        next.kind === 'scheduled' ||
        next.kind === 'blocked' ||
        (next.kind === 'finish' && !page.hasRoute)) &&
        may('release') && (
          <Link className="btn btn-pri" to={`${address}/release`}>
            {next.kind === 'scheduled' ? wording.openRelease : wording.release}
          </Link>
        )}
    </Strip>
  );
};

const Strip = ({ lead, rest, children }: { lead: string; rest: string; children: React.ReactNode }) => (
  <section
    aria-label={wording.next}
    className="flex flex-wrap items-center gap-x-3 gap-y-2 border border-ochre-line bg-ochre-tint px-3 py-2"
  >
    <span className="cap !text-ochre">{wording.next}</span>
    <span className="min-w-0 flex-1 basis-64">
      <b className="font-semibold">{lead}</b> {rest}
    </span>
    {children}
  </section>
);
