import { useMe } from '../../../app/session.tsx';
import { Select, TextField } from '../../../ui/controls.tsx';
import { PeoplePicker } from '../../../ui/PersonPicker.tsx';
import { Tick } from '../../../ui/Tick.tsx';
import { type EnteredStep, firstStep } from './steps.ts';
import { wording } from './wording.ts';

const KINDS = ['review', 'acknowledge', 'task', 'approval'] as const;

/** The steps of an ad hoc round, one after the other: what is asked of whom. */
export const StepRows = ({
  steps,
  onChange,
  maySign,
}: {
  steps: readonly EnteredStep[];
  onChange: (steps: EnteredStep[]) => void;
  /** Whether the revision can change no more. */
  maySign: boolean;
}) => {
  const change = (key: number, part: Partial<EnteredStep>) =>
    onChange(steps.map((one) => (one.key === key ? { ...one, ...part } : one)));
  return (
    <fieldset className="flex flex-col gap-2">
      <legend className="cap mb-1">{wording.steps}</legend>
      {steps.map((step, index) => (
        <StepRow
          key={step.key}
          step={step}
          index={index}
          maySign={maySign}
          change={(part) => change(step.key, part)}
          remove={steps.length > 1 ? () => onChange(steps.filter(({ key }) => key !== step.key)) : undefined}
        />
      ))}
      {!maySign && <p className="text-[12px] text-ink-2">{wording.signable}</p>}
      <div>
        <button
          type="button"
          className="btn"
          onClick={() => onChange([...steps, firstStep(1 + Math.max(0, ...steps.map(({ key }) => key)))])}
        >
          {wording.addStep}
        </button>
      </div>
    </fieldset>
  );
};

/** One step: what is asked of whom. */
export const StepRow = ({
  step,
  index,
  maySign,
  change,
  remove,
}: {
  step: EnteredStep;
  index: number;
  maySign: boolean;
  change: (part: Partial<EnteredStep>) => void;
  remove?: (() => void) | undefined;
}) => {
  const { signatureMeanings } = useMe().organisation;
  return (
    <div
      role="group"
      aria-label={wording.step(index + 1)}
      className="flex flex-col gap-2 border border-line bg-film-2 px-3 py-2"
    >
      <div className="grid grid-cols-2 items-end gap-2.5 max-md:grid-cols-1">
        <Select
          label={wording.whatIsAsked}
          value={step.kind}
          options={KINDS.filter((kind) => maySign || kind !== 'approval').map((kind) => ({
            value: kind,
            text: wording.kinds[kind],
          }))}
          onChange={(kind) => change({ kind: kind as EnteredStep['kind'] })}
        />
        {step.kind === 'approval' ? (
          <Select
            label={wording.meaning}
            value={step.meaning}
            empty="–"
            options={signatureMeanings.map((value) => ({ value, text: value }))}
            onChange={(meaning) => change({ meaning })}
          />
        ) : (
          <TextField
            label={wording.stepName}
            optional
            maxLength={80}
            placeholder={wording.usual[step.kind]}
            value={step.name}
            onChange={(name) => change({ name })}
          />
        )}
      </div>
      <PeoplePicker
        label={wording.who}
        value={step.people}
        onChange={(people) => change({ people })}
        {...(index === 0 ? { hint: wording.whoHint } : {})}
      />
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        {step.people.length > 1 && (
          <Tick checked={step.isAnyOne} onChange={(isAnyOne) => change({ isAnyOne })}>
            {wording.isAnyOne}
          </Tick>
        )}
        {index > 0 && (
          <Tick checked={step.beside} onChange={(beside) => change({ beside })}>
            {wording.beside}
          </Tick>
        )}
        {remove && (
          <button type="button" className="btn ml-auto" aria-label={wording.removeStep(index + 1)} onClick={remove}>
            {wording.remove}
          </button>
        )}
      </div>
    </div>
  );
};
