import { DayPicker } from 'react-day-picker';

const toDate = (day: string) => new Date(`${day}T12:00:00`);
const toDay = (date: Date) =>
  `${date.getFullYear()}-${String(date.getMonth() + 1).padStart(2, '0')}-${String(date.getDate()).padStart(2, '0')}`;

/** A month to pick a day from, by pointer or arrow keys; days without work are shaded, holidays too. */
const DayCalendar = ({
  value,
  today,
  week,
  holidays,
  min,
  max,
  onPick,
}: {
  value: string;
  today: string;
  week: readonly number[];
  holidays: readonly string[];
  min: string | undefined;
  max: string | undefined;
  onPick: (day: string) => void;
}) => (
  <DayPicker
    mode="single"
    autoFocus
    weekStartsOn={1}
    showOutsideDays
    today={toDate(today)}
    defaultMonth={toDate(value || (min && min > today ? min : today))}
    {...(value ? { selected: toDate(value) } : {})}
    onSelect={(_selected, date) => onPick(toDay(date))}
    disabled={[...(min ? [{ before: toDate(min) }] : []), ...(max ? [{ after: toDate(max) }] : [])]}
    modifiers={{
      rest: (date) => !week.includes(date.getDay() || 7),
      holiday: holidays.map(toDate),
    }}
    modifiersClassNames={{ rest: 'bg-film-2 text-ink-3', holiday: 'bg-film-2 text-vermilion' }}
    formatters={{
      formatWeekdayName: (date) => date.toLocaleDateString('en-GB', { weekday: 'short' }).slice(0, 2),
      formatCaption: (date) => date.toLocaleDateString('en-GB', { month: 'long', year: 'numeric' }),
    }}
    labels={{
      labelDayButton: (date) =>
        date.toLocaleDateString('en-GB', { weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' }),
    }}
    classNames={{
      month_caption: 'flex h-7 items-center px-1.5 font-semibold',
      nav: 'absolute top-0 right-0 flex gap-1',
      button_previous: 'btn btn-quiet !h-7 !w-7 !px-0',
      button_next: 'btn btn-quiet !h-7 !w-7 !px-0',
      chevron: 'size-4 fill-current',
      months: 'relative',
      month_grid: 'border-collapse',
      weekday: 'h-6 w-8 text-[11.5px] font-normal text-ink-3',
      day: 'p-0 text-center',
      day_button:
        'num h-8 w-8 border border-transparent hover:border-petrol focus-visible:border-petrol disabled:opacity-35 disabled:hover:border-transparent',
      today: '[&>button]:font-bold [&>button]:underline',
      selected: '[&>button]:bg-petrol [&>button]:text-white',
      outside: 'opacity-45',
    }}
  />
);

export default DayCalendar;
