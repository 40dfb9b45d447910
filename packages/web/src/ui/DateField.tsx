import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import { dayInWords, typedDay } from '@kanonos/core';
import { CalendarDays } from 'lucide-react';
import { type InputHTMLAttributes, lazy, type ReactNode, Suspense, useEffect, useRef, useState } from 'react';
import { useMe } from '../app/session.tsx';
import { Labelled } from './controls.tsx';
import { wording } from './wording.ts';

const DayCalendar = lazy(() => import('./DayCalendar.tsx'));

type DayInputProps = {
  /** The day as `YYYY-MM-DD`, or nothing. */
  value: string;
  onChange: (day: string) => void;
  /** The first and the last day that may be chosen. */
  min?: string | undefined;
  max?: string | undefined;
  /** Called while the typed text is no allowed day. */
  onProblem?: (problem: string | undefined) => void;
} & Omit<InputHTMLAttributes<HTMLInputElement>, 'value' | 'onChange' | 'min' | 'max' | 'type'>;

/**
 * A day as people write it: shown as `28 Nov 2026`, typed so or as `3 dec`, `+10wd`, `end of month`, or picked from a calendar that
 * shades the days on which the organisation does not work. Never figures alone, whose order of day and month is a guess.
 */
export const DayInput = ({ value, onChange, min, max, onProblem, className = 'inp', ...props }: DayInputProps) => {
  const { organisation } = useMe();
  const calendar = { week: organisation.week, holidays: new Set(organisation.holidays) };
  const [text, setText] = useState(value ? dayInWords(value) : '');
  const input = useRef<HTMLInputElement>(null);
  const known = useRef(value);
  // A day set from outside is shown; the text typed here stays as typed.
  useEffect(() => {
    if (value === known.current) return;
    known.current = value;
    setText(value ? dayInWords(value) : '');
  }, [value]);
  const problemOf = (day: string | undefined) =>
    day === undefined
      ? wording.enterADateSuchAs
      : min && day < min
        ? wording.enterADateFromOn(dayInWords(min))
        : max && day > max
          ? wording.enterADateUpTo(dayInWords(max))
          : undefined;
  const take = (day: string) => {
    known.current = day;
    onChange(day);
  };
  const judge = (typed: string) => {
    const day = typed.trim() === '' ? '' : typedDay(typed, organisation.today, calendar);
    const problem = day === '' ? undefined : problemOf(day);
    input.current?.setCustomValidity(problem ?? '');
    if (problem === undefined && day !== undefined) take(day);
    return { day, problem };
  };
  const settle = () => {
    const { day, problem } = judge(text);
    onProblem?.(problem);
    if (problem === undefined) setText(day ? dayInWords(day) : '');
  };
  return (
    <span className="relative flex">
      <input
        {...props}
        ref={input}
        type="text"
        inputMode="text"
        autoComplete="off"
        placeholder={props.placeholder ?? wording.suchAs3Dec}
        className={`${className} pr-8`}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          if (judge(event.target.value).problem === undefined) onProblem?.(undefined);
        }}
        onBlur={settle}
        onKeyDown={(event) => {
          if (event.key === 'Enter') settle();
          props.onKeyDown?.(event);
        }}
      />
      <Popover className="absolute inset-y-0 right-0">
        <PopoverButton
          aria-label={wording.openCalendar}
          title={wording.openCalendar}
          disabled={props.disabled ?? false}
          className="grid h-full w-8 place-items-center text-ink-2 hover:text-petrol"
        >
          <CalendarDays size={15} aria-hidden />
        </PopoverButton>
        <PopoverPanel
          anchor="bottom end"
          focus
          aria-label={wording.calendar}
          className="z-50 border border-ink bg-sheet p-2 shadow-md [--anchor-gap:4px]"
        >
          {({ close }) => (
            <Suspense fallback={<p className="p-4 text-ink-3">{wording.loadingCalendar}</p>}>
              <DayCalendar
                value={value}
                today={organisation.today}
                week={organisation.week}
                holidays={organisation.holidays}
                min={min}
                max={max}
                onPick={(day) => {
                  input.current?.setCustomValidity('');
                  onProblem?.(undefined);
                  setText(dayInWords(day));
                  take(day);
                  close();
                }}
              />
            </Suspense>
          )}
        </PopoverPanel>
      </Popover>
    </span>
  );
};

/** A labelled field for a day, with its hint or its error. */
export const DateField = ({
  label,
  hint,
  error,
  optional,
  ...props
}: DayInputProps & { label: string; hint?: ReactNode; error?: string | undefined; optional?: boolean }) => {
  const [problem, setProblem] = useState<string>();
  return (
    <Labelled label={label} hint={hint} error={problem ?? error} {...(optional ? { optional } : {})}>
      {(a11y) => <DayInput {...a11y} {...props} onProblem={setProblem} />}
    </Labelled>
  );
};
