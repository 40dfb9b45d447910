import { api, type Desk, type DeskRow } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { Inbox } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { documentAddress, workAddress } from '../../ui/addresses.ts';
import { ago, count, inWords, showDay, showInstantDay } from '../../ui/format.ts';
import { RevisionMark } from '../../ui/marks.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { FirstStepsCard } from '../setup/FirstStepsCard.tsx';
import { DeskTabs } from './DeskTabs.tsx';
import { wording } from './wording.ts';

const blockedWords = (rows: readonly DeskRow[]): string => {
  const blocked = rows.filter((row) => row.overdue).length;
  return blocked ? wording.withABlocker(blocked) : '';
};

const GROUPS: { kind: DeskRow['kind']; title: string; about: (rows: DeskRow[], desk: Desk) => string }[] = [
  { kind: 'stuck', title: wording.stuck, about: () => wording.roundsThatWillMissTheirDay },
  { kind: 'decide', title: wording.decide, about: () => wording.reviewAndApprovalStepsAssignedTo },
  { kind: 'returned', title: wording.returned, about: () => wording.rejectedWithAComment },
  { kind: 'coming', title: wording.comesIntoForceThisWeek, about: blockedWords },
  { kind: 'release', title: wording.release, about: () => wording.approvedOrScheduledForDocumentControl },
  { kind: 'arrived', title: wording.arrived, about: () => '' },
  {
    kind: 'read',
    title: wording.readAndSign,
    about: (rows, desk) =>
      wording.documentsAboutMinutes(count(rows.length, 'document'), count(desk.readingMinutes, 'minute')),
  },
  { kind: 'check', title: wording.followUp, about: () => wording.upcomingDatesAndSourcesToCheck },
  { kind: 'overdue', title: wording.overdueCheckOuts, about: () => '' },
  { kind: 'writing', title: wording.writing, about: () => wording.yourDraftsAndCheckOuts },
  { kind: 'review', title: wording.reviewsDue, about: () => wording.withinTwoWeeks },
  { kind: 'waiting', title: wording.waitingForOthers, about: () => wording.submittedByYou },
];

/** What waits for me, with the one command that takes it further. */
export const DeskPage = () => {
  const { data, error, isPending, refetch } = useQuery(ask(api.tasks.desk));
  if (isPending) return <Loading what={wording.yourDesk} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const mine = data.rows.filter((row) => row.kind !== 'waiting');
  const overdue = mine.filter((row) => row.overdue).length;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_306px] content-start gap-3.5 overflow-y-auto px-4 py-3.5 max-lg:grid-cols-1">
      <section className="min-w-0">
        <div className="flex flex-wrap items-end justify-between gap-2">
          <div>
            <h1>
              {mine.length === 0
                ? wording.nothingIsWaitingForYou
                : mine.length === 1
                  ? wording.oneTaskIsWaitingForYou
                  : wording.tasksAreWaitingForYou(inWords(mine.length))}
            </h1>
            <span className="text-ink-2">
              {mine.length === 0
                ? wording.yourTasksWillAppearHere
                : overdue === 0
                  ? wording.noneIsOverdue
                  : overdue === 1
                    ? wording.oneIsOverdue
                    : wording.areOverdue(inWords(overdue))}
            </span>
          </div>
          <DeskTabs />
        </div>
        <FirstStepsCard />
        {data.rows.length === 0 && <Empty title={wording.nothingToDo}>{wording.youCanFollowWhatYouSubmitted}</Empty>}
        {GROUPS.map((group) => {
          const rows = data.rows.filter((row) => row.kind === group.kind);
          if (rows.length === 0) return null;
          return (
            <section key={group.kind} aria-label={group.title}>
              <div className="flex items-baseline gap-2 px-0.5 pt-2.5 pb-1.5">
                <h2>{group.title}</h2>
                <span className="text-ink-3">{group.about(rows, data)}</span>
              </div>
              <ul>
                {rows.map((row) => (
                  <TaskRow key={`${row.kind}${row.id}${row.detail}`} row={row} />
                ))}
              </ul>
            </section>
          );
        })}
      </section>
      <Side desk={data} />
    </div>
  );
};

const dueText = (row: DeskRow, today: string): string => {
  if ((row.kind === 'writing' || row.kind === 'overdue') && row.daysOverdue > 0)
    return wording.daysOut(row.daysOverdue);
  if (row.kind === 'release' || row.kind === 'coming')
    return row.overdue ? wording.blocked : row.due ? showDay(row.due, true) : wording.ready;
  if (row.overdue) return wording.daysOverdue(row.daysOverdue);
  if (!row.due) return '–';
  return row.due === today ? wording.today : showDay(row.due, true);
};

const TaskRow = ({ row }: { row: DeskRow }) => {
  const me = useMe();
  return (
    <li className="grid grid-cols-[76px_38px_minmax(0,1fr)_auto] items-center gap-3 border-b border-line-2 bg-sheet px-3 py-2 max-md:mb-2.5 max-md:grid-cols-[38px_minmax(0,1fr)] max-md:items-start max-md:gap-y-1.5 max-md:border max-md:border-line max-md:py-3">
      <span
        className={`font-mono text-[11px] font-semibold [font-stretch:80%] max-md:order-3 max-md:col-start-2 ${row.overdue ? 'text-vermilion' : ''}`}
      >
        {dueText(row, me.organisation.today)}
      </span>
      {row.number ? (
        <RevisionMark label={row.label} mark={row.mark} />
      ) : (
        <Inbox size={20} aria-hidden className="mx-auto text-ink-3" />
      )}
      <span className="min-w-0">
        <Link
          to={row.number ? (row.mark === 'in force' ? documentAddress(row.number) : workAddress(row.number)) : row.link}
          className="block truncate hover:underline max-md:whitespace-normal [&>.num]:max-md:block"
        >
          {row.number && <span className="num mr-2">{row.number}</span>}
          <b className="font-semibold">{row.title}</b>
        </Link>
        <span className="block truncate text-[12px] text-ink-2 max-md:whitespace-normal">{row.detail}</span>
      </span>
      <Link
        to={row.link}
        className={`btn max-md:order-4 max-md:col-span-2 max-md:h-11 ${row.primary ? 'btn-pri' : ''}`}
        aria-label={`${row.action}: ${row.number || row.title}`}
      >
        {row.action}
      </Link>
    </li>
  );
};

const Pane = ({ title, children }: { title: string; children: ReactNode }) => (
  <section className="pane px-3 py-2.5">
    <h2 className="mb-1.5">{title}</h2>
    {children}
  </section>
);

const Side = ({ desk }: { desk: Desk }) => {
  const me = useMe();
  return (
    <aside aria-label={wording.elsewhere} className="flex min-w-0 flex-col gap-3">
      {desk.attention.length > 0 && (
        <Pane title={wording.needsAttention}>
          <ul className="text-[12.5px] leading-[1.6]">
            {desk.attention.map((one) => (
              <li key={one.text}>
                <Link to={one.link} className="font-semibold text-vermilion hover:underline">
                  {one.text}
                </Link>
              </li>
            ))}
          </ul>
        </Pane>
      )}
      {desk.organisation && (
        <Pane title={wording.theOrganisationToday}>
          <dl className="grid grid-cols-[1fr_auto] gap-x-2.5 gap-y-1">
            <Figure name={wording.routesInProgress} value={String(desk.organisation.running)} />
            <Figure
              name="of which overdue"
              value={String(desk.organisation.overdue)}
              bad={desk.organisation.overdue > 0}
            />
            {desk.organisation.onTimePercent !== null && (
              <Figure name={wording.readingSignedOnTime} value={`${desk.organisation.onTimePercent} %`} />
            )}
            <Figure name={wording.reviewsDueIn30Days} value={String(desk.organisation.reviewsSoon)} />
          </dl>
        </Pane>
      )}
      {desk.checkedOut.length > 0 && (
        <Pane title={wording.checkedOutByOthers}>
          <ul className="text-[12.5px] leading-[1.7]">
            {desk.checkedOut.map((row) => (
              <li key={row.number}>
                <DocumentLink number={row.number} /> {row.person},{' '}
                <span className={row.days > 14 ? 'text-vermilion' : ''}>{row.days ? `${row.days} d` : 'today'}</span>
              </li>
            ))}
          </ul>
        </Pane>
      )}
      {desk.newlyInForce.length > 0 && (
        <Pane title={wording.newlyInForce}>
          <ul className="text-[12.5px] leading-[1.5]">
            {desk.newlyInForce.map((row) => (
              <li key={row.number + row.label} className="mb-1">
                <DocumentLink number={row.number} /> {row.label && wording.revRow(row.label)}
                {showInstantDay(row.since, me.organisation.zone, true)}
                <span className="block truncate text-ink-2">{row.title}</span>
              </li>
            ))}
          </ul>
        </Pane>
      )}
      {desk.recentlyOpened.length > 0 && (
        <Pane title={wording.recentlyOpened}>
          <ul className="text-[12.5px] leading-[1.7]">
            {desk.recentlyOpened.map((row) => (
              <li key={row.number}>
                <DocumentLink number={row.number} /> {row.label && `${row.label}, `}
                {ago(row.at)}
              </li>
            ))}
          </ul>
        </Pane>
      )}
    </aside>
  );
};

const Figure = ({ name, value, bad }: { name: string; value: string; bad?: boolean }) => (
  <>
    <dt className="text-ink-2">{name}</dt>
    <dd className={`num text-right !font-semibold ${bad ? 'text-vermilion' : ''}`}>{value}</dd>
  </>
);

const DocumentLink = ({ number }: { number: string }) => (
  <Link to={documentAddress(number)} className="num mr-1 hover:underline">
    {number}
  </Link>
);
