import { wording } from './wording.ts';

type Unit = { id: string; name: string };

/** Departments, roles, groups and sites as buttons that stay pressed; with `everyone` the whole organisation as the first. */
export const UnitPicker = ({
  label,
  units,
  value,
  onChange,
  everyone,
}: {
  label: string;
  units: readonly Unit[];
  value: readonly string[];
  onChange: (ids: string[]) => void;
  everyone?: { on: boolean; onChange: (on: boolean) => void };
}) => (
  <fieldset>
    <legend className="cap">{label}</legend>
    <div className="mt-1 flex max-h-32 flex-wrap gap-1 overflow-y-auto">
      {everyone && <Pressed name={wording.everyone} on={everyone.on} toggle={() => everyone.onChange(!everyone.on)} />}
      {units.map((unit) => {
        const on = value.includes(unit.id);
        return (
          <Pressed
            key={unit.id}
            name={unit.name}
            on={on}
            toggle={() => onChange(on ? value.filter((id) => id !== unit.id) : [...value, unit.id])}
          />
        );
      })}
    </div>
  </fieldset>
);

const Pressed = ({ name, on, toggle }: { name: string; on: boolean; toggle: () => void }) => (
  <button type="button" aria-pressed={on} className={`btn !h-6 ${on ? 'btn-pri' : ''}`} onClick={toggle}>
    {name}
  </button>
);
