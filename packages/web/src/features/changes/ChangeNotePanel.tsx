import { api, type ChangeNote, sentenceOf } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { showInstantDay } from '../../ui/format.ts';
import { Failed, Loading } from '../../ui/states.tsx';
import { TabPanel } from '../../ui/TabPanel.tsx';
import { AffectedDocuments } from './AffectedDocuments.tsx';
import { CloseNoteDialog } from './CloseNoteDialog.tsx';
import { ProposedDocuments } from './ProposedDocuments.tsx';
import { TaskList } from './TaskList.tsx';
import { wording } from './wording.ts';
import { noteInWords } from './words.ts';

/** What a change note is beside its text: the documents that it affects, its tasks, and what is open until it can be closed. */
export const ChangeNotePanel = ({ number }: { number: string }) => {
  const { data, error, isPending, refetch } = useQuery(ask(api.changes.note, { params: { document: number } }));
  if (isPending) return <Loading what={wording.theChangeNote} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  return (
    <TabPanel label={wording.change} className="flex flex-col gap-5 px-3 py-2.5">
      <Standing number={number} note={data} />
      <AffectedDocuments number={number} note={data} />
      {data.mayChange && data.affected.length > 0 && <ProposedDocuments number={number} />}
      <TaskList number={number} note={data} />
    </TabPanel>
  );
};

const Standing = ({ number, note }: { number: string; note: ChangeNote }) => {
  const { organisation } = useMe();
  const [closing, setClosing] = useState(false);
  return (
    <section aria-label={wording.state}>
      <div className="flex flex-wrap items-center justify-between gap-2">
        <p>
          {note.closed ? (
            <>
              {wording.closedBy(note.closed.by, showInstantDay(note.closed.at, organisation.zone))}{' '}
              <span className="text-ink-2">{note.closed.result}</span>
            </>
          ) : (
            noteInWords(note)
          )}
        </p>
        {note.mayChange && (
          <button type="button" className="btn" disabled={note.open.length > 0} onClick={() => setClosing(true)}>
            {wording.closeNote}
          </button>
        )}
      </div>
      {note.open.length > 0 && note.affected.length > 0 && (
        <details className="mt-1 text-[12.5px] text-ink-2">
          <summary className="cursor-pointer py-0.5">{wording.beforeClosing}</summary>
          <ul className="list-inside list-disc">
            {note.open.map((one) => (
              <li key={one.code + JSON.stringify(one.params ?? {})}>
                {sentenceOf(one.code, one.params, organisation.zone)}
              </li>
            ))}
          </ul>
        </details>
      )}
      {closing && <CloseNoteDialog number={number} close={() => setClosing(false)} />}
    </section>
  );
};
