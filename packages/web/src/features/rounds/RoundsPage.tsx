import { api, type OpenRound, ROUND_FILTERS } from '@kanonos/contract';
import { ROUND_CHANGES, type RoundChange } from '@kanonos/core';
import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { ask, call } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { BarSelect, Segments } from '../../ui/controls.tsx';
import { ExportMenu, listOf } from '../../ui/ExportMenu.tsx';
import { headings } from '../../ui/headings.ts';
import { Page } from '../../ui/Page.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { useInAddress } from '../../ui/useInAddress.ts';
import { AbsenceDialog } from './AbsenceDialog.tsx';
import { Bottlenecks } from './Bottlenecks.tsx';
import { ChangeDialog } from './ChangeDialog.tsx';
import { shownDays } from './calendarDays.ts';
import { CHANGE_NAMES } from './changeNames.ts';
import { CalendarHead, CalendarKey } from './RoundCalendar.tsx';
import { ROUND_COLUMNS, RoundRow } from './RoundRow.tsx';
import { waitWords, whoWords } from './waiting.ts';
import { wording } from './wording.ts';

/** Rounds that run: all of them, or how long answers take. The address says which. */
export const RoundsPage = () => {
  const [view, setView] = useInAddress('view');
  const switcher = (
    <Segments
      label={wording.rounds}
      value={view === 'bottlenecks' ? 'bottlenecks' : 'open'}
      options={[
        { value: 'open', text: wording.rounds },
        { value: 'bottlenecks', text: wording.bottlenecks },
      ]}
      onChange={(value) => setView(value === 'open' ? '' : value)}
    />
  );
  return view === 'bottlenecks' ? <Bottlenecks switcher={switcher} /> : <OpenRounds switcher={switcher} />;
};

const ONLY = { all: wording.all, stuck: wording.stuck, overdue: wording.overdue };

/** Every open round with for whom it waits, over the calendar; what is chosen is reminded, reassigned, extended or cancelled at once. */
const OpenRounds = ({ switcher }: { switcher: React.ReactNode }) => {
  const me = useMe();
  const [only, setOnly] = useInAddress('only');
  const [person, setPerson] = useInAddress('person');
  const [q, setQ] = useInAddress('q');
  const typed = useDeferredValue(q);
  const filter = ROUND_FILTERS.find((one) => one === only) ?? 'all';
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [changing, setChanging] = useState<RoundChange | null>(null);
  const [isEntering, setIsEntering] = useState(false);
  const query = {
    ...(filter === 'all' ? {} : { only: filter }),
    ...(person ? { person } : {}),
    ...(typed ? { q: typed } : {}),
  };
  const { data, error, isPending, refetch, hasNextPage, fetchNextPage, isFetchingNextPage } = useInfiniteQuery({
    queryKey: ['rounds', 'openRounds', query],
    queryFn: ({ pageParam, signal }) =>
      call(api.rounds.open, { query: { ...query, ...(pageParam ? { after: pageParam } : {}) }, signal }),
    initialPageParam: '',
    getNextPageParam: (last) => last.next,
    placeholderData: (before) => before,
  });
  const awaitedBy = typed ? { q: typed } : {};
  const { data: { people } = { people: [] } } = useQuery({
    ...ask(api.rounds.awaited, { query: awaitedBy }),
    placeholderData: (before) => before,
  });
  if (isPending) return <Loading what={wording.theRounds} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const [{ counts } = { counts: { all: 0, stuck: 0, overdue: 0 } }] = data.pages;
  const rows = data.pages.flatMap((page) => page.rows);
  const days = shownDays(me.organisation.today, me.organisation.week, me.organisation.holidays);
  const selected = rows.filter(({ id }) => chosen.has(id));
  const awaited = people.find(({ id }) => id === person) ?? null;
  const choose = (round: OpenRound, on: boolean) =>
    setChosen(new Set([...chosen].filter((id) => id !== round.id).concat(on ? [round.id] : [])));
  const mayEnterAbsences =
    me.supervises > 0 || me.organisationRights.some((right) => right === 'people' || right === 'administer');
  const changeable = rows.filter(({ mayChange }) => mayChange.length > 0);
  return (
    <>
      <Page
        title={wording.openRounds(counts.all)}
        about={wording.roundsAre(counts.overdue, counts.stuck)}
        actions={
          <>
            <Segments
              label={wording.waitingForWhom}
              value={filter}
              options={ROUND_FILTERS.map((value) => ({
                value,
                text: value === 'all' ? ONLY.all : `${ONLY[value]} ${counts[value]}`,
              }))}
              onChange={(value) => setOnly(value === 'all' ? '' : value)}
            />
            <input
              type="search"
              className="inp !w-44"
              aria-label={wording.numberOrTitle}
              placeholder={wording.numberOrTitle}
              value={q}
              onChange={(event) => setQ(event.target.value)}
            />
            <BarSelect
              label={wording.waitingForWhom}
              value={person}
              onChange={setPerson}
              everything={wording.everybody}
              options={people.map(({ id, name, rounds }) => ({ value: id, text: `${name} (${rounds})` }))}
            />
            {mayEnterAbsences && (
              <button type="button" className="btn" onClick={() => setIsEntering(true)}>
                {wording.enterAbsence}
              </button>
            )}
            {switcher}
            <ExportMenu list={roundList(rows, me.organisation.zone)} disabled={rows.length === 0} />
          </>
        }
      >
        {rows.length === 0 ? (
          counts.all === 0 && !person && !q ? (
            <Empty title={wording.noRounds}>{wording.noRoundsAbout}</Empty>
          ) : (
            <Empty title={wording.nothingFound}>{wording.nothingFoundAbout}</Empty>
          )
        ) : (
          <div className="border border-line">
            <div className={`${ROUND_COLUMNS} h-8 border-b border-line bg-film-2 px-3 max-lg:hidden`}>
              <input
                type="checkbox"
                className="h-6 w-4 accent-petrol"
                aria-label={wording.selectAll}
                checked={changeable.length > 0 && selected.length === changeable.length}
                onChange={(event) => setChosen(new Set(event.target.checked ? changeable.map(({ id }) => id) : []))}
              />
              <span className="cap">{wording.revision}</span>
              <span className="cap">{wording.document}</span>
              <span className="cap">{wording.waitingFor}</span>
              <CalendarHead days={days} />
              <span className="cap text-right">{wording.likelyDone}</span>
            </div>
            <ul aria-label={wording.rounds}>
              {rows.map((round) => (
                <RoundRow
                  key={round.id}
                  round={round}
                  days={days}
                  isChosen={chosen.has(round.id)}
                  onChoose={(on) => choose(round, on)}
                />
              ))}
            </ul>
          </div>
        )}
        {hasNextPage && (
          <button type="button" className="btn mt-3" disabled={isFetchingNextPage} onClick={() => void fetchNextPage()}>
            {wording.loadMore}
          </button>
        )}
      </Page>
      <Footer selected={selected} onChange={setChanging} />
      {changing && (
        <ChangeDialog
          kind={changing}
          rounds={selected.filter(({ mayChange }) => mayChange.includes(changing))}
          person={person}
          close={() => setChanging(null)}
        />
      )}
      {isEntering && <AbsenceDialog of={awaited} close={() => setIsEntering(false)} />}
    </>
  );
};

/** What can be done with the chosen rounds, below the list; the meaning of the calendar's shapes beside it. */
const Footer = ({
  selected,
  onChange,
}: {
  selected: readonly OpenRound[];
  onChange: (change: RoundChange) => void;
}) => (
  <div
    className={`flex min-h-12 flex-wrap items-center gap-2 border-t border-line px-4 py-2 ${selected.length > 0 ? 'bg-petrol-tint' : 'bg-film-2 max-lg:hidden'}`}
  >
    {selected.length > 0 && (
      <>
        <b className="mr-1 font-semibold">{wording.selected(selected.length)}</b>
        {ROUND_CHANGES.filter((change) => selected.some(({ mayChange }) => mayChange.includes(change))).map(
          (change) => (
            <button
              key={change}
              type="button"
              className={change === 'cancel' ? 'btn btn-quiet' : change === 'reassign' ? 'btn btn-pri' : 'btn'}
              onClick={() => onChange(change)}
            >
              {CHANGE_NAMES[change]}
            </button>
          ),
        )}
      </>
    )}
    <span className="ml-auto">
      <CalendarKey />
    </span>
  </div>
);

const roundList = (rows: readonly OpenRound[], zone: string) =>
  listOf(wording.rounds, rows, [
    [headings.number, (row) => row.number],
    [headings.revision, (row) => row.label],
    [headings.title, (row) => row.title],
    [wording.step, (row) => row.step],
    [wording.waitingFor, (row) => whoWords(row)],
    [headings.status, (row) => waitWords(row, zone)],
    [wording.dueOn, (row) => row.due],
    [wording.likelyDone, (row) => row.forecast?.half ?? null],
  ]);
