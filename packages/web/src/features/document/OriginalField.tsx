import { api, type BodyInOf, type TemplateChoice, type Upload } from '@kanonos/contract';
import { Globe, Printer } from 'lucide-react';
import { useEffect, useState } from 'react';
import { call, uploadFile } from '../../app/client.ts';
import { Segments, Select, TextField } from '../../ui/controls.tsx';
import { FileDrop } from '../../ui/FileDrop.tsx';
import { Refusals } from '../../ui/states.tsx';
import { useUploading } from '../../ui/uploading.tsx';
import { wording } from './wording.ts';

const KINDS = [
  { value: 'template', text: wording.template },
  { value: 'file', text: wording.file },
  { value: 'address', text: wording.webAddress },
  { value: 'paper', text: wording.paper },
] as const;
type Kind = (typeof KINDS)[number]['value'];

/**
 * What a document consists of: a file that is dropped, picked or pasted as a picture, an address on the web, or a paper that is
 * kept at a place. Whatever it is, it is handed on like a file that was sent.
 */
export const OriginalField = ({
  label,
  value,
  onChange,
  error,
  several,
  begin,
}: {
  label: string;
  value: Upload | null;
  onChange: (upload: Upload | null) => void;
  error?: string | undefined;
  several?: (files: File[]) => void;
  /** Templates to begin from instead; the first is offered at once. */
  begin?: { templates: readonly TemplateChoice[]; value: string; onChange: (id: string) => void };
}) => {
  const templates = begin?.templates ?? [];
  const [chosen, setKind] = useState<Kind>('file');
  const kind = chosen === 'template' && templates.length === 0 ? 'file' : chosen;
  const [problem, setProblem] = useState<Error | null>(null);
  const [waiting, setWaiting] = useState(false);
  useUploading(waiting);
  const taken = async (upload: Promise<Upload>) => {
    setProblem(null);
    setWaiting(true);
    try {
      onChange(await upload);
    } catch (failure) {
      setProblem(failure as Error);
    } finally {
      setWaiting(false);
    }
  };
  useEffect(() => {
    if (kind !== 'file') return;
    // A picture of the screen that is pasted anywhere but into a text.
    const paste = (event: ClipboardEvent) => {
      const [file] = [...(event.clipboardData?.files ?? [])];
      if (!file) return;
      event.preventDefault();
      const name =
        file.name === 'image.png' ? wording.picturePastedPng(new Date().toISOString().slice(0, 10)) : file.name;
      setProblem(null);
      uploadFile(new File([file], name, { type: file.type }), () => {}).then(onChange, setProblem);
    };
    document.addEventListener('paste', paste);
    return () => document.removeEventListener('paste', paste);
  }, [kind, onChange]);
  const write = (body: BodyInOf<typeof api.documents.written>) => taken(call(api.documents.written, { body }));
  return (
    <div>
      <div className="mb-1.5 flex items-center justify-between">
        <Segments
          label={wording.formOf(label.toLowerCase())}
          value={kind}
          options={KINDS.filter(({ value: one }) => one !== 'template' || templates.length > 0)}
          onChange={(next) => {
            setKind(next);
            begin?.onChange(next === 'template' ? (templates[0]?.id ?? '') : '');
            onChange(null);
            setProblem(null);
          }}
        />
        {kind === 'file' && <span className="text-[11.5px] text-ink-3">{wording.youCanPasteACopiedImage}</span>}
      </div>
      {kind === 'template' && begin ? (
        <Select
          label={wording.begunFrom(label)}
          value={begin.value}
          onChange={begin.onChange}
          hint={wording.numberTitleAndMetadataAreFilled}
        >
          {templates.map((template) => (
            <option key={template.id} value={template.id}>
              {template.name}
              {template.language && ` (${template.language})`}, {template.kind}
            </option>
          ))}
        </Select>
      ) : kind === 'file' ? (
        <FileDrop label={label} value={value} onChange={onChange} error={error} {...(several ? { several } : {})} />
      ) : kind === 'address' ? (
        <Address
          taken={value}
          leave={() => onChange(null)}
          take={(address) => write({ kind: 'web address', address })}
        />
      ) : (
        <Paper
          taken={value}
          leave={() => onChange(null)}
          take={(place, pages) => write({ kind: 'paper', place, pages })}
        />
      )}
      <div className="mt-1 empty:hidden">
        <Refusals error={problem} />
      </div>
    </div>
  );
};

const Taken = ({ icon, words, leave }: { icon: React.ReactNode; words: string; leave: () => void }) => (
  <div className="flex min-h-[46px] items-center gap-3 border border-line bg-film-2 px-3 py-2">
    {icon}
    <span className="min-w-0 flex-1 break-all">{words}</span>
    <button type="button" className="btn" onClick={leave}>
      {wording.chooseAnotherFile}
    </button>
  </div>
);

const Address = ({
  taken,
  leave,
  take,
}: {
  taken: Upload | null;
  leave: () => void;
  take: (address: string) => Promise<void>;
}) => {
  const [address, setAddress] = useState('');
  if (taken)
    return (
      <Taken
        icon={<Globe aria-hidden size={18} className="text-ink-3" />}
        words={address || taken.name}
        leave={leave}
      />
    );
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-2">
      <TextField
        label={wording.addressOfThePageOrVideo}
        type="url"
        placeholder="https://"
        value={address}
        onChange={setAddress}
        onKeyDown={(event) => {
          if (event.key !== 'Enter') return;
          event.preventDefault();
          void take(address);
        }}
      />
      <button type="button" className="btn mb-[1px]" disabled={!address.trim()} onClick={() => void take(address)}>
        {wording.useThisAddress}
      </button>
    </div>
  );
};

const Paper = ({
  taken,
  leave,
  take,
}: {
  taken: Upload | null;
  leave: () => void;
  take: (place: string, pages: number | null) => Promise<void>;
}) => {
  const [place, setPlace] = useState('');
  const [pages, setPages] = useState('');
  if (taken)
    return (
      <Taken
        icon={<Printer aria-hidden size={18} className="text-ink-3" />}
        words={wording.onPaperAt(place, pages ? wording.pagesPages(pages) : '')}
        leave={leave}
      />
    );
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_92px_auto] items-end gap-2">
      <TextField
        label={wording.whereThePaperIsKept}
        placeholder={wording.archiveRoom2Cabinet4Binder}
        value={place}
        onChange={setPlace}
      />
      <TextField
        label={wording.pages}
        optional
        inputMode="numeric"
        value={pages}
        onChange={(value) => setPages(value.replace(/\D/g, ''))}
      />
      <button
        type="button"
        className="btn mb-[1px]"
        disabled={!place.trim()}
        onClick={() => void take(place, pages ? Number(pages) : null)}
      >
        {wording.useThisPlace}
      </button>
    </div>
  );
};
