import { type Affected, api, type ChangeNote } from '@kanonos/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { workAddress } from '../../ui/addresses.ts';
import { showInstantDay } from '../../ui/format.ts';
import { HoldWords, RevisionMark } from '../../ui/marks.tsx';
import { Empty, Refusals } from '../../ui/states.tsx';
import { TableHead } from '../../ui/TableHead.tsx';
import { AddDocumentsDialog } from './AddDocumentsDialog.tsx';
import { SetBar } from './SetBar.tsx';
import { WhatChangesDialog } from './WhatChangesDialog.tsx';
import { wording } from './wording.ts';
import { standingInWords, wayInWords } from './words.ts';

/** The documents that a note affects, side by side: what is in force, what is made under the note, what changes. */
export const AffectedDocuments = ({ number, note }: { number: string; note: ChangeNote }) => {
  const [adding, setAdding] = useState(false);
  const [edited, setEdited] = useState<Affected | null>(null);
  const [marked, setMarked] = useState<ReadonlySet<string>>(new Set());
  const remove = useCommand(api.changes.removeAffected, wording.taken);
  const chosen = note.affected.filter((one) => marked.has(one.id));
  const mark = (id: string) =>
    setMarked((before) => {
      const next = new Set(before);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  const partsOf = (one: Affected): Parts => ({
    one,
    isMarked: marked.has(one.id),
    mark: () => mark(one.id),
    edit: note.mayChange ? () => setEdited(one) : undefined,
    remove:
      note.mayChange && one.revision === null
        ? () => remove.mutate({ params: { document: number, affected: one.id } })
        : undefined,
  });
  return (
    <section aria-label={wording.affected}>
      <div className="flex flex-wrap items-center gap-2 pb-1.5">
        <h2 className="mr-auto">{wording.affected}</h2>
        <SetBar number={number} chosen={chosen} done={() => setMarked(new Set())} />
        {note.mayChange && (
          <button type="button" className="btn" onClick={() => setAdding(true)}>
            {wording.addDocuments}
          </button>
        )}
      </div>
      {note.affected.length === 0 && note.hidden === 0 && <Empty title={wording.noDocuments}>{wording.nameThem}</Empty>}
      {note.affected.length > 0 && (
        <>
          <table className="w-full border border-line bg-sheet max-md:hidden">
            <TableHead
              headings={[
                { text: wording.selection, hidden: true, className: 'w-8' },
                wording.document,
                { text: wording.inForce, className: 'w-32' },
                { text: wording.underThisNote, className: 'w-36' },
                wording.whatChanges,
                { text: wording.actions, hidden: true, className: 'w-28' },
              ]}
              cell="px-2.5 py-1.5"
            />
            <tbody>
              {note.affected.map((one) => (
                <Row key={one.id} {...partsOf(one)} />
              ))}
            </tbody>
          </table>
          <ul className="border border-line bg-sheet md:hidden">
            {note.affected.map((one) => (
              <Card key={one.id} {...partsOf(one)} />
            ))}
          </ul>
        </>
      )}
      {note.hidden > 0 && <p className="pt-1 text-[12.5px] text-ink-3">{wording.hidden(note.hidden)}</p>}
      <Refusals error={remove.error} />
      {adding && <AddDocumentsDialog number={number} close={() => setAdding(false)} />}
      {edited && <WhatChangesDialog number={number} affected={edited} close={() => setEdited(null)} />}
    </section>
  );
};

type Parts = {
  one: Affected;
  isMarked: boolean;
  mark: () => void;
  edit: (() => void) | undefined;
  remove: (() => void) | undefined;
};

const Mark = ({ one, isMarked, mark }: Parts) =>
  one.may.revise || one.may.submit || one.may.release ? (
    <input
      type="checkbox"
      className="h-6 accent-petrol"
      aria-label={wording.select(one.number)}
      checked={isMarked}
      onChange={mark}
    />
  ) : null;

const Named = ({ one }: Parts) => {
  const way = wayInWords(one.way);
  return (
    <>
      <Link to={workAddress(one.number)} className="hover:underline">
        <span className="num block">{one.number}</span>
        <b className="font-semibold">{one.title}</b>
      </Link>
      <HoldWords when={one.inForce?.mark === 'on hold'} />
      {way && <span className="block text-[12px] text-ink-3">{way}</span>}
    </>
  );
};

const InForce = ({ one }: Parts) => {
  const { zone } = useMe().organisation;
  return one.inForce ? (
    <span className="flex items-center gap-2">
      <RevisionMark label={one.inForce.label} mark={one.inForce.mark} />
      <span className="text-[12px] text-ink-2">{showInstantDay(one.inForce.since, zone)}</span>
    </span>
  ) : null;
};

const Under = ({ one }: Parts) => (
  <span className="flex items-center gap-2">
    {one.revision && <RevisionMark label={one.revision.label} mark={one.revision.mark} />}
    <span className={`text-[12.5px] ${one.standing === 'not begun' ? 'text-ochre' : 'text-ink-2'}`}>
      {standingInWords(one)}
    </span>
  </span>
);

const said = (one: Affected): string =>
  one.noChangeReason !== null && one.standing === 'no change needed'
    ? one.noChangeReason
    : one.revision?.summary || one.what || one.revision?.reason || '';

const Buttons = ({ one, edit, remove }: Parts) => (
  <>
    {edit && (
      <button type="button" className="btn !h-6" aria-label={wording.editNumber(one.number)} onClick={edit}>
        {wording.edit}
      </button>
    )}
    {remove && (
      <button
        type="button"
        className="btn btn-quiet !h-6 min-w-6 !px-1.5"
        aria-label={wording.take(one.number)}
        onClick={remove}
      >
        ×
      </button>
    )}
  </>
);

const Row = (parts: Parts) => (
  <tr className="border-b border-line-2 align-top last:border-0">
    <td className="px-2.5 py-1.5">
      <Mark {...parts} />
    </td>
    <td className="px-2.5 py-1.5">
      <Named {...parts} />
    </td>
    <td className="px-2.5 py-1.5">
      <InForce {...parts} />
    </td>
    <td className="px-2.5 py-1.5">
      <Under {...parts} />
    </td>
    <td className="px-2.5 py-1.5 text-[12.5px]">{said(parts.one)}</td>
    <td className="px-2.5 py-1.5 text-right whitespace-nowrap">
      <Buttons {...parts} />
    </td>
  </tr>
);

/** The same on a narrow screen. */
const Card = (parts: Parts) => (
  <li className="grid grid-cols-[24px_minmax(0,1fr)] gap-x-2 gap-y-1.5 border-b border-line-2 px-2.5 py-2 last:border-0">
    <span>
      <Mark {...parts} />
    </span>
    <span>
      <Named {...parts} />
    </span>
    <span className="col-start-2 flex flex-wrap gap-x-4 gap-y-1">
      <InForce {...parts} />
      <Under {...parts} />
    </span>
    <span className="col-start-2 text-[12.5px]">{said(parts.one)}</span>
    <span className="col-start-2 flex gap-1.5">
      <Buttons {...parts} />
    </span>
  </li>
);
