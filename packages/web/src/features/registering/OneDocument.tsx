import { api, type Upload } from '@kanonos/contract';
import { metadataSaid } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { ask, call, Problem, refreshAll } from '../../app/client.ts';
import { CommandButton, Select, TextArea, TextField } from '../../ui/controls.tsx';
import { LeaveGuard } from '../../ui/LeaveGuard.tsx';
import { RevisionMark } from '../../ui/marks.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { Refusals } from '../../ui/states.tsx';
import { toAbout } from '../document/about.ts';
import { DrawingReferences } from '../document/DrawingReferences.tsx';
import { KeywordsField } from '../document/KeywordsField.tsx';
import { MetadataFields } from '../document/MetadataFields.tsx';
import { MoreOriginals, OriginalSaid } from '../document/MoreOriginals.tsx';
import { toMetadata, toValues } from '../document/metadataValues.ts';
import { OriginalField } from '../document/OriginalField.tsx';
import { EMPTY_ROW, type OriginalRow, toSaid } from '../document/originals.ts';
import { useFileMatch } from '../document/useFileMatch.ts';
import { AboutSection } from './AboutSection.tsx';
import type { Common, Start } from './common.ts';
import { FiledByRule, FolderSelect } from './FolderSelect.tsx';
import { TypeChooser } from './TypeChooser.tsx';

/** One document: number, label and file name follow live while its metadata are given. */
export const OneDocument = ({
  common,
  model,
  several,
  start,
}: {
  common: Common;
  /** The number of the document whose metadata were taken over. */
  model: string | undefined;
  several: (files: File[]) => void;
  /** What arrived in the watched folder and is registered here. */
  start: Start | undefined;
}) => {
  const { type, folderId, metadata } = common;
  const navigate = useNavigate();
  const [title, setTitle] = useState(start?.title ?? '');
  const [upload, setUpload] = useState<Upload | null>(start?.upload ?? null);
  const [templateId, setTemplateId] = useState('');
  const templates = useQuery({ ...ask(api.templates.choices), staleTime: 60_000 });
  const ofType = templates.data?.templates.filter((one) => one.typeId === type?.id) ?? [];
  const template = upload ? undefined : ofType.find((one) => one.id === templateId);
  const [said, setSaid] = useState<OriginalRow>(EMPTY_ROW);
  const [more, setMore] = useState<OriginalRow[]>([]);
  const [summary, setSummary] = useState('');
  const [number, setNumber] = useState(type && !type.numbering ? (start?.number ?? '') : '');
  const [label, setLabel] = useState(start?.label ?? '');
  const [error, setError] = useState<Error | null>(null);
  const [busy, setBusy] = useState(false);
  const [key, setKey] = useState(() => crypto.randomUUID());
  const asked = useMemo(
    () => ({
      typeId: type?.id ?? '',
      folderId: type?.filing ? null : folderId || null,
      title: title.slice(0, 500),
      metadata: type ? toMetadata(type.fields, metadata.values) : {},
      extension: (upload?.name ?? template?.fileName)?.split('.').at(-1)?.slice(0, 20) ?? 'docx',
      number: number || null,
      label: type?.labelGivenBySupplier ? label || null : null,
      parent: common.about.parent || null,
    }),
    [folderId, title, type, metadata.values, upload, template, number, label, common.about.parent],
  );
  const deferred = useDeferredValue(asked);
  const preview = useQuery({
    queryKey: ['documents', 'previewRegistration', deferred],
    queryFn: ({ signal }) => call(api.documents.preview, { body: deferred, signal }),
    enabled: Boolean(deferred.typeId && (deferred.folderId || type?.filing)),
    placeholderData: (before) => before,
  });
  const known = useFileMatch(upload);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a file says what it says once, and again for another type
  useEffect(() => {
    if (!known) return;
    if (known.title) setTitle((before) => before || known.title);
    if (known.keywords.length && common.keywords.length === 0) common.setKeywords(known.keywords);
    if (type) metadata.fill(toValues(metadataSaid(type.fields, known.said)), 'from the file');
  }, [known, type?.id]);
  const missing = [
    !type && 'a type',
    !folderId && !type?.filing && 'a folder',
    !title.trim() && 'a title',
    !upload && !template && 'a file, an address, a location or a template',
    type?.underParent && !common.about.parent && 'a parent',
    more.some((row) => !row.upload) && 'the files of the other originals',
  ].filter(Boolean);
  const registered = useRef(false);
  // What was typed by hand or brought; what the address and folder fill in comes back by itself.
  const isBegun = () =>
    !registered.current &&
    (upload !== (start?.upload ?? null) ||
      title !== (start?.title ?? '') ||
      summary !== '' ||
      more.length > 0 ||
      template !== undefined);
  const register = async (another: boolean) => {
    if (!type || !(upload || template)) return;
    setBusy(true);
    setError(null);
    try {
      const done = await call(api.documents.register, {
        key,
        body: {
          typeId: type.id,
          folderId: type.filing ? null : folderId,
          title,
          metadata: toMetadata(type.fields, metadata.values),
          uploadId: upload?.id ?? null,
          templateId: template?.id ?? null,
          about: toSaid(said),
          more: more.map((row) => ({ ...toSaid(row), uploadId: row.upload?.id ?? '' })),
          ...toAbout(common.about),
          incomingFileId: start?.incomingFileId ?? null,
          summary,
          ownerId: common.owner[0]?.id ?? null,
          number: type.numbering ? number || null : number,
          label: type.labelGivenBySupplier ? label : null,
          keywords: common.keywords,
        },
      });
      toast.success(`${done.number} registered${done.label ? `, revision ${done.label}` : ''}.`);
      setKey(crypto.randomUUID());
      registered.current = !another;
      await refreshAll();
      if (start) navigate(start.incomingFileId ? '/intake' : '/checked-out');
      else if (another) {
        setTitle('');
        setUpload(null);
        setMore([]);
        setNumber('');
      } else navigate(`/d/${encodeURIComponent(done.number)}`);
    } catch (failure) {
      setError(failure as Error);
    } finally {
      setBusy(false);
    }
  };
  const errorFor = (field: string) =>
    error instanceof Problem
      ? error.document.refusals.find((r) => r.field?.toLowerCase() === field.toLowerCase())?.detail
      : undefined;
  return (
    <form
      className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_344px] overflow-y-auto"
      onSubmit={(event) => {
        event.preventDefault();
        void register(false);
      }}
    >
      <LeaveGuard isDirtyNow={isBegun} />
      <div className="flex max-w-3xl flex-col gap-3.5 px-5 py-4">
        <div className="flex items-baseline justify-between">
          <h1>Register a document</h1>
          {start && (
            <span className="text-ink-2">
              {start.incomingFileId ? 'from the intake folder' : 'saved on the network drive'}: {start.path}
            </span>
          )}
          {model && (
            <span className="text-ink-2">
              like <span className="num">{model}</span>: its metadata, not its history
            </span>
          )}
        </div>
        <TypeChooser
          types={common.types}
          recent={common.recent}
          value={type?.id ?? ''}
          onChange={(id) => {
            common.setType(id);
            setNumber('');
          }}
        />
        <div className="grid grid-cols-2 gap-3.5">
          {type?.filing ? (
            <FiledByRule rule={type.filing} place={preview.data?.folder ?? null} />
          ) : (
            <FolderSelect folders={common.folders} value={folderId} onChange={common.setFolderId} />
          )}
          <PeoplePicker label="Owner" single value={common.owner} onChange={common.setOwner} />
        </div>
        <OriginalField
          label="File"
          value={upload}
          onChange={setUpload}
          error={errorFor('File')}
          several={several}
          begin={{ templates: ofType, value: templateId, onChange: setTemplateId }}
        />
        {upload && <DrawingReferences upload={upload} />}
        {known?.document && (
          <p className="-mt-1 border-l-3 border-ochre bg-ochre-tint px-3 py-1.5 text-ochre">
            {known.document.by === 'bytes'
              ? 'The same file is in '
              : known.document.by === 'name'
                ? 'A file of this name is in '
                : 'Its name matches '}
            <Link className="link num" to={`/d/${encodeURIComponent(known.document.number)}`}>
              {known.document.number}
            </Link>{' '}
            {known.document.title}. Check it in there as a new version, or register another document here.
          </p>
        )}
        <TextField
          label="Title"
          required
          maxLength={250}
          value={title}
          onChange={(event) => setTitle(event.target.value)}
          error={errorFor('Title')}
          hint={
            title === start?.title
              ? start.titleOrigin && `from ${start.titleOrigin}`
              : known?.title && title === known.title
                ? known.titleFrom === 'name'
                  ? 'from the file name'
                  : 'from the properties of the file'
                : undefined
          }
        />
        {type && (
          <>
            {!type.numbering && (
              <TextField
                label="External number"
                required
                value={number}
                onChange={(event) => setNumber(event.target.value)}
                error={errorFor('Number')}
              />
            )}
            {type.reserved.length > 0 && (
              <Select label="Number" value={number} onChange={(event) => setNumber(event.target.value)}>
                <option value="">Next number by rule</option>
                {type.reserved.map((one) => (
                  <option key={one} value={one}>
                    {one}, reserved for you
                  </option>
                ))}
              </Select>
            )}
            {type.labelGivenBySupplier && (
              <TextField
                label="Supplier's revision label"
                required
                value={label}
                onChange={(event) => setLabel(event.target.value)}
              />
            )}
            {type.fields.length > 0 && (
              <fieldset className="grid grid-cols-2 gap-3.5 border-t border-line pt-3">
                <legend className="cap pr-2">Fields of this type</legend>
                <MetadataFields
                  fields={type.fields}
                  values={metadata.values}
                  onChange={metadata.set}
                  origins={metadata.origins}
                />
              </fieldset>
            )}
            <div className="grid grid-cols-2 gap-3.5 border-t border-line pt-3">
              <KeywordsField value={common.keywords} onChange={common.setKeywords} />
              <TextArea
                label="Summary, for reviewers and readers"
                optional
                rows={2}
                value={summary}
                onChange={(event) => setSummary(event.target.value)}
              />
            </div>
            <AboutSection
              type={type}
              common={common}
              title="Parent, sites, confidentiality, titles in other languages"
              titles
              className="grid-cols-2"
            />
            <details open={more.length > 0} className="border-t border-line pt-3">
              <summary className="cursor-pointer font-[550] text-petrol">More originals, or sheets</summary>
              <div className="mt-2 flex flex-col gap-2">
                {more.length > 0 && (
                  <div className="border-l-3 border-line pl-2.5">
                    <span className="cap mb-1 block">Original 1, {upload?.name ?? 'the file above'}</span>
                    <OriginalSaid name="original 1" value={said} onChange={setSaid} />
                  </div>
                )}
                <MoreOriginals rows={more} onChange={setMore} />
              </div>
            </details>
          </>
        )}
      </div>
      <div className="border-l border-line bg-film-2">
        <aside
          aria-label="What happens next"
          className="sticky top-0 flex max-h-full flex-col gap-3 overflow-y-auto px-4 py-4"
        >
          <div className="tb grid-cols-[1fr_76px]" aria-live="polite">
            <div className="border-r border-b border-line">
              <span className="cap">Number</span>
              <b className="num !text-[13px]">{preview.data?.number ?? '–'}</b>
            </div>
            <div className="row-span-2 grid place-items-center border-line">
              <span className="cap">Rev</span>
              <RevisionMark label={preview.data?.label ?? ''} mark="open" size="big" />
            </div>
            <div className="border-r border-line">
              <span className="cap">Title</span>
              <b className="min-h-[1.4em]">{title || '–'}</b>
            </div>
          </div>
          <div>
            <span className="cap">File name when downloaded</span>
            <p className="num break-all whitespace-normal">{preview.data?.fileName ?? '–'}</p>
          </div>
          {type && (
            <div>
              <span className="cap">Then</span>
              <p className="text-[12.5px]">
                {type.route.steps.length
                  ? `${type.route.steps.map((step) => step.name).join(', then ')}.`
                  : 'Document control releases it without a route.'}
              </p>
            </div>
          )}
          <p className="text-[12.5px] text-ink-2">
            {missing.length
              ? `Still missing: ${missing.join(', ')}.`
              : `Registers ${preview.data?.number ?? 'it'} as a draft, version 1. The number is taken when you confirm; until then someone else may take it.`}
          </p>
          {preview.data && preview.data.missing.length > 0 && (
            <p className="text-[12.5px] text-ochre">Required before submission: {preview.data.missing.join(', ')}.</p>
          )}
          {preview.data?.refusals.map((r) => (
            <p key={r.detail} className="text-[12.5px] text-vermilion">
              {r.detail}
            </p>
          ))}
          <Refusals error={error} />
          <CommandButton busy={busy} disabled={missing.length > 0} className="!h-9">
            Register {preview.data?.number ?? 'the document'}
          </CommandButton>
          {!start && (
            <button
              type="button"
              className="btn"
              disabled={busy || missing.length > 0}
              onClick={() => void register(true)}
            >
              Register and add a similar one
            </button>
          )}
        </aside>
      </div>
    </form>
  );
};
