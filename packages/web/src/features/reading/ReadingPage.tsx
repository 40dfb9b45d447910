import { api } from '@kanonos/contract';
import { dayOf } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense } from 'react';
import { Link, useSearchParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { ExportMenu, listOf } from '../../ui/ExportMenu.tsx';
import { count, showDay, showInstantDay } from '../../ui/format.ts';
import { headings } from '../../ui/headings.ts';
import { HoldWords, RevisionMark } from '../../ui/marks.tsx';
import { Page } from '../../ui/Page.tsx';
import { ReadingCell } from '../../ui/ReadingCell.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { wording } from './wording.ts';

const TeamReading = lazy(() => import('./TeamReading.tsx').then((m) => ({ default: m.TeamReading })));

/** My readings, and for who supervises or audits the reading of a team. */
export const ReadingPage = () => {
  const me = useMe();
  const [params, setParams] = useSearchParams();
  const sees = me.supervises > 0 || me.organisationRights.includes('audit');
  const view = params.get('view') ?? (sees ? 'team' : 'mine');
  const switcher = sees && (
    <span className="flex gap-1">
      {[
        ['team', wording.theTeam2],
        ['mine', wording.myOwn],
      ].map(([key, text]) => (
        <button
          key={key}
          type="button"
          aria-pressed={view === key}
          onClick={() => setParams({ view: key ?? 'team' })}
          className={`btn ${view === key ? '!border-ink !bg-ink !text-white' : ''}`}
        >
          {text}
        </button>
      ))}
    </span>
  );
  if (view === 'team' && sees)
    return (
      <Suspense fallback={<Loading what={wording.theTeam} />}>
        <TeamReading switcher={switcher} />
      </Suspense>
    );
  return <Mine switcher={switcher} />;
};

const Mine = ({ switcher }: { switcher: React.ReactNode }) => {
  const me = useMe();
  const { data, error, isPending, refetch } = useQuery(ask(api.reading.mine));
  if (isPending) return <Loading what={wording.yourReadings} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const open = data.rows.filter((row) => row.state === 'open' || row.state === 'overdue');
  return (
    <Page
      title={open.length ? wording.toRead(count(open.length, 'document')) : wording.youHaveReadEverything}
      about={
        <>
          {open.length > 0 &&
            wording.aboutMinutes(
              count(
                open.reduce((n, row) => n + row.minutes, 0),
                'minute',
              ),
            )}
          {wording.signedOnesStayBelow}
        </>
      }
      actions={
        <>
          {data.rows.length > 0 && (
            <ExportMenu
              list={listOf(wording.myReadings, data.rows, [
                [headings.number, (row) => row.number],
                [headings.revision, (row) => row.label],
                [headings.title, (row) => row.title],
                [headings.state, (row) => row.state],
                [headings.due, (row) => row.due],
                [headings.signed, (row) => (row.closedAt ? dayOf(new Date(row.closedAt), me.organisation.zone) : null)],
              ])}
            />
          )}
          {switcher}
        </>
      }
    >
      {data.rows.length === 0 && <Empty title={wording.noReadingsYet} />}
      <ul>
        {data.rows.map((row) => (
          <li
            key={row.id}
            className="grid grid-cols-[38px_minmax(0,1fr)_92px_150px_auto] items-center gap-3 border-b border-line-2 bg-sheet px-3 py-2 max-md:mb-2.5 max-md:grid-cols-[38px_minmax(0,1fr)] max-md:border max-md:border-line max-md:py-3 max-md:[&>*:nth-child(n+3)]:col-start-2 max-md:[&>.btn]:h-11"
          >
            <RevisionMark label={row.label} mark={row.mark} />
            <span className="min-w-0">
              <span className="num mr-2">{row.number}</span>
              <b className="font-semibold">{row.title}</b>
              <HoldWords when={row.mark === 'on hold'} />
            </span>
            <ReadingCell state={row.state} />
            <span className="text-[12.5px] text-ink-2">
              {row.closedAt
                ? wording.onClosedAt(showInstantDay(row.closedAt, me.organisation.zone))
                : wording.dueDue(showDay(row.due))}
            </span>
            <Link className="btn" to={`/reading/${row.id}`}>
              {row.closedAt ? wording.view : wording.read}
            </Link>
          </li>
        ))}
      </ul>
    </Page>
  );
};
