import { api, type ChoiceList } from '@kanonos/contract';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useCommand } from '../../app/useCommand.ts';
import { Select } from '../../ui/controls.tsx';
import { useDraft } from '../../ui/useDraft.ts';
import { ListFoot } from './ListFoot.tsx';
import { ListForm } from './ListForm.tsx';
import { OptionsText } from './OptionsText.tsx';
import { wording } from './wording.ts';
import { keyFrom } from './words.ts';

/** One choice list: its options as lines, and the list that it depends on. */
export const ChoiceEditor = ({ now, all }: { now: ChoiceList; all: readonly ChoiceList[] }) => {
  const navigate = useNavigate();
  const form = useDraft(now, (one) => ({ name: one.name, dependsOn: one.dependsOn, options: one.options }));
  const { base: list, draft, edit } = form;
  const isNew = list.key === '';
  const [reason, setReason] = useState('');
  const key = isNew
    ? keyFrom(
        draft.name || 'list',
        all.map((one) => one.key),
      )
    : list.key;
  const command = useCommand(api.rules.saveChoices, wording.listSaved, () => {
    form.saved();
    setReason('');
    navigate(`?choices=${key}`);
  });
  const above = all.find((one) => one.key === draft.dependsOn);
  return (
    <ListForm
      form={form}
      listKey={key}
      onSubmit={() => command.mutate({ params: { key }, body: { ...draft, rowVersion: list.rowVersion, reason } })}
    >
      <Select
        label={wording.dependsOn}
        value={draft.dependsOn ?? ''}
        onChange={(value) => edit({ dependsOn: value || null })}
        empty={wording.nothing}
        options={all.filter((one) => one.key !== list.key).map((one) => ({ value: one.key, text: one.name }))}
      />
      <div className="col-span-2">
        <OptionsText
          key={form.round}
          label={wording.options}
          rows={16}
          options={draft.options}
          onChange={(options) => edit({ options })}
        />
      </div>
      {above && (
        <p className="col-span-2 text-ink-2">
          {wording.theThirdColumnNamesTheParent(above.options.map((option) => option.code).join(', '))}
        </p>
      )}
      <ListFoot kind="choices" list={list} reason={reason} onReason={setReason} command={command} of={form} />
    </ListForm>
  );
};
