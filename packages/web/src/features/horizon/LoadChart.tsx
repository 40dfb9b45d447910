import type { AnswerOf, api } from '@kanonos/contract';
import type { ReactNode } from 'react';
import {
  Bar,
  BarChart,
  CartesianGrid,
  Legend,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import { showDay } from '../../ui/format.ts';
import { wording } from './wording.ts';

type Week = AnswerOf<typeof api.horizon.show>['weeks'][number];

const inHours = (minutes: number): number => Math.round(minutes / 6) / 10;

/** The hours of reading and reviewing of each week, one above the other; the same figures are in the list below. */
export const LoadChart = ({
  weeks,
  hours,
  children,
}: {
  weeks: readonly Week[];
  /** What a week holds. */
  hours: number;
  children?: ReactNode;
}) => (
  <section className="pane mb-3 p-3" aria-labelledby="load">
    <div className="mb-1 flex flex-wrap items-baseline gap-x-3 gap-y-1">
      <h2 id="load">{wording.loadPerWeek}</h2>
      <span className="text-[12px] text-ink-2">{wording.hours}</span>
      <span className="ml-auto flex flex-wrap items-center gap-2">{children}</span>
    </div>
    <div aria-hidden>
      <ResponsiveContainer width="100%" height={150}>
        <BarChart
          accessibilityLayer={false}
          data={weeks.map(({ week, reading, review }) => ({
            week,
            reading: inHours(reading),
            review: inHours(review),
          }))}
          margin={{ left: -18, right: 8, top: 4 }}
        >
          <CartesianGrid vertical={false} stroke="#dde6e8" />
          <XAxis dataKey="week" fontSize={11} tickLine={false} tickFormatter={(week: string) => showDay(week, true)} />
          <YAxis allowDecimals={false} fontSize={11} tickLine={false} />
          <Legend
            verticalAlign="top"
            align="right"
            iconSize={9}
            wrapperStyle={{ fontSize: 12 }}
            formatter={(name) => <span className="text-ink-2">{name}</span>}
          />
          <Tooltip
            cursor={{ fill: '#dcebf0' }}
            isAnimationActive={false}
            labelFormatter={(week) => wording.week(showDay(String(week)))}
          />
          <ReferenceLine y={hours} stroke="#a52c15" strokeDasharray="5 3" ifOverflow="extendDomain" />
          <Bar dataKey="review" name={wording.review} stackId="load" fill="#0b5364" isAnimationActive={false} />
          <Bar dataKey="reading" name={wording.reading} stackId="load" fill="#9db3bd" isAnimationActive={false} />
        </BarChart>
      </ResponsiveContainer>
    </div>
  </section>
);
