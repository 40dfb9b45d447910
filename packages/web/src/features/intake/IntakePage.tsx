import { api, type IncomingFile } from '@kanonos/contract';
import { showFieldValue } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { addressOf, ask, call, refreshAll } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { documentAddress } from '../../ui/addresses.ts';
import { Segments } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { count, showInstant, showSize } from '../../ui/format.ts';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { Empty, Failed, Loading, Refusals } from '../../ui/states.tsx';
import { toast } from '../../ui/toast.ts';
import { checkInNow } from '../document/checkInNow.ts';
import { pathOf } from '../filing/paths.ts';
import { wording } from './wording.ts';

/** What arrived in the intake folder: each with proposals from its folder, name and text, to be filed or set aside. */
export const IntakePage = () => {
  const [params, setParams] = useSearchParams();
  const aside = params.get('aside') === 'yes';
  const { data, error, isPending, refetch } = useQuery({
    ...ask(api.intake.list, { query: { aside: aside ? 'yes' : 'no' } }),
    refetchInterval: 5000,
  });
  if (isPending) return <Loading what={wording.theIncomingFiles} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  return (
    <div className="flex-1 overflow-y-auto px-5 py-4">
      <div className="mb-3 flex items-end gap-4">
        <div className="min-w-0 flex-1">
          <h1>{wording.incoming}</h1>
          <p className="text-ink-2">
            {wording.filesPlacedIn} <span className="num">{data.folder}</span>{' '}
            {data.mailAddress && (
              <>
                {wording.orSentTo}{' '}
                <a className="link" href={`mailto:${data.mailAddress}`}>
                  {data.mailAddress}
                </a>{' '}
              </>
            )}
            {wording.appearHereAutomaticallyWithSuggestionsFrom}
          </p>
        </div>
        <Segments
          label={wording.filterIncomingFiles}
          value={aside ? 'yes' : 'no'}
          options={[
            { value: 'no', text: wording.waitingWaiting(data.waiting) },
            { value: 'yes', text: wording.setAside },
          ]}
          onChange={(value) => setParams(value === 'yes' ? { aside: 'yes' } : {})}
        />
      </div>
      {data.incomingFiles.length === 0 ? (
        <Empty title={aside ? wording.nothingWasSetAside : wording.noIncomingFiles}>
          {aside ? '' : wording.aScannerOrANetworkDrive}
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
    <span className="block truncate">{value ?? <span className="text-ink-3">{wording.noSuggestion}</span>}</span>
    {origin && <span className="block text-[11px] text-petrol">{wording.fromOrigin(origin)}</span>}
  </div>
);

const One = ({ incomingFile }: { incomingFile: IncomingFile }) => {
  const me = useMe();
  const types = useQuery({ ...ask(api.documents.types), staleTime: 60_000 });
  const folders = useQuery({ ...ask(api.documents.folders), staleTime: 60_000 });
  const [leaving, setLeaving] = useState(false);
  const [problem, setProblem] = useState<Error | null>(null);
  const back = useCommand(api.intake.putBack, wording.isWaitingAgain(incomingFile.name));
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
        note: wording.arrivedAs(incomingFile.path),
      });
      toast.success(wording.itIsANewVersionOf(known?.number));
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
            {incomingFile.path.includes('/') && wording.inPart(incomingFile.path.split('/').slice(0, -1).join(' / '))}
            {showSize(incomingFile.size)}, {showInstant(incomingFile.arrivedAt, me.organisation.zone)}
            {!incomingFile.read && wording.itsTextIsBeingRead}
          </span>
        </span>
        {incomingFile.state !== 'refused' && (
          <a
            className="btn"
            href={addressOf(api.intake.file, { id: incomingFile.id })}
            target="_blank"
            rel="noreferrer"
          >
            {wording.preview}
          </a>
        )}
        {incomingFile.state === 'set aside' ? (
          <button
            type="button"
            className="btn"
            disabled={back.isPending}
            onClick={() => back.mutate({ params: { id: incomingFile.id }, body: {} })}
          >
            {wording.restore}
          </button>
        ) : (
          <button type="button" className="btn" onClick={() => setLeaving(true)}>
            {wording.setAside}
          </button>
        )}
        {incomingFile.state === 'waiting' && known?.mayCheckIn && (
          <button type="button" className="btn btn-pri" onClick={() => void checkIn()}>
            {wording.newVersionOf(known.number)}
          </button>
        )}
        {incomingFile.state === 'waiting' && known && !known.mayCheckIn && (
          <Link className="btn" to={`${documentAddress(known.number)}?command=revise`}>
            {wording.reviseNumber(known.number)}
          </Link>
        )}
        {incomingFile.state === 'waiting' && (
          <Link className={`btn ${known ? '' : 'btn-pri'}`} to={`/new?incomingFile=${incomingFile.id}`}>
            {known ? wording.registerAsANewDocument : wording.register}
          </Link>
        )}
      </div>
      {incomingFile.why ? (
        <p className="px-3 py-2 text-vermilion">
          {incomingFile.why}
          {incomingFile.by && <span className="text-ink-2"> {wording.setAsideBy(incomingFile.by)}</span>}
          {incomingFile.state === 'refused' && wording.theFileIsInRefusedInside}
        </p>
      ) : (
        <div className="grid grid-cols-[1fr_1.3fr_1.6fr_1.6fr]">
          <Said caption={wording.type} value={type && `${type.code} ${type.name}`} origin={proposal.origins.type} />
          <Said
            caption={wording.folder}
            value={
              folder
                ? pathOf(folder, folders.data?.folders ?? [])
                : type?.filing
                  ? wording.byTheRuleOfTheType
                  : undefined
            }
            origin={proposal.origins.folder}
          />
          <Said caption={wording.title} value={proposal.title || undefined} origin={proposal.origins.title} />
          <Said
            caption={known ? wording.knownAs : wording.metadata}
            value={
              known ? (
                <>
                  {known.by === 'bytes'
                    ? wording.theSameFileIsIn
                    : known.by === 'name'
                      ? wording.aFileOfThisNameIs
                      : ''}
                  <Link className="link num" to={documentAddress(known.number)}>
                    {known.number}
                  </Link>{' '}
                  {known.title}
                </>
              ) : metadata.length ? (
                <span title={metadata.join('\n')}>
                  {metadata[0]}
                  {metadata.length > 1 && wording.andMore(count(metadata.length - 1, 'more', 'more'))}
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
  const command = useCommand(api.intake.setAside, wording.setAside2(incomingFile.name), close);
  return (
    <FormDialog
      title={wording.setAside3(incomingFile.name)}
      about={<p>{wording.itIsNotRegisteredItStays}</p>}
      command={command}
      button={wording.setAside}
      onSubmit={() => command.mutate({ params: { id: incomingFile.id }, body: { reason } })}
      onClose={close}
    >
      <ReasonField value={reason} onChange={setReason} />
    </FormDialog>
  );
};
