import type { Step } from '@kanonos/contract';
import { Select } from '../../../ui/controls.tsx';
import { PeoplePicker } from '../../../ui/PersonPicker.tsx';
import { wording as rules } from '../wording.ts';
import { assigneeWords, type Named } from './stepWords.ts';
import { wording } from './wording.ts';

type AssigneeRule = Step['assignees'][number];
type Chosen = Extract<AssigneeRule, { by: 'chosen' }>;

const added = (value: string): AssigneeRule | undefined => {
  const [by, id = ''] = value.split(' ');
  switch (by) {
    case 'owner':
      return { by: 'owner' };
    case 'supervisor':
      return { by: 'owner supervisor' };
    case 'author':
      return { by: 'author' };
    case 'chosen':
      return { by: 'chosen', minimum: Number(id) };
    case 'unit':
      return { by: 'unit', unitId: id };
    case 'field':
      return { by: 'field', key: id };
    default:
      return undefined;
  }
};

/** Who is asked in a step, as chips that are taken out, and a list to add from. */
export const AssigneesEditor = ({
  assignees,
  named,
  onChange,
}: {
  assignees: readonly AssigneeRule[];
  named: Named;
  onChange: (assignees: AssigneeRule[]) => void;
}) => {
  const { fields, units } = named;
  const holders = fields.filter((field) => field.kind === 'person' || field.kind === 'people');
  const add = (value: string) => {
    const one = added(value);
    if (one) onChange([...assignees, one]);
  };
  const chosen = assignees.find((one): one is Chosen => one.by === 'chosen');
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_210px_210px] items-end gap-2.5 max-md:grid-cols-1">
      <div>
        <span className="cap mb-1 block">{rules.assignees}</span>
        <div className="flex min-h-[30px] flex-wrap items-center gap-1 border border-line bg-film-2 px-1.5 py-1">
          {assignees.map((one, i) => (
            <span key={assigneeWords(one, named)} className="chip">
              {assigneeWords(one, named)}
              <button
                type="button"
                aria-label={rules.removeOne(assigneeWords(one, named))}
                onClick={() => onChange(assignees.filter((_, at) => at !== i))}
              >
                ×
              </button>
            </span>
          ))}
          {assignees.length === 0 && <span className="text-vermilion">{wording.nobodyYet}</span>}
        </div>
      </div>
      <Select label={rules.addAssignee} value="" onChange={add}>
        <option value="">{rules.choose}</option>
        <option value="owner">{rules.theOwner}</option>
        <option value="supervisor">{rules.theSupervisorOfTheOwner}</option>
        <option value="author">{wording.theAuthor}</option>
        <option value="chosen 1">{rules.chosenByTheAuthorAtLeast1}</option>
        <option value="chosen 2">{rules.chosenByTheAuthorAtLeast2}</option>
        {holders.map((field) => (
          <option key={field.key} value={`field ${field.key}`}>
            {rules.thePersonNamedIn3(field.label)}
          </option>
        ))}
        {units.map((unit) => (
          <option key={unit.id} value={`unit ${unit.id}`}>
            {unit.name} ({unit.kind})
          </option>
        ))}
      </Select>
      <PeoplePicker
        label={rules.addPerson}
        single
        value={[]}
        onChange={([person]) => person && onChange([...assignees, { by: 'person', personId: person.id }])}
      />
      {chosen && (
        <Select
          label={wording.chosenFrom}
          value={chosen.fromUnitId ?? ''}
          empty={wording.anybody}
          options={units.map((unit) => ({ value: unit.id, text: `${unit.name} (${unit.kind})` }))}
          onChange={(fromUnitId) =>
            onChange(
              assignees.map((one) =>
                one === chosen ? { by: 'chosen', minimum: chosen.minimum, ...(fromUnitId ? { fromUnitId } : {}) } : one,
              ),
            )
          }
        />
      )}
    </div>
  );
};
