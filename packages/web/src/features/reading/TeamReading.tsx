import { api, type Team } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import {
  Area,
  AreaChart,
  Bar,
  BarChart,
  Cell,
  LabelList,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { revisionAddress } from '../../ui/addresses.ts';
import { CloseButton, Dialog } from '../../ui/controls.tsx';
import { ExportMenu } from '../../ui/ExportMenu.tsx';
import { count, showDay } from '../../ui/format.ts';
import { ReadingCell } from '../../ui/ReadingCell.tsx';
import { Empty, Failed, Loading, Refusals } from '../../ui/states.tsx';
import { wording } from './wording.ts';

const short = (number: string) => number.replace(/^[^-]*-/, '');

/** The place of this week among the weeks of the burden: four before it, the others ahead. */
const THIS_WEEK = 4;

/** People × documents: who has read what, the share in words, late ones plain; reminders; one person or document alone. */
export const TeamReading = ({ switcher }: { switcher: React.ReactNode }) => {
  const me = useMe();
  const [params, setParams] = useSearchParams();
  const scope = params.get('scope') ?? undefined;
  const { data, error, isPending, refetch } = useQuery({
    ...ask(api.reading.team, { query: { scope } }),
    placeholderData: (before) => before,
  });
  const remind = useCommand(api.reading.remind, ({ people, readings }) =>
    wording.reminderSentToAbout(count(people, 'person', 'people'), count(readings, wording.overdueReading)),
  );
  const [one, setOne] = useState<{ person?: number; document?: number } | null>(null);
  if (isPending) return <Loading what={wording.theTeam} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const name = data.name.replace(/^Team of /, '');
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_300px] content-start gap-3.5 overflow-y-auto px-4 py-3.5 max-[1439px]:grid-cols-1">
      <section className="min-w-0" aria-label={wording.teamReading}>
        <div className="mb-2 flex flex-wrap items-end justify-between gap-x-3 gap-y-2">
          <div className="min-w-0 basis-80 grow">
            <h1>
              {data.total.percent === null
                ? wording.noReadingsOpenFor(name)
                : wording.hasRead(name === me.name ? wording.yourTeam : name, Math.floor(data.total.percent))}
            </h1>
            <span className="text-ink-2">
              {wording.peopleDocumentsReadingsOpenPart(
                count(data.people.length, 'person', 'people'),
                count(data.documents.length, 'document'),
                count(data.total.owed, 'reading'),
                data.overdue === 0
                  ? wording.noneIsOverdue
                  : wording.overdueTheOldestBy(
                      data.overdue,
                      data.overdue === 1 ? 'is' : 'are',
                      count(data.oldestOverdueDays, 'day'),
                    ),
              )}
            </span>
          </div>
          <span className="flex flex-wrap gap-1.5">
            {data.scopes.length > 1 && (
              <select
                aria-label={wording.department}
                className="inp !w-44"
                value={data.scope}
                onChange={(event) => setParams({ view: 'team', scope: event.target.value })}
              >
                {data.scopes.map((s) => (
                  <option key={s.key} value={s.key}>
                    {s.name}
                  </option>
                ))}
              </select>
            )}
            {switcher}
            <ExportMenu list={teamList(data)} disabled={data.people.length === 0} />
            <button
              type="button"
              className="btn btn-pri"
              disabled={data.overdue === 0 || remind.isPending}
              onClick={() => remind.mutate({ body: { scope: data.scope } })}
            >
              {wording.remindOverdueReaders}
            </button>
          </span>
        </div>
        <Refusals error={remind.error} />
        {data.documents.length === 0 ? (
          <Empty title={wording.noReadings}>{wording.readingsAppearHereAsSoonAs}</Empty>
        ) : (
          <Matrix team={data} onPick={setOne} />
        )}
        <p className="mt-2 text-[12px] text-ink-3">{wording.carriedOverTheSignatureUnderThe}</p>
      </section>
      <aside
        className="flex min-w-0 flex-col gap-3 max-[1439px]:grid max-[1439px]:grid-cols-2 max-md:!grid-cols-1"
        aria-label={wording.progress}
      >
        {data.pace.length > 1 && (
          <section className="pane px-3 py-2.5">
            <h2>{wording.shareSignedLastFourWeeks}</h2>
            <ResponsiveContainer width="100%" height={130}>
              <AreaChart data={data.pace} margin={{ top: 12, right: 22, bottom: 0, left: -24 }}>
                <XAxis
                  dataKey="day"
                  tickFormatter={(day: string) => showDay(day, true)}
                  interval={13}
                  tick={{ fontSize: 10, fill: '#465b66' }}
                  stroke="#c9d4d9"
                />
                <YAxis
                  domain={[0, 100]}
                  ticks={[0, 50, 100]}
                  tick={{ fontSize: 10, fill: '#465b66' }}
                  stroke="#c9d4d9"
                />
                <ReferenceLine y={100} stroke="#dfe7ea" />
                <Area dataKey="percent" stroke="#12222a" strokeWidth={1.8} fill="#dcecf0" isAnimationActive={false} />
              </AreaChart>
            </ResponsiveContainer>
          </section>
        )}
        <section className="pane px-3 py-2.5">
          <h2>{wording.minutesOfReadingPerPersonAnd}</h2>
          <ResponsiveContainer width="100%" height={130}>
            <BarChart data={data.burden} margin={{ top: 16, right: 18, bottom: 0, left: 18 }}>
              <XAxis
                dataKey="week"
                tickFormatter={(day: string) => showDay(day, true)}
                interval={1}
                tick={{ fontSize: 10, fill: '#465b66' }}
                stroke="#c9d4d9"
              />
              <Bar dataKey="minutes" isAnimationActive={false}>
                <LabelList dataKey="minutes" position="top" style={{ fontSize: 10, fill: '#12222a' }} />
                {data.burden.map((bar, i) => (
                  <Cell key={bar.week} fill={i === THIS_WEEK ? '#7d4f08' : i < THIS_WEEK ? '#8ba0aa' : '#c5d6dc'} />
                ))}
              </Bar>
            </BarChart>
          </ResponsiveContainer>
          <p className="text-[12px] text-ink-2">
            {data.burden[THIS_WEEK]?.minutes ? wording.byDueDateBrownIsThisWeek : wording.byDueDateNothingThisWeek}
          </p>
        </section>
      </aside>
      {one && <OneList team={data} one={one} close={() => setOne(null)} />}
    </div>
  );
};

/** The matrix as a list: a row for each person, a column for each document. */
const teamList = (team: Team) => ({
  name: wording.teamReading,
  headings: [wording.person, ...team.documents.map(({ number, label }) => `${number} ${label}`), wording.done],
  rows: () =>
    team.people.map((row) => [
      row.person.name,
      ...row.cells.map((cell) => cell?.state ?? ''),
      row.compliance.percent === null ? '' : `${Math.floor(row.compliance.percent)} %`,
    ]),
});

const Matrix = ({ team, onPick }: { team: Team; onPick: (one: { person?: number; document?: number }) => void }) => (
  <div className="pane overflow-x-auto">
    <table className="w-full border-collapse text-[12.5px]">
      <thead>
        <tr className="border-b border-line">
          <th className="cap px-2 py-1.5 text-left">{wording.person}</th>
          {team.documents.map((document, i) => (
            <th key={document.id + document.label} className="min-w-[74px] px-1.5 py-1">
              <button
                type="button"
                className="num !text-[10.5px] hover:underline"
                title={wording.titleMinutesMin(document.title, document.minutes)}
                onClick={() => onPick({ document: i })}
              >
                {short(document.number)} {document.label}
              </button>
            </th>
          ))}
          <th className="cap sticky right-0 bg-sheet px-2 text-right">{wording.done}</th>
        </tr>
      </thead>
      <tbody>
        {team.people.map((row, i) => (
          <tr key={row.person.id} className="h-[30px] border-b border-line-2 last:border-0">
            <th scope="row" className="px-2 text-left font-normal whitespace-nowrap">
              <button type="button" className="font-[550] hover:underline" onClick={() => onPick({ person: i })}>
                {row.person.name}
              </button>
            </th>
            {row.cells.map((cell, j) => (
              <td key={team.documents[j]?.id} className="min-w-[54px] px-[3px]">
                <ReadingCell state={cell?.state ?? null} />
              </td>
            ))}
            <td className="num sticky right-0 bg-sheet px-2 text-right !font-semibold">
              {row.compliance.percent === null ? '–' : `${Math.floor(row.compliance.percent)} %`}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  </div>
);

/** One person's or one document's list. */
const OneList = ({
  team,
  one,
  close,
}: {
  team: Team;
  one: { person?: number; document?: number };
  close: () => void;
}) => {
  const person = one.person === undefined ? undefined : team.people[one.person];
  const document = one.document === undefined ? undefined : team.documents[one.document];
  const rows = person
    ? team.documents.flatMap((d, i) =>
        person.cells[i]
          ? [
              {
                key: d.id + d.label,
                to: revisionAddress(d.number, { label: d.label }),
                title: `${d.number} ${d.label}, ${d.title}`,
                cell: person.cells[i],
              },
            ]
          : [],
      )
    : team.people.flatMap((p) =>
        p.cells[one.document ?? 0]
          ? [{ key: p.person.id, to: '', title: p.person.name, cell: p.cells[one.document ?? 0] }]
          : [],
      );
  return (
    <Dialog
      open
      onClose={close}
      title={person ? person.person.name : `${document?.number} ${document?.label}, ${document?.title}`}
      wide
    >
      <ul className="max-h-[60vh] overflow-y-auto">
        {rows.map((row) => (
          <li
            key={row.key}
            className="grid grid-cols-[minmax(0,1fr)_84px_120px] items-center gap-3 border-b border-line-2 py-1.5"
          >
            {row.to ? (
              <Link className="truncate hover:underline" to={row.to}>
                {row.title}
              </Link>
            ) : (
              <span>{row.title}</span>
            )}
            <ReadingCell state={row.cell?.state ?? null} />
            <span className="text-ink-2">{wording.dueDue(showDay(row.cell?.due))}</span>
          </li>
        ))}
      </ul>
      <CloseButton onClose={close} />
    </Dialog>
  );
};
