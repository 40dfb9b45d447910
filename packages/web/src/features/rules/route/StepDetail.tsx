import type { Step } from '@kanonos/contract';
import { stagesOf } from '@kanonos/core';
import { Select, TextField } from '../../../ui/controls.tsx';
import { Tick } from '../../../ui/Tick.tsx';
import { wording as rules } from '../wording.ts';
import { AssigneesEditor } from './AssigneesEditor.tsx';
import { ConditionEditor } from './ConditionEditor.tsx';
import { EscalationsEditor } from './EscalationsEditor.tsx';
import type { Named } from './stepWords.ts';
import { wording } from './wording.ts';

type Edited = {
  step: Step;
  index: number;
  steps: readonly Step[];
  /** After a check-in those who decided are asked again, but in steps that say otherwise. */
  asksAgain: boolean;
  change: (part: Partial<Step>) => void;
};

/** All that a step says: what is asked of whom and until when, what a rejection does, when it is asked, what follows when nobody answers. */
export const StepDetail = ({
  kinds,
  named,
  move,
  remove,
  ...edited
}: Edited & {
  kinds: { value: Step['kind']; text: string }[];
  named: Named;
  move: (by: -1 | 1) => void;
  remove: () => void;
}) => {
  const { step, index, steps, change } = edited;
  return (
    <fieldset className="flex flex-col gap-3 border border-line bg-sheet px-3 py-2">
      <legend className="cap px-1">{wording.stepNumber(index + 1)}</legend>
      <div className="grid grid-cols-[minmax(0,1.3fr)_150px_minmax(0,1fr)_auto] items-end gap-2.5 max-md:grid-cols-2">
        <TextField label={rules.step} value={step.name} maxLength={80} onChange={(name) => change({ name })} />
        <Select
          label={rules.kind}
          value={step.kind}
          onChange={(kind) => change({ kind: kind as Step['kind'] })}
          options={kinds}
        />
        <DoneRule rule={step.rule} onChange={(rule) => change({ rule })} />
        <StepButtons index={index} count={steps.length} move={move} remove={remove} />
      </div>
      <AssigneesEditor assignees={step.assignees} named={named} onChange={(assignees) => change({ assignees })} />
      <Due {...edited} fields={named.fields} />
      <StepOptions {...edited} />
      <ConditionEditor
        when={step.when}
        fields={named.fields}
        units={named.units}
        onChange={(when) => change({ when })}
      />
      <EscalationsEditor
        lines={step.escalations ?? []}
        nameOf={named.nameOf}
        onChange={(lines) => change({ escalations: lines.length > 0 ? lines : undefined })}
      />
    </fieldset>
  );
};

const StepButtons = ({
  index,
  count,
  move,
  remove,
}: {
  index: number;
  count: number;
  move: (by: -1 | 1) => void;
  remove: () => void;
}) => (
  <span className="flex gap-1 pb-[1px]">
    <button
      type="button"
      className="btn !px-2"
      aria-label={rules.stepEarlier(index + 1)}
      disabled={index === 0}
      onClick={() => move(-1)}
    >
      ←
    </button>
    <button
      type="button"
      className="btn !px-2"
      aria-label={rules.stepLater(index + 1)}
      disabled={index === count - 1}
      onClick={() => move(1)}
    >
      →
    </button>
    <button type="button" className="btn" onClick={remove}>
      {rules.remove}
    </button>
  </span>
);

/** Until when it is done: some working days after it is asked, or on the day of a field. */
const Due = ({ step, change, fields }: Edited & { fields: Named['fields'] }) => {
  const days = fields.filter((field) => field.kind === 'date');
  return (
    <div className="grid grid-cols-[200px_130px_minmax(0,1fr)] items-end gap-2.5 max-md:grid-cols-2">
      {days.length > 0 && (
        <Select
          label={wording.due}
          value={step.dueField ?? ''}
          empty={wording.afterWorkingDays}
          options={days.map(({ key, label }) => ({ value: key, text: wording.onTheDayIn(label) }))}
          onChange={(dueField) => change({ dueField: dueField || undefined })}
        />
      )}
      <TextField
        label={wording.workingDays}
        type="number"
        min={0}
        max={365}
        value={String(step.workingDays)}
        onChange={(value) => change({ workingDays: Math.round(Number(value)) })}
      />
    </div>
  );
};

/** What holds in a step beside who is asked. */
const StepOptions = ({ step, index, steps, asksAgain, change }: Edited) => {
  const stages = stagesOf(steps);
  const before = steps[index - 1];
  const mayRunBeside = before !== undefined && (before.kind === 'approval') === (step.kind === 'approval');
  return (
    <div className="flex flex-wrap items-end gap-x-5 gap-y-2">
      {step.kind === 'approval' ? (
        <span className="w-72">
          <TextField
            label={rules.meaningOfTheSignature}
            value={step.meaning ?? ''}
            maxLength={120}
            placeholder={rules.approvedForUse}
            onChange={(meaning) => change({ meaning })}
          />
        </span>
      ) : (
        <Tick checked={step.editing ?? false} onChange={(editing) => change({ editing })}>
          {rules.assigneesMayCheckIn}
        </Tick>
      )}
      {asksAgain && step.kind !== 'approval' && steps.some(({ editing }) => editing) && (
        <Tick
          checked={step.keepsDecisions ?? false}
          onChange={(keepsDecisions) => change({ keepsDecisions: keepsDecisions || undefined })}
        >
          {wording.keepsDecisions}
        </Tick>
      )}
      {mayRunBeside && (
        <Tick checked={step.beside ?? false} onChange={(beside) => change({ beside: beside || undefined })}>
          {wording.beside}
        </Tick>
      )}
      <span className="w-56">
        <Select
          label={rules.whenRejectedGoTo}
          value={String(step.onReject)}
          onChange={(value) => change({ onReject: value === 'draft' ? 'draft' : Number(value) })}
        >
          <option value="draft">{rules.theDraft}</option>
          {steps.map(
            (earlier, i) =>
              (stages[i] ?? 0) < (stages[index] ?? 0) && (
                // biome-ignore lint/suspicious/noArrayIndexKey: a step is identified by its place
                <option key={i} value={i}>
                  {rules.stepIEarlier(i + 1, earlier.name)}
                </option>
              ),
          )}
        </Select>
      </span>
      {step.onReject !== 'draft' && (
        <Tick
          checked={step.keepsAgreed ?? false}
          onChange={(keepsAgreed) => change({ keepsAgreed: keepsAgreed || undefined })}
        >
          {wording.keepsAgreed}
        </Tick>
      )}
    </div>
  );
};

const DoneRule = ({ rule, onChange }: { rule: Step['rule']; onChange: (rule: Step['rule']) => void }) => (
  <span className="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-1.5">
    <Select
      label={rules.completeWhen}
      value={rule.kind}
      onChange={(value) => {
        const kind = value as Step['rule']['kind'];
        onChange(kind === 'k of n' ? { kind, k: 2 } : { kind });
      }}
    >
      <option value="all">{rules.allAgree}</option>
      <option value="any one">{rules.anyOneAgrees}</option>
      <option value="k of n">{rules.someAgree}</option>
      <option value="in sequence">{rules.allOneAfterTheOther}</option>
    </Select>
    {rule.kind === 'k of n' && (
      <input
        className="inp !w-12"
        aria-label={rules.howMany}
        type="number"
        min={1}
        max={50}
        value={rule.k}
        onChange={(event) => onChange({ kind: 'k of n', k: Math.max(1, Math.round(Number(event.target.value))) })}
      />
    )}
  </span>
);
