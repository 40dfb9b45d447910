import { api, type Folder, type TypeInfo, type Upload } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useEffect, useMemo, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { ask, call, Problem, refreshAll } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { ActButton, Select, TextArea, TextField } from '../../ui/controls.tsx';
import { FileDrop } from '../../ui/FileDrop.tsx';
import { RevisionMark } from '../../ui/marks.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { Empty, Failed, Loading, Refusals } from '../../ui/states.tsx';
import { FactFields, type FactValues, toFacts } from '../document/FactFields.tsx';

/** One page, short: the type first, then only what this type asks; number, label and file name follow live. */
export const RegisteringPage = () => {
  const types = useQuery({ ...ask(api.documents.types), staleTime: 60_000 });
  const folders = useQuery({ ...ask(api.documents.folders), staleTime: 60_000 });
  if (types.isPending || folders.isPending) return <Loading what="types and folders" />;
  if (types.error || folders.error) return <Failed error={types.error ?? folders.error ?? new Error()} />;
  const usable = folders.data.folders.filter((folder) => folder.mayAuthor);
  if (usable.length === 0)
    return (
      <Empty title="You may not register documents">
        This needs the right “author” on a folder. Ask document control.
      </Empty>
    );
  return <Form types={types.data.types} folders={folders.data.folders} />;
};

const pathOf = (folder: Folder, folders: Folder[]): string => {
  const parent = folders.find((f) => f.id === folder.parentId);
  return parent ? `${pathOf(parent, folders)} / ${folder.name}` : folder.name;
};

const titleFrom = (name: string): string =>
  name
    .replace(/\.[^.]+$/, '')
    .replace(/[_-]+/g, ' ')
    .trim()
    .replace(/^./, (c) => c.toUpperCase());

const Form = ({ types, folders }: { types: TypeInfo[]; folders: Folder[] }) => {
  const me = useMe();
  const navigate = useNavigate();
  const [params] = useSearchParams();
  const [typeId, setTypeId] = useState(types.find((type) => type.code === params.get('type'))?.id ?? '');
  const [folderId, setFolderId] = useState(params.get('folder') ?? '');
  const [title, setTitle] = useState('');
  const [facts, setFacts] = useState<FactValues>({});
  const [upload, setUpload] = useState<Upload | null>(null);
  const [summary, setSummary] = useState('');
  const [number, setNumber] = useState('');
  const [label, setLabel] = useState('');
  const [keywords, setKeywords] = useState('');
  const [owner, setOwner] = useState([{ id: me.id, name: me.name }]);
  const [error, setError] = useState<Error | null>(null);
  const [busy, setBusy] = useState(false);
  const [key, setKey] = useState(() => crypto.randomUUID());
  const type = types.find((t) => t.id === typeId);
  const asked = useMemo(
    () => ({
      typeId,
      folderId,
      title: title.slice(0, 500),
      facts: type ? toFacts(type.fields, facts) : {},
      extension: upload?.name.split('.').at(-1)?.slice(0, 20) ?? 'docx',
      number: number || null,
      label: type?.labelGivenByMaker ? label || null : null,
    }),
    [typeId, folderId, title, type, facts, upload, number, label],
  );
  const deferred = useDeferredValue(asked);
  const preview = useQuery({
    queryKey: ['documents', 'previewRegistration', deferred],
    queryFn: ({ signal }) => call(api.documents.preview, { body: deferred, signal }),
    enabled: Boolean(deferred.typeId && deferred.folderId),
    placeholderData: (before) => before,
  });
  useEffect(() => {
    if (upload && title === '') setTitle(titleFrom(upload.name));
  }, [upload, title]);
  const missing = [!type && 'a type', !folderId && 'a folder', !title.trim() && 'a title', !upload && 'a file'].filter(
    Boolean,
  );
  const register = async (another: boolean) => {
    if (!type || !upload) return;
    setBusy(true);
    setError(null);
    try {
      const done = await call(api.documents.register, {
        key,
        body: {
          typeId,
          folderId,
          title,
          facts: toFacts(type.fields, facts),
          uploadId: upload.id,
          summary,
          ownerId: owner[0]?.id ?? null,
          number: type.numbering ? number || null : number,
          label: type.labelGivenByMaker ? label : null,
          keywords: keywords
            .split(',')
            .map((w) => w.trim())
            .filter(Boolean),
        },
      });
      toast.success(`${done.number} is registered${done.label ? `, revision ${done.label}` : ''}.`);
      setKey(crypto.randomUUID());
      await refreshAll();
      if (another) {
        setTitle('');
        setUpload(null);
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
      <div className="flex max-w-3xl flex-col gap-3.5 px-5 py-4">
        <h1>Register a document</h1>
        <div className="grid grid-cols-2 gap-3.5">
          <Select
            label="Type"
            autoFocus
            required
            value={typeId}
            onChange={(event) => {
              setTypeId(event.target.value);
              setNumber('');
            }}
            hint={type?.help}
          >
            <option value="">Choose what it is</option>
            {types.map((t) => (
              <option key={t.id} value={t.id}>
                {t.code} {t.name}
              </option>
            ))}
          </Select>
          <Select label="Folder" required value={folderId} onChange={(event) => setFolderId(event.target.value)}>
            <option value="">Choose where it is filed</option>
            {folders.map((folder) => (
              <option key={folder.id} value={folder.id} disabled={!folder.mayAuthor}>
                {pathOf(folder, folders)}
              </option>
            ))}
          </Select>
        </div>
        <FileDrop label="File" value={upload} onChange={setUpload} error={errorFor('File')} />
        <TextField
          label="Title"
          required
          maxLength={250}
          value={title}
          onChange={(event) => setTitle(event.target.value)}
          error={errorFor('Title')}
        />
        {type && (
          <>
            {!type.numbering && (
              <TextField
                label="Number of the maker"
                required
                value={number}
                onChange={(event) => setNumber(event.target.value)}
                error={errorFor('Number')}
              />
            )}
            {type.reserved.length > 0 && (
              <Select label="Number" value={number} onChange={(event) => setNumber(event.target.value)}>
                <option value="">The next by rule</option>
                {type.reserved.map((one) => (
                  <option key={one} value={one}>
                    {one}, reserved for you
                  </option>
                ))}
              </Select>
            )}
            {type.labelGivenByMaker && (
              <TextField
                label="Revision label of the maker"
                required
                value={label}
                onChange={(event) => setLabel(event.target.value)}
              />
            )}
            {type.fields.length > 0 && (
              <fieldset className="grid grid-cols-2 gap-3.5 border-t border-line pt-3">
                <legend className="cap pr-2">What a {type.name.toLowerCase()} asks</legend>
                <FactFields fields={type.fields} values={facts} onChange={setFacts} />
              </fieldset>
            )}
            <div className="grid grid-cols-2 gap-3.5 border-t border-line pt-3">
              <PeoplePicker label="Owner" single value={owner} onChange={setOwner} />
              <TextField
                label="Keywords"
                optional
                value={keywords}
                onChange={(event) => setKeywords(event.target.value)}
                hint="Separated by commas"
              />
              <div className="col-span-2">
                <TextArea
                  label="Summary, for reviewers and readers"
                  optional
                  rows={2}
                  value={summary}
                  onChange={(event) => setSummary(event.target.value)}
                />
              </div>
            </div>
          </>
        )}
      </div>
      <aside aria-label="What will happen" className="flex flex-col gap-3 border-l border-line bg-film-2 px-4 py-4">
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
          <span className="cap">File name when it leaves</span>
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
            ? `Still needed: ${missing.join(', ')}.`
            : `Registers ${preview.data?.number ?? 'it'} as a draft, version 1. The number is taken with it; another one may be taken before you confirm.`}
        </p>
        {preview.data && preview.data.missing.length > 0 && (
          <p className="text-[12.5px] text-ochre">Before it can be sent: {preview.data.missing.join(', ')}.</p>
        )}
        {preview.data?.refusals.map((r) => (
          <p key={r.code} className="text-[12.5px] text-vermilion">
            {r.detail}
          </p>
        ))}
        <Refusals error={error} />
        <ActButton busy={busy} disabled={missing.length > 0} className="!h-9">
          Register {preview.data?.number ?? 'the document'}
        </ActButton>
        <button type="button" className="btn" disabled={busy || missing.length > 0} onClick={() => void register(true)}>
          Register, and another like it
        </button>
      </aside>
    </form>
  );
};
