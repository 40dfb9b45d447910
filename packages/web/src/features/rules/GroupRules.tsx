import { api, type Unit } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { ask } from '../../app/client.ts';
import { Select } from '../../ui/controls.tsx';
import { UnitPicker } from '../../ui/UnitPicker.tsx';
import { useDraft } from '../../ui/useDraft.ts';
import { belongingTo } from './belonging.ts';
import { EntriesDialog } from './EntriesDialog.tsx';
import type { Organisation } from './organisationBody.ts';
import { wording } from './wording.ts';

const NEW: Organisation['groupRules'][number] = { groupId: '', unitIds: [] };

/** Groups that follow from what people are: who belongs to all of some units is in the group, from day to day. */
export const GroupRules = ({
  organisation: now,
  units,
  close,
}: {
  organisation: Organisation;
  units: readonly Unit[];
  close: () => void;
}) => {
  const form = useDraft(now, ({ groupRules }) => ({
    rules: groupRules.length ? groupRules : [NEW],
  }));
  const { rules } = form.draft;
  const people = useQuery(ask(api.people.list, { query: {} }));
  const groups = units.filter((unit) => unit.kind === 'group');
  const others = units.filter((unit) => unit.kind !== 'group');
  return (
    <EntriesDialog
      title={wording.editGroupRules}
      about={<p>{wording.whoeverBelongsToAllOfThe}</p>}
      saved={wording.groupRulesSaved}
      form={form}
      change={{ groupRules: rules.filter((rule) => rule.groupId && rule.unitIds.length) }}
      close={close}
      entries={rules}
      edit={(changed) => form.edit({ rules: changed })}
      added={NEW}
      addEntry={wording.addGroupRule}
      firstLine="grid-cols-[minmax(0,1fr)_auto]"
      fields={(rule, change, at) => (
        <Select label={wording.group} value={rule.groupId} onChange={(groupId) => change({ groupId })}>
          <option value="">{wording.chooseAGroup}</option>
          {groups.map(({ id, name }) => (
            <option key={id} value={id} disabled={rules.some((one, i) => i !== at && one.groupId === id)}>
              {name}
            </option>
          ))}
        </Select>
      )}
      below={(rule, change) => (
        <>
          <UnitPicker
            label={wording.containsEveryoneWhoBelongsToAll}
            units={others}
            value={rule.unitIds}
            onChange={(unitIds) => change({ unitIds })}
          />
          {rule.unitIds.length > 0 && people.data && (
            <p className="text-ink-2" role="status">
              {whoToday(
                belongingTo(
                  people.data.people,
                  others.filter((unit) => rule.unitIds.includes(unit.id)),
                ),
              )}
            </p>
          )}
        </>
      )}
    />
  );
};

const whoToday = (names: readonly string[]): string =>
  names.length === 0
    ? wording.nobodyToday
    : wording.todayNamesNames2Part(
        names.length,
        names.slice(0, 6).join(', '),
        names.length > 6 ? wording.andMore2(names.length - 6) : '',
      );
