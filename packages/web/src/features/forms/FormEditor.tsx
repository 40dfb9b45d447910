import { type AnswerOf, api, type FormInfo } from '@kanonos/contract';
import { CHANGE_QUESTIONS, FORM_PURPOSES, type FormPurpose, type FormSection, sectionsOf } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton, Segments, Select, TextArea, TextField } from '../../ui/controls.tsx';
import { showInstantDay } from '../../ui/format.ts';
import { LeaveGuard } from '../../ui/LeaveGuard.tsx';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { Refusals } from '../../ui/states.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { toast } from '../../ui/toast.ts';
import { UnitPicker } from '../../ui/UnitPicker.tsx';
import { FillForm } from './FillForm.tsx';
import { SectionsEditor } from './SectionsEditor.tsx';
import { wording } from './wording.ts';

export type EditedForm = AnswerOf<typeof api.forms.all>['forms'][number];

const NEW = {
  code: '',
  purpose: 'record' as FormPurpose,
  name: '',
  about: '',
  active: true,
  typeIds: [] as string[],
  receiverIds: [] as string[],
  sections: [{ title: '', help: '', questions: [] }] as FormInfo['sections'],
};
type Draft = typeof NEW;
const draftOf = ({ code, purpose, name, about, active, typeIds, receiverIds, sections }: EditedForm): Draft => ({
  code,
  purpose,
  name,
  about,
  active,
  typeIds,
  receiverIds,
  sections,
});

/** A form: what it is for, who gets its records, its sections and questions; tried as a reader fills it in. */
export const FormEditor = ({ form }: { form: EditedForm | undefined }) => {
  const [draft, setDraft] = useState<Draft>(() => (form ? draftOf(form) : NEW));
  const [view, setView] = useState<'edit' | 'preview'>('edit');
  const [reason, setReason] = useState('');
  // Known at once, before anything is drawn anew: the new address follows on saving.
  const isDirty = useRef(false);
  const navigate = useNavigate();
  const save = useCommand(
    api.forms.edit,
    ({ version }) => wording.saved(version),
    ({ id }) => {
      isDirty.current = false;
      setReason('');
      navigate(`?form=${id}`, { replace: true });
    },
  );
  const change = (part: Partial<Draft>) => {
    setDraft((before) => ({ ...before, ...part }));
    isDirty.current = true;
  };
  return (
    <section aria-label={draft.name || wording.newForm} className="min-h-0 overflow-y-auto px-4 py-3.5">
      <LeaveGuard isDirtyNow={() => isDirty.current} />
      <div className="mb-3 flex max-w-4xl flex-wrap items-center justify-between gap-2">
        <h2>{form?.name ?? wording.newForm}</h2>
        <Segments
          label={wording.view}
          value={view}
          onChange={setView}
          options={[
            { value: 'edit', text: wording.edit },
            { value: 'preview', text: wording.preview },
          ]}
        />
      </div>
      {view === 'preview' ? (
        <Preview draft={draft} />
      ) : (
        <form
          className="flex max-w-4xl flex-col gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            save.mutate({
              body: { ...(form ? { id: form.id, rowVersion: form.rowVersion } : {}), ...draft, reason },
            });
          }}
        >
          <AboutForm form={form} draft={draft} change={change} />
          <SectionsEditor
            sections={draft.sections}
            before={draft.purpose === 'change request' ? (CHANGE_QUESTIONS.questions as never) : []}
            onChange={(sections) => change({ sections })}
          />
          <ReasonField value={reason} onChange={setReason} />
          <Refusals error={save.error} />
          <div>
            <CommandButton busy={save.isPending} tone="pri">
              {wording.save}
            </CommandButton>
          </div>
        </form>
      )}
      {form && view === 'edit' && <Versions form={form} takeOver={(sections) => change({ sections })} />}
    </section>
  );
};

/** Its name, what it is for, and to whom its records come. */
const AboutForm = ({
  form,
  draft,
  change,
}: {
  form: EditedForm | undefined;
  draft: Draft;
  change: (part: Partial<Draft>) => void;
}) => {
  const units = useQuery({ ...ask(api.people.units), staleTime: 60_000 });
  const types = useQuery({ ...ask(api.documents.types), staleTime: 60_000 });
  return (
    <>
      <div className="grid grid-cols-[minmax(0,1fr)_120px_180px] items-start gap-2 max-md:grid-cols-1">
        <TextField
          label={wording.name}
          required
          maxLength={120}
          value={draft.name}
          onChange={(name) => change({ name })}
        />
        <TextField
          label={wording.code}
          required
          maxLength={8}
          value={draft.code}
          onChange={(code) => change({ code: code.toUpperCase() })}
          hint={wording.codeHint}
        />
        <Select
          label={wording.purpose}
          value={draft.purpose}
          disabled={form !== undefined}
          options={FORM_PURPOSES.map((value) => ({ value, text: wording.purposes[value] }))}
          onChange={(purpose) => change({ purpose: purpose as FormPurpose })}
          {...(draft.purpose === 'change request' ? { hint: wording.changePurposeHint } : {})}
        />
      </div>
      <TextArea label={wording.intro} optional rows={2} value={draft.about} onChange={(about) => change({ about })} />
      <Tick checked={draft.active} onChange={(active) => change({ active })}>
        {wording.offered}
      </Tick>
      {draft.purpose === 'change request' ? (
        <UnitPicker
          label={wording.types}
          units={(types.data?.types ?? []).map(({ id, code, name }) => ({ id, name: `${code} ${name}` }))}
          value={draft.typeIds}
          onChange={(typeIds) => change({ typeIds })}
        />
      ) : (
        <UnitPicker
          label={wording.receivers}
          units={units.data?.units ?? []}
          value={draft.receiverIds}
          onChange={(receiverIds) => change({ receiverIds })}
        />
      )}
    </>
  );
};

/** The form as a reader meets it, with its conditions; nothing is kept. */
const Preview = ({ draft }: { draft: Draft }) => {
  const [values, setValues] = useState<Record<string, string>>({});
  const form: FormInfo = {
    id: '',
    version: 0,
    ...draft,
    sections: sectionsOf(draft.purpose, { sections: draft.sections as FormSection[] }) as FormInfo['sections'],
  };
  return (
    <div className="max-w-4xl">
      <p className="mb-3 text-ink-2">{wording.previewAbout}</p>
      <FillForm
        form={form}
        values={values}
        onChange={setValues}
        actions={(isWhole) => (
          <button
            type="button"
            className="btn btn-pri"
            disabled={!isWhole}
            onClick={() => toast.success(wording.previewDone)}
          >
            {wording.send}
          </button>
        )}
      />
    </div>
  );
};

const Versions = ({ form, takeOver }: { form: EditedForm; takeOver: (sections: EditedForm['sections']) => void }) => {
  const { zone } = useMe().organisation;
  return (
    <section aria-label={wording.versions} className="mt-5 max-w-4xl">
      <h3 className="cap mb-1">{wording.versions}</h3>
      <ul className="border border-line">
        {form.versions.map(({ n, by, at, reason, sections }) => (
          <li
            key={n}
            className="flex flex-wrap items-center justify-between gap-2 border-b border-line-2 px-2.5 py-1.5 last:border-0"
          >
            <span>
              {wording.versionLine(n, by, showInstantDay(at, zone))}
              <span className="block text-ink-2">{reason}</span>
            </span>
            {n !== form.version && (
              <button type="button" className="btn !h-6" onClick={() => takeOver(sections)}>
                {wording.takeOverVersion(n)}
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
};
