import type { Step } from '@kanonos/contract';
import { Select, TextField } from '../../../ui/controls.tsx';
import { PeoplePicker } from '../../../ui/PersonPicker.tsx';
import { wording as rules } from '../wording.ts';
import type { Named } from './stepWords.ts';
import { wording } from './wording.ts';

type Line = NonNullable<Step['escalations']>[number];
type To = Extract<Line, { action: 'tell' }>['to'];
const ACTIONS = ['remind', 'tell', 'also ask', 'hand over'] as const;
const TARGETS = ['supervisor', 'owner', 'submitter', 'person'] as const;

const withAction = ({ afterDays, ...line }: Line, action: Line['action']): Line =>
  action === 'remind'
    ? { action, afterDays }
    : { action, afterDays, to: 'to' in line ? line.to : { by: 'supervisor' } };

/** What happens when somebody does not answer: lines of days, what is done, and towards whom. */
export const EscalationsEditor = ({
  lines,
  onChange,
  nameOf,
}: {
  lines: readonly Line[];
  onChange: (lines: Line[]) => void;
  nameOf: Named['nameOf'];
}) => {
  const change = (at: number, line: Line) => onChange(lines.map((one, i) => (i === at ? line : one)));
  const lastDays = lines.at(-1)?.afterDays ?? 0;
  return (
    <fieldset>
      <legend className="cap mb-1">{wording.escalation}</legend>
      {lines.length === 0 && <p className="mb-1 text-[12px] text-ink-2">{wording.nothingHappens}</p>}
      {lines.map((line, i) => (
        <div
          // biome-ignore lint/suspicious/noArrayIndexKey: a line is identified by its place
          key={i}
          className="mb-2 grid grid-cols-[110px_150px_170px_minmax(0,1fr)_auto] items-end gap-2 max-md:grid-cols-2"
        >
          <TextField
            label={wording.after}
            type="number"
            min={1}
            max={365}
            value={String(line.afterDays)}
            onChange={(value) => change(i, { ...line, afterDays: Math.max(1, Math.round(Number(value))) })}
          />
          <Select
            label={wording.what}
            value={line.action}
            options={ACTIONS.map((action) => ({ value: action, text: wording.actions[action] }))}
            onChange={(action) => change(i, withAction(line, action as Line['action']))}
          />
          {line.action === 'remind' ? (
            <span />
          ) : (
            <Target to={line.to} onChange={(to) => change(i, { ...line, to })} nameOf={nameOf} />
          )}
          <span className="col-start-5 pb-px max-md:col-start-auto">
            <button
              type="button"
              className="btn"
              aria-label={wording.removeEscalation(i + 1)}
              onClick={() => onChange(lines.filter((_, at) => at !== i))}
            >
              {rules.remove}
            </button>
          </span>
        </div>
      ))}
      <button
        type="button"
        className="btn"
        onClick={() => onChange([...lines, { action: 'remind', afterDays: lastDays + 3 }])}
      >
        {wording.addReminder}
      </button>
    </fieldset>
  );
};

/** Towards whom something is done; a person is still to be chosen at first, and asked for. */
const Target = ({ to, onChange, nameOf }: { to: To; onChange: (to: To) => void; nameOf: Named['nameOf'] }) => {
  const isPerson = to.by === 'person';
  return (
    <>
      <Select
        label={wording.whom}
        value={to.by}
        options={TARGETS.map((by) => ({ value: by, text: wording.targets[by] }))}
        onChange={(by) => onChange(by === 'person' ? { by, personId: '' } : { by: by as Exclude<To['by'], 'person'> })}
      />
      {isPerson ? (
        <PeoplePicker
          label={wording.person}
          single
          value={to.personId ? [{ id: to.personId, name: nameOf(to.personId) }] : []}
          onChange={([person]) => onChange({ by: 'person', personId: person?.id ?? '' })}
          hint={to.personId ? undefined : wording.chooseAPerson}
        />
      ) : (
        <span />
      )}
    </>
  );
};
