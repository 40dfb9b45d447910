import { api, type TypeSummary } from '@kanonos/contract';
import { ruleDifferences } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { Segments } from '../../ui/controls.tsx';
import { count, showDay } from '../../ui/format.ts';
import { LeaveGuard } from '../../ui/LeaveGuard.tsx';
import { Meanwhile } from '../../ui/Meanwhile.tsx';
import { useDraft } from '../../ui/useDraft.ts';
import { toOrganisationRules } from '../numbers/useBench.ts';
import { DropPlan, Editions } from './Editions.tsx';
import { FieldsSection } from './FieldsSection.tsx';
import { FilesSection } from './FilesSection.tsx';
import { NumberSection } from './NumberSection.tsx';
import { RouteSection } from './route/RouteSection.tsx';
import { SaveTypeDialog } from './SaveTypeDialog.tsx';
import { LifeSection, WhatSection } from './sections.tsx';
import { wording } from './wording.ts';
import { collisionWords, type Edited, placeInWords, refusalsOf, rulesWith } from './words.ts';

const TABS = [
  { value: 'what', text: wording.description },
  { value: 'number', text: wording.numberAndName },
  { value: 'fields', text: wording.fields },
  { value: 'life', text: wording.labelsAndLifeCycle },
  { value: 'route', text: wording.routeAndReaders },
  { value: 'keeping', text: wording.filesAndRetention },
  { value: 'editions', text: wording.editions },
] as const;
type Tab = (typeof TABS)[number]['value'];

/** One type with its rules. Changes are a draft until saved with a reason. */
export const TypeEditor = ({ now, types }: { now: Edited; types: readonly TypeSummary[] }) => {
  const form = useDraft(now, (one) => one.rule);
  const { base: detail, draft: rule, edit, isDirty } = form;
  const [params, setParams] = useSearchParams();
  const tabs = detail.id === null ? TABS.slice(0, -1) : TABS;
  const tab = tabs.find(({ value }) => value === params.get('tab'))?.value ?? 'what';
  const [saving, setSaving] = useState(false);
  const numbers = useQuery(ask(api.numbers.rules));
  const differences = useMemo(() => ruleDifferences({ ...detail.rule }, { ...rule }).length, [detail.rule, rule]);
  const deferred = useDeferredValue(rule);
  const wrong = useMemo(() => refusalsOf(deferred), [deferred]);
  const collision = useMemo(
    () =>
      wrong.length === 0 && numbers.data
        ? collisionWords(rulesWith(toOrganisationRules(numbers.data.rules), detail.rule.code, deferred))
        : undefined,
    [wrong, numbers.data, deferred, detail.rule.code],
  );
  const problems = [...wrong, ...(collision ? [collision] : [])];
  const planned = detail.id === null ? null : detail.planned;
  return (
    <section aria-label={wording.type} className="flex min-h-0 flex-col">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2 border-b border-line px-5 py-2.5">
        <h2 className="min-w-0 grow truncate !text-[16px]">
          {rule.code && <span className="num mr-2 !text-[15px]">{rule.code}</span>}
          {rule.name || wording.newType}
        </h2>
        {detail.id !== null && detail.rule.fields.some((field) => field.mandatory) && (
          <Link
            className="link text-[12px]"
            to={`/register?revisionScope=newest&type=${detail.rule.code}&q=missing:mandatory`}
          >
            {wording.documentsWithMissingValues}
          </Link>
        )}
        <Segments<Tab>
          label={wording.section}
          value={tab}
          options={tabs}
          onChange={(value) => setParams(value === 'what' ? {} : { tab: value }, { replace: true })}
        />
      </div>
      {planned && detail.id !== null && (
        <div className="flex items-center gap-3 border-b border-ochre-line bg-ochre-tint px-5 py-1.5 text-ochre">
          <span>
            {wording.changesOn} <b className="font-semibold">{showDay(planned.from)}</b>: {planned.reason} ({planned.by}
            ).{' '}
            {planned.blockedReason && (
              <b className="font-semibold">{wording.blockedBlockedReason(planned.blockedReason)}</b>
            )}
          </span>
          <DropPlan id={detail.id} />
        </div>
      )}
      <Meanwhile of={form} words={placeInWords} />
      <div key={form.round} className="min-h-0 flex-1 overflow-y-auto px-5 py-4">
        {tab === 'what' && <WhatSection rule={rule} edit={edit} types={types} isNew={detail.id === null} />}
        {tab === 'number' && (
          <NumberSection rule={rule} edit={edit} rules={numbers.data?.rules ?? []} problems={problems} />
        )}
        {tab === 'fields' && <FieldsSection rule={rule} edit={edit} />}
        {tab === 'life' && <LifeSection rule={rule} edit={edit} />}
        {tab === 'route' && (
          <RouteSection rule={rule} edit={edit} types={types} {...(detail.id === null ? {} : { typeId: detail.id })} />
        )}
        {tab === 'keeping' && <FilesSection rule={rule} edit={edit} />}
        {tab === 'editions' && detail.id !== null && <Editions editions={detail.editions} planned={planned} />}
      </div>
      {(isDirty || (problems.length > 0 && differences > 0)) && (
        <footer className="flex items-center gap-3 border-t border-line bg-film-2 px-5 py-2">
          <p aria-live="polite" className={`min-w-0 flex-1 ${problems.length ? 'text-vermilion' : 'text-ink-2'}`}>
            {problems[0] ??
              (detail.id === null
                ? wording.nothingIsSavedYet
                : `${count(differences, wording.unsavedChange, wording.unsavedChanges)}.`)}
            {problems.length > 1 && wording.andMore(count(problems.length - 1, 'more', 'more'))}
          </p>
          <button type="button" className="btn" onClick={form.anew}>
            {wording.discard}
          </button>
          <button
            type="button"
            className="btn btn-pri"
            disabled={problems.length > 0 || form.meanwhile !== null}
            onClick={() => setSaving(true)}
          >
            {detail.id === null ? wording.addType2 : wording.previewEffect}
          </button>
        </footer>
      )}
      {saving && (
        <SaveTypeDialog
          detail={detail}
          rule={rule}
          saved={(planned) => (planned ? form.anew() : form.saved())}
          close={() => setSaving(false)}
        />
      )}
      <LeaveGuard isDirtyNow={form.isDirtyNow} />
    </section>
  );
};
