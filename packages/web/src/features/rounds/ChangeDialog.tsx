import { api, type RoundChangeBody } from '@kanonos/contract';
import type { RoundChange } from '@kanonos/core';
import { useState } from 'react';
import { useCommand } from '../../app/useCommand.ts';
import { Select, TextField } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { toast } from '../../ui/toast.ts';
import { StepRow } from './adHoc/StepRows.tsx';
import { type EnteredStep, firstStep, isComplete, toSteps } from './adHoc/steps.ts';
import { CHANGE_NAMES } from './changeNames.ts';
import { wording } from './wording.ts';

type Person = { id: string; name: string };
/** What the dialog needs of a round: how it is named, and whom it waits for. */
export type ChangedRound = { id: string; number: string; label: string; waitingFor: readonly { person: Person }[] };
/** An open step of the one round that is changed, where several run at the same time. */
type OpenStep = { n: number; name: string };
type Entered = { from: string; to: Person[]; days: string; step: string; added: EnteredStep };

/** The people whom the rounds wait for now. */
const awaitedIn = (rounds: readonly ChangedRound[]): Person[] => [
  ...new Map(rounds.flatMap((round) => round.waitingFor.map(({ person }) => [person.id, person]))).values(),
];

/** The change as it is sent; undefined while something is missing. */
const toBody = (kind: RoundChange, { from, to, days, step: n, added }: Entered): RoundChangeBody | undefined => {
  const [person] = to;
  const step = n ? { step: Number(n) } : {};
  const workingDays = Number(days);
  switch (kind) {
    case 'reassign':
      return from && person ? { kind, from, to: person.id } : undefined;
    case 'take over':
      return from ? { kind, from } : undefined;
    case 'add person':
      return person ? { kind, person: person.id, ...step } : undefined;
    case 'add step': {
      const [first] = toSteps([added]);
      return first && isComplete([added]) && Number.isInteger(workingDays) && workingDays >= 0 && workingDays <= 250
        ? { kind, added: first, workingDays }
        : undefined;
    }
    case 'extend':
      return Number.isInteger(workingDays) && workingDays >= 1 && workingDays <= 250
        ? { kind, workingDays, ...step }
        : undefined;
    case 'skip step':
      return { kind, ...step };
    default:
      return { kind };
  }
};

/** One change to the chosen rounds; what is refused of them stays named in the dialog. */
export const ChangeDialog = ({
  kind,
  rounds,
  person = '',
  openSteps = [],
  close,
}: {
  kind: RoundChange;
  rounds: readonly ChangedRound[];
  /** The person that the list is filtered by. */
  person?: string;
  openSteps?: readonly OpenStep[];
  close: () => void;
}) => {
  const awaited = awaitedIn(rounds);
  const first = awaited.find(({ id }) => id === person) ?? awaited[0];
  const [entered, setEntered] = useState<Entered>({
    from: first?.id ?? '',
    to: [],
    days: '3',
    step: String(openSteps[0]?.n ?? ''),
    added: firstStep(1),
  });
  const [reason, setReason] = useState('');
  const command = useCommand(api.rounds.change, undefined, ({ changed, refused }) => {
    if (changed > 0) toast.success(wording.changed[kind](changed));
    if (refused.length === 0) close();
  });
  const change = toBody(kind, entered);
  const refused = command.data?.refused ?? [];
  const set = (part: Partial<Entered>) => setEntered({ ...entered, ...part });
  return (
    <FormDialog
      title={`${CHANGE_NAMES[kind]}: ${rounds.length === 1 ? `${rounds[0]?.number} ${rounds[0]?.label}` : wording.openRounds(rounds.length)}`}
      about={<p className="text-ink-2">{wording.about[kind]}</p>}
      command={command}
      button={CHANGE_NAMES[kind]}
      leave={wording.close}
      danger={kind === 'cancel'}
      ready={change !== undefined && (kind === 'remind' || reason.trim() !== '')}
      onSubmit={() => change && command.mutate({ body: { rounds: rounds.map(({ id }) => id), change, reason } })}
      onClose={close}
    >
      {(kind === 'reassign' || kind === 'take over') && (
        <Select
          label={wording.from}
          required
          value={entered.from}
          onChange={(from) => set({ from })}
          options={awaited.map(({ id, name }) => ({ value: id, text: name }))}
        />
      )}
      {(kind === 'reassign' || kind === 'add person') && (
        <PeoplePicker
          label={kind === 'reassign' ? wording.to : wording.person}
          single
          value={entered.to}
          onChange={(to) => set({ to })}
        />
      )}
      {openSteps.length > 1 && (kind === 'add person' || kind === 'extend' || kind === 'skip step') && (
        <Select
          label={wording.step}
          value={entered.step}
          onChange={(step) => set({ step })}
          options={openSteps.map(({ n, name }) => ({ value: String(n), text: name }))}
        />
      )}
      {kind === 'add step' && (
        <>
          <StepRow
            step={entered.added}
            index={0}
            maySign
            change={(part) => set({ added: { ...entered.added, ...part } })}
          />
          <TextField
            label={wording.daysToAnswer}
            required
            inputMode="numeric"
            value={entered.days}
            onChange={(days) => set({ days })}
          />
        </>
      )}
      {kind === 'extend' && (
        <TextField
          label={wording.extendBy}
          hint={wording.extendHint}
          required
          inputMode="numeric"
          value={entered.days}
          onChange={(days) => set({ days })}
        />
      )}
      {kind !== 'remind' && <ReasonField value={reason} onChange={setReason} />}
      {refused.length > 0 && (
        <div role="alert" className="border-l-3 border-vermilion bg-vermilion-tint px-3 py-2 text-vermilion">
          <p className="font-semibold">{wording.refused}</p>
          <ul>
            {refused.map(({ round, number, reasons }) => (
              <li key={round}>
                <span className="num">{number}</span> {reasons.join(' ')}
              </li>
            ))}
          </ul>
        </div>
      )}
    </FormDialog>
  );
};
