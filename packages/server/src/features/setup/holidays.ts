import type { AnswerOf, api } from '@kanonos/contract';
import Holidays from 'date-holidays';

const named = (names: Record<string, string> | undefined) =>
  Object.entries(names ?? {})
    .map(([code, name]) => ({ code, name }))
    .sort((a, b) => a.name.localeCompare(b.name, 'en'));

/** Countries, the regions of one, and its public holidays for a year and the next two; names in English, else as the country calls them. */
export const publicHolidays = (
  { country, region }: { country: string; region: string },
  year: number,
): AnswerOf<typeof api.setup.holidays> => {
  const all = new Holidays();
  const countries = named(all.getCountries('en'));
  if (!countries.some(({ code }) => code === country)) return { countries, regions: [], holidays: [] };
  const regions = named(all.getStates(country, 'en'));
  const calendar = regions.some(({ code }) => code === region) ? new Holidays(country, region) : new Holidays(country);
  const days = new Map<string, string>();
  for (const one of [year, year + 1, year + 2].flatMap((y) => calendar.getHolidays(y, 'en')))
    if (one.type === 'public' && !days.has(one.date.slice(0, 10)))
      days.set(one.date.slice(0, 10), one.name.slice(0, 80));
  return {
    countries,
    regions,
    holidays: [...days].map(([day, name]) => ({ day, name })).sort((a, b) => (a.day < b.day ? -1 : 1)),
  };
};
