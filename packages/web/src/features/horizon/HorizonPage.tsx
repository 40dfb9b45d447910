import { api, type HorizonItem } from '@kanonos/contract';
import { addMonths, HORIZON_KINDS } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { changeAddress, documentAddress, workAddress } from '../../ui/addresses.ts';
import { BarSelect, Segments } from '../../ui/controls.tsx';
import { ExportMenu, listOf } from '../../ui/ExportMenu.tsx';
import { count, showDay } from '../../ui/format.ts';
import { headings } from '../../ui/headings.ts';
import { HoldWords, RevisionMark } from '../../ui/marks.tsx';
import { Page } from '../../ui/Page.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { useInAddress } from '../../ui/useInAddress.ts';
import { LevelDialog } from './LevelDialog.tsx';
import { LoadChart } from './LoadChart.tsx';
import { wording } from './wording.ts';

const MONTHS = [1, 2, 3, 6, 12, 24] as const;
/** What a week holds of reading and reviewing, as long as nobody says otherwise: for one person, and for an organisation. */
const [MY_HOURS, ALL_HOURS] = [4, 12];

/** What comes due in the months ahead: one's own or all that one answers for, with the load of each week. */
export const HorizonPage = () => {
  const me = useMe();
  const [months, setMonths] = useInAddress('ahead');
  const [whose, setWhose] = useInAddress('whose');
  const [person, setPerson] = useInAddress('person');
  const [department, setDepartment] = useInAddress('department');
  const [given, setHours] = useInAddress('hours');
  const [isLevelling, setLevelling] = useState(false);
  const hours = Math.min(1000, Math.max(1, Math.round(Number(given)) || (whose === 'all' ? ALL_HOURS : MY_HOURS)));
  const ahead = MONTHS.find((one) => String(one) === months) ?? 2;
  const units = useQuery({ ...ask(api.people.units), staleTime: 60_000 });
  const query = {
    until: addMonths(me.organisation.today, ahead),
    ...(whose === 'all' ? { whose: 'all' as const } : {}),
    ...(person ? { person } : {}),
    ...(department ? { department } : {}),
  };
  const { data, error, isPending, refetch } = useQuery({
    ...ask(api.horizon.show, { query }),
    placeholderData: (before) => before,
  });
  if (isPending) return <Loading what={wording.theHorizon} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const { items } = data;
  const people = peopleOf(items);
  const departments = units.data?.units.filter((unit) => unit.kind === 'department') ?? [];
  return (
    <Page
      title={wording.dueBy(count(items.length, wording.thing, wording.things), showDay(data.until))}
      about={wording.about(countsOf(items))}
      actions={
        <>
          {data.mayAll && (
            <Segments
              label={wording.whose}
              value={whose === 'all' ? 'all' : 'mine'}
              options={[
                { value: 'mine', text: wording.mine },
                { value: 'all', text: wording.organisation },
              ]}
              onChange={(value) => {
                setPerson('');
                setWhose(value === 'all' ? 'all' : '');
              }}
            />
          )}
          {whose === 'all' && (
            <>
              <BarSelect
                label={wording.person}
                value={person}
                onChange={setPerson}
                everything={wording.everybody}
                options={people.map(({ id, name }) => ({ value: id, text: name }))}
              />
              <BarSelect
                label={wording.department}
                value={department}
                onChange={setDepartment}
                everything={wording.department}
                options={departments.map(({ id, name }) => ({ value: id, text: name }))}
              />
            </>
          )}
          <BarSelect
            label={wording.ahead}
            value={String(ahead)}
            onChange={(value) => setMonths(value === '2' ? '' : value)}
            options={MONTHS.map((n) => ({ value: String(n), text: wording.aheadOptions[n] }))}
          />
          <ExportMenu list={dueList(items)} disabled={items.length === 0} />
        </>
      }
    >
      {items.length === 0 ? (
        <Empty title={wording.nothing}>{wording.nothingAbout}</Empty>
      ) : (
        <>
          <LoadChart weeks={data.weeks} hours={hours}>
            <label className="flex items-center gap-2 text-[12px]">
              {wording.capacity}
              <input
                type="number"
                min={1}
                max={1000}
                className="inp !w-16"
                value={hours}
                onChange={(event) => setHours(event.target.value)}
              />
            </label>
            {items.some(({ kind }) => kind === 'review') && (
              <button type="button" className="btn" onClick={() => setLevelling(true)}>
                {wording.levelReviews}
              </button>
            )}
          </LoadChart>
          {data.isCut && <p className="mb-2 text-ochre">{wording.isCut}</p>}
          <ul aria-label={wording.horizon} className="border border-line bg-sheet">
            {items.map((item) => (
              <Row key={`${item.kind} ${item.id}`} item={item} />
            ))}
          </ul>
        </>
      )}
      {isLevelling && <LevelDialog asked={query} hours={hours} close={() => setLevelling(false)} />}
    </Page>
  );
};

/** The people who do what comes due, by name. */
const peopleOf = (items: readonly HorizonItem[]) =>
  [...new Map(items.flatMap(({ person }) => (person ? [[person.id, person] as const] : []))).values()].sort((a, b) =>
    a.name.localeCompare(b.name),
  );

const countsOf = (items: readonly HorizonItem[]): string =>
  HORIZON_KINDS.flatMap((kind) => {
    const n = items.filter((one) => one.kind === kind).length;
    const [one, many] = wording.kindCounts[kind];
    return n > 0 ? [count(n, one, many)] : [];
  }).join(', ');

const whoOf = (item: HorizonItem): string => item.person?.name ?? (item.people > 1 ? wording.people(item.people) : '');

/** Where something that comes due is done. */
const addressOf = ({ kind, number }: HorizonItem): string => {
  switch (kind) {
    case 'review':
      return `${documentAddress(number)}/review`;
    case 'task':
      return changeAddress(number);
    case 'effective':
    case 'check-out':
      return workAddress(number);
    case 'reading':
      return `${documentAddress(number)}?tab=readers`;
    default:
      return documentAddress(number);
  }
};

const TONES: Record<HorizonItem['kind'], string> = {
  effective: 'bg-petrol text-white',
  withdrawal: 'bg-vermilion-tint text-vermilion',
  reading: 'bg-petrol-tint text-ink',
  review: 'bg-ochre-tint text-ochre',
  'check-out': 'border border-line text-ink-2',
  task: 'border border-line text-ink-2',
};

const Row = ({ item }: { item: HorizonItem }) => (
  <li className="grid min-h-10 grid-cols-[96px_140px_44px_minmax(0,1fr)_minmax(0,200px)] items-center gap-x-3 border-b border-line-2 px-3 py-1 last:border-0 max-md:grid-cols-[auto_auto_minmax(0,1fr)]">
    <span className={`num text-[12.5px] ${item.overdue ? 'font-semibold text-vermilion' : ''}`}>
      {showDay(item.day)}
    </span>
    <span className={`px-2 py-0.5 text-center text-[12px] font-semibold ${TONES[item.kind]}`}>
      {item.overdue ? `${wording.kinds[item.kind]}, ${wording.overdue.toLowerCase()}` : wording.kinds[item.kind]}
    </span>
    <span className="justify-self-start">
      <RevisionMark label={item.label} mark={item.mark} size="small" />
    </span>
    <span className="min-w-0 max-md:col-span-full">
      <Link to={addressOf(item)} className="hover:underline">
        <span className="num mr-2">{item.number}</span>
        <b className="font-semibold">{item.title}</b>
      </Link>
      <HoldWords when={item.mark === 'on hold'} />
      {item.what && <span className="block text-[12px] text-ink-2">{item.what}</span>}
    </span>
    <span className="truncate text-[12.5px] text-ink-2 max-md:col-span-full">{whoOf(item)}</span>
  </li>
);

const dueList = (items: readonly HorizonItem[]) =>
  listOf('horizon', items, [
    [headings.due, (one) => showDay(one.day)],
    [wording.what, (one) => wording.kinds[one.kind]],
    [headings.number, (one) => one.number],
    [headings.revision, (one) => one.label],
    [headings.title, (one) => one.title],
    [wording.who, whoOf],
    [headings.note, (one) => one.what],
  ]);
