import { leadsToRelease } from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Viewer } from '../access/index.ts';
import { type Opened, subjectOf } from '../documents/index.ts';
import type { RevisionRow } from '../revisions/index.ts';
import { recallRound } from './recallRound.ts';
import * as store from './store.ts';
import { endPlanned, listPlannedOf } from './storePlanned.ts';

/** Ends what is asked about a draft outside its route, and what is planned on it: there is nothing left to look at. */
export const endRoundsWithDraft = async (
  app: App,
  work: UnitOfWork,
  viewer: Viewer,
  opened: Opened,
  revision: RevisionRow,
  reason: string,
): Promise<void> => {
  for (const round of await store.listRounds(work.trx, revision.id))
    if (round.state === 'running' && !leadsToRelease(round.definition))
      await recallRound(app, work, viewer, { opened, revision, round }, reason);
  for (const planned of await listPlannedOf(work.trx, opened.document.id)) {
    if (planned.revision_id !== revision.id) continue;
    await endPlanned(work.trx, { id: planned.id, now: work.now, cancelled: reason });
    work.record({
      kind: 'round.plan-ended',
      subject: subjectOf(opened.document, revision),
      payload: { name: planned.name, on: planned.starts_on, why: reason },
    });
  }
};
