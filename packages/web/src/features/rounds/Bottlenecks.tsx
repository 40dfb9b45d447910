import { api, BOTTLENECK_GROUPS, type Bottleneck, type BottleneckGroup } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { Bar, BarChart, CartesianGrid, Legend, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { ask } from '../../app/client.ts';
import { revisionAddress } from '../../ui/addresses.ts';
import { Segments } from '../../ui/controls.tsx';
import { ExportMenu, listOf } from '../../ui/ExportMenu.tsx';
import { saidWords, showDay } from '../../ui/format.ts';
import { Page } from '../../ui/Page.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { TableHead } from '../../ui/TableHead.tsx';
import { useInAddress } from '../../ui/useInAddress.ts';
import { wording } from './wording.ts';

const GROUPS: Record<BottleneckGroup, string> = {
  step: wording.byStep,
  person: wording.byPerson,
  department: wording.byDepartment,
  month: wording.byMonth,
};
const MOST_BARS = 14;

/** How long answers took, by step, person, department or month; a bar opens to the answers behind it. */
export const Bottlenecks = ({ switcher }: { switcher: ReactNode }) => {
  const [named, setBy] = useInAddress('by');
  const [key, setKey] = useInAddress('key');
  const by = BOTTLENECK_GROUPS.find((one) => one === named) ?? 'step';
  const { data, error, isPending, refetch } = useQuery({
    ...ask(api.rounds.bottlenecks, { query: { by } }),
    placeholderData: (before) => before,
  });
  if (isPending) return <Loading what={wording.theBottlenecks} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const chosen = data.rows.find((row) => row.key === key);
  return (
    <Page
      title={wording.bottlenecks}
      about={wording.everyMonth}
      actions={
        <>
          <Segments
            label={wording.bottlenecks}
            value={by}
            options={BOTTLENECK_GROUPS.map((value) => ({ value, text: GROUPS[value] }))}
            onChange={(value) => {
              setKey('');
              setBy(value);
            }}
          />
          {switcher}
          <ExportMenu list={bottleneckList(data.rows)} disabled={data.rows.length === 0} />
        </>
      }
    >
      {data.rows.length === 0 ? (
        <Empty title={wording.noAnswersYet}>{wording.noAnswersYetAbout}</Empty>
      ) : (
        <>
          <Chart rows={data.rows.slice(0, MOST_BARS)} onChoose={setKey} />
          <GroupTable by={by} rows={data.rows} chosen={key} onChoose={setKey} />
          {chosen && <Answers by={by} row={chosen} />}
        </>
      )}
    </Page>
  );
};

const Chart = ({ rows, onChoose }: { rows: readonly Bottleneck[]; onChoose: (key: string) => void }) => (
  <div className="pane mb-3 p-3 max-md:hidden" aria-hidden>
    <ResponsiveContainer width="100%" height={Math.max(120, rows.length * 26 + 40)}>
      <BarChart
        accessibilityLayer={false}
        data={[...rows]}
        layout="vertical"
        margin={{ left: 8, right: 24 }}
        barGap={1}
      >
        <CartesianGrid horizontal={false} stroke="#dde6e8" />
        <XAxis type="number" allowDecimals={false} fontSize={11} />
        <YAxis type="category" dataKey="name" width={250} fontSize={12} tickLine={false} interval={0} />
        <Legend verticalAlign="top" align="right" iconSize={9} wrapperStyle={{ fontSize: 12 }} />
        <Tooltip cursor={{ fill: '#dcebf0' }} isAnimationActive={false} />
        <Bar
          dataKey="medianDays"
          name={wording.daysMedian}
          fill="#0b5364"
          isAnimationActive={false}
          cursor="pointer"
          onClick={(_, index) => onChoose(rows[index]?.key ?? '')}
        />
        <Bar
          dataKey="slowDays"
          name={wording.daysSlow}
          fill="#9db3bd"
          isAnimationActive={false}
          cursor="pointer"
          onClick={(_, index) => onChoose(rows[index]?.key ?? '')}
        />
      </BarChart>
    </ResponsiveContainer>
  </div>
);

const HEAD = 'cap px-3 py-1.5 text-right';
const CELL = 'num px-3 py-1 text-right';

const GroupTable = ({
  by,
  rows,
  chosen,
  onChoose,
}: {
  by: BottleneckGroup;
  rows: readonly Bottleneck[];
  chosen: string;
  onChoose: (key: string) => void;
}) => (
  <div className="overflow-x-auto">
    <table className="w-full border border-line bg-sheet">
      <thead className="bg-film-2">
        <tr className="border-b border-line">
          <th className="cap px-3 py-1.5 text-left">{wording.groupNames[by]}</th>
          <th className={HEAD}>{wording.answers}</th>
          <th className={HEAD}>{wording.daysMedian}</th>
          <th className={HEAD}>{wording.daysSlow}</th>
          <th className={HEAD}>{wording.lateShare}</th>
          <th className={HEAD}>{wording.rejections}</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr
            key={row.key}
            className={`border-b border-line-2 last:border-0 ${row.key === chosen ? 'bg-petrol-tint' : ''}`}
          >
            <td className="px-3 py-0.5">
              <button
                type="button"
                className="min-h-6 text-left font-semibold hover:underline"
                aria-pressed={row.key === chosen}
                onClick={() => onChoose(row.key === chosen ? '' : row.key)}
              >
                {row.name}
              </button>
            </td>
            <td className={CELL}>{row.answers}</td>
            <td className={CELL}>{row.medianDays}</td>
            <td className={CELL}>{row.slowDays}</td>
            <td className={`${CELL} ${row.latePercent >= 20 ? '!text-vermilion' : ''}`}>{row.latePercent} %</td>
            <td className={CELL}>{row.rejections}</td>
          </tr>
        ))}
      </tbody>
    </table>
  </div>
);

/** The answers behind one bar, the slowest first, each leading to its round. */
const Answers = ({ by, row }: { by: BottleneckGroup; row: Bottleneck }) => {
  const { data, error, isPending } = useQuery(ask(api.rounds.pastAnswers, { query: { by, key: row.key } }));
  if (isPending) return <Loading what={wording.answersBehind(row.name)} />;
  if (error) return <Failed error={error} />;
  return (
    <section aria-label={wording.answersBehind(row.name)} className="mt-4">
      <h2 className="pb-1.5">{wording.answersBehind(row.name)}</h2>
      <div className="overflow-x-auto">
        <table className="w-full border border-line bg-sheet">
          <TableHead
            headings={[
              wording.document,
              wording.step,
              wording.person,
              wording.asked,
              wording.answered,
              { text: wording.workingDays, className: 'text-right' },
              wording.decision,
            ]}
          />
          <tbody>
            {data.rows.map((one) => (
              <tr
                key={`${one.documentId}${one.label}${one.round}${one.step}${one.person}`}
                className="border-b border-line-2 last:border-0"
              >
                <td className="max-w-96 truncate px-3 py-1" title={one.title}>
                  <Link to={revisionAddress(one.number, { label: one.label })} className="hover:underline">
                    <span className="num mr-2">
                      {one.number} {one.label}
                    </span>
                    {one.title}
                  </Link>
                </td>
                <td className="px-3">{one.step}</td>
                <td className="px-3 whitespace-nowrap">{one.person}</td>
                <td className="px-3 whitespace-nowrap text-ink-2">{showDay(one.asked)}</td>
                <td className={`px-3 whitespace-nowrap ${one.late ? 'text-vermilion' : 'text-ink-2'}`}>
                  {showDay(one.answered)}
                </td>
                <td className="num px-3 text-right">{one.workingDays}</td>
                <td className="px-3 whitespace-nowrap">{saidWords(one.decision)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
};

const bottleneckList = (rows: readonly Bottleneck[]) =>
  listOf(wording.bottlenecks, rows, [
    [wording.waitingFor, (row) => row.name],
    [wording.answers, (row) => row.answers],
    [wording.daysMedian, (row) => row.medianDays],
    [wording.daysSlow, (row) => row.slowDays],
    [wording.lateShare, (row) => row.latePercent],
    [wording.rejections, (row) => row.rejections],
  ]);
