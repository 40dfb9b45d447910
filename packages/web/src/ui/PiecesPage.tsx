import type { Upload } from '@kanonos/contract';
import { REVISION_STATES } from '@kanonos/core';
import { useState } from 'react';
import { Choice, CommandButton, Key, Segments, Select, TextArea, TextField } from './controls.tsx';
import { FileDrop } from './FileDrop.tsx';
import { FormDialog } from './FormDialog.tsx';
import { NotchBar, RevisionMark } from './marks.tsx';
import { PeoplePicker } from './PersonPicker.tsx';
import { ReadingCell } from './ReadingCell.tsx';
import { SignBox } from './SignBox.tsx';
import { Empty, Refusals } from './states.tsx';
import { UnitPicker } from './UnitPicker.tsx';

/** Every piece of the look on one page; in development only. */
export const PiecesPage = () => (
  <div className="grid flex-1 grid-cols-3 content-start gap-5 overflow-y-auto p-5">
    <section className="flex items-end gap-3">
      <RevisionMark label="C" mark="in force" />
      <RevisionMark label="P02" mark="open" />
      <RevisionMark label="B" mark="old" />
      <RevisionMark label="C" mark="open" size="big" />
      <RevisionMark label="A" mark="old" size="small" />
    </section>
    <section className="grid grid-cols-3 gap-3">
      {REVISION_STATES.map((state) => (
        <NotchBar key={state} state={state} words={state} />
      ))}
    </section>
    <section className="grid w-24 gap-1">
      {(['signed', 'carried over', 'open', 'overdue', null] as const).map((state) => (
        <ReadingCell key={String(state)} state={state} />
      ))}
    </section>
    <section className="flex flex-wrap items-start gap-2">
      <CommandButton busy={false}>Release</CommandButton>
      <CommandButton busy>Release</CommandButton>
      <CommandButton busy={false} disabled>
        Release
      </CommandButton>
      <CommandButton busy={false} tone="danger">
        Withdraw
      </CommandButton>
      <button type="button" className="btn">
        Copy link
      </button>
      <span className="chip">Carriers</span>
      <Key>N</Key>
    </section>
    <section className="flex flex-col gap-3">
      <TextField label="Title" defaultValue="Grip overhaul" hint="At most 250 characters" />
      <TextField label="Number" defaultValue="THR" error="Number: this number is taken" />
      <TextArea label="Note" optional />
      <Select label="Type">
        <option>Procedure</option>
      </Select>
    </section>
    <section>
      <Choice
        name="a"
        checked
        onChange={() => {}}
        title="Approve"
        about="signs these files and metadata with your name"
      />
      <Choice
        name="a"
        checked={false}
        onChange={() => {}}
        title="Reject"
        about="returns to the author with your comment"
      />
      <Refusals error={new Error('Lin Sato has it checked out since 23 Nov 2026, 09:00.')} />
      <Empty title="Nothing is waiting for you">Your tasks will appear here.</Empty>
    </section>
    <Asking />
  </div>
);

/** The pieces that ask for something: a switch of views, units, people, a file, a signature, a dialog for one command. */
const Asking = () => {
  const [view, setView] = useState<'one' | 'two'>('one');
  const [units, setUnits] = useState<string[]>(['ops']);
  const [people, setPeople] = useState<{ id: string; name: string }[]>([]);
  const [upload, setUpload] = useState<Upload | null>(null);
  const [sign, setSign] = useState({ name: '', password: '' });
  const [open, setOpen] = useState(false);
  return (
    <>
      <section className="flex flex-col items-start gap-3">
        <Segments
          label="View"
          value={view}
          options={[
            { value: 'one', text: 'In force' },
            { value: 'two', text: 'Newest' },
          ]}
          onChange={setView}
        />
        <UnitPicker
          label="Departments, roles"
          units={[
            { id: 'ops', name: 'Operations' },
            { id: 'eng', name: 'Engineering' },
          ]}
          value={units}
          onChange={setUnits}
          everyone={{ on: false, onChange: () => {} }}
        />
        <button type="button" className="btn" onClick={() => setOpen(true)}>
          A dialog for one command
        </button>
      </section>
      <section className="flex flex-col gap-3">
        <PeoplePicker label="Named people" value={people} onChange={setPeople} />
        <FileDrop label="File" value={upload} onChange={setUpload} />
      </section>
      <section className="pane p-3">
        <SignBox asksForName value={sign} onChange={setSign} />
      </section>
      {open && (
        <FormDialog
          title="Withdraw THR-PRO-0118 C"
          about={<p>It no longer applies from then on.</p>}
          command={{ isPending: false, error: null }}
          button="Withdraw"
          danger
          onSubmit={() => setOpen(false)}
          onClose={() => setOpen(false)}
        >
          <TextArea label="Reason" required rows={2} />
        </FormDialog>
      )}
    </>
  );
};
