import { type RoundInfo, type SignatureInfo, sentenceOf, type Task } from '@kanonos/contract';
import { dayOf, decisionsFor, leadsToRelease } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { Db } from '../../platform/db/connect.ts';
import { refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import type { Opened } from '../documents/index.ts';
import { findDocument, toVersions } from '../documents/index.ts';
import {
  fieldChanges,
  findRevision,
  listFiles,
  listRevisions,
  listVersions,
  markOf,
  predecessorOf,
} from '../revisions/index.ts';
import { getType, policyOf } from '../rules/index.ts';
import { filesToOpen, getRecord, nameAssignees, signaturesOf } from '../signing/index.ts';
import { answerRefusals, openAssignment } from './assignment.ts';
import { besideRounds } from './besideRounds.ts';
import { comparedWith } from './comparedWith.ts';
import { coveredBy } from './covered.ts';
import { forecastRounds } from './forecasting.ts';
import { stepsAhead } from './stepsAhead.ts';
import * as store from './store.ts';
import { listAbsences } from './storePast.ts';
import { findNextTask } from './storeTask.ts';

const ruleWords = (rule: store.StepRow['rule']) => (rule.kind === 'k of n' ? `${rule.k} of the assignees` : rule.kind);

/**
 * The runs of a revision with steps, decisions and signatures, newest first. The running one is forecast only where that is shown:
 * previews are leafed through.
 */
export const roundsOf = async (
  app: App,
  db: Db,
  viewer: Viewer,
  document: Opened['document'],
  revision: { id: string } & Parameters<typeof signaturesOf>[2],
  { isForecast = false }: { isForecast?: boolean } = {},
): Promise<RoundInfo[]> => {
  const rounds = await store.listRounds(db, revision.id);
  if (rounds.length === 0) return [];
  const ids = rounds.map((round) => round.id);
  const [steps, assignments, signatures] = await Promise.all([
    store.listSteps(db, ids),
    store.listAssignments(db, ids),
    signaturesOf(db, document, revision),
  ]);
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
  const running = isForecast
    ? rounds.find((round) => round.state === 'running' && round.leads_to === 'release' && !round.held_up)
    : undefined;
  const forecast = running && (await forecastOf(app, db, document, steps, assignments, running.id));
  const beside = await besideRounds(db, viewer, rounds, day);
  return rounds.map((round) => ({
    id: round.id,
    n: round.n,
    name: round.definition.name,
    isAdHoc: !leadsToRelease(round.definition),
    lastDay: round.last_day,
    ...beside(round.id),
    state: round.state === 'running' && round.held_up ? 'held up' : round.state,
    startedBy: { id: round.started_by, name: round.started_by_name },
    startedAt: round.started_at.toISOString(),
    endedAt: round.ended_at?.toISOString() ?? null,
    message: round.message,
    blockers: round.held_up ?? [],
    digest: round.digest,
    forecast: (round === running && forecast) || null,
    steps: steps
      .filter((step) => step.round_id === round.id)
      .map((step) => ({
        id: step.id,
        n: step.n + 1,
        stage: step.stage + 1,
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
              overdue: a.state === 'open' && step.due_on !== null && step.due_on < day,
              awayDeputy: a.state === 'open' ? (deputies.get(a.person_id) ?? null) : null,
              decision: a.decision,
              comment: a.comment,
              decidedAt: a.decided_at?.toISOString() ?? null,
              decidedBy: a.decided_by ? { id: a.decided_by, name: a.decided_by_name ?? '' } : null,
              onVersion: a.on_version,
              signature: signature ? strip(signature) : null,
            };
          }),
      })),
  }));
};

/** The signatures on a revision that were given outside a round. */
export const signaturesOutside = async (
  db: Db,
  document: Opened['document'],
  revision: Parameters<typeof signaturesOf>[2],
): Promise<SignatureInfo[]> =>
  (await signaturesOf(db, document, revision)).filter((one) => one.assignmentId === null).map(strip);

/** When a running round will be done. */
const forecastOf = async (
  app: App,
  db: Db,
  document: Opened['document'],
  steps: readonly store.StepRow[],
  assignments: readonly (store.AssignmentRow & { round_id: string })[],
  roundId: string,
) => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const own = steps
    .filter((step) => step.round_id === roundId)
    .map((step) => ({ ...step, assignments: assignments.filter((one) => one.step_id === step.id) }));
  const awaited = assignments.filter((one) => one.round_id === roundId).map((one) => one.person_id);
  const { code } = await getType(db, document.type_id);
  const [forecast] = await forecastRounds(
    app,
    db,
    [{ type: code, steps: stepsAhead(own) }],
    await listAbsences(db, awaited, day),
  );
  return forecast;
};

const strip = ({
  assignmentId: _a,
  personId: _p,
  leadsTo: _l,
  ...signature
}: Awaited<ReturnType<typeof signaturesOf>>[number]) => signature;

/** Everything that a person needs to decide in a step. */
export const task = async (app: App, viewer: Viewer, id: string): Promise<Task> => {
  const organisation = await app.organisation();
  const day = dayOf(app.clock(), organisation.zone);
  const assigned = await openAssignment(app.db, viewer, id, day);
  const { assignment, round, step, steps } = assigned;
  const [document, revision] = [
    await findDocument(app.db, round.document_id),
    await findRevision(app.db, round.revision_id),
  ];
  if (!document || !revision) throw refused('not_found');
  const type = await getType(app.db, document.type_id);
  const [latest] = await listVersions(app.db, revision.id);
  if (!latest) throw refused('not_found');
  const [version] = toVersions(
    { document, type },
    revision,
    [latest],
    await listFiles(app.db, [latest.id]),
    (await app.organisation()).zone,
  );
  const rounds = await roundsOf(app, app.db, viewer, document, revision);
  const current = rounds.find((r) => r.id === round.id);
  if (!version || !current) throw refused('not_found');
  const revisions = await listRevisions(app.db, document.id);
  const before = predecessorOf(revisions, revision);
  const record = round.record_id ? await getRecord(app.db, round.record_id) : undefined;
  const decisions = decisionsFor(step.kind);
  const [positive = 'approve'] = decisions;
  const refusals = await answerRefusals(app.db, assigned, viewer, positive, '-');
  const next = await findNextTask(app.db, {
    personId: viewer.id,
    assignmentId: id,
    after: step.due_on,
    number: document.number,
  });
  return {
    assignmentId: id,
    document: { id: document.id, number: document.number, type: type.name },
    isChangeNote: policyOf(type).isChangeNote,
    label: revision.label,
    title: revision.title,
    mark: markOf(revision.state, document.hold !== null),
    step: step.name,
    stepKind: step.kind,
    meaning: step.meaning,
    stepOf: `${step.stage + 1} of ${1 + Math.max(...steps.map(({ stage }) => stage))}`,
    due: step.due_on,
    overdue: step.due_on !== null && step.due_on < day && assignment.state === 'open',
    askedBy: { id: round.started_by, name: round.started_by_name },
    message: round.message,
    asDeputyFor: assignment.person_id === viewer.id ? null : { id: assignment.person_id, name: assignment.person_name },
    reason: revision.reason,
    summary: revision.summary,
    changeKind: revision.change_kind,
    changes: fieldChanges(type.fields, before, revision),
    inForceLabel: before?.label ?? null,
    comparedWith: await comparedWith(app.db, viewer, {
      documentId: document.id,
      revision,
      before,
      versionId: latest.id,
      submittedVersion: round.on_version ?? 0,
    }),
    nextTask: next ? { assignmentId: next.id, number: next.number } : null,
    version,
    round: current,
    decisions: [...decisions],
    signs: step.kind === 'approval',
    digest: record?.digest ?? null,
    covers: record ? await coveredBy(app.db, record, type) : null,
    files: await filesToOpen(app.db, viewer, document.id, latest.id),
    asksForName: nameAssignees(app, viewer, organisation.signingIdleMinutes),
    refusals: refusals.map((r) => ({ code: r.code, detail: sentenceOf(r.code, r.params, organisation.zone) })),
    revisionId: revision.id,
    decidedAlone: round.definition.decidedAlone ?? false,
    mayEdit: step.editing && assignment.state === 'open',
    zone: organisation.zone,
    signInName: viewer.signInName,
  };
};
