import { type Affected, type AnswerOf, api, sentenceOf } from '@kanonos/contract';
import { useState } from 'react';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { Select, TextArea } from '../../ui/controls.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { toast } from '../../ui/toast.ts';
import { wording } from './wording.ts';

type Props = { documents: readonly Affected[]; done: () => void; close: () => void };
type Refused = { id: string; number: string; reasons: string[] }[];

/** The members of a set that was refused, each with what stands against it. */
const refusedOf = (documents: AnswerOf<typeof api.changes.releaseSet>['documents'], zone: string): Refused =>
  documents.flatMap(({ id, number, refusals }) =>
    refusals.length > 0 ? [{ id, number, reasons: refusals.map((one) => sentenceOf(one.code, one.params, zone)) }] : [],
  );

const members = (documents: readonly Affected[]) => documents.map((one) => ({ id: one.id, seen: one.stateTag }));
const numbers = (documents: readonly Affected[]) => (
  <ul className="flex flex-wrap gap-x-4 text-[12.5px]">
    {documents.map((one) => (
      <li key={one.id}>
        <span className="num">{one.number}</span> {one.title}
      </li>
    ))}
  </ul>
);

/** What stands against each document of a set. */
const InTheWay = ({ title, refused }: { title: string; refused: Refused }) => {
  if (refused.length === 0) return null;
  return (
    <div role="alert" className="border-l-3 border-vermilion bg-vermilion-tint px-3 py-1.5 text-[12.5px]">
      <p className="font-semibold">{title}</p>
      <ul>
        {refused.map((one) => (
          <li key={one.id}>
            <span className="num">{one.number || wording.aDocument}</span> {one.reasons.join(' ')}
          </li>
        ))}
      </ul>
    </div>
  );
};

const CHANGE_KINDS = ['major', 'minor', 'editorial'] as const;

/** Begins the next revision of several documents under a note. */
export const ReviseSetDialog = ({ note, documents, done, close }: Props & { note: string }) => {
  const { zone } = useMe().organisation;
  const [changeKind, setChangeKind] = useState<(typeof CHANGE_KINDS)[number]>('major');
  const [reason, setReason] = useState('');
  const [refused, setRefused] = useState<Refused>([]);
  const command = useCommand(api.changes.reviseSet, undefined, (answer) => {
    setRefused(refusedOf(answer.documents, zone));
    if (!answer.done) return;
    toast.success(wording.revised(answer.documents.length));
    done();
  });
  return (
    <FormDialog
      title={wording.reviseSet(documents.length)}
      about={numbers(documents)}
      command={command}
      button={wording.revise}
      onSubmit={() => command.mutate({ body: { documents: members(documents), changeNote: note, changeKind, reason } })}
      onClose={close}
    >
      <Select
        label={wording.changeKind}
        value={changeKind}
        onChange={(value) => setChangeKind(value as typeof changeKind)}
        options={CHANGE_KINDS.map((kind) => ({ value: kind, text: wording[kind] }))}
      />
      <ReasonField value={reason} onChange={setReason} hint={wording.allOrNone} />
      <InTheWay title={wording.nothingDone} refused={refused} />
    </FormDialog>
  );
};

/** Submits the drafts of several documents, each on the route of its type. */
export const SubmitSetDialog = ({ documents, done, close }: Props) => {
  const [message, setMessage] = useState('');
  const [chosen, setChosen] = useState<{ id: string; name: string }[]>([]);
  const [refused, setRefused] = useState<Refused>([]);
  const command = useCommand(api.bulk.submit, undefined, (answer) => {
    setRefused(answer.refused);
    if (answer.done.length > 0) toast.success(wording.submitted(answer.done.length));
    if (answer.refused.length === 0) done();
  });
  return (
    <FormDialog
      title={wording.submitSet(documents.length)}
      about={numbers(documents)}
      command={command}
      button={wording.submit}
      onSubmit={() =>
        command.mutate({ body: { ids: documents.map((one) => one.id), message, chosen: chosen.map((one) => one.id) } })
      }
      onClose={close}
    >
      <p className="text-[12.5px] text-ink-2">{wording.eachAlone}</p>
      <PeoplePicker label={wording.reviewers} value={chosen} onChange={setChosen} hint={wording.whereTheRouteAsks} />
      <TextArea label={wording.message} optional rows={2} value={message} onChange={setMessage} />
      <InTheWay title={wording.notSubmitted} refused={refused} />
    </FormDialog>
  );
};

/** Releases several documents at one instant, or all on one day. */
export const ReleaseSetDialog = ({ documents, done, close }: Props) => {
  const { zone } = useMe().organisation;
  const [on, setOn] = useState('');
  const [refused, setRefused] = useState<Refused>([]);
  const command = useCommand(api.changes.releaseSet, undefined, (answer) => {
    setRefused(refusedOf(answer.documents, zone));
    if (!answer.done) return;
    toast.success(wording.released(answer.documents.length));
    done();
  });
  return (
    <FormDialog
      title={wording.releaseSet(documents.length)}
      about={numbers(documents)}
      command={command}
      button={wording.release}
      onSubmit={() => command.mutate({ body: { documents: members(documents), on: on || null } })}
      onClose={close}
    >
      <p className="text-[12.5px] text-ink-2">{wording.oneInstant}</p>
      <DateField label={wording.onADay} optional value={on} onChange={setOn} hint={wording.leaveEmptyForNow} />
      <InTheWay title={wording.nothingDone} refused={refused} />
    </FormDialog>
  );
};
