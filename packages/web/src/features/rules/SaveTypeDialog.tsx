import { api, type TypeRule, type TypeTrial } from '@kanonos/contract';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { call, refreshAll } from '../../app/client.ts';
import { DateField } from '../../ui/DateField.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { count, showDay } from '../../ui/format.ts';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { Failed, Loading } from '../../ui/states.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { toast } from '../../ui/toast.ts';
import { Differences } from './Differences.tsx';
import { wording } from './wording.ts';
import type { Edited } from './words.ts';

/** Shows the effect of a change before it is made: differences, affected documents, missing values; then asks for the reason. */
export const SaveTypeDialog = ({
  detail,
  rule,
  saved,
  close,
}: {
  detail: Edited;
  rule: TypeRule;
  saved: (planned: boolean) => void;
  close: () => void;
}) => {
  const navigate = useNavigate();
  const [reason, setReason] = useState('');
  const [from, setFrom] = useState('');
  const [unfilled, setUnfilled] = useState<string[]>([]);
  const trial = useQuery({
    queryKey: ['rules', 'tryType', detail.id, rule],
    queryFn: ({ signal }) => call(api.rules.tryType, { body: { id: detail.id, rule }, signal }),
  });
  const fill = (trial.data?.gaps ?? []).filter((gap) => gap.fills && !unfilled.includes(gap.key)).map((gap) => gap.key);
  const command = useMutation({
    mutationFn: async () => {
      if (detail.id === null) return call(api.rules.addType, { body: { rule, reason } });
      await call(api.rules.changeType, {
        params: { id: detail.id },
        body: { rule, reason, rowVersion: detail.rowVersion, from: from || null, fill: from ? [] : fill },
      });
      return { id: detail.id };
    },
    onSuccess: async ({ id }) => {
      saved(from !== '');
      toast.success(from ? wording.itAppliesFrom(showDay(from)) : `${rule.code} ${rule.name} saved.`);
      close();
      if (detail.id === null) navigate(`/rules/types/${id}`);
      await refreshAll();
    },
  });
  const isNew = detail.id === null;
  return (
    <FormDialog
      title={isNew ? wording.addType(rule.code) : wording.effectOn(rule.code, rule.name)}
      wide
      command={command}
      button={isNew ? wording.addType2 : from ? wording.planChange : wording.save}
      ready={trial.data !== undefined && trial.data.refusals.length === 0 && reason.trim() !== ''}
      onSubmit={() => command.mutate()}
      onClose={close}
    >
      {trial.isPending ? (
        <Loading what={wording.thePreview} />
      ) : trial.error ? (
        <Failed error={trial.error} />
      ) : (
        <Effect
          trial={trial.data}
          planned={from !== ''}
          unfilled={unfilled}
          toggle={(key) =>
            setUnfilled(unfilled.includes(key) ? unfilled.filter((one) => one !== key) : [...unfilled, key])
          }
        />
      )}
      {isNew && rule.route.steps.length === 0 && !rule.releaseWithoutRoute && (
        <p className="border-l-3 border-ochre bg-ochre-tint px-3 py-1.5">{wording.withoutARouteAndWithoutRelease}</p>
      )}
      <ReasonField value={reason} onChange={setReason} />
      {!isNew && (
        <DateField
          label={wording.appliesFrom}
          optional
          value={from}
          onChange={setFrom}
          hint={wording.leaveEmptyToApplyItNow}
        />
      )}
    </FormDialog>
  );
};

const Effect = ({
  trial,
  planned,
  unfilled,
  toggle,
}: {
  trial: TypeTrial;
  planned: boolean;
  unfilled: readonly string[];
  toggle: (key: string) => void;
}) => (
  <div className="flex max-h-[44vh] flex-col gap-3 overflow-y-auto">
    {trial.refusals.length > 0 && (
      <div role="alert" className="border-l-3 border-vermilion bg-vermilion-tint px-3 py-2 text-vermilion">
        {trial.refusals.map((refusal) => (
          <p key={refusal.detail}>{refusal.detail}</p>
        ))}
      </div>
    )}
    {trial.differences.length > 0 && <Differences differences={trial.differences} />}
    {trial.documents > 0 && (
      <p className="text-ink-2">
        {wording.ofThisTypeSignedContentStays(
          count(trial.documents, wording.documentIs, wording.documentsAre),
          count(trial.drafts, wording.ofThemADraft, wording.ofThemDrafts),
        )}
      </p>
    )}
    {trial.gaps.map((gap) => (
      <div key={gap.key} className="border-l-3 border-ochre bg-ochre-tint px-3 py-1.5">
        <b className="font-semibold">{gap.label}</b>
        {wording.noValue(
          count(
            gap.reached,
            gap.level === 'revision' ? wording.draftHas : wording.documentHas,
            gap.level === 'revision' ? wording.draftsHave : wording.documentsHave,
          ),
        )}{' '}
        {gap.fills && !planned ? (
          <Tick checked={!unfilled.includes(gap.key)} onChange={() => toggle(gap.key)}>
            {wording.fillInTheDefaultValue}
          </Tick>
        ) : (
          wording.theyStayReadableTheValueIs
        )}
      </div>
    ))}
    {trial.dropped.map((field) => (
      <p key={field.label}>
        <b className="font-semibold">{field.label}</b>{' '}
        {wording.isNoLongerAskedValue(count(field.documents, wording.documentKeepsIts, wording.documentsKeepTheir))}
      </p>
    ))}
    {trial.leftBehind.map((scope) => (
      <p key={scope.scope}>
        {wording.numbersOf} <span className="num">{scope.scope}</span> {wording.upToStayReadableAndAre(scope.last)}
      </p>
    ))}
    {trial.examples.length > 0 && trial.differences.some(({ what }) => what === 'naming') && (
      <div>
        <span className="cap">{wording.downloadedFilesAreNamed}</span>
        {trial.examples.map((example) => (
          <p key={example.number} className="num break-all whitespace-normal">
            {example.fileName}
          </p>
        ))}
      </div>
    )}
  </div>
);
