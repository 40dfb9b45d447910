import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { Select } from '../../ui/controls.tsx';
import { wording } from './wording.ts';

/** The change note that a revision begins under, where the type uses them; those that name the document come first. */
export const ChangeNoteField = ({
  number,
  value,
  onChange,
}: {
  number: string;
  value: string;
  onChange: (value: string) => void;
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
  if (!data || data.use === 'never' || (data.use === 'may' && data.notes.length === 0)) return null;
  return (
    <>
      <Select
        label={wording.note}
        required={data.use === 'must'}
        optional={data.use === 'may'}
        value={value}
        onChange={onChange}
        empty={data.use === 'must' ? wording.chooseNote : wording.noNote}
        options={data.notes.map((note) => ({
          value: note.number,
          text: note.namesIt ? wording.namesThis(note.number, note.title) : `${note.number} ${note.title}`,
        }))}
      />
      {data.notes.length === 0 && (
        <p className="text-[12.5px]">
          {wording.noOpenNote}{' '}
          {data.types.map((type) => (
            <Link key={type.code} className="link mr-2" to={`/new?type=${encodeURIComponent(type.code)}`}>
              {wording.registerOne(type.name)}
            </Link>
          ))}
        </p>
      )}
    </>
  );
};
