import type { Route, Step, TypeRule, Unit } from '@kanonos/contract';
import { Select, TextField } from '../../ui/controls.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { wording } from './wording.ts';

const KINDS: { value: Step['kind']; text: string }[] = [
  { value: 'review', text: 'review' },
  { value: 'acknowledge', text: wording.takeNote },
  { value: 'task', text: 'task' },
  { value: 'approval', text: wording.approvalSigned },
];
const NEW_STEP: Step = {
  name: wording.review,
  kind: 'review',
  assignees: [{ by: 'chosen', minimum: 1 }],
  rule: { kind: 'all' },
  workingDays: 5,
  onReject: 'draft',
};
type AssigneeRule = Step['assignees'][number];

/** The steps of a route in their order: what each is, who is asked, when it is done, what a rejection does. */
export const RouteSteps = ({
  route,
  rule,
  onChange,
  nameOf,
  units,
}: {
  route: Route;
  rule: TypeRule;
  onChange: (route: Route) => void;
  nameOf: (id: string) => string;
  units: readonly Unit[];
}) => {
  const set = (steps: Step[]) =>
    onChange({
      name:
        route.name ||
        steps
          .map((step) => step.name)
          .join(', ')
          .slice(0, 80),
      steps,
    });
  const change = (index: number, part: Partial<Step>) =>
    set(route.steps.map((step, i) => (i === index ? { ...step, ...part } : step)));
  const move = (index: number, by: number) => {
    const steps = [...route.steps];
    const [step] = steps.splice(index, 1);
    if (step) steps.splice(index + by, 0, step);
    // Where a rejection led back to is by place: after a move it leads to the draft.
    set(steps.map((one) => ({ ...one, onReject: 'draft' })));
  };
  return (
    <div className="flex flex-col gap-2">
      {route.steps.map((step, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a step is identified by its place
        <fieldset key={index} className="border border-line bg-sheet px-3 py-2">
          <legend className="num px-1 text-[12px]">{index + 1}</legend>
          <div className="grid grid-cols-[minmax(0,1.3fr)_150px_minmax(0,1fr)_92px_auto] items-end gap-2.5 max-md:grid-cols-2">
            <TextField
              label={wording.step}
              value={step.name}
              maxLength={80}
              onChange={(value) => change(index, { name: value })}
            />
            <Select
              label={wording.kind}
              value={step.kind}
              onChange={(value) => change(index, { kind: value as Step['kind'] })}
              options={KINDS}
            />
            <DoneRule rule={step.rule} onChange={(next) => change(index, { rule: next })} />
            <TextField
              label={wording.days}
              type="number"
              min={0}
              max={365}
              value={String(step.workingDays)}
              onChange={(value) => change(index, { workingDays: Math.round(Number(value)) })}
            />
            <span className="flex gap-1 pb-[1px]">
              <button
                type="button"
                className="btn !px-2"
                aria-label={wording.stepEarlier(index + 1)}
                disabled={index === 0}
                onClick={() => move(index, -1)}
              >
                ↑
              </button>
              <button
                type="button"
                className="btn !px-2"
                aria-label={wording.stepLater(index + 1)}
                disabled={index === route.steps.length - 1}
                onClick={() => move(index, 1)}
              >
                ↓
              </button>
              <button type="button" className="btn" onClick={() => set(route.steps.filter((_, i) => i !== index))}>
                {wording.remove}
              </button>
            </span>
          </div>
          <AssigneesEditor
            assignees={step.assignees}
            rule={rule}
            units={units}
            nameOf={nameOf}
            onChange={(assignees) => change(index, { assignees })}
          />
          <StepOptions change={change} index={index} route={route} step={step} />
        </fieldset>
      ))}
      {route.steps.length === 0 && <p className="text-ink-2">{wording.noStepsDocumentsAreReleasedWithout}</p>}
      <div>
        <button
          type="button"
          className="btn"
          onClick={() =>
            set([
              ...route.steps,
              route.steps.at(-1)?.kind === 'approval'
                ? {
                    ...NEW_STEP,
                    name: wording.approval,
                    kind: 'approval',
                    meaning: 'approved',
                    assignees: [{ by: 'owner' }],
                  }
                : NEW_STEP,
            ])
          }
        >
          {wording.addStep}
        </button>
      </div>
    </div>
  );
};

/** What holds in a step beside who is asked. */
const StepOptions = ({
  change,
  index,
  route,
  step,
}: {
  change: (index: number, part: Partial<Step>) => void;
  index: number;
  route: Route;
  step: Step;
}) => (
  <div className="mt-1.5 flex flex-wrap items-center gap-x-5 gap-y-2">
    {step.kind === 'approval' ? (
      <span className="w-72">
        <TextField
          label={wording.meaningOfTheSignature}
          value={step.meaning ?? ''}
          maxLength={120}
          placeholder={wording.approvedForUse}
          onChange={(value) => change(index, { meaning: value })}
        />
      </span>
    ) : (
      <Tick checked={step.editing ?? false} onChange={(editing) => change(index, { editing })}>
        {wording.assigneesMayCheckIn}
      </Tick>
    )}
    <span className="w-56">
      <Select
        label={wording.whenRejectedGoTo}
        value={String(step.onReject)}
        onChange={(value) => change(index, { onReject: value === 'draft' ? 'draft' : Number(value) })}
      >
        <option value="draft">{wording.theDraft}</option>
        {route.steps.slice(0, index).map((earlier, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a step is identified by its place
          <option key={i} value={i}>
            {wording.stepIEarlier(i + 1, earlier.name)}
          </option>
        ))}
      </Select>
    </span>
  </div>
);

const DoneRule = ({ rule, onChange }: { rule: Step['rule']; onChange: (rule: Step['rule']) => void }) => (
  <span className="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-1.5">
    <Select
      label={wording.completeWhen}
      value={rule.kind}
      onChange={(value) => {
        const kind = value as Step['rule']['kind'];
        onChange(kind === 'k of n' ? { kind, k: 2 } : { kind });
      }}
    >
      <option value="all">{wording.allAgree}</option>
      <option value="any one">{wording.anyOneAgrees}</option>
      <option value="k of n">{wording.someAgree}</option>
      <option value="in sequence">{wording.allOneAfterTheOther}</option>
    </Select>
    {rule.kind === 'k of n' && (
      <input
        className="inp !w-12"
        aria-label={wording.howMany}
        type="number"
        min={1}
        max={50}
        value={rule.k}
        onChange={(event) => onChange({ kind: 'k of n', k: Math.max(1, Math.round(Number(event.target.value))) })}
      />
    )}
  </span>
);

/** Who is asked in a step, as chips that are taken out, and a list to add from. */
const AssigneesEditor = ({
  assignees,
  rule,
  units,
  nameOf,
  onChange,
}: {
  assignees: readonly AssigneeRule[];
  rule: TypeRule;
  units: readonly Unit[];
  nameOf: (id: string) => string;
  onChange: (assignees: AssigneeRule[]) => void;
}) => {
  const holders = rule.fields.filter((field) => field.kind === 'person' || field.kind === 'people');
  const words = (one: AssigneeRule): string => {
    switch (one.by) {
      case 'person':
        return nameOf(one.personId);
      case 'unit':
        return units.find((unit) => unit.id === one.unitId)?.name ?? '…';
      case 'owner':
        return wording.theOwner;
      case 'owner supervisor':
        return wording.theSupervisorOfTheOwner;
      case 'field':
        return wording.thePersonNamedIn2(holders.find((field) => field.key === one.key)?.label ?? one.key);
      case 'chosen':
        return wording.chosenByTheAuthorAtLeast(one.minimum);
    }
  };
  const add = (value: string) => {
    const [by, id = ''] = value.split(' ');
    if (by === 'owner') onChange([...assignees, { by: 'owner' }]);
    if (by === 'supervisor') onChange([...assignees, { by: 'owner supervisor' }]);
    if (by === 'chosen') onChange([...assignees, { by: 'chosen', minimum: Number(id) }]);
    if (by === 'unit') onChange([...assignees, { by: 'unit', unitId: id }]);
    if (by === 'field') onChange([...assignees, { by: 'field', key: id }]);
  };
  return (
    <div className="mt-2 grid grid-cols-[minmax(0,1fr)_210px_210px] items-end gap-2.5 max-md:grid-cols-1">
      <div>
        <span className="cap mb-1 block">{wording.assignees}</span>
        <div className="flex min-h-[30px] flex-wrap items-center gap-1 border border-line bg-film-2 px-1.5 py-1">
          {assignees.map((one, i) => (
            <span key={words(one)} className="chip">
              {words(one)}
              <button
                type="button"
                aria-label={wording.removeOne(words(one))}
                onClick={() => onChange(assignees.filter((_, at) => at !== i))}
              >
                ×
              </button>
            </span>
          ))}
          {assignees.length === 0 && <span className="text-vermilion">{wording.nobodyYet}</span>}
        </div>
      </div>
      <Select label={wording.addAssignee} value="" onChange={add}>
        <option value="">{wording.choose}</option>
        <option value="owner">{wording.theOwner}</option>
        <option value="supervisor">{wording.theSupervisorOfTheOwner}</option>
        <option value="chosen 1">{wording.chosenByTheAuthorAtLeast1}</option>
        <option value="chosen 2">{wording.chosenByTheAuthorAtLeast2}</option>
        {holders.map((field) => (
          <option key={field.key} value={`field ${field.key}`}>
            {wording.thePersonNamedIn3(field.label)}
          </option>
        ))}
        {units.map((unit) => (
          <option key={unit.id} value={`unit ${unit.id}`}>
            {unit.name} ({unit.kind})
          </option>
        ))}
      </Select>
      <PeoplePicker
        label={wording.addPerson}
        single
        value={[]}
        onChange={([person]) => person && onChange([...assignees, { by: 'person', personId: person.id }])}
      />
    </div>
  );
};
