import { type AnswerOf, api, type Upload } from '@kanonos/contract';
import { ANY_STATE } from '@kanonos/core';
import { useEffect, useRef, useState } from 'react';
import { call, refreshAll, uploadFile } from '../../app/client.ts';
import { Actions, CommandButton, Dialog, TextField } from '../../ui/controls.tsx';
import { count, showSize } from '../../ui/format.ts';
import { wording } from './wording.ts';

type Mine = AnswerOf<typeof api.tasks.checkouts>['rows'][number];
type Row = {
  id: string;
  file: File;
  upload: Upload | null;
  /** The document that it is checked into; empty while it goes nowhere. */
  number: string;
  by: string;
  state: 'sending' | 'ready' | 'done' | 'refused';
  problem: string;
};

const BY = { number: wording.byNumber, name: wording.byName, bytes: wording.byContent } as const;

/** Changed files find the documents that I have out, by number, name or content; seen before it is done, each for itself. */
export const CheckInMany = ({
  files,
  mine,
  close,
}: {
  files: readonly File[];
  mine: readonly Mine[];
  close: () => void;
}) => {
  const [rows, setRows] = useState<Row[]>(() =>
    files.map((file) => ({
      id: crypto.randomUUID(),
      file,
      upload: null,
      number: '',
      by: '',
      state: 'sending',
      problem: '',
    })),
  );
  const [note, setNote] = useState('');
  const [busy, setBusy] = useState(false);
  const begun = useRef(false);
  const patch = (at: number, change: Partial<Row>) =>
    setRows((before) => before.map((row, i) => (i === at ? { ...row, ...change } : row)));
  // biome-ignore lint/correctness/useExhaustiveDependencies: the files are sent once
  useEffect(() => {
    if (begun.current) return;
    begun.current = true;
    void (async () => {
      for (const [at, file] of files.entries()) {
        try {
          const upload = await uploadFile(file, () => {});
          const [match] = (await call(api.documents.match, { body: { uploadIds: [upload.id] } })).files;
          const known = mine.find((row) => row.number === match?.document?.number);
          const by = known && match?.document ? BY[match.document.by] : '';
          patch(at, { upload, number: known?.number ?? '', by, state: 'ready' });
        } catch (error) {
          patch(at, { state: 'refused', problem: (error as Error).message });
        }
      }
    })();
  }, []);
  const twice = rows.find((row, i) => row.number && rows.some((other, j) => j < i && other.number === row.number));
  const ready = rows.filter((row) => row.upload && row.number && row.state !== 'done');
  const done = rows.filter((row) => row.state === 'done').length;
  const checkIn = async () => {
    setBusy(true);
    for (const [at, row] of rows.entries()) {
      if (!row.upload || !row.number || row.state === 'done') continue;
      try {
        const body = { uploadId: row.upload.id, note, seen: ANY_STATE };
        await call(api.documents.checkIn, { params: { document: row.number }, body });
        patch(at, { state: 'done', problem: '' });
      } catch (error) {
        patch(at, { state: 'refused', problem: (error as Error).message });
      }
    }
    setBusy(false);
    await refreshAll();
  };
  const left = rows.length - done;
  return (
    <Dialog open onClose={close} title={wording.checkIn(count(rows.length, 'file', 'files'))} wide>
      <ul className="max-h-[44vh] overflow-y-auto border border-line">
        {rows.map((row, at) => (
          <li
            key={row.id}
            className="grid grid-cols-[minmax(0,1fr)_250px] items-center gap-3 border-b border-line-2 px-3 py-1.5 last:border-0"
          >
            <span className="min-w-0">
              <b className="block truncate font-semibold">{row.file.name}</b>
              <span className={`text-[11.5px] ${row.problem ? 'text-vermilion' : 'text-ink-3'}`}>
                {row.problem ||
                  (row.state === 'sending'
                    ? 'sending …'
                    : `${showSize(row.file.size)} ${row.by && wording.matchedBy(row.by)}`)}
              </span>
            </span>
            {row.state === 'done' ? (
              <span className="num">{wording.getsANewVersion(row.number)}</span>
            ) : (
              <select
                className="inp !min-h-7 !py-0.5"
                aria-label={wording.documentOf(row.file.name)}
                value={row.number}
                disabled={row.state === 'sending' || busy}
                onChange={(event) => patch(at, { number: event.target.value, by: '' })}
              >
                <option value="">{wording.notAssigned}</option>
                {mine.map((one) => (
                  <option key={one.documentId} value={one.number}>
                    {one.number} {one.title}
                  </option>
                ))}
              </select>
            )}
          </li>
        ))}
      </ul>
      {twice && <p className="text-vermilion">{wording.twoFilesAreAssignedToAssign(twice.number)}</p>}
      <TextField label={wording.noteOnAllVersions} required value={note} onChange={setNote} />
      <Actions>
        <button type="button" className="btn" onClick={close}>
          {left === 0 ? wording.finish : wording.leave}
        </button>
        <CommandButton
          type="button"
          busy={busy}
          disabled={ready.length === 0 || !note.trim() || twice !== undefined}
          onClick={() => void checkIn()}
        >
          {wording.checkIn2(ready.length || '')}
        </CommandButton>
      </Actions>
    </Dialog>
  );
};
