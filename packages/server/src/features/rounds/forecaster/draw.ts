import {
  dayTables,
  type Forecast,
  forecastRound,
  type PastAnswers,
  type RemainingStep,
  type WorkingCalendar,
} from '@kanonos/core';

/** Rounds to be forecast, with what all of them need. */
export type ToForecast = {
  rounds: readonly (readonly RemainingStep[])[];
  today: string;
  calendar: WorkingCalendar;
  draws: number;
};

/** Forecasts rounds one after the other. */
export const drawAll = (
  { rounds, today, calendar, draws }: ToForecast,
  past: PastAnswers,
): (Forecast | undefined)[] => {
  const tables = dayTables(today, calendar);
  return rounds.map((steps) => forecastRound(steps, past, { today, tables, draws }));
};
