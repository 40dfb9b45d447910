import { api, type IncomingFile } from '@kanonos/contract';
import { showFieldValue } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { addressOf, ask, call, refreshAll } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { Segments, TextArea } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { count, showInstant, showSize } from '../../ui/format.ts';
import { Empty, Failed, Loading, Refusals } from '../../ui/states.tsx';
import { checkInNow } from '../document/checkInNow.ts';
import { pathOf } from '../filing/paths.ts';

/** What arrived in the watched folder: each with what its folder, name and text say, to be filed or set aside. */
export const IntakePage = () => {
  const [params, setParams] = useSearchParams();
  const aside = params.get('aside') === 'yes';
  const { data, error, isPending, refetch } = useQuery({
    ...ask(api.intake.list, { query: { aside: aside ? 'yes' : 'no' } }),
    refetchInterval: 5000,
  });
  if (isPending) return <Loading what="the incoming files" />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  return (
    <div className="flex-1 overflow-y-auto px-5 py-4">
      <div className="mb-3 flex items-end gap-4">
        <div className="min-w-0 flex-1">
          <h1>Incoming</h1>
          <p className="text-ink-2">
            Files placed in <span className="num">{data.folder}</span> appear here automatically, with suggestions from
            their folder, name and text.
          </p>
        </div>
        <Segments
          label="Filter incoming files"
          value={aside ? 'yes' : 'no'}
          options={[
            { value: 'no', text: `Waiting ${data.waiting}` },
            { value: 'yes', text: 'Set aside' },
          ]}
          onChange={(value) => setParams(value === 'yes' ? { aside: 'yes' } : {})}
        />
      </div>
      {data.incomingFiles.length === 0 ? (
        <Empty title={aside ? 'Nothing was set aside' : 'No incoming files'}>
          {aside ? '' : 'A scanner or a network drive can place files in the folder named above.'}
        </Empty>
      ) : (
        <ul className="flex flex-col gap-2.5">
          {data.incomingFiles.map((incomingFile) => (
            <One key={incomingFile.id} incomingFile={incomingFile} />
          ))}
        </ul>
      )}
    </div>
  );
};

const Said = ({ caption, value, origin }: { caption: string; value: React.ReactNode; origin?: string | undefined }) => (
  <div className="min-w-0 border-r border-line-2 px-2.5 py-1.5 last:border-0">
    <span className="cap">{caption}</span>
    <span className="block truncate">{value ?? <span className="text-ink-3">No suggestion</span>}</span>
    {origin && <span className="block text-[11px] text-petrol">from {origin}</span>}
  </div>
);

const One = ({ incomingFile }: { incomingFile: IncomingFile }) => {
  const me = useMe();
  const types = useQuery({ ...ask(api.documents.types), staleTime: 60_000 });
  const folders = useQuery({ ...ask(api.documents.folders), staleTime: 60_000 });
  const [leaving, setLeaving] = useState(false);
  const [problem, setProblem] = useState<Error | null>(null);
  const back = useCommand(api.intake.putBack, `${incomingFile.name} is waiting again.`);
  const { proposal, known } = incomingFile;
  const type = types.data?.types.find((one) => one.id === proposal.typeId);
  const folder = folders.data?.folders.find((one) => one.id === proposal.folderId);
  const metadata = Object.entries(proposal.metadata).map(([key, value]) => {
    const field = type?.fields.find((one) => one.key === key);
    return `${field?.label ?? key}: ${showFieldValue(field, value)}`;
  });
  const checkIn = async () => {
    setProblem(null);
    try {
      const { id } = await call(api.intake.take, { params: { id: incomingFile.id }, body: {} });
      await checkInNow(known?.number ?? '', {
        uploadId: id,
        incomingFileId: incomingFile.id,
        note: `Arrived as ${incomingFile.path}`,
      });
      toast.success(`It is a new version of ${known?.number}.`);
      await refreshAll();
    } catch (failure) {
      setProblem(failure as Error);
    }
  };
  return (
    <li className="border border-line bg-sheet">
      <div className="flex items-center gap-3 border-b border-line-2 px-3 py-2">
        <span className="min-w-0 flex-1">
          <b className="block truncate font-semibold">{incomingFile.name}</b>
          <span className="text-[12px] text-ink-2">
            {incomingFile.path.includes('/') && `in ${incomingFile.path.split('/').slice(0, -1).join(' / ')}, `}
            {showSize(incomingFile.size)}, {showInstant(incomingFile.arrivedAt, me.organisation.zone)}
            {!incomingFile.read && ', its text is being read'}
          </span>
        </span>
        {incomingFile.state !== 'refused' && (
          <a
            className="btn"
            href={addressOf(api.intake.file, { id: incomingFile.id })}
            target="_blank"
            rel="noreferrer"
          >
            Preview
          </a>
        )}
        {incomingFile.state === 'set aside' ? (
          <button
            type="button"
            className="btn"
            disabled={back.isPending}
            onClick={() => back.mutate({ params: { id: incomingFile.id }, body: {} })}
          >
            Restore
          </button>
        ) : (
          <button type="button" className="btn" onClick={() => setLeaving(true)}>
            Set aside
          </button>
        )}
        {incomingFile.state === 'waiting' && known?.mayCheckIn && (
          <button type="button" className="btn btn-pri" onClick={() => void checkIn()}>
            New version of {known.number}
          </button>
        )}
        {incomingFile.state === 'waiting' && known && !known.mayCheckIn && (
          <Link className="btn" to={`/d/${encodeURIComponent(known.number)}?command=revise`}>
            Revise {known.number}
          </Link>
        )}
        {incomingFile.state === 'waiting' && (
          <Link className={`btn ${known ? '' : 'btn-pri'}`} to={`/new?incomingFile=${incomingFile.id}`}>
            {known ? 'Register as a new document' : 'Register'}
          </Link>
        )}
      </div>
      {incomingFile.why ? (
        <p className="px-3 py-2 text-vermilion">
          {incomingFile.why}
          {incomingFile.by && <span className="text-ink-2"> Set aside by {incomingFile.by}.</span>}
          {incomingFile.state === 'refused' && ' The file is in .refused inside the intake folder.'}
        </p>
      ) : (
        <div className="grid grid-cols-[1fr_1.3fr_1.6fr_1.6fr]">
          <Said caption="Type" value={type && `${type.code} ${type.name}`} origin={proposal.origins.type} />
          <Said
            caption="Folder"
            value={
              folder
                ? pathOf(folder, folders.data?.folders ?? [])
                : type?.filing
                  ? 'by the rule of the type'
                  : undefined
            }
            origin={proposal.origins.folder}
          />
          <Said caption="Title" value={proposal.title || undefined} origin={proposal.origins.title} />
          <Said
            caption={known ? 'Known as' : 'Metadata'}
            value={
              known ? (
                <>
                  {known.by === 'bytes'
                    ? 'the same file is in '
                    : known.by === 'name'
                      ? 'a file of this name is in '
                      : ''}
                  <Link className="link num" to={`/d/${encodeURIComponent(known.number)}`}>
                    {known.number}
                  </Link>{' '}
                  {known.title}
                </>
              ) : metadata.length ? (
                <span title={metadata.join('\n')}>
                  {metadata[0]}
                  {metadata.length > 1 && ` and ${count(metadata.length - 1, 'more', 'more')}`}
                </span>
              ) : undefined
            }
            origin={metadata.length && !known ? 'the text' : undefined}
          />
        </div>
      )}
      <div className="px-3 empty:hidden">
        <Refusals error={problem ?? back.error} />
      </div>
      {leaving && <SetAside incomingFile={incomingFile} close={() => setLeaving(false)} />}
    </li>
  );
};

const SetAside = ({ incomingFile, close }: { incomingFile: IncomingFile; close: () => void }) => {
  const [reason, setReason] = useState('');
  const command = useCommand(api.intake.setAside, `${incomingFile.name} set aside.`, close);
  return (
    <FormDialog
      title={`Set aside ${incomingFile.name}`}
      about={<p>It is not registered. It stays listed under Set aside and can be restored.</p>}
      command={command}
      button="Set aside"
      onSubmit={() => command.mutate({ params: { id: incomingFile.id }, body: { reason } })}
      onClose={close}
    >
      <TextArea label="Reason" required rows={2} value={reason} onChange={(event) => setReason(event.target.value)} />
    </FormDialog>
  );
};
