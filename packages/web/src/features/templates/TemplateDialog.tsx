import { api, type Template, type TypeInfo, type Upload } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../../app/client.ts';
import { useCommand } from '../../app/useCommand.ts';
import { Select, TextField } from '../../ui/controls.tsx';
import { FileDrop } from '../../ui/FileDrop.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { Refusals } from '../../ui/states.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { useDraft } from '../../ui/useDraft.ts';
import { wording } from './wording.ts';

const EXAMPLES = ['number', 'title', 'revision', 'owner'];

/** A new template, or the next edition of one: the file is looked at before it holds. */
export const TemplateDialog = ({
  template: now,
  types,
  close,
}: {
  template: Template | undefined;
  types: readonly TypeInfo[];
  close: () => void;
}) => {
  const form = useDraft(now, (one) => ({
    typeId: one?.typeId ?? '',
    name: one?.name ?? '',
    language: one?.language ?? '',
    retired: one?.retired ?? false,
  }));
  const { base: template, draft, edit } = form;
  const { typeId } = draft;
  const [upload, setUpload] = useState<Upload | null>(null);
  const [reason, setReason] = useState('');
  const command = useCommand(api.templates.save, template ? wording.newEditionSaved : wording.templateAdded, close);
  const look = useQuery({
    queryKey: ['templates', 'lookAtTemplate', typeId, upload?.id],
    queryFn: ({ signal }) => call(api.templates.look, { body: { typeId, uploadId: upload?.id ?? '' }, signal }),
    enabled: typeId !== '' && upload !== null,
    retry: false,
  });
  const unknown = look.data?.places.filter((place) => place.label === null) ?? [];
  return (
    <FormDialog
      title={template ? wording.editTemplate(template.name) : wording.addTemplate}
      wide
      of={form}
      command={command}
      button={template ? wording.saveAsNextEdition : wording.addTemplate}
      ready={typeId !== '' && !look.error && !look.isFetching}
      onSubmit={() =>
        command.mutate({
          body: {
            id: template?.id ?? null,
            ...draft,
            uploadId: upload?.id ?? null,
            rowVersion: template?.rowVersion ?? 0,
            reason,
          },
        })
      }
      onClose={close}
    >
      <div className="grid grid-cols-[1fr_1fr_90px] gap-3">
        <Select
          label={wording.type}
          required
          value={typeId}
          disabled={template !== undefined}
          onChange={(value) => edit({ typeId: value })}
          empty={wording.chooseAType}
          options={types.map((type) => ({ value: type.id, text: `${type.code} ${type.name}` }))}
        />
        <TextField
          label={wording.name}
          required
          maxLength={80}
          value={draft.name}
          onChange={(value) => edit({ name: value })}
        />
        <TextField
          label={wording.language}
          placeholder="en"
          value={draft.language}
          onChange={(value) => edit({ language: value })}
        />
      </div>
      <FileDrop
        label={template ? wording.fileKeepIfEmpty(template.fileName) : wording.file}
        value={upload}
        onChange={setUpload}
        about={wording.docxXlsxOdtOrMd}
      />
      {look.error && <Refusals error={look.error} />}
      {look.data && (
        <div className="border border-line-2 bg-film-2 px-3 py-2" aria-live="polite">
          {look.data.places.length ? (
            <p>
              {wording.itContains(
                look.data.places
                  .filter((place) => place.label !== null)
                  .map((place) => place.label)
                  .join(', ') || wording.noKnownField,
              )}
            </p>
          ) : (
            <p className="text-ochre">{wording.theTextHasNoPlaceholdersYet}</p>
          )}
          {unknown.length > 0 && (
            <p className="text-ochre">
              {wording.unknownNamesLeftAsTheyAre(unknown.map((place) => place.name).join(', '))}
            </p>
          )}
          <details className="mt-1">
            <summary className="cursor-pointer font-[550] text-petrol">{wording.howToAddPlaceholdersAndTheir}</summary>
            <p className="mt-1 text-[12px] text-ink-2">
              {wording.docxAContentControlWithThe}{' '}
              {EXAMPLES.map((one) => (
                <span key={one} className="num">{`{{${one}}} `}</span>
              ))}
            </p>
            <p className="mt-1 flex flex-wrap gap-1">
              {look.data.names.map((one) => (
                <span key={one.name} className="chip !h-5" title={one.label}>
                  {one.name}
                </span>
              ))}
            </p>
          </details>
        </div>
      )}
      {template && (
        <Tick checked={draft.retired} onChange={(retired) => edit({ retired })}>
          {wording.retiredNoLongerOfferedForNew}
        </Tick>
      )}
      <ReasonField value={reason} onChange={setReason} />
    </FormDialog>
  );
};
