import { api, type Unit } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { ask } from '../../app/client.ts';
import { Select } from '../../ui/controls.tsx';
import { UnitPicker } from '../../ui/UnitPicker.tsx';
import { useDraft } from '../../ui/useDraft.ts';
import { belongingTo } from './belonging.ts';
import { OrganisationDialog } from './OrganisationDialog.tsx';
import type { Organisation } from './organisationBody.ts';
import { wording } from './wording.ts';

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
    rules: groupRules.length ? groupRules : [{ groupId: '', unitIds: [] }],
  }));
  const { edit } = form;
  const { rules } = form.draft;
  const people = useQuery(ask(api.people.list, { query: {} }));
  const groups = units.filter((unit) => unit.kind === 'group');
  const others = units.filter((unit) => unit.kind !== 'group');
  const change = (index: number, part: Partial<Organisation['groupRules'][number]>) =>
    edit({ rules: rules.map((one, i) => (i === index ? { ...one, ...part } : one)) });
  return (
    <OrganisationDialog
      title={wording.editGroupRules}
      about={<p>{wording.whoeverBelongsToAllOfThe}</p>}
      saved={wording.groupRulesSaved}
      form={form}
      change={{ groupRules: rules.filter((rule) => rule.groupId && rule.unitIds.length) }}
      close={close}
    >
      <div className="flex max-h-[50vh] flex-col gap-4 overflow-y-auto pr-1">
        {rules.map((rule, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a rule has no other identity while its group is chosen
          <div key={index} className="flex flex-col gap-2 border-l-3 border-line pl-2.5">
            <div className="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-2">
              <Select
                label={wording.group}
                value={rule.groupId}
                onChange={(value) => change(index, { groupId: value })}
              >
                <option value="">{wording.chooseAGroup}</option>
                {groups.map((group) => (
                  <option
                    key={group.id}
                    value={group.id}
                    disabled={rules.some((one, i) => i !== index && one.groupId === group.id)}
                  >
                    {group.name}
                  </option>
                ))}
              </Select>
              <button
                type="button"
                className="btn"
                onClick={() => edit({ rules: rules.filter((_, i) => i !== index) })}
              >
                {wording.remove}
              </button>
            </div>
            <UnitPicker
              label={wording.containsEveryoneWhoBelongsToAll}
              units={others}
              value={rule.unitIds}
              onChange={(unitIds) => change(index, { unitIds })}
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
          </div>
        ))}
        <div>
          <button
            type="button"
            className="btn !h-6"
            onClick={() => edit({ rules: [...rules, { groupId: '', unitIds: [] }] })}
          >
            {wording.addGroupRule}
          </button>
        </div>
      </div>
    </OrganisationDialog>
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
