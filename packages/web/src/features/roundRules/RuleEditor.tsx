import { type AnswerOf, api, type BodyInOf, type RoundOccasion, type RoundRule } from '@kanonos/contract';
import { OCCASION_KINDS, type OccasionKind } from '@kanonos/core';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { ask, call } from '../../app/client.ts';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton, Select, TextField } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { Failed, Loading, Refusals } from '../../ui/states.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { FolderSelect } from '../registering/FolderSelect.tsx';
import { ConditionEditor } from '../rules/route/ConditionEditor.tsx';
import { RuleStarts } from './RuleStarts.tsx';
import { wording } from './wording.ts';

type Answer = AnswerOf<typeof api.roundRules.list>;
type TypeToName = Answer['types'][number];
type Draft = {
  name: string;
  active: boolean;
  typeId: string;
  folderId: string;
  occasion: RoundOccasion;
  condition: string | undefined;
  route: string;
  responsible: { id: string; name: string }[];
};

const draftOf = (rule: RoundRule | undefined): Draft => ({
  name: rule?.name ?? '',
  active: rule?.active ?? true,
  typeId: rule?.typeId ?? '',
  folderId: rule?.folderId ?? '',
  occasion: rule?.occasion ?? { on: 'in force' },
  condition: rule?.condition ?? undefined,
  route: rule?.route ?? '',
  responsible: rule ? [rule.responsible] : [],
});

const withKind = (on: OccasionKind): RoundOccasion =>
  on === 'day reached' ? { on, field: '', days: -30 } : on === 'field changed' ? { on, field: '' } : { on };

/** A rule that starts rounds: its occasion, its documents, its route; tried before it is saved; what it did below. */
export const RuleEditor = ({ rule, types }: { rule: RoundRule | undefined; types: Answer['types'] }) => {
  const [draft, setDraft] = useState(() => draftOf(rule));
  const [reason, setReason] = useState('');
  const [isRemoving, setRemoving] = useState(false);
  const navigate = useNavigate();
  const save = useCommand(api.roundRules.save, wording.saved, ({ id }) => {
    setReason('');
    navigate(`?rule=${id}`, { replace: true });
  });
  const change = (part: Partial<Draft>) => setDraft((before) => ({ ...before, ...part }));
  const type = types.find(({ id }) => id === draft.typeId);
  const [responsible] = draft.responsible;
  const isNamed = !('field' in draft.occasion) || draft.occasion.field !== '';
  const isWhole = type !== undefined && draft.route !== '' && responsible !== undefined && isNamed;
  const given = {
    typeId: draft.typeId,
    folderId: draft.folderId || null,
    occasion: draft.occasion,
    condition: draft.condition || null,
    route: draft.route,
    responsibleId: responsible?.id ?? '',
  };
  return (
    <section aria-label={draft.name || wording.newRule} className="min-h-0 overflow-y-auto px-4 py-3.5">
      <form
        className="flex max-w-3xl flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate({
            body: {
              ...(rule ? { id: rule.id, rowVersion: rule.rowVersion } : {}),
              name: draft.name,
              active: draft.active,
              reason,
              ...given,
            },
          });
        }}
      >
        <div className="flex flex-wrap items-center justify-between gap-2">
          <h2>{rule?.name ?? wording.newRule}</h2>
          <Tick checked={draft.active} onChange={(active) => change({ active })}>
            {wording.active}
          </Tick>
        </div>
        <TextField
          label={wording.name}
          hint={wording.nameHint}
          required
          maxLength={80}
          value={draft.name}
          onChange={(name) => change({ name })}
        />
        <OccasionFields draft={draft} type={type} change={change} />
        <Documents draft={draft} types={types} type={type} change={change} />
        {type && <RouteSelect type={type} route={draft.route} onChange={(route) => change({ route })} />}
        <PeoplePicker
          label={wording.responsible}
          hint={wording.responsibleHint}
          single
          value={draft.responsible}
          onChange={(people) => change({ responsible: people })}
        />
        <Trial given={given} isWhole={isWhole} />
        <ReasonField value={reason} onChange={setReason} />
        <Refusals error={save.error} />
        <div className="flex flex-wrap gap-2">
          <CommandButton busy={save.isPending} disabled={!isWhole} tone="pri">
            {wording.save}
          </CommandButton>
          {rule && (
            <button type="button" className="btn" onClick={() => setRemoving(true)}>
              {wording.remove}
            </button>
          )}
        </div>
      </form>
      {rule && <RuleLog id={rule.id} />}
      {rule && isRemoving && <RemoveRule rule={rule} close={() => setRemoving(false)} />}
    </section>
  );
};

type Part = { draft: Draft; type: TypeToName | undefined; change: (part: Partial<Draft>) => void };

/** Which documents: of a type, below a folder, where conditions hold. */
const Documents = ({ draft, types, type, change }: Part & { types: readonly TypeToName[] }) => {
  const folders = useQuery({ ...ask(api.documents.folders), staleTime: 60_000 });
  const units = useQuery({ ...ask(api.people.units), staleTime: 60_000 });
  return (
    <>
      <Select
        label={wording.type}
        required
        value={draft.typeId}
        empty={wording.chooseAType}
        options={types.map(({ id, code, name }) => ({ value: id, text: `${code} ${name}` }))}
        onChange={(typeId) => change({ typeId, route: '', condition: undefined })}
      />
      <FolderSelect
        folders={folders.data?.folders ?? []}
        value={draft.folderId}
        empty={wording.anyFolder}
        any
        onChange={(folderId) => change({ folderId })}
      />
      {type && (
        <ConditionEditor
          when={draft.condition}
          onChange={(condition) => change({ condition })}
          fields={type.fields}
          units={units.data?.units ?? []}
        />
      )}
    </>
  );
};

/** What happens, to which field, and how many days before or after it. */
const OccasionFields = ({ draft: { occasion }, type, change }: Part) => {
  const fields = (type?.fields ?? []).filter(({ kind }) => occasion.on !== 'day reached' || kind === 'date');
  const set = (next: RoundOccasion) => change({ occasion: next });
  // Kept here, for a number that is being typed is 0 in between.
  const [isBefore, setBefore] = useState(occasion.on !== 'day reached' || occasion.days < 0);
  return (
    <div className="flex flex-wrap items-end gap-2 [&>*]:min-w-40">
      <Select
        label={wording.occasion}
        value={occasion.on}
        options={OCCASION_KINDS.map((value) => ({ value, text: wording.occasions[value] }))}
        onChange={(value) => set(withKind(value as OccasionKind))}
      />
      {'field' in occasion &&
        (type && fields.length === 0 ? (
          <p className="text-ink-2">{wording.noDayField}</p>
        ) : (
          <Select
            label={wording.field}
            required
            value={occasion.field}
            empty={type ? wording.chooseAField : wording.chooseAType}
            options={fields.map(({ key, label }) => ({ value: key, text: label }))}
            onChange={(field) => set({ ...occasion, field })}
          />
        ))}
      {occasion.on === 'day reached' && (
        <>
          <TextField
            label={wording.days}
            type="number"
            min={0}
            max={3650}
            required
            value={String(Math.abs(occasion.days))}
            onChange={(days) => set({ ...occasion, days: Number(days) * (isBefore ? -1 : 1) })}
          />
          <Select
            label={wording.when}
            value={isBefore ? 'before' : 'after'}
            options={[
              { value: 'before', text: wording.before },
              { value: 'after', text: wording.after },
            ]}
            onChange={(side) => {
              setBefore(side === 'before');
              set({ ...occasion, days: Math.abs(occasion.days) * (side === 'before' ? -1 : 1) });
            }}
          />
        </>
      )}
    </div>
  );
};

const RouteSelect = ({
  type,
  route,
  onChange,
}: {
  type: TypeToName;
  route: string;
  onChange: (route: string) => void;
}) =>
  type.routes.length === 0 ? (
    <p className="text-ink-2">
      {wording.noRoutes}{' '}
      <Link className="link" to={`/rules/types/${type.id}`}>
        {wording.addRoute}
      </Link>
    </p>
  ) : (
    <Select
      label={wording.route}
      required
      value={route}
      empty={wording.chooseARoute}
      options={type.routes.map((name) => ({ value: name, text: name }))}
      onChange={onChange}
    />
  );

type Given = BodyInOf<typeof api.roundRules.try>;

/** What the rule as it stands would have done. */
const Trial = ({ given, isWhole }: { given: Given; isWhole: boolean }) => {
  const trial = useMutation({
    mutationFn: () => call(api.roundRules.try, { body: given }),
  });
  return (
    <section aria-label={wording.trial} className="flex flex-col gap-2 border-l-2 border-line pl-3">
      <div className="flex flex-wrap items-center gap-2">
        <button type="button" className="btn" disabled={!isWhole || trial.isPending} onClick={() => trial.mutate()}>
          {wording.tryIt}
        </button>
        <span className="text-[12px] text-ink-2">{wording.tryHint}</span>
      </div>
      <Refusals error={trial.error} />
      {trial.data && (
        <>
          <p role="status" className="font-semibold">
            {wording.wouldHave(trial.data.rounds)}
          </p>
          <RuleStarts starts={trial.data.starts} empty={wording.nothingFound} />
        </>
      )}
    </section>
  );
};

const RuleLog = ({ id }: { id: string }) => {
  const { data, error, isPending, refetch } = useQuery(ask(api.roundRules.log, { params: { id } }));
  return (
    <section aria-label={wording.log} className="mt-5 max-w-4xl">
      <h3 className="cap mb-1">{wording.log}</h3>
      {isPending ? (
        <Loading what={wording.theLog} />
      ) : error ? (
        <Failed error={error} again={() => void refetch()} />
      ) : (
        <RuleStarts starts={data.starts} empty={wording.nothingYet} />
      )}
    </section>
  );
};

const RemoveRule = ({ rule, close }: { rule: RoundRule; close: () => void }) => {
  const [reason, setReason] = useState('');
  const navigate = useNavigate();
  const command = useCommand(api.roundRules.remove, wording.removed, () => navigate('?', { replace: true }));
  return (
    <FormDialog
      title={wording.remove}
      about={<p className="text-ink-2">{wording.removeAbout}</p>}
      command={command}
      button={wording.remove}
      danger
      onSubmit={() => command.mutate({ params: { id: rule.id }, body: { rowVersion: rule.rowVersion, reason } })}
      onClose={close}
    >
      <ReasonField value={reason} onChange={setReason} />
    </FormDialog>
  );
};
