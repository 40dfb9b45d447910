import { api, type Lookup, type LookupEntry } from '@kanonos/contract';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useCommand } from '../../app/useCommand.ts';
import { TextArea, TextField } from '../../ui/controls.tsx';
import { count } from '../../ui/format.ts';
import { ReadTable } from '../../ui/ReadTable.tsx';
import { useDraft } from '../../ui/useDraft.ts';
import { type EntryField, entriesFrom, entriesOfTable, entriesToLines, metadataFrom } from './entryLines.ts';
import { ListFoot } from './ListFoot.tsx';
import { ListForm } from './ListForm.tsx';
import { wording } from './wording.ts';
import { keyFrom } from './words.ts';

/** One look-up list: which metadata its entries have, and the entries as lines of a table. */
export const LookupEditor = ({ now }: { now: Lookup }) => {
  const navigate = useNavigate();
  const form = useDraft(now, (one) => ({ name: one.name, metadata: one.metadata, entries: one.entries }));
  const { base: list, draft, edit } = form;
  const [reason, setReason] = useState('');
  const key = list.key === '' ? keyFrom(draft.name || 'list', []) : list.key;
  const command = useCommand(api.rules.saveLookup, wording.listSaved, () => {
    form.saved();
    setReason('');
    navigate(`?lookup=${key}`);
  });
  return (
    <ListForm
      form={form}
      listKey={key}
      onSubmit={() => command.mutate({ params: { key }, body: { ...draft, rowVersion: list.rowVersion, reason } })}
    >
      <Entries key={form.round} metadata={draft.metadata} entries={draft.entries} onChange={edit} />
      <ListFoot kind="lookup" list={list} reason={reason} onReason={setReason} command={command} of={form} />
    </ListForm>
  );
};

const labelsOf = (metadata: readonly EntryField[]) => metadata.map((fieldValue) => fieldValue.label).join(', ');

type Written = { metadata: EntryField[]; entries: LookupEntry[] };

/** Metadata and entries as they are written, letter by letter; each change reports their meaning. */
const Entries = ({ metadata: drafted, entries, onChange }: Written & { onChange: (written: Written) => void }) => {
  // A field whose label is typed anew letter by letter is the one that it was when its label is back.
  const [first] = useState(drafted);
  const [labels, setLabels] = useState(() => labelsOf(first));
  const [text, setText] = useState(() => entriesToLines(entries, first));
  const metadata = metadataFrom(labels, first);
  const write = (nextLabels: string, nextText: string) => {
    setLabels(nextLabels);
    setText(nextText);
    const next = metadataFrom(nextLabels, first);
    onChange({ metadata: next, entries: entriesFrom(nextText, next) });
  };
  return (
    <>
      <TextField
        label={wording.metadataOfAnEntry}
        optional
        value={labels}
        onChange={(value) => write(value, text)}
        hint={wording.separatedByCommasChoosingAnEntry}
      />
      <TextArea
        wide
        label={wording.entriesCodeName(metadata.map((fieldValue) => `, ${fieldValue.label.toLowerCase()}`).join(''))}
        rows={14}
        className="inp num !whitespace-pre [tab-size:14]"
        spellCheck={false}
        value={text}
        onChange={(value) => write(labels, value)}
        hint={wording.onePerLineInColumnsAs(count(entries.length, 'entry', 'entries'))}
      />
      <div className="col-span-2 -mt-2">
        <ReadTable
          onRead={(rows) => {
            const read = entriesOfTable(rows, metadata, entries);
            write(labelsOf(read.metadata), entriesToLines(read.entries, read.metadata));
          }}
        />
        <p className="mt-1 text-[11.5px] text-ink-3">{wording.theFirstTwoColumnsAreCode}</p>
      </div>
    </>
  );
};
