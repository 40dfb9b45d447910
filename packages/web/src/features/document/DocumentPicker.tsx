import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { ask } from '../../app/client.ts';
import { ChipPicker } from '../../ui/ChipPicker.tsx';
import { wording } from './wording.ts';

/** Picks a document by a part of its number or title; what is picked is its number. */
export const DocumentPicker = ({
  label,
  optional,
  hint,
  error,
  value,
  onChange,
}: {
  label: string;
  optional?: boolean;
  hint?: string | undefined;
  error?: string | undefined;
  value: string;
  onChange: (number: string) => void;
}) => {
  const [find, setFind] = useState('');
  const words = useDeferredValue(find.trim());
  const { data } = useQuery({ ...ask(api.find.find, { query: { q: words, limit: 8 } }), enabled: words.length > 1 });
  // A number that is typed whole is there without a search.
  const goTo = data?.goTo ? [{ number: data.goTo, title: '' }] : [];
  const hits = [...goTo, ...(data?.hits ?? []).filter((hit) => hit.number !== data?.goTo)].slice(0, 8);
  const offers = (words.length > 1 ? hits : []).map(({ number, title }) => ({
    key: number,
    line: (
      <>
        <span className="num">{number}</span>
        <span className="truncate">{title}</span>
      </>
    ),
    pick: () => {
      onChange(number);
      setFind('');
    },
  }));
  return (
    <ChipPicker
      label={label}
      optional={optional}
      hint={hint}
      error={error}
      chips={value ? [{ key: value, name: value, content: <span className="num">{value}</span> }] : []}
      onTakeOut={() => onChange('')}
      single
      placeholder={wording.typeANumberOrWordsFrom}
      find={find}
      onFind={setFind}
      offers={offers}
      width="w-96"
      lines="grid grid-cols-[118px_minmax(0,1fr)] gap-2"
    />
  );
};
