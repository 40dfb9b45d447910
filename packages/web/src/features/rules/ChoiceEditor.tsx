import { api, type ChoiceList } from '@kanonos/contract';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useAct } from '../../app/useAct.ts';
import { Select, TextField } from '../../ui/controls.tsx';
import { ListFoot } from './ListFoot.tsx';
import { OptionsText } from './OptionsText.tsx';
import { keyFrom } from './words.ts';

/** One choice list: its options as lines, and the list that it depends on. */
export const ChoiceEditor = ({ list, all }: { list: ChoiceList; all: readonly ChoiceList[] }) => {
  const navigate = useNavigate();
  const isNew = list.key === '';
  const [name, setName] = useState(list.name);
  const [dependsOn, setDependsOn] = useState(list.dependsOn ?? '');
  const [options, setOptions] = useState(list.options);
  const [reason, setReason] = useState('');
  const key = isNew
    ? keyFrom(
        name || 'list',
        all.map((one) => one.key),
      )
    : list.key;
  const act = useAct(api.rules.saveChoices, 'The list is saved.', () => navigate(`?choices=${key}`));
  const above = all.find((one) => one.key === dependsOn);
  return (
    <form
      className="min-h-0 overflow-y-auto px-5 py-4"
      onSubmit={(event) => {
        event.preventDefault();
        act.mutate({
          params: { key },
          body: { name, dependsOn: dependsOn || null, options, rowVersion: list.rowVersion, reason },
        });
      }}
    >
      <div className="grid max-w-3xl grid-cols-2 gap-x-4 gap-y-3.5">
        <TextField
          label="Name"
          required
          maxLength={80}
          value={name}
          onChange={(event) => setName(event.target.value)}
          hint={`Key ${key}`}
        />
        <Select label="Depends on" value={dependsOn} onChange={(event) => setDependsOn(event.target.value)}>
          <option value="">nothing</option>
          {all
            .filter((one) => one.key !== list.key)
            .map((one) => (
              <option key={one.key} value={one.key}>
                {one.name}
              </option>
            ))}
        </Select>
        <div className="col-span-2">
          <OptionsText label="Options" rows={16} options={options} onChange={setOptions} />
        </div>
        {above && (
          <p className="col-span-2 text-ink-2">
            The third column names what an option stands under: {above.options.map((option) => option.code).join(', ')}.
          </p>
        )}
        <ListFoot kind="choices" list={list} reason={reason} onReason={setReason} act={act} />
      </div>
    </form>
  );
};
