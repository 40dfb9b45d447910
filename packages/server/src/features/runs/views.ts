import { type RunInfo, sentenceOf, type Task } from '@kanonos/contract';
import { dayOf, decisionsFor, isReleased } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { Db } from '../../platform/db/connect.ts';
import { refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/service.ts';
import { toVersions } from '../documents/files.ts';
import {
  fieldChanges,
  filesOf,
  findDocument,
  findRevision,
  listRevisionsOf,
  type Opened,
  predecessorOf,
  versionsOf,
} from '../documents/service.ts';
import { getType } from '../rules/service.ts';
import { filesToOpen, getRecord, nameAsked, signaturesOf } from '../signing/service.ts';
import { answerRefusals, openAssignment } from './asked.ts';
import * as store from './store.ts';

const ruleWords = (rule: store.StepRow['rule']) => (rule.kind === 'k of n' ? `${rule.k} of those asked` : rule.kind);

/** The runs of a revision with steps, decisions and signatures, newest first. */
export const runsOf = async (
  app: App,
  db: Db,
  document: Opened['document'],
  revision: { id: string } & Parameters<typeof signaturesOf>[2],
): Promise<RunInfo[]> => {
  const runs = await store.listRuns(db, revision.id);
  if (runs.length === 0) return [];
  const ids = runs.map((run) => run.id);
  const [steps, assignments, signatures] = [
    await store.listSteps(db, ids),
    await store.listAssignments(db, ids),
    await signaturesOf(db, document, revision),
  ];
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const deputies = new Map(
    (
      await store.listDeputies(
        db,
        assignments.filter((a) => a.state === 'open').map((a) => a.person_id),
        day,
      )
    ).map((d) => [d.person_id, { id: d.deputy_id, name: d.name }]),
  );
  return runs.map((run) => ({
    id: run.id,
    n: run.n,
    state: run.state === 'running' && run.held_up ? 'held up' : run.state,
    startedBy: { id: run.started_by, name: run.started_by_name },
    startedAt: run.started_at.toISOString(),
    endedAt: run.ended_at?.toISOString() ?? null,
    message: run.message,
    hindrances: run.held_up ?? [],
    digest: run.digest,
    steps: steps
      .filter((step) => step.run_id === run.id)
      .map((step) => ({
        id: step.id,
        n: step.n + 1,
        name: step.name,
        kind: step.kind,
        meaning: step.meaning,
        rule: ruleWords(step.rule),
        state: step.state,
        dueOn: step.due_on,
        openedAt: step.opened_at?.toISOString() ?? null,
        assignments: assignments
          .filter((a) => a.step_id === step.id)
          .map((a) => {
            const signature = signatures.find((s) => s.assignmentId === a.id);
            return {
              id: a.id,
              person: { id: a.person_id, name: a.person_name },
              state: a.state,
              dueOn: step.due_on,
              since: a.opened_at?.toISOString() ?? null,
              late: a.state === 'open' && step.due_on !== null && step.due_on < day,
              awayDeputy: a.state === 'open' ? (deputies.get(a.person_id) ?? null) : null,
              decision: a.decision,
              words: a.words,
              decidedAt: a.decided_at?.toISOString() ?? null,
              decidedBy: a.decided_by ? { id: a.decided_by, name: a.decided_by_name ?? '' } : null,
              onVersion: a.on_version,
              signature: signature ? strip(signature) : null,
            };
          }),
      })),
  }));
};

const strip = ({ assignmentId: _a, personId: _p, ...signature }: Awaited<ReturnType<typeof signaturesOf>>[number]) =>
  signature;

/** Everything that a person needs to decide in a step. */
export const task = async (app: App, viewer: Viewer, id: string): Promise<Task> => {
  const organisation = await app.organisation();
  const day = dayOf(app.clock(), organisation.zone);
  const asked = await openAssignment(app.db, viewer, id, day);
  const { assignment, run, step, steps } = asked;
  const [document, revision] = [
    await findDocument(app.db, run.document_id),
    await findRevision(app.db, run.revision_id),
  ];
  if (!document || !revision) throw refused('not_found');
  const type = await getType(app.db, document.type_id);
  const [latest] = await versionsOf(app.db, revision.id);
  if (!latest) throw refused('not_found');
  const [version] = toVersions(
    { document, type },
    revision,
    [latest],
    await filesOf(app.db, [latest.id]),
    (await app.organisation()).zone,
  );
  const runs = await runsOf(app, app.db, document, revision);
  const current = runs.find((r) => r.id === run.id);
  if (!version || !current) throw refused('not_found');
  const revisions = await listRevisionsOf(app.db, document.id);
  const before = predecessorOf(revisions, revision);
  const record = run.record_id ? await getRecord(app.db, run.record_id) : undefined;
  const decisions = decisionsFor(step.kind);
  const [positive = 'approve'] = decisions;
  const refusals = await answerRefusals(app.db, asked, viewer, positive, '-');
  return {
    assignmentId: id,
    document: { id: document.id, number: document.number, type: type.name },
    label: revision.label,
    title: revision.title,
    mark: isReleased(revision.state) ? (revision.state === 'in force' ? 'in force' : 'old') : 'open',
    step: step.name,
    stepKind: step.kind,
    meaning: step.meaning,
    stepOf: `${step.n + 1} of ${steps.length}`,
    due: step.due_on,
    late: step.due_on !== null && step.due_on < day && assignment.state === 'open',
    askedBy: { id: run.started_by, name: run.started_by_name },
    message: run.message,
    asDeputyFor: assignment.person_id === viewer.id ? null : { id: assignment.person_id, name: assignment.person_name },
    reason: revision.reason,
    summary: revision.summary,
    changeKind: revision.change_kind,
    changes: fieldChanges(type.fields, before, revision),
    inForceLabel: before?.label ?? null,
    beforeVersionId: before?.latest_version_id ?? null,
    version,
    run: current,
    decisions: [...decisions],
    signs: step.kind === 'approval',
    digest: record?.digest ?? null,
    files: await filesToOpen(app.db, viewer, document.id, latest.id),
    asksForName: nameAsked(app, viewer, organisation.signingIdleMinutes),
    refusals: refusals.map((r) => ({ code: r.code, detail: sentenceOf(r.code, r.params, organisation.zone) })),
    revisionId: revision.id,
    mayEdit: step.editing && assignment.state === 'open',
    zone: organisation.zone,
    signInName: viewer.signInName,
  };
};
