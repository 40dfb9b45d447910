import { api, type FormInfo, type FormRecord, type Upload } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { ask, call } from '../../app/client.ts';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton } from '../../ui/controls.tsx';
import { FileDrop } from '../../ui/FileDrop.tsx';
import { LeaveGuard } from '../../ui/LeaveGuard.tsx';
import { Page } from '../../ui/Page.tsx';
import { Empty, Failed, Loading, Refusals } from '../../ui/states.tsx';
import { UploadScope } from '../../ui/uploading.tsx';
import { toValues } from '../document/metadataValues.ts';
import { answersOf, FillForm } from './FillForm.tsx';
import { wording } from './wording.ts';

/** Fills in a form: a new record, a draft that goes on, or a suggestion about a document. The address says which. */
export const FillFormPage = () => {
  const { id = '' } = useParams();
  const [params] = useSearchParams();
  const draftId = params.get('draft');
  const about = params.get('document');
  const offered = useQuery({ ...ask(api.forms.offered), enabled: !about && !draftId });
  const change = useQuery({
    ...ask(api.forms.forChange, { params: { document: about ?? '' } }),
    enabled: Boolean(about),
  });
  const draftOf = draftId ?? change.data?.draft ?? null;
  const draft = useQuery({
    ...ask(api.forms.record, { params: { id: draftOf ?? '' } }),
    enabled: draftOf !== null,
    // What is typed goes on from the draft as it was opened.
    staleTime: Number.POSITIVE_INFINITY,
  });
  const error = offered.error ?? change.error ?? draft.error;
  const isPending = draftOf ? draft.isPending : about ? change.isPending : offered.isPending;
  if (error) return <Failed error={error} again={() => void Promise.all([offered.refetch(), change.refetch()])} />;
  if (isPending) return <Loading what={wording.theForm} />;
  const form = draft.data?.form ?? change.data?.form ?? offered.data?.forms.find((one) => one.id === id);
  if (!form) return <Empty title={wording.formNotFound} />;
  return <Filling key={draft.data?.id ?? form.id} form={form} draft={draft.data} document={about} />;
};

/** Typed values, files and the draft that they are kept in. */
const Filling = ({
  form,
  draft,
  document,
}: {
  form: FormInfo;
  draft: FormRecord | undefined;
  document: string | null;
}) => {
  const navigate = useNavigate();
  const [values, setValues] = useState(() => toValues(draft?.answers ?? {}));
  const [kept, setKept] = useState(draft?.files ?? []);
  const [uploads, setUploads] = useState<Upload[]>([]);
  const [known, setKnown] = useState(draft && { id: draft.id, rowVersion: draft.rowVersion });
  // Known at once, before anything is drawn anew: leaving follows on sending.
  const isDirty = useRef(false);
  const typed = (next: typeof values) => {
    setValues(next);
    isDirty.current = true;
  };
  const body = () => ({
    ...(known ?? {}),
    formId: form.id,
    ...(document ? { document } : {}),
    answers: answersOf(form.sections, values),
    keptFiles: kept.map(({ id }) => id),
    uploads: uploads.map(({ id }) => id),
  });
  /** Files that were sent belong to the draft once it is kept. */
  const isKept = async (saved: { id: string; rowVersion: number }) => {
    setKnown(saved);
    isDirty.current = false;
    if (uploads.length === 0) return;
    setUploads([]);
    setKept((await call(api.forms.record, { params: { id: saved.id } })).files);
  };
  const save = useCommand(api.forms.save, wording.draftSaved, (saved) => void isKept(saved));
  const keepFirst = useCommand(api.forms.save);
  const send = useCommand(
    api.forms.send,
    ({ number, request }) => wording.sentAs(request ?? number),
    () => {
      isDirty.current = false;
      navigate(document ? `/d/${encodeURIComponent(document)}` : '/forms');
    },
  );
  const discard = useCommand(api.forms.discard, wording.draftDiscarded, () => {
    isDirty.current = false;
    navigate('/forms');
  });
  const sendAll = async () => {
    const saved = await keepFirst.mutateAsync({ body: body() });
    await isKept(saved);
    send.mutate({ params: { id: saved.id }, body: { rowVersion: saved.rowVersion } });
  };
  const isBusy = save.isPending || keepFirst.isPending || send.isPending;
  return (
    <Page
      title={form.name}
      about={document ? wording.aboutDocument(document) : form.about}
      actions={
        <>
          {known && (
            <button
              type="button"
              className="btn"
              onClick={() => discard.mutate({ params: { id: known.id }, body: { rowVersion: known.rowVersion } })}
            >
              {wording.discard}
            </button>
          )}
          <CommandButton
            tone="plain"
            type="button"
            busy={save.isPending}
            disabled={isBusy}
            onClick={() => save.mutate({ body: body() })}
          >
            {wording.saveDraft}
          </CommandButton>
        </>
      }
    >
      <LeaveGuard isDirtyNow={() => isDirty.current} />
      <Refusals error={save.error ?? keepFirst.error ?? send.error ?? discard.error} />
      <UploadScope>
        {(uploading) => (
          <FillForm
            form={form}
            values={values}
            onChange={typed}
            names={draft?.names ?? {}}
            files={
              <div className="flex flex-col gap-2">
                {[...kept, ...uploads].map(({ id, name }) => (
                  <span key={id} className="flex items-center gap-2">
                    <span className="truncate">{name}</span>
                    <button
                      type="button"
                      className="btn !h-6"
                      aria-label={wording.removeFile(name)}
                      onClick={() => {
                        setKept(kept.filter((one) => one.id !== id));
                        setUploads(uploads.filter((one) => one.id !== id));
                        isDirty.current = true;
                      }}
                    >
                      {wording.removeFile(name)}
                    </button>
                  </span>
                ))}
                <FileDrop
                  key={uploads.length + kept.length}
                  label={wording.addFile}
                  value={null}
                  onChange={(upload) => {
                    if (!upload) return;
                    setUploads([...uploads, upload]);
                    isDirty.current = true;
                  }}
                />
              </div>
            }
            actions={(isWhole) => (
              <CommandButton
                type="button"
                tone="pri"
                busy={keepFirst.isPending || send.isPending}
                disabled={!isWhole || uploading || isBusy}
                onClick={() => void sendAll().catch(() => undefined)}
              >
                {wording.send}
              </CommandButton>
            )}
          />
        )}
      </UploadScope>
    </Page>
  );
};
