import type { TypeRule } from '@kanonos/contract';
import { Select, TextField } from '../../ui/controls.tsx';
import { wording } from './wording.ts';

type Review = TypeRule['review'];

const whole = (text: string): number => Math.max(0, Math.round(Number(text)) || 0);
const options = <T extends string>(words: Readonly<Record<T, string>>) =>
  Object.entries<string>(words).map(([value, text]) => ({ value, text }));

/** How documents of a type are reviewed periodically: how often, counted from what, who is asked and told when. */
export const ReviewRules = ({ rule, edit }: { rule: TypeRule; edit: (change: Partial<TypeRule>) => void }) => {
  const { review } = rule;
  const set = (change: Partial<Review>) => edit({ review: { ...review, ...change } });
  const isReviewed = rule.reviewEvery !== 0;
  return (
    <fieldset className="col-span-2 grid grid-cols-[repeat(4,minmax(0,1fr))] gap-x-4 gap-y-3.5 border-t border-line pt-3 max-md:col-span-1 max-md:grid-cols-2">
      <legend className="sr-only">{wording.reviewEvery}</legend>
      <TextField
        label={wording.reviewEvery}
        type="number"
        min={0}
        value={String(rule.reviewEvery)}
        onChange={(value) => edit({ reviewEvery: Math.round(Number(value)) })}
        hint={isReviewed ? wording.reviewOwnInterval : wording.n0NoPeriodicReview}
      />
      {isReviewed && (
        <>
          <Select
            label={wording.reviewUnit}
            value={review.unit}
            onChange={(unit) => set({ unit: unit as Review['unit'] })}
            options={options(wording.reviewUnitOptions)}
          />
          <Select
            label={wording.reviewFrom}
            value={review.from}
            onChange={(from) =>
              set({
                from: from as Review['from'],
                fixedDay: from === 'fixed day' ? (review.fixedDay ?? '01-01') : null,
              })
            }
            options={options(wording.reviewFromOptions)}
          />
          {review.from === 'fixed day' ? (
            <FixedDay value={review.fixedDay ?? '01-01'} onChange={(fixedDay) => set({ fixedDay })} />
          ) : (
            <span className="max-md:hidden" />
          )}
          <TextField
            label={wording.reviewDaysAhead}
            type="number"
            min={0}
            max={365}
            value={String(review.daysAhead)}
            onChange={(value) => set({ daysAhead: whole(value) })}
          />
          <TextField
            label={wording.reviewEscalate}
            type="number"
            min={0}
            max={365}
            value={review.escalateAfterDays === null ? '' : String(review.escalateAfterDays)}
            onChange={(value) => set({ escalateAfterDays: value === '' ? null : whole(value) })}
            hint={wording.reviewEscalateHint}
          />
          <TextField
            label={wording.reviewMostPostponed}
            type="number"
            min={0}
            max={730}
            value={String(review.mostDaysPostponed)}
            onChange={(value) => set({ mostDaysPostponed: whole(value) })}
          />
          <Select
            label={wording.reviewAfterMinor}
            value={review.minorChange}
            onChange={(minorChange) => set({ minorChange: minorChange as Review['minorChange'] })}
            options={options(wording.reviewAfterMinorOptions)}
          />
        </>
      )}
    </fieldset>
  );
};

/** A day of every year: its day and its month, kept as `MM-DD`. */
const FixedDay = ({ value, onChange }: { value: string; onChange: (day: string) => void }) => {
  const [month = '01', day = '01'] = value.split('-');
  return (
    <span className="grid grid-cols-[64px_minmax(0,1fr)] items-start gap-2">
      <TextField
        label={wording.reviewFixedDay}
        type="number"
        min={1}
        max={31}
        value={String(Number(day))}
        onChange={(text) => onChange(`${month}-${String(Math.min(31, whole(text))).padStart(2, '0')}`)}
      />
      <Select
        label={wording.reviewFixedMonth}
        value={month}
        onChange={(text) => onChange(`${text}-${day}`)}
        options={wording.monthNames.map((text, i) => ({ value: String(i + 1).padStart(2, '0'), text }))}
      />
    </span>
  );
};
