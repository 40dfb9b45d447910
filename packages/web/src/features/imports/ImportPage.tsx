import { api, type ImportDetail } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { Link, useParams, useSearchParams } from 'react-router';
import { addressOf, ask } from '../../app/client.ts';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { count } from '../../ui/format.ts';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { Failed, Loading, Refusals } from '../../ui/states.tsx';
import { ImportColumns } from './ImportColumns.tsx';
import { ImportLines } from './ImportLines.tsx';
import { type Failed as NotSentFile, useSendFiles } from './useSendFiles.ts';
import { wording } from './wording.ts';
import { STATE_WORDS, shareOf } from './words.ts';

/** One import: what its columns mean, its files, the verdict on every line, and its course. */
export const ImportPage = () => {
  const { id = '' } = useParams();
  const { data, error, isPending, refetch } = useQuery({
    ...ask(api.imports.detail, { params: { id } }),
    refetchInterval: (query) => (query.state.data?.state === 'running' ? 1000 : false),
  });
  if (isPending) return <Loading what={wording.theImport} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  return <ImportView key={id} detail={data} />;
};

const ImportView = ({ detail }: { detail: ImportDetail }) => {
  const { id, counts, state } = detail;
  const [starting, setStarting] = useState(false);
  const [reason, setReason] = useState('');
  const { send, sending, failed } = useSendFiles(id);
  const isOpen = state !== 'running' && state !== 'done';
  const trial = useCommand(api.imports.try, (c) =>
    wording.readyRefused(count(c.ready, wording.lineIs, wording.linesAre), c.refused),
  );
  const start = useCommand(api.imports.run, wording.importStarted, () => setStarting(false));
  const stop = useCommand(api.imports.stop, wording.theImportStopsAfterTheDocuments);
  const drop = useDropzone({ onDrop: (files) => void send(files), noClick: true, noKeyboard: true, disabled: !isOpen });
  return (
    <div
      {...drop.getRootProps({ className: `flex min-h-0 flex-1 flex-col ${drop.isDragActive ? 'bg-petrol-tint' : ''}` })}
    >
      <input {...drop.getInputProps({ 'aria-label': wording.filesInTheList })} />
      <div className="flex items-center gap-3 border-b border-line px-5 py-2.5">
        <div className="min-w-0">
          <h1 className="truncate">{detail.name}</h1>
          <span className="text-ink-2">
            <Link className="link" to="/imports">
              {wording.legacyImport}
            </Link>
            {' · '}
            {STATE_WORDS[state]} · {count(counts.lines, 'line', 'lines')} ·{' '}
            {count(detail.files, 'file name', wording.fileNames)}
          </span>
        </div>
        <span className="ml-auto flex gap-2">
          {isOpen && (
            <>
              {sending ? (
                <span role="status" className="self-center text-ink-2">
                  {wording.uploadingOf(sending.done.toLocaleString('en-GB'), sending.of.toLocaleString('en-GB'))}
                </span>
              ) : (
                <>
                  <button type="button" className="btn" onClick={drop.open}>
                    {wording.addFilesOrZip}
                  </button>
                  <FolderButton onFiles={(files) => void send(files)} />
                </>
              )}
              <CommandButton
                type="button"
                busy={trial.isPending}
                tone="plain"
                onClick={() => trial.mutate({ params: { id } })}
              >
                {wording.checkAllLines}
              </CommandButton>
              <button
                type="button"
                className="btn btn-pri"
                disabled={state === 'prepared' || counts.ready === 0}
                onClick={() => setStarting(true)}
              >
                {wording.importPart(counts.ready > 0 ? counts.ready.toLocaleString('en-GB') : '')}
              </button>
            </>
          )}
          {state === 'running' && (
            <CommandButton
              type="button"
              busy={stop.isPending}
              tone="plain"
              onClick={() => stop.mutate({ params: { id } })}
            >
              {wording.stopImport}
            </CommandButton>
          )}
        </span>
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto px-5 py-3">
        <Refusals error={trial.error ?? stop.error} />
        <NotSent failed={failed} again={() => void send(failed.map(({ file }) => file))} />
        {state === 'running' && (
          <div role="status" className="mb-3">
            {wording.ofLinesImportedYouCanLeave(
              counts.done.toLocaleString('en-GB'),
              (counts.done + counts.ready).toLocaleString('en-GB'),
            )}
            <div className="mt-1 h-2 bg-line-2">
              <div className="h-2 bg-petrol" style={{ width: `${shareOf(counts) * 100}%` }} />
            </div>
          </div>
        )}
        {isOpen && <ImportColumns now={detail} />}
        {state !== 'prepared' && (
          <div className="my-3 grid grid-cols-[minmax(0,1fr)_auto] items-start gap-4">
            <Reasons detail={detail} />
            {counts.refused > 0 && (
              <a className="btn" href={addressOf(api.imports.refused, { id })} download>
                {wording.exportRefusedLinesAsCsv}
              </a>
            )}
          </div>
        )}
        <ImportLines detail={detail} />
      </div>
      {starting && (
        <FormDialog
          title={wording.importLines(count(counts.ready, 'line', 'lines'))}
          about={
            <p>
              {wording.statesLabelsAndDatesAreImported}{' '}
              {counts.refused > 0 &&
                wording.leftOut(count(counts.refused, wording.refusedLineIs, wording.refusedLinesAre))}
            </p>
          }
          command={start}
          button={wording.import}
          ready={reason.trim() !== ''}
          onSubmit={() => start.mutate({ params: { id }, body: { reason } })}
          onClose={() => setStarting(false)}
        >
          <ReasonField value={reason} onChange={setReason} />
        </FormDialog>
      )}
    </div>
  );
};

/** Why lines are refused, each with how many; pressed, it shows those lines alone. */
const Reasons = ({ detail: { reasons, begins } }: { detail: ImportDetail }) => {
  const [params, setParams] = useSearchParams();
  const shown = params.get('reason');
  const show = (code: string) =>
    setParams(shown === code ? { lines: 'refused' } : { lines: 'refused', reason: code }, { replace: true });
  return (
    <div role="region" aria-label={wording.reasons} tabIndex={0} className="max-h-44 overflow-y-auto">
      <ul className="flex flex-col gap-0.5">
        {reasons.map((one) => (
          <li key={one.code}>
            <button
              type="button"
              aria-pressed={shown === one.code}
              className={`grid w-full grid-cols-[40px_minmax(0,1fr)] gap-2 min-h-6 items-center py-0.5 text-left hover:bg-petrol-tint ${shown === one.code ? 'bg-petrol-tint font-[550]' : ''}`}
              onClick={() => show(one.code)}
            >
              <span className="num text-right text-vermilion">{one.lines.toLocaleString('en-GB')}</span>
              <span className="truncate">{one.lines > 1 ? wording.suchAs(one.example) : one.example}</span>
            </button>
          </li>
        ))}
        {begins.length > 0 && (
          <li className="text-ink-2">
            {begins.map((begin) => (
              <span key={begin.scope} className="block">
                {wording.theCounter} <span className="num">{begin.scope}</span>{' '}
                {wording.hasNotStartedItWillStart(begin.last)}
              </span>
            ))}
          </li>
        )}
      </ul>
    </div>
  );
};

/** Takes a whole folder with all below it; a folder may be dropped as well. */
const FolderButton = ({ onFiles }: { onFiles: (files: File[]) => void }) => (
  <label className="btn cursor-pointer">
    {wording.addFolder}
    <input
      type="file"
      className="sr-only"
      multiple
      // Not among the attributes that React knows by type; every browser of today does.
      {...{ webkitdirectory: '' }}
      onChange={(event) => {
        onFiles([...(event.target.files ?? [])]);
        event.target.value = '';
      }}
    />
  </label>
);

const NotSent = ({ failed, again }: { failed: readonly NotSentFile[]; again: () => void }) =>
  failed.length > 0 && (
    <div role="alert" className="mb-3 flex items-start gap-3 border-l-3 border-vermilion bg-vermilion-tint px-3 py-1.5">
      <span className="min-w-0 flex-1">
        {wording.notSent(count(failed.length, wording.fileWas, wording.filesWere))} {failed[0]?.file.name}:{' '}
        {failed[0]?.why}
        {failed.length > 1 && wording.andMore(count(failed.length - 1, 'more', 'more'))}
      </span>
      <button type="button" className="btn !h-6" onClick={again}>
        {wording.uploadAgain(failed.length > 1 ? 'them' : 'it')}
      </button>
    </div>
  );
