import { type AnswerOf, type api, type BodyOf, type RoundChangeBody, sentenceOf } from '@kanonos/contract';
import {
  addWorkingDays,
  adHocRoute,
  dayInWords,
  decideAddStep,
  decideSkip,
  hasRight,
  leadsToRelease,
  placeOfAdded,
  roundChangesFor,
  withStepAt,
} from '@kanonos/core';
import { workAddress } from '../../platform/addresses.ts';
import type { App, UnitOfWork } from '../../platform/app.ts';
import { newId } from '../../platform/db/ids.ts';
import { assertAllowed, RefusalError, refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { type Opened, runCommand, subjectOf, workOf } from '../documents/index.ts';
import { notify } from '../mailing/index.ts';
import { namesOf, teamOf } from '../people/index.ts';
import { listAuthors } from '../revisions/index.ts';
import { ensureReads } from './ensureReads.ts';
import { judgeNewAssignee } from './newAssignee.ts';
import { advance } from './progress.ts';
import { recallRound } from './recallRound.ts';
import { remindRound } from './remind.ts';
import * as store from './store.ts';

/** A running round under the lock of its document, with all that a change to it needs. */
type Running = {
  app: App;
  viewer: Viewer;
  work: UnitOfWork;
  opened: Opened;
  revision: NonNullable<Opened['work']>;
  round: store.RoundRow;
  steps: store.StepRow[];
  assignments: (store.AssignmentRow & { round_id: string })[];
  reason: string;
};

/** Changes one or many running rounds, each in its own transaction: one that is refused does not stop the others. */
export const changeRounds = async (
  app: App,
  viewer: Viewer,
  { rounds, change, reason }: BodyOf<typeof api.rounds.change>,
): Promise<AnswerOf<typeof api.rounds.change>> => {
  // Everybody concerned is told why; a reminder explains itself.
  if (change.kind !== 'remind' && reason === '') throw refused('reason_missing');
  const { zone } = await app.organisation();
  const answer: AnswerOf<typeof api.rounds.change> = { changed: 0, refused: [] };
  for (const id of new Set(rounds)) {
    let number = '';
    try {
      const found = await store.findRound(app.db, id);
      if (!found) throw refused('not_found');
      await runCommand(app, viewer, { document: found.document_id }, async (work, opened) => {
        number = opened.document.number;
        await changeRound(await openRunning(app, viewer, work, opened, id, reason), change);
      });
      answer.changed++;
    } catch (error) {
      if (!(error instanceof RefusalError)) throw error;
      answer.refused.push({
        round: id,
        number,
        reasons: error.refusals.map((one) => sentenceOf(one.code, one.params, zone)),
      });
    }
  }
  return answer;
};

const openRunning = async (
  app: App,
  viewer: Viewer,
  work: UnitOfWork,
  opened: Opened,
  id: string,
  reason: string,
): Promise<Running> => {
  await store.lockRound(work.trx, id);
  const round = await store.findRound(work.trx, id);
  if (round?.state !== 'running') throw refused('round_ended');
  return {
    app,
    viewer,
    work,
    opened,
    revision: revisionOf(opened, round),
    round,
    steps: await store.listSteps(work.trx, [id]),
    assignments: await store.listAssignments(work.trx, [id]),
    reason,
  };
};

/** What a round is about: what is in work, or for an ad hoc round the revision that it was started on. */
const revisionOf = (opened: Opened, round: store.RoundRow) => {
  const found = leadsToRelease(round.definition)
    ? workOf(opened, 'change a round')
    : opened.revisions.find(({ id }) => id === round.revision_id);
  if (!found) throw refused('not_found');
  return found;
};

const changeRound = async (running: Running, change: RoundChangeBody): Promise<void> => {
  await assertMay(running, change);
  switch (change.kind) {
    case 'remind':
      if (!running.assignments.some((one) => one.state === 'open')) throw refused('no_step_open');
      return void (await remindRound(running.app, running.work, running.viewer, running));
    case 'reassign':
      return reassign(running, change.from, change.to);
    case 'take over':
      return reassign(running, change.from, running.viewer.id);
    case 'add person':
      return addPerson(running, change);
    case 'add step':
      return addStep(running, change);
    case 'extend':
      return extend(running, change);
    case 'skip step':
      return skipSteps(running, change);
    case 'cancel':
      return recallRound(running.app, running.work, running.viewer, running, running.reason);
  }
};

const assertMay = async ({ viewer, work, opened, round, assignments }: Running, change: RoundChangeBody) => {
  const team = new Set((await teamOf(work.trx, viewer.id, work.day)).map(({ id }) => id));
  const replaced =
    'from' in change ? [change.from] : assignments.flatMap((one) => (one.state === 'open' ? [one.person_id] : []));
  const allowed = roundChangesFor({
    isController: hasRight(opened.rights, 'release') || hasRight(opened.rights, 'manage'),
    startedIt: round.started_by === viewer.id,
    isAdHoc: !leadsToRelease(round.definition),
    supervisesAwaited: replaced.some((id) => team.has(id)),
  });
  if (!allowed.includes(change.kind)) throw refused('round_change_forbidden', { change: change.kind });
};

const assertAskable = async (running: Running, step: store.StepRow, personId: string, replaces: string | null) => {
  const { name, refusals } = await judgeNewAssignee(running, step, personId, replaces);
  assertAllowed(refusals);
  if (!leadsToRelease(running.round.definition))
    await ensureReads(running.work, running.opened, running.revision, personId, name);
  return name;
};

/** Gives all that a person has not answered in the round to somebody else, who is asked at once where it is their turn. */
const reassign = async (running: Running, from: string, to: string) => {
  const { app, viewer, work, opened, revision, round, steps, assignments, reason } = running;
  const given = assignments.filter(
    (one) => one.person_id === from && (one.state === 'open' || one.state === 'waiting'),
  );
  const names = await namesOf(work.trx, [from, to]);
  const fromName = names.get(from)?.name ?? '';
  if (given.length === 0) throw refused('not_awaited', { who: fromName });
  const concerned = steps.filter((step) => given.some((one) => one.step_id === step.id));
  let toName = '';
  for (const step of concerned) toName = await assertAskable(running, step, to, from);
  await store.giveAssignments(
    work.trx,
    given.map((one) => one.id),
    to,
  );
  work.record({
    kind: 'assignment.reassigned',
    subject: subjectOf(opened.document, revision),
    payload: { round: round.n, steps: concerned.map((step) => step.name), from: fromName, to: toName, reason },
  });
  if (from !== viewer.id)
    await notify(app, work, [from], {
      kind: 'round ended',
      about: opened.document.id,
      subject: `${opened.document.number} ${revision.label} was reassigned to ${toName}`,
      lead: `${viewer.name} reassigned it; your decision is no longer needed.`,
      quote: reason,
      link: { path: '/', label: 'Open my Desk' },
    });
  await advance(app, work, { document: opened.document, revision, round });
};

/** The open steps that are meant: the one that is named, or all. */
const openSteps = ({ steps }: Running, named: number | undefined): store.StepRow[] => {
  const open = steps.filter((one) => one.state === 'open' && (named === undefined || one.n + 1 === named));
  if (open.length === 0) throw refused('no_step_open');
  return open;
};

const addPerson = async (running: Running, { person: personId, step: named }: { person: string; step?: number }) => {
  const { app, work, opened, revision, round } = running;
  for (const step of openSteps(running, named))
    await addToStep(running, step, personId, await assertAskable(running, step, personId, null));
  await advance(app, work, { document: opened.document, revision, round });
};

/** Adds a step after those that are open, in a stage of its own; the route of the type stays as it is. */
const addStep = async (
  running: Running,
  { added, workingDays }: Extract<RoundChangeBody, { kind: 'add step' }>,
): Promise<void> => {
  const { app, work, opened, revision, round, steps, reason } = running;
  const { leadsTo, ...route } = adHocRoute(
    '',
    [{ ...added, isAnyOne: added.isAnyOne ?? false, beside: false }],
    workingDays,
  );
  const [definition] = route.steps;
  if (!definition) return;
  assertAllowed(decideAddStep(steps, definition, round.definition));
  const at = placeOfAdded(steps, definition.kind, round.definition);
  const stage = steps[at]?.stage ?? 1 + Math.max(...steps.map((one) => one.stage));
  // What held it up is looked at again once the new step is done.
  if (round.held_up) await store.setHeldUp(work.trx, round.id, null);
  await store.makeRoom(work.trx, { roundId: round.id, at, stage });
  const next = withStepAt(round.definition, at, definition);
  await store.setDefinition(work.trx, round.id, next);
  const id = newId();
  await store.insertStep(work.trx, {
    id,
    roundId: round.id,
    n: at,
    name: definition.name,
    kind: definition.kind,
    meaning: definition.meaning ?? null,
    rule: definition.rule,
    workingDays,
    editing: false,
    onReject: 'draft',
    stage,
    state: 'waiting',
  });
  const people = [...new Set(added.people)];
  const now = { ...running, steps: await store.listSteps(work.trx, [round.id]) };
  const step = now.steps.find((one) => one.id === id);
  if (!step) return;
  const names: string[] = [];
  for (const person of people) names.push(await assertAskable(now, step, person, null));
  await store.insertAssignments(
    work.trx,
    id,
    people.map((personId, n) => ({ id: newId(), personId, n })),
  );
  work.record({
    kind: 'step.added',
    subject: subjectOf(opened.document, revision),
    payload: { round: round.n, step: definition.name, people: names, reason },
  });
  await advance(app, work, { document: opened.document, revision, round: { ...round, definition: next } });
};

const addToStep = async (running: Running, step: store.StepRow, personId: string, person: string) => {
  const { work, opened, revision, round, assignments, reason } = running;
  const last = Math.max(...assignments.filter((one) => one.step_id === step.id).map((one) => one.n), -1);
  await store.insertAssignments(work.trx, step.id, [{ id: newId(), personId, n: last + 1 }]);
  work.record({
    kind: 'assignment.added',
    subject: subjectOf(opened.document, revision),
    payload: { round: round.n, step: step.name, person, reason },
  });
};

/** Tells those who are awaited now of a change to their task. */
const tellAwaited = async (
  { app, work, viewer, opened, revision, assignments, reason }: Running,
  step: store.StepRow,
  what: { subject: string; lead: string; isOver: boolean },
) => {
  for (const one of assignments.filter((a) => a.step_id === step.id && a.state === 'open' && a.person_id !== viewer.id))
    await notify(app, work, [one.person_id], {
      kind: what.isOver ? 'round ended' : 'task',
      about: opened.document.id,
      subject: `${opened.document.number} ${revision.label}: ${what.subject}`,
      lead: what.lead,
      quote: reason,
      link: what.isOver
        ? { path: workAddress(opened.document.number), label: 'Open the document' }
        : { path: `/tasks/${one.id}`, label: 'Decide' },
    });
};

const extend = async (running: Running, { workingDays, step: named }: { workingDays: number; step?: number }) => {
  for (const step of openSteps(running, named)) await extendStep(running, step, workingDays);
};

const extendStep = async (running: Running, step: store.StepRow, workingDays: number) => {
  const { viewer, work, opened, revision, round, reason } = running;
  const from = step.due_on !== null && step.due_on > work.day ? step.due_on : work.day;
  const due = addWorkingDays(from, workingDays, work.organisation.calendar);
  await store.setDue(work.trx, step.id, due);
  work.record({
    kind: 'step.extended',
    subject: subjectOf(opened.document, revision),
    payload: { round: round.n, step: step.name, before: step.due_on, after: due, reason },
  });
  await tellAwaited(running, step, {
    subject: `now due ${dayInWords(due)}`,
    lead: `${viewer.name} moved the due day of “${step.name}” to ${dayInWords(due)}.`,
    isOver: false,
  });
};

const skipSteps = async (running: Running, { step: named }: { step?: number }) => {
  const { app, work, opened, revision, round, steps, assignments } = running;
  const skipped = openSteps(running, named);
  const isRelease = leadsToRelease(round.definition);
  const authors = new Set(await listAuthors(work.trx, revision.id));
  const signers = assignments.filter((one) => one.decision === 'approve').flatMap((one) => one.decided_by ?? []);
  assertAllowed(decideSkip(steps, skipped, !isRelease || signers.some((id) => !authors.has(id))));
  for (const step of skipped) await skipStep(running, step);
  await advance(app, work, { document: opened.document, revision, round });
};

const skipStep = async (running: Running, step: store.StepRow) => {
  const { viewer, work, opened, revision, round, reason } = running;
  await store.endStep(work.trx, { id: step.id, state: 'not needed', now: work.now });
  await store.closeAssignments(work.trx, [step.id]);
  work.record({
    kind: 'step.skipped',
    subject: subjectOf(opened.document, revision),
    payload: { round: round.n, step: step.name, reason },
  });
  await tellAwaited(running, step, {
    subject: `${step.name} was skipped`,
    lead: `${viewer.name} skipped it; your decision is no longer needed.`,
    isOver: true,
  });
};
