import type { api } from '@kanonos/contract';
import { refused } from '../../platform/refused.ts';
import type { HandlerOf } from '../access/index.ts';
import { offeredOwnStates, runCommand, subjectOf, workOf } from '../documents/index.ts';
import { setOwnState } from '../revisions/index.ts';

/** Gives what is in work a state of the organisation's own, or takes it back; it changes nothing about what may be done. */
export const setState: HandlerOf<typeof api.documents.setState, void> = (app, viewer, ref, input) =>
  runCommand(app, viewer, { document: ref, command: 'set state', seen: input.seen }, async (work, opened) => {
    const revision = workOf(opened, 'set state');
    const offered = offeredOwnStates(opened, viewer, work.organisation.ownStates);
    if (input.state !== null && !offered.includes(input.state))
      throw refused('own_state_unknown', { name: input.state });
    if (input.state === revision.own_state) throw refused('nothing_changed');
    await setOwnState(work.trx, revision.id, input.state);
    work.record({
      kind: 'revision.own-state-set',
      subject: subjectOf(opened.document, revision),
      payload: { before: revision.own_state, after: input.state, note: input.note },
    });
  });
