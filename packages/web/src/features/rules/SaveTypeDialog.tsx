import { api, type TypeRule, type TypeTrial } from '@kanonos/contract';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { call, refreshAll } from '../../app/client.ts';
import { TextArea, TextField } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { count, showDay } from '../../ui/format.ts';
import { Failed, Loading } from '../../ui/states.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { Differences } from './Differences.tsx';
import type { Edited } from './words.ts';

/** Shows what a change would do before it is done: what differs, whom it reaches, what would be missing; then asks why. */
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
      toast.success(from ? `It applies from ${showDay(from)}.` : `${rule.code} ${rule.name} saved.`);
      close();
      if (detail.id === null) navigate(`/rules/types/${id}`);
      await refreshAll();
    },
  });
  const isNew = detail.id === null;
  return (
    <FormDialog
      title={isNew ? `Add type ${rule.code}` : `Effect on ${rule.code} ${rule.name}`}
      wide
      command={command}
      button={isNew ? 'Add type' : from ? 'Plan change' : 'Save'}
      ready={trial.data !== undefined && trial.data.refusals.length === 0 && reason.trim() !== ''}
      onSubmit={() => command.mutate()}
      onClose={close}
    >
      {trial.isPending ? (
        <Loading what="the preview" />
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
        <p className="border-l-3 border-ochre bg-ochre-tint px-3 py-1.5">
          Without a route, and without release without route, its documents cannot come into force.
        </p>
      )}
      <TextArea label="Reason" required rows={2} value={reason} onChange={(event) => setReason(event.target.value)} />
      {!isNew && (
        <TextField
          label="Applies from"
          optional
          type="date"
          value={from}
          onChange={(event) => setFrom(event.target.value)}
          hint="Leave empty to apply it now"
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
        {count(trial.documents, 'document is', 'documents are')} of this type,{' '}
        {count(trial.drafts, 'of them a draft', 'of them drafts')}. Signed content stays as signed.
      </p>
    )}
    {trial.gaps.map((gap) => (
      <div key={gap.key} className="border-l-3 border-ochre bg-ochre-tint px-3 py-1.5">
        <b className="font-semibold">{gap.label}</b>:{' '}
        {count(
          gap.reached,
          gap.level === 'revision' ? 'draft has' : 'document has',
          gap.level === 'revision' ? 'drafts have' : 'documents have',
        )}{' '}
        no value.{' '}
        {gap.fills && !planned ? (
          <Tick checked={!unfilled.includes(gap.key)} onChange={() => toggle(gap.key)}>
            Fill in the default value
          </Tick>
        ) : (
          'They stay readable; the value is required when they are next submitted.'
        )}
      </div>
    ))}
    {trial.dropped.map((field) => (
      <p key={field.label}>
        <b className="font-semibold">{field.label}</b> is no longer asked;{' '}
        {count(field.documents, 'document keeps its', 'documents keep their')} value.
      </p>
    ))}
    {trial.leftBehind.map((scope) => (
      <p key={scope.scope}>
        Numbers of <span className="num">{scope.scope}</span> up to {scope.last} stay readable and are never given
        again.
      </p>
    ))}
    {trial.examples.length > 0 && trial.differences.some(({ what }) => what === 'naming') && (
      <div>
        <span className="cap">Downloaded files are named</span>
        {trial.examples.map((example) => (
          <p key={example.number} className="num break-all whitespace-normal">
            {example.fileName}
          </p>
        ))}
      </div>
    )}
  </div>
);
