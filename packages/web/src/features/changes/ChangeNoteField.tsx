import { type AnswerOf, api, type NewNote } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { ask } from '../../app/client.ts';
import { Select, TextArea, TextField } from '../../ui/controls.tsx';
import { MetadataFields } from '../document/MetadataFields.tsx';
import { type MetadataValues, toMetadata } from '../document/metadataValues.ts';
import { wording } from './wording.ts';

/** Before the type of a note that is to be made. */
const MAKE = 'make ';

/** The change note that a revision begins under, where the type uses them; those that name the document come first. */
export const ChangeNoteField = ({
  number,
  value,
  onChange,
  newNote,
  onNewNote,
}: {
  number: string;
  value: string;
  onChange: (value: string) => void;
  /** A note that is made together with the revision, instead of one that is there. */
  newNote: NewNote | null;
  onNewNote: (note: NewNote | null) => void;
}) => {
  const { data } = useQuery(ask(api.changes.open, { params: { document: number } }));
  const first = data?.notes[0];
  const named = first?.namesIt ? first.number : '';
  const isOffered = useRef(false);
  // A note that names the document is what is meant, until somebody chooses otherwise.
  useEffect(() => {
    if (!named || isOffered.current) return;
    isOffered.current = true;
    onChange(named);
  }, [named, onChange]);
  if (!data || data.use === 'never' || (data.use === 'may' && data.notes.length + data.types.length === 0)) return null;
  const choose = (chosen: string) => {
    const type = data.types.find(({ id }) => chosen === `${MAKE}${id}`);
    onNewNote(type ? { typeId: type.id, folderId: type.folder?.id ?? null, title: '', asked: '', metadata: {} } : null);
    onChange(type ? '' : chosen);
  };
  const making = newNote && data.types.find(({ id }) => id === newNote.typeId);
  return (
    <>
      <Select
        label={wording.note}
        required={data.use === 'must'}
        optional={data.use === 'may'}
        value={newNote ? `${MAKE}${newNote.typeId}` : value}
        onChange={choose}
        empty={data.use === 'must' ? wording.chooseNote : wording.noNote}
        options={[
          ...data.notes.map((note) => ({
            value: note.number,
            text: note.namesIt ? wording.namesThis(note.number, note.title) : `${note.number} ${note.title}`,
          })),
          ...data.types.map((type) => ({ value: `${MAKE}${type.id}`, text: wording.makeOne(type.name) })),
        ]}
      />
      {data.notes.length + data.types.length === 0 && <p className="text-[12.5px]">{wording.noOpenNote}</p>}
      {newNote && making && <NewNoteFields type={making} note={newNote} onChange={onNewNote} />}
    </>
  );
};

/** What a note needs that is made together with a revision; the rest is filled in later. */
const NewNoteFields = ({
  type,
  note,
  onChange,
}: {
  type: AnswerOf<typeof api.changes.open>['types'][number];
  note: NewNote;
  onChange: (note: NewNote) => void;
}) => {
  const [values, setValues] = useState<MetadataValues>({});
  return (
    <div
      role="group"
      aria-label={wording.newNote(type.name)}
      className="flex flex-col gap-3 border border-line bg-film-2 px-3 py-2"
    >
      <TextField
        label={wording.titleOfNote}
        required
        maxLength={250}
        value={note.title}
        onChange={(title) => onChange({ ...note, title })}
      />
      <TextArea
        label={wording.whatIsAsked}
        optional
        rows={2}
        value={note.asked ?? ''}
        onChange={(asked) => onChange({ ...note, asked })}
      />
      <MetadataFields
        fields={type.fields}
        values={values}
        onChange={(next) => {
          setValues(next);
          onChange({ ...note, metadata: toMetadata(type.fields, next) });
        }}
      />
      <p className="text-[12px] text-ink-2">{type.folder ? wording.filedIn(type.folder.name) : wording.filedByRule}</p>
    </div>
  );
};
