import { api, type Lookup } from '@kanonos/contract';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useAct } from '../../app/useAct.ts';
import { TextArea, TextField } from '../../ui/controls.tsx';
import { count } from '../../ui/format.ts';
import { ReadTable } from '../../ui/ReadTable.tsx';
import { entriesFrom, entriesOfTable, entriesToLines, factsFrom } from './entryLines.ts';
import { ListFoot } from './ListFoot.tsx';
import { keyFrom } from './words.ts';

/** One look-up list: which facts its entries have, and the entries as lines of a table. */
export const LookupEditor = ({ list }: { list: Lookup }) => {
  const navigate = useNavigate();
  const isNew = list.key === '';
  const [name, setName] = useState(list.name);
  const [labels, setLabels] = useState(() => list.facts.map((fact) => fact.label).join(', '));
  const [text, setText] = useState(() => entriesToLines(list.entries, list.facts));
  const [reason, setReason] = useState('');
  const facts = factsFrom(labels, list.facts);
  const entries = entriesFrom(text, facts);
  const key = isNew ? keyFrom(name || 'list', []) : list.key;
  const act = useAct(api.rules.saveLookup, 'The list is saved.', () => navigate(`?lookup=${key}`));
  return (
    <form
      className="min-h-0 overflow-y-auto px-5 py-4"
      onSubmit={(event) => {
        event.preventDefault();
        act.mutate({ params: { key }, body: { name, facts, entries, rowVersion: list.rowVersion, reason } });
      }}
    >
      <div className="grid max-w-4xl grid-cols-2 gap-x-4 gap-y-3.5">
        <TextField
          label="Name"
          required
          maxLength={80}
          value={name}
          onChange={(event) => setName(event.target.value)}
          hint={`Key ${key}`}
        />
        <TextField
          label="Facts of an entry"
          optional
          value={labels}
          onChange={(event) => setLabels(event.target.value)}
          hint="Separated by commas; choosing an entry can fill fields with them"
        />
        <div className="col-span-2">
          <TextArea
            label={`Entries: code, name${facts.map((fact) => `, ${fact.label.toLowerCase()}`).join('')}`}
            rows={14}
            className="inp num !whitespace-pre [tab-size:14]"
            spellCheck={false}
            value={text}
            onChange={(event) => setText(event.target.value)}
            hint={`${count(entries.length, 'entry', 'entries')}. One a line, in columns as from a spreadsheet, or with semicolons; the word retired behind the last column takes one out of the choice.`}
          />
        </div>
        <div className="col-span-2 -mt-2">
          <ReadTable
            onRead={(rows) => {
              const read = entriesOfTable(rows, facts, entries);
              setLabels(read.facts.map((fact) => fact.label).join(', '));
              setText(entriesToLines(read.entries, read.facts));
            }}
          />
          <p className="mt-1 text-[11.5px] text-ink-3">
            Its first two columns are code and name; further headings are facts. Entries that the file does not have
            stay, retired.
          </p>
        </div>
        <ListFoot kind="lookup" list={list} reason={reason} onReason={setReason} act={act} />
      </div>
    </form>
  );
};
