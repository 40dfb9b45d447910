import { api, type Scheme, type TypeRule, type TypeSummary } from '@kanonos/contract';
import { DRAFT_NUMBERS, type DraftNumbers, draftNumbersOf } from '@kanonos/core';
import { useMutation, useQuery } from '@tanstack/react-query';
import { ask, call } from '../../app/client.ts';
import { Select, TextArea, TextField } from '../../ui/controls.tsx';
import { Refusals } from '../../ui/states.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { UnitPicker } from '../../ui/UnitPicker.tsx';
import { ReviewRules } from './ReviewRules.tsx';
import { wording } from './wording.ts';
import { sampleLabels } from './words.ts';

export type Edit = (change: Partial<TypeRule>) => void;
export type Section = { rule: TypeRule; edit: Edit };

/** Takes everything but code and name over from another type. */
const BeginWith = ({ rule, edit, types }: Section & { types: readonly TypeSummary[] }) => {
  const taking = useMutation({
    mutationFn: (id: string) => call(api.rules.type, { params: { id } }),
    onSuccess: (from) => edit({ ...from.rule, code: rule.code, name: rule.name, retired: false }),
  });
  return (
    <div className="col-span-2">
      <Select
        label={wording.copyFrom}
        value=""
        disabled={taking.isPending}
        onChange={(value) => value && taking.mutate(value)}
        hint={
          taking.data
            ? wording.copiedFromEnterCodeAndName(taking.data.rule.code, taking.data.rule.name)
            : wording.rulesFieldsAndRouteAreCopied
        }
        empty={taking.isPending ? wording.copying : wording.chooseATypeToCopy}
        options={types.map((type) => ({ value: type.id, text: wording.copyOf(type.code, type.name) }))}
      />
      <Refusals error={taking.error} />
    </div>
  );
};

/** Code, name, place in the classification, and what somebody who registers reads. */
export const WhatSection = ({
  rule,
  edit,
  types,
  isNew,
}: Section & { types: readonly TypeSummary[]; isNew: boolean }) => {
  const units = useQuery(ask(api.people.units));
  const families = [...new Set(types.map((type) => type.family))].filter(Boolean);
  const groups = [...new Set(types.filter((type) => type.family === rule.family).map((type) => type.group))].filter(
    Boolean,
  );
  return (
    <div className="grid max-w-3xl grid-cols-2 max-md:grid-cols-1 gap-x-4 gap-y-3.5">
      {isNew && <BeginWith rule={rule} edit={edit} types={types} />}
      <TextField
        label={wording.code}
        required
        maxLength={12}
        value={rule.code}
        onChange={(value) => edit({ code: value.toUpperCase() })}
        hint={wording.usedInNumbersListsAndSearch}
      />
      <TextField
        label={wording.name}
        required
        maxLength={80}
        value={rule.name}
        onChange={(value) => edit({ name: value })}
      />
      <TextField
        label={wording.family}
        optional
        list="families"
        maxLength={80}
        value={rule.family}
        onChange={(value) => edit({ family: value })}
      />
      <TextField
        label={wording.group}
        optional
        list="groups"
        maxLength={80}
        value={rule.group}
        onChange={(value) => edit({ group: value })}
      />
      <datalist id="families">
        {families.map((family) => (
          <option key={family} value={family} />
        ))}
      </datalist>
      <datalist id="groups">
        {groups.map((group) => (
          <option key={group} value={group} />
        ))}
      </datalist>
      <TextArea
        wide
        label={wording.purpose}
        optional
        rows={2}
        maxLength={400}
        value={rule.help}
        onChange={(value) => edit({ help: value })}
        hint={wording.shownWhileChoosingAType}
      />
      <TextField
        wide
        label={wording.example}
        optional
        maxLength={200}
        value={rule.example}
        onChange={(value) => edit({ example: value })}
        hint={wording.titleOfATypicalDocument}
      />
      <div className="col-span-2 border-t border-line pt-3">
        <UnitPicker
          label={wording.whichAuthorsMayRegisterIt}
          units={units.data?.units ?? []}
          value={rule.registerUnitIds}
          onChange={(registerUnitIds) => edit({ registerUnitIds })}
          everyone={{ on: rule.registerUnitIds.length === 0, onChange: () => edit({ registerUnitIds: [] }) }}
        />
      </div>
      <div className="col-span-2 flex flex-col gap-1 border-t border-line pt-3">
        <Tick checked={rule.takeOver} onChange={(takeOver) => edit({ takeOver })}>
          {wording.legacyImportAllowedReleasedStatesWith}
        </Tick>
        <Tick checked={rule.retired} onChange={(retired) => edit({ retired })}>
          {wording.retiredNoNewDocumentsExistingOnes}
        </Tick>
      </div>
    </div>
  );
};

const SCHEMES: { kind: Scheme['kind']; text: string; make: () => Scheme }[] = [
  { kind: 'letters', text: wording.lettersWithoutIOQS, make: () => ({ kind: 'letters' }) },
  { kind: 'integers', text: wording.wholeNumbers, make: () => ({ kind: 'integers', first: 1 }) },
  { kind: 'major.minor', text: wording.majorAndMinor, make: () => ({ kind: 'major.minor' }) },
  {
    kind: 'staged',
    text: wording.stages,
    make: () => ({ kind: 'staged', stages: [{ prefix: 'P', width: 2 }, { letters: true }] }),
  },
  { kind: 'none', text: wording.oneRevisionNoLabel, make: () => ({ kind: 'none' }) },
  { kind: 'own', text: wording.suppliersLabels, make: () => ({ kind: 'own' }) },
];

/** Labels of revisions, review, release and readers. */
export const LifeSection = ({ rule, edit }: Section) => (
  <div className="grid max-w-3xl grid-cols-2 max-md:grid-cols-1 gap-x-4 gap-y-3.5">
    <Select
      label={wording.revisionLabels}
      value={rule.scheme.kind}
      onChange={(value) => edit({ scheme: SCHEMES.find((one) => one.kind === value)?.make() ?? rule.scheme })}
      hint={wording.givesScheme(sampleLabels(rule.scheme))}
      options={SCHEMES.map((scheme) => ({ value: scheme.kind, text: scheme.text }))}
    />
    <SchemeDetail scheme={rule.scheme} onChange={(scheme) => edit({ scheme })} />
    <Select
      label={wording.versionsBeforeTheFirstRelease}
      value={draftNumbersOf(rule.scheme)}
      onChange={(value) => edit({ scheme: { ...rule.scheme, drafts: value as DraftNumbers } })}
      options={DRAFT_NUMBERS.map((drafts) => ({
        value: drafts,
        text: drafts === '0.n' ? wording.n01N02 : wording.n1N2,
      }))}
    />
    <ReviewRules rule={rule} edit={edit} />
    <div className="col-span-2 flex flex-col gap-1 border-t border-line pt-3">
      <Tick checked={rule.releaseWithoutRoute} onChange={(releaseWithoutRoute) => edit({ releaseWithoutRoute })}>
        {wording.mayBeReleasedWithoutARoute}
      </Tick>
      <Tick checked={rule.readersNeeded} onChange={(readersNeeded) => edit({ readersNeeded })}>
        {wording.readersMustBeDefinedBeforeRelease}
      </Tick>
    </div>
  </div>
);

const SchemeDetail = ({ scheme, onChange }: { scheme: Scheme; onChange: (scheme: Scheme) => void }) => {
  if (scheme.kind === 'integers')
    return (
      <div className="grid grid-cols-2 max-md:grid-cols-1 gap-3">
        <Select
          label={wording.startsWith}
          value={String(scheme.first)}
          onChange={(value) => onChange({ ...scheme, first: value === '0' ? 0 : 1 })}
        >
          <option value="0">0</option>
          <option value="1">1</option>
        </Select>
        <Select
          label={wording.digits}
          value={String(scheme.width ?? 1)}
          onChange={(value) => onChange({ ...scheme, width: Number(value) })}
          options={[1, 2, 3, 4].map((n) => ({
            value: String(n),
            text: n === 1 ? wording.asManyAsNeeded : wording.atLeast(n),
          }))}
        />
      </div>
    );
  if (scheme.kind !== 'staged') return <span />;
  const written = scheme.stages
    .map((stage) => ('letters' in stage ? 'letters' : `${stage.prefix}${stage.width}`))
    .join(', ');
  return (
    <TextField
      label={wording.stages}
      defaultValue={written}
      onBlur={(event) => {
        const stages = event.target.value
          .split(',')
          .map((part) => part.trim())
          .filter(Boolean)
          .map((part) => {
            const match = /^(\D*)(\d)$/.exec(part);
            return part === 'letters' || !match
              ? ({ letters: true } as const)
              : { prefix: match[1] ?? '', width: Number(match[2]) };
          });
        onChange({ kind: 'staged', stages });
      }}
      hint={wording.inOrderEachWithItsPrefix}
    />
  );
};
