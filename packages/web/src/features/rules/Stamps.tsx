import { api, type Stamp } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton, TextField } from '../../ui/controls.tsx';
import { Refusals } from '../../ui/states.tsx';
import { wording } from './wording.ts';

/** The stamps with which reviewers mark pages; each use shows name and day. */
export const Stamps = () => {
  const { data } = useQuery(ask(api.comments.stamps));
  const [text, setWords] = useState('');
  const [colour, setColour] = useState('#0b5563');
  const command = useCommand(api.comments.saveStamp, wording.saved, () => setWords(''));
  const save = (stamp: Stamp, changes: Partial<Stamp>) => {
    const { id, ...body } = { ...stamp, ...changes };
    command.mutate({ params: { id }, body });
  };
  return (
    <section className="pane" aria-label={wording.stamps}>
      <h2 className="border-b border-line bg-film-2 px-3 py-1.5">{wording.stamps}</h2>
      <ul>
        {data?.stamps.map((stamp) => (
          <li key={stamp.id} className="flex items-center gap-2 border-b border-line-2 px-3 py-1">
            <span
              className={`border px-1.5 text-[12px] font-semibold ${stamp.retired ? 'line-through opacity-50' : ''}`}
              style={{ color: stamp.colour, borderColor: stamp.colour }}
            >
              {stamp.text}
            </span>
            <button
              type="button"
              className="btn btn-quiet ml-auto !h-6"
              onClick={() => save(stamp, { retired: !stamp.retired })}
            >
              {stamp.retired ? wording.restore : wording.retire}
            </button>
          </li>
        ))}
      </ul>
      <form
        className="grid grid-cols-[minmax(0,1fr)_36px_auto] items-end gap-2 px-3 py-2"
        onSubmit={(event) => {
          event.preventDefault();
          command.mutate({
            params: { id: crypto.randomUUID() },
            body: { text, colour, retired: false, rowVersion: 0 },
          });
        }}
      >
        <TextField label={wording.newStamp} required maxLength={60} value={text} onChange={setWords} />
        <input
          type="color"
          aria-label={wording.itsColour}
          className="h-7 w-9 border border-line"
          value={colour}
          onChange={(event) => setColour(event.target.value)}
        />
        <CommandButton busy={command.isPending}>{wording.add}</CommandButton>
      </form>
      <Refusals error={command.error} />
    </section>
  );
};
