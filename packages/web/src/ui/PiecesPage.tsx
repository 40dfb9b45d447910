import { ActButton, Choice, Key, Select, TextArea, TextField } from './controls.tsx';
import { NotchBar, RevisionMark } from './marks.tsx';
import { ReadingCell } from './ReadingCell.tsx';
import { Empty, Refusals } from './states.tsx';

const STATES = [
  'draft',
  'in review',
  'in approval',
  'approved',
  'scheduled',
  'in force',
  'superseded',
  'withdrawn',
  'abandoned',
];

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
      {STATES.map((state) => (
        <NotchBar key={state} state={state} words={state} />
      ))}
    </section>
    <section className="grid w-24 gap-1">
      {['signed', 'carried', 'open', 'late', null].map((state) => (
        <ReadingCell key={String(state)} state={state} />
      ))}
    </section>
    <section className="flex flex-wrap items-start gap-2">
      <ActButton busy={false}>Release</ActButton>
      <ActButton busy>Release</ActButton>
      <ActButton busy={false} disabled>
        Release
      </ActButton>
      <ActButton busy={false} tone="danger">
        Withdraw
      </ActButton>
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
      <Choice name="a" checked onChange={() => {}} title="Approve" about="signs these bytes and facts with your name" />
      <Choice name="a" checked={false} onChange={() => {}} title="Decline" about="goes back with your words" />
      <Refusals error={new Error('Lin Sato has it checked out since 23 Nov 2026, 09:00.')} />
      <Empty title="Nothing waits for you">What is asked of you stands here.</Empty>
    </section>
  </div>
);
