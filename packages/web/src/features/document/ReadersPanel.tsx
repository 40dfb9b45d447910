import { api, type DocumentPage, type Requirement } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useAct } from '../../app/useAct.ts';
import { ActButton, Actions, Dialog, Select, TextArea, TextField } from '../../ui/controls.tsx';
import { count, showDay, showInstantDay } from '../../ui/format.ts';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { ReadingCell } from '../../ui/ReadingCell.tsx';
import { Empty, Failed, Loading, Refusals } from '../../ui/states.tsx';

const audienceWords = (r: Requirement) =>
  [
    r.audience.everyone ? 'everyone' : '',
    ...r.audience.units.map((u) => u.name),
    ...r.audience.people.map((p) => p.name),
  ]
    .filter(Boolean)
    .join(', ') + (r.audience.except.length ? `, except ${r.audience.except.map((p) => p.name).join(', ')}` : '');

/** Who must read the document, the instructions, and where each reader stands. */
export const ReadersPanel = ({ page }: { page: DocumentPage }) => {
  const me = useMe();
  const [editing, setEditing] = useState(false);
  const { data, error, isPending, refetch } = useQuery(ask(api.reading.readers, { params: { document: page.id } }));
  if (isPending) return <Loading what="the readers" />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const [requirement] = data.requirements;
  return (
    <div role="tabpanel" tabIndex={0} aria-label="Readers" className="min-h-0 flex-1 overflow-y-auto text-[12.5px]">
      <div className="flex items-start justify-between gap-3 border-b border-line px-4 py-2.5">
        <div>
          {requirement ? (
            <>
              <p>
                <b className="font-semibold">{audienceWords(requirement)}</b>{' '}
                {requirement.kind === 'read and sign' ? 'must read and sign' : 'get it for information'} within{' '}
                {count(requirement.workingDays, 'working day')}, newcomers within {requirement.newcomerDays}.
                {requirement.beforeInForce && ' It may be read before it is in force.'}
              </p>
              {requirement.instructions && <p className="text-ink-2">“{requirement.instructions}”</p>}
              <p className="text-ink-3">
                {Object.entries(requirement.perChange)
                  .map(([kind, policy]) => `${kind}: ${policy}`)
                  .join(' · ')}
              </p>
            </>
          ) : (
            <p>Nobody is named who must read it.</p>
          )}
          {data.compliance.percent !== null && (
            <p className="mt-1">
              <b className="font-semibold">{data.compliance.percent} %</b> read: {data.compliance.done} of{' '}
              {data.compliance.owed}.
            </p>
          )}
        </div>
        {data.mayManage && !page.view && (
          <button type="button" className="btn" onClick={() => setEditing(true)}>
            {requirement ? 'Change readers' : 'Name readers'}
          </button>
        )}
      </div>
      {data.readers.length === 0 ? (
        <Empty title="No readings yet">They follow when a revision may be read.</Empty>
      ) : (
        <table className="w-full">
          <thead>
            <tr className="border-b border-line text-left">
              {['Person', 'Department', 'Rev', 'State', 'Due', 'Signed'].map((head) => (
                <th key={head} className="cap px-3 py-1.5">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {data.readers.map((reader) => (
              <tr key={reader.assignmentId} className="border-b border-line-2">
                <td className="px-3 py-1">{reader.person.name}</td>
                <td className="px-3 py-1 text-ink-2">{reader.department ?? '–'}</td>
                <td className="num px-3 py-1">{reader.label}</td>
                <td className="w-24 px-3 py-1">
                  <ReadingCell state={reader.state} />
                </td>
                <td className="px-3 py-1 whitespace-nowrap">{showDay(reader.due)}</td>
                <td className="px-3 py-1 whitespace-nowrap">{showInstantDay(reader.closedAt, me.house.zone)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {editing && <Edit page={page} requirement={requirement} close={() => setEditing(false)} />}
    </div>
  );
};

const CHANGE_KINDS = ['minor', 'major', 'editorial'] as const;

const Edit = ({
  page,
  requirement,
  close,
}: {
  page: DocumentPage;
  requirement: Requirement | undefined;
  close: () => void;
}) => {
  const { data: units } = useQuery(ask(api.people.units));
  const [chosen, setChosen] = useState<string[]>(requirement?.audience.units.map((u) => u.id) ?? []);
  const [everyone, setEveryone] = useState(requirement?.audience.everyone ?? false);
  const [people, setPeople] = useState(requirement?.audience.people ?? []);
  const [except, setExcept] = useState(requirement?.audience.except ?? []);
  const [instructions, setInstructions] = useState(requirement?.instructions ?? '');
  const [days, setDays] = useState(String(requirement?.workingDays ?? 10));
  const [newcomerDays, setNewcomerDays] = useState(String(requirement?.newcomerDays ?? 10));
  const [before, setBefore] = useState(requirement?.beforeInForce ?? false);
  const [perChange, setPerChange] = useState<Record<string, string>>(
    requirement?.perChange ?? { minor: 'carry over', major: 'read the changes', editorial: 'carry over' },
  );
  const act = useAct(
    api.reading.setRequirement,
    ({ people: n }) => `${count(n, 'person', 'people')} must read it.`,
    close,
  );
  return (
    <Dialog open onClose={close} title={`Who must read ${page.number}`} wide>
      <form
        className="grid grid-cols-2 gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          act.mutate({
            params: { document: page.id },
            body: {
              everyone,
              unitIds: chosen,
              personIds: people.map((p) => p.id),
              exceptPersonIds: except.map((p) => p.id),
              kind: 'read and sign',
              instructions,
              workingDays: Number(days),
              newcomerDays: Number(newcomerDays),
              perChange: perChange as Record<'minor', 'read all'>,
              beforeInForce: before,
              rowVersion: requirement?.rowVersion ?? null,
            },
          });
        }}
      >
        <fieldset className="col-span-2">
          <legend className="cap">Departments, roles, groups, sites</legend>
          <div className="mt-1 flex max-h-32 flex-wrap gap-1 overflow-y-auto">
            <button
              type="button"
              aria-pressed={everyone}
              className={`btn !h-6 ${everyone ? 'btn-pri' : ''}`}
              onClick={() => setEveryone(!everyone)}
            >
              everyone
            </button>
            {units?.units.map((unit) => {
              const on = chosen.includes(unit.id);
              return (
                <button
                  key={unit.id}
                  type="button"
                  aria-pressed={on}
                  className={`btn !h-6 ${on ? 'btn-pri' : ''}`}
                  onClick={() => setChosen(on ? chosen.filter((id) => id !== unit.id) : [...chosen, unit.id])}
                >
                  {unit.name}
                </button>
              );
            })}
          </div>
        </fieldset>
        <PeoplePicker label="Named people" value={people} onChange={setPeople} />
        <PeoplePicker label="Except" value={except} onChange={setExcept} />
        <div className="col-span-2">
          <TextArea
            label="Instructions"
            optional
            rows={2}
            value={instructions}
            onChange={(event) => setInstructions(event.target.value)}
          />
        </div>
        <TextField
          label="Working days, people in place"
          inputMode="numeric"
          required
          value={days}
          onChange={(event) => setDays(event.target.value)}
        />
        <TextField
          label="Working days, newcomers"
          inputMode="numeric"
          required
          value={newcomerDays}
          onChange={(event) => setNewcomerDays(event.target.value)}
        />
        {CHANGE_KINDS.map((kind) => (
          <Select
            key={kind}
            label={`After a ${kind} change, who signed before`}
            value={perChange[kind] ?? 'read all'}
            onChange={(event) => setPerChange({ ...perChange, [kind]: event.target.value })}
          >
            <option value="read all">reads all</option>
            <option value="read the changes">reads the changes</option>
            <option value="carry over">is carried over</option>
          </Select>
        ))}
        <label className="flex items-center gap-2 self-end pb-2">
          <input
            type="checkbox"
            className="accent-petrol"
            checked={before}
            onChange={(event) => setBefore(event.target.checked)}
          />
          may be read before it is in force
        </label>
        <div className="col-span-2 empty:hidden">
          <Refusals error={act.error} />
        </div>
        <div className="col-span-2">
          <Actions>
            <button type="button" className="btn" onClick={close}>
              Cancel
            </button>
            <ActButton busy={act.isPending}>Save</ActButton>
          </Actions>
        </div>
      </form>
    </Dialog>
  );
};
