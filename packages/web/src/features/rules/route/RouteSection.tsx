import { type AnswerOf, api, type Route, type TypeRule, type TypeSummary } from '@kanonos/contract';
import { ROUTED_KINDS } from '@kanonos/core';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask, call } from '../../../app/client.ts';
import { Segments, Select, TextArea, TextField } from '../../../ui/controls.tsx';
import { PeoplePicker } from '../../../ui/PersonPicker.tsx';
import { Refusals } from '../../../ui/states.tsx';
import { Tick } from '../../../ui/Tick.tsx';
import { UnitPicker } from '../../../ui/UnitPicker.tsx';
import type { Section } from '../sections.tsx';
import { wording } from '../wording.ts';
import { FurtherRoutes } from './FurtherRoutes.tsx';
import { RouteEditor } from './RouteEditor.tsx';

const KINDS = [
  { value: 'all', text: wording.everyChange },
  { value: 'minor', text: wording.minor },
  { value: 'major', text: wording.major },
  { value: 'editorial', text: wording.editorial },
] as const;
type Kind = (typeof KINDS)[number]['value'];
const PER_CHANGE = ['read all', 'read the changes', 'carry over'] as const;
const EMPTY: Route = { name: '', steps: [] };

/** Who reviews and approves, per change kind where one goes another way; who is asked where nobody is found; who must read. */
export const RouteSection = ({
  rule,
  edit,
  types,
  typeId,
}: Section & {
  types: readonly TypeSummary[];
  /** The type as it is saved, on whose documents a route is tried; a new one has none. */
  typeId?: string;
}) => {
  const [kind, setKind] = useState<Kind>('all');
  const units = useQuery({ ...ask(api.people.units), staleTime: 60_000 });
  const people = useQuery({ ...ask(api.people.names, { query: {} }), staleTime: 60_000 });
  const nameOf = (id: string) => people.data?.people.find((person) => person.id === id)?.name ?? '…';
  const own = kind === 'all' ? rule.route : rule.routes[kind];
  const set = (route: Route | undefined) => {
    if (kind === 'all') return edit({ route: route ?? EMPTY });
    const { [kind]: _, ...others } = rule.routes;
    edit({ routes: route ? { ...others, [kind]: route } : others });
  };
  // Until the other route is there nothing else is edited here: it would be overwritten without a word.
  const taking = useMutation({
    mutationFn: (id: string) => call(api.rules.type, { params: { id } }),
    onSuccess: (model) => set(model.rule.route),
  });
  const reading = rule.reading;
  const fallback = rule.fallbackApproverId;
  return (
    <fieldset disabled={taking.isPending} aria-busy={taking.isPending} className="max-w-4xl min-w-0">
      <legend className="sr-only">{wording.routeAndReaders}</legend>
      <div className="mb-2 flex flex-wrap items-center gap-3">
        <Segments<Kind>
          label={wording.changeKind}
          value={kind}
          onChange={setKind}
          options={KINDS.map((one) => ({
            ...one,
            text: one.value !== 'all' && rule.routes[one.value] ? wording.ownRoute(one.text) : one.text,
          }))}
        />
        <span className="ml-auto w-64">
          <Select
            label={wording.copyTheRouteOf}
            value=""
            onChange={(value) => value && taking.mutate(value)}
            empty={taking.isPending ? wording.copying : wording.chooseAType}
            options={types.map((type) => ({ value: type.id, text: `${type.code} ${type.name}` }))}
          />
        </span>
      </div>
      <Refusals error={taking.error} />
      {own ? (
        <RouteEditor
          route={own}
          rule={rule}
          onChange={set}
          nameOf={nameOf}
          units={units.data?.units ?? []}
          typeId={typeId}
          changeKind={kind === 'all' ? undefined : kind}
        >
          {kind !== 'all' && (
            <button type="button" className="btn" onClick={() => set(undefined)}>
              {wording.useTheRouteOfEveryChange}
            </button>
          )}
        </RouteEditor>
      ) : (
        <p className="border border-line bg-film-2 px-3 py-2 text-ink-2">
          {wording.aChangeUsesTheRouteOf(kind)}
          {rule.route.steps.length > 0 && `: ${rule.route.steps.map((step) => step.name).join(wording.then2)}`}.{' '}
          <button type="button" className="btn ml-2 !h-6" onClick={() => set(rule.route)}>
            {wording.addOwnRoute}
          </button>
        </p>
      )}
      <FurtherRoutes
        rule={rule}
        onChange={(furtherRoutes) => edit({ furtherRoutes })}
        nameOf={nameOf}
        units={units.data?.units ?? []}
        typeId={typeId}
      />
      <div className="mt-4 grid grid-cols-2 max-md:grid-cols-1 gap-x-4 gap-y-3 border-t border-line pt-3">
        <PeoplePicker
          label={wording.fallbackAssignee}
          single
          value={fallback ? [{ id: fallback, name: nameOf(fallback) }] : []}
          onChange={([person]) => edit({ fallbackApproverId: person?.id ?? null })}
          hint={wording.ifEmptyTheFallbackApproverOf}
        />
        <div className="self-end pb-1">
          <Tick
            checked={reading !== null}
            onChange={(on) =>
              edit({
                reading: on
                  ? {
                      unitIds: [],
                      everyone: false,
                      workingDays: 10,
                      newJoinerDays: 5,
                      perChange: { minor: 'read the changes', major: 'read all', editorial: 'carry over' },
                      instructions: '',
                    }
                  : null,
              })
            }
          >
            {wording.documentsOfThisTypeHaveRequired}
          </Tick>
        </div>
        {reading && <RequirementFields edit={edit} reading={reading} units={units.data?.units ?? []} />}
      </div>
    </fieldset>
  );
};

/** How, and by when, its readers read. */
const RequirementFields = ({
  edit,
  reading,
  units,
}: {
  edit: Section['edit'];
  reading: NonNullable<TypeRule['reading']>;
  units: AnswerOf<typeof api.people.units>['units'];
}) => (
  <>
    <div className="col-span-2">
      <UnitPicker
        label={wording.readers}
        units={units}
        value={reading.unitIds}
        onChange={(unitIds) => edit({ reading: { ...reading, unitIds } })}
        everyone={{
          on: reading.everyone ?? false,
          onChange: (everyone) => edit({ reading: { ...reading, everyone } }),
        }}
      />
    </div>
    <div className="grid grid-cols-2 max-md:grid-cols-1 gap-3">
      {(
        [
          ['workingDays', wording.workingDaysToRead],
          ['newJoinerDays', wording.workingDaysForNewJoiners],
        ] as const
      ).map(([key, label]) => (
        <TextField
          key={key}
          label={label}
          type="number"
          min={0}
          max={365}
          value={String(reading[key])}
          onChange={(value) => edit({ reading: { ...reading, [key]: Math.round(Number(value)) } })}
        />
      ))}
    </div>
    <div className="grid grid-cols-3 max-md:grid-cols-1 gap-3">
      {ROUTED_KINDS.map((change) => (
        <Select
          key={change}
          label={`${change} change`}
          value={reading.perChange[change] ?? 'read all'}
          onChange={(value) => edit({ reading: { ...reading, perChange: { ...reading.perChange, [change]: value } } })}
          options={PER_CHANGE.map((duty) => ({ value: duty, text: duty }))}
        />
      ))}
    </div>
    <TextArea
      wide
      label={wording.instructionsForReaders}
      optional
      rows={2}
      value={reading.instructions}
      onChange={(value) => edit({ reading: { ...reading, instructions: value } })}
    />
  </>
);
