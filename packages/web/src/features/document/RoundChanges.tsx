import type { DocumentPage, RoundInfo } from '@kanonos/contract';
import { hasRight, type Right, type RoundChange, roundChangesFor } from '@kanonos/core';
import { useState } from 'react';
import { useMe } from '../../app/session.tsx';
import { ChangeDialog } from '../rounds/ChangeDialog.tsx';
import { CHANGE_NAMES } from '../rounds/changeNames.ts';

/** Reminding and recalling are commands of the document, for a round on its route. */
const ELSEWHERE: readonly RoundChange[] = ['remind', 'cancel'];

/** What whoever controls the document can change in its running round: who is asked, until when, and which step. */
export const RoundChanges = ({ page, round }: { page: DocumentPage; round: RoundInfo }) => {
  const me = useMe();
  const [changing, setChanging] = useState<RoundChange | null>(null);
  if (round.state !== 'running' && round.state !== 'held up') return null;
  const rights = new Set(page.rights as Right[]);
  const changes = roundChangesFor({
    isController: hasRight(rights, 'release') || hasRight(rights, 'manage'),
    startedIt: round.startedBy.id === me.id,
    isAdHoc: round.isAdHoc,
    supervisesAwaited: false,
  }).filter((change) => round.isAdHoc || !ELSEWHERE.includes(change));
  const waitingFor = round.steps.flatMap((step) => step.assignments).filter(({ state }) => state === 'open');
  return (
    <p className="mt-1 flex flex-wrap gap-1.5">
      {changes.map((change) => (
        <button key={change} type="button" className="btn !h-6" onClick={() => setChanging(change)}>
          {CHANGE_NAMES[change]}
        </button>
      ))}
      {changing && (
        <ChangeDialog
          kind={changing}
          rounds={[{ id: round.id, number: page.number, label: page.revision.label, waitingFor }]}
          openSteps={round.steps.filter(({ state }) => state === 'open')}
          close={() => setChanging(null)}
        />
      )}
    </p>
  );
};
