import type { DocumentPage } from '@kanonos/contract';
import { Link } from 'react-router';
import { changeAddress } from '../../ui/addresses.ts';
import { wording } from './wording.ts';

/** The change notes that name a document, on its page: the open ones, else the last. */
export const NotesOnDocument = ({ notes }: { notes: DocumentPage['changeNotes'] }) => {
  const open = notes.filter((note) => !note.isClosed);
  const shown = open.length > 0 ? open : notes.slice(0, 1);
  return (
    <p className="flex flex-wrap gap-x-4 gap-y-0.5 px-0.5 text-[12.5px]">
      <span className="text-ink-3">{wording.changeNotes}</span>
      {shown.map((note) => (
        <Link key={note.number} className="hover:underline" to={changeAddress(note.number)}>
          <span className="num">{note.number}</span> {note.title}
          <span className="text-ink-3"> ({note.isClosed ? wording.closed : wording.openState})</span>
        </Link>
      ))}
    </p>
  );
};
