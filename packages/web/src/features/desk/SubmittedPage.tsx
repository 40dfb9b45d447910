import { api, type SubmittedRow } from '@kanonos/contract';
import { dayOf } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { workAddress } from '../../ui/addresses.ts';
import { ExportMenu, listOf } from '../../ui/ExportMenu.tsx';
import { saidWords, showDay, showInstantDay } from '../../ui/format.ts';
import { headings } from '../../ui/headings.ts';
import { HoldWords, NotchBar, RevisionMark } from '../../ui/marks.tsx';
import { Page } from '../../ui/Page.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { DeskTabs } from './DeskTabs.tsx';
import { wording } from './wording.ts';

const standing = (row: SubmittedRow) =>
  row.step ? `${row.step}, ${row.stepOf}` : row.runState === 'done' ? wording.allHaveDecided : row.runState;

/** What I sent: what waits for whom since when, and what was said so far. */
export const SubmittedPage = () => {
  const me = useMe();
  const { data, error, isPending, refetch } = useQuery(ask(api.tasks.submitted));
  const remind = useCommand(api.tasks.remind, (answer) =>
    wording.reminderSentTo(answer.reminded === 1 ? wording.onePerson : `${answer.reminded} people`),
  );
  if (isPending) return <Loading what={wording.yourSubmissions} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const day = (instant: string) => showInstantDay(instant, me.organisation.zone, true);
  return (
    <Page
      title={wording.submittedByMe}
      about={wording.openOnesFirstCompletedOnesStay}
      actions={
        <>
          {data.rows.length > 0 && (
            <ExportMenu
              list={listOf(wording.submittedByMe, data.rows, [
                [headings.number, (row) => row.number],
                [headings.revision, (row) => row.label],
                [headings.title, (row) => row.title],
                [headings.submitted, (row) => dayOf(new Date(row.sentAt), me.organisation.zone)],
                [headings.status, (row) => standing(row)],
                [headings.waitsFor, (row) => row.waiting.map((one) => one.person).join(', ')],
                [
                  headings.decisions,
                  (row) => row.decisions.map((one) => `${one.person} ${saidWords(one.decision)}`).join(', '),
                ],
              ])}
            />
          )}
          <DeskTabs />
        </>
      }
    >
      {data.rows.length === 0 && (
        <Empty title={wording.nothingSubmitted}>{wording.documentsYouSubmitForReviewAnd}</Empty>
      )}
      <ul>
        {data.rows.map((row) => (
          <li
            key={row.documentId + row.round}
            className="grid grid-cols-[38px_minmax(0,1.3fr)_150px_minmax(0,1.4fr)_76px] items-start gap-3 border-b border-line-2 bg-sheet px-3 py-2.5"
          >
            <RevisionMark label={row.label} mark={row.mark} />
            <span className="min-w-0">
              <Link to={workAddress(row.number)} className="hover:underline">
                <span className="num block">{row.number}</span>
                <b className="block truncate font-semibold">{row.title}</b>
                <HoldWords when={row.mark === 'on hold'} />
              </Link>
              <span className="text-[12px] text-ink-3">{wording.submittedRound(day(row.sentAt), row.round)}</span>
            </span>
            <NotchBar state={row.state} words={standing(row)} />
            <span className="text-[12.5px]">
              {row.waiting.map((w) => (
                <span key={w.person} className="block">
                  <b className="font-semibold">{w.person}</b> {wording.sinceSince(day(w.since))}
                  {w.due && (
                    <span className={w.overdue ? 'text-vermilion' : 'text-ink-2'}>
                      , {w.overdue ? wording.wasDue : 'due'} {showDay(w.due, true)}
                    </span>
                  )}
                </span>
              ))}
              {row.decisions.map((s) => (
                <span key={s.person + s.at} className="block text-ink-2">
                  {s.person} {saidWords(s.decision)}, {day(s.at)}
                  {s.comment && <em className="block not-italic">“{s.comment}”</em>}
                </span>
              ))}
            </span>
            {row.waiting.length > 0 ? (
              <button
                type="button"
                className="btn"
                disabled={remind.isPending}
                onClick={() => remind.mutate({ params: { document: row.documentId }, body: {} })}
              >
                {wording.sendReminder}
              </button>
            ) : (
              <span />
            )}
          </li>
        ))}
      </ul>
    </Page>
  );
};
