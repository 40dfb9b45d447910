import { api, type LookupEntry } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { ChipPicker } from '../../ui/ChipPicker.tsx';
import { wording } from './wording.ts';

type Entry = Omit<LookupEntry, 'retired'>;

/** Picks an entry of a look-up list by a few letters of its code or name. */
export const EntryPicker = ({
  label,
  optional,
  hint,
  error,
  list,
  value,
  name,
  onPick,
}: {
  label: string;
  optional: boolean;
  hint?: string | undefined;
  error?: string | undefined;
  list: string;
  value: string;
  name?: string | undefined;
  onPick: (entry: Entry | null) => void;
}) => {
  const [find, setFind] = useState('');
  const { data } = useQuery(ask(api.rules.entries, { params: { key: list }, query: { find } }));
  const [picked, setPicked] = useState<Entry | null>(null);
  const shown = picked?.code === value ? `${value} ${picked.name}` : (name ?? value);
  const offers = (data?.entries ?? []).slice(0, 20).map((entry) => ({
    key: entry.code,
    line: (
      <>
        <span className="num">{entry.code}</span>
        <span className="truncate">
          {entry.name} <span className="text-ink-3">{Object.values(entry.metadata).slice(0, 2).join(', ')}</span>
        </span>
      </>
    ),
    pick: () => {
      setPicked(entry);
      onPick(entry);
      setFind('');
    },
  }));
  return (
    <ChipPicker
      label={label}
      optional={optional}
      hint={hint}
      error={error}
      chips={value ? [{ key: value, name: value, content: shown }] : []}
      onTakeOut={() => onPick(null)}
      single
      placeholder={wording.typeACodeOrName}
      find={find}
      onFind={setFind}
      offers={offers}
      openAtOnce
      width="w-80"
      lines="grid grid-cols-[72px_minmax(0,1fr)] gap-2"
    />
  );
};
