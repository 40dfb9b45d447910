import { api, type Desk, type DeskCard, type DeskRow } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { Inbox } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { documentAddress, workAddress } from '../../ui/addresses.ts';
import { count, inWords, showDay } from '../../ui/format.ts';
import { HoldWords, RevisionMark } from '../../ui/marks.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { CARD_NAMES } from './cards.ts';
import { DeskTabs } from './DeskTabs.tsx';
import { SeveralBar, useSeveralOnDesk } from './SeveralBar.tsx';
import { SideCards } from './SideCards.tsx';
import { wording } from './wording.ts';

// Neither is on the first screen of most people.
const FirstStepsCard = lazy(() => import('../setup/FirstStepsCard.tsx').then((it) => ({ default: it.FirstStepsCard })));
const ArrangeDialog = lazy(() => import('./ArrangeDialog.tsx').then((it) => ({ default: it.ArrangeDialog })));

const blockedWords = (rows: readonly DeskRow[]): string => {
  const blocked = rows.filter((row) => row.overdue).length;
  return blocked ? wording.withABlocker(blocked) : '';
};

type Group = { kind: DeskRow['kind']; about: (rows: DeskRow[], desk: Desk) => string };
const GROUPS: Group[] = [
  { kind: 'stuck', about: () => wording.roundsThatWillMissTheirDay },
  { kind: 'decide', about: () => wording.reviewAndApprovalStepsAssignedTo },
  { kind: 'task', about: () => wording.tasksOfChangeNotesForYou },
  { kind: 'order', about: () => wording.ordersAbout },
  { kind: 'request', about: () => wording.suggestedByReaders },
  { kind: 'returned', about: () => wording.rejectedWithAComment },
  { kind: 'coming', about: blockedWords },
  { kind: 'release', about: () => wording.approvedOrScheduledForDocumentControl },
  { kind: 'arrived', about: () => '' },
  {
    kind: 'read',
    about: (rows, desk) =>
      wording.documentsAboutMinutes(count(rows.length, 'document'), count(desk.readingMinutes, 'minute')),
  },
  { kind: 'check', about: () => wording.upcomingDatesAndSourcesToCheck },
  { kind: 'overdue', about: () => '' },
  { kind: 'writing', about: () => wording.yourDraftsAndCheckOuts },
  { kind: 'review', about: () => wording.reviewsToBeDone },
  { kind: 'waiting', about: () => wording.submittedByYou },
];

/** What waits for me, with the one command that takes it further. */
export const DeskPage = () => {
  const me = useMe();
  const [arranging, setArranging] = useState(false);
  const { data, error, isPending, refetch } = useQuery(ask(api.tasks.desk));
  if (isPending) return <Loading what={wording.yourDesk} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const mine = data.rows.filter((row) => row.kind !== 'waiting');
  const overdue = mine.filter((row) => row.overdue).length;
  const shown = data.cards.filter((card) => !data.hiddenCards.includes(card));
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
          <span className="flex flex-wrap items-center gap-2">
            <DeskTabs />
            <button type="button" className="btn btn-quiet" onClick={() => setArranging(true)}>
              {wording.editCards}
            </button>
          </span>
        </div>
        {me.organisationRights.includes('administer') && (
          <Suspense>
            <FirstStepsCard />
          </Suspense>
        )}
        {data.rows.length === 0 && <Empty title={wording.nothingToDo}>{wording.youCanFollowWhatYouSubmitted}</Empty>}
        {groupsOf(shown).map((group) => (
          <Tasks key={group.kind} group={group} desk={data} />
        ))}
      </section>
      <SideCards desk={data} shown={shown} />
      {arranging && (
        <Suspense>
          <ArrangeDialog desk={data} close={() => setArranging(false)} />
        </Suspense>
      )}
    </div>
  );
};

const groupsOf = (shown: readonly DeskCard[]) =>
  shown.flatMap((card) => GROUPS.find((group) => group.kind === card) ?? []);

/** One card of what waits: nothing where nothing of it does. */
const Tasks = ({ group, desk }: { group: Group; desk: Desk }) => {
  const rows = desk.rows.filter((row) => row.kind === group.kind);
  const several = useSeveralOnDesk(rows);
  if (rows.length === 0) return null;
  return (
    <section aria-label={CARD_NAMES[group.kind]}>
      <div className="flex items-baseline gap-2 px-0.5 pt-2.5 pb-1.5">
        <h2>{CARD_NAMES[group.kind]}</h2>
        <span className="text-ink-3">{group.about(rows, desk)}</span>
        {several && <SeveralBar {...several} />}
      </div>
      <ul>
        {rows.map((row) => (
          <TaskRow
            key={`${row.kind}${row.id}${row.detail}`}
            row={row}
            {...(several?.chosen ? { isChosen: several.chosen.has(row.id), choose: () => several.toggle(row.id) } : {})}
          />
        ))}
      </ul>
    </section>
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

/** One task. While several are chosen, a box to tick is where its day was. */
const TaskRow = ({ row, isChosen = false, choose }: { row: DeskRow; isChosen?: boolean; choose?: () => void }) => {
  const me = useMe();
  return (
    <li className="grid grid-cols-[76px_38px_minmax(0,1fr)_auto] items-center gap-3 border-b border-line-2 bg-sheet px-3 py-2 max-md:mb-2.5 max-md:grid-cols-[38px_minmax(0,1fr)] max-md:items-start max-md:gap-y-1.5 max-md:border max-md:border-line max-md:py-3">
      <span
        className={`font-mono text-[11px] font-semibold [font-stretch:80%] max-md:order-3 max-md:col-start-2 ${row.overdue ? 'text-vermilion' : ''}`}
      >
        {choose && (
          <input
            type="checkbox"
            className="mr-2 size-6 align-middle accent-petrol"
            aria-label={wording.chooseRow(row.number || row.title)}
            checked={isChosen}
            onChange={choose}
          />
        )}
        {dueText(row, me.organisation.today)}
      </span>
      {row.number ? (
        <RevisionMark label={row.label} mark={row.mark} />
      ) : (
        <Inbox size={20} aria-hidden className="mx-auto text-ink-3" />
      )}
      <span className="min-w-0">
        <Link
          to={
            row.number
              ? row.mark === 'in force' || row.mark === 'on hold'
                ? documentAddress(row.number)
                : workAddress(row.number)
              : row.link
          }
          className="block truncate hover:underline max-md:whitespace-normal [&>.num]:max-md:block"
        >
          {row.number && <span className="num mr-2">{row.number}</span>}
          <b className="font-semibold">{row.title}</b>
          <HoldWords when={row.mark === 'on hold'} />
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
