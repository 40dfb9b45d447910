import { type AnswerOf, type api, type BodyOf, type RunInfo, sentenceOf, type Task } from '@kanonos/contract';
import {
  type Decision,
  dayOf,
  decideAct,
  decideAnswer,
  decisionsFor,
  isPositive,
  isReleased,
  type Refusal,
  type RouteDefinition,
  refusal,
  resolveStep,
  stepOutcome,
} from '@kanonos/core';
import type { App, Work } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { ensureAllowed, refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/service.ts';
import { openBlocking, resolveComment as resolve } from '../comments/service.ts';
import { toVersions } from '../documents/files.ts';
import {
  authorsOf,
  factChanges,
  filesOf,
  findDocument,
  findRevision,
  listRevisionsOf,
  lockDocument,
  type Opened,
  openForAct,
  predecessorOf,
  type RouteFacts,
  situationOf,
  subjectOf,
  versionsOf,
} from '../documents/service.ts';
import { actOn } from '../effect/service.ts';
import { notify } from '../mailing/service.ts';
import { membersOf, namesOf, supervisorOf } from '../people/service.ts';
import { getType, type TypeRow } from '../rules/service.ts';
import { actorOf } from '../session/service.ts';
import { type Credentials, checkSigning, getRecord, nameAsked, sign, signaturesOf } from '../signing/service.ts';
import { advance, stopRun } from './progress.ts';
import * as store from './store.ts';

/** Finds the people of every step of a route for a document; what cannot be filled is named. */
const resolveRoute = async (
  db: Db | Trx,
  app: App,
  opened: Opened,
  type: TypeRow,
  chosen: readonly string[],
  day: string,
) => {
  const units = type.route.steps.flatMap((step) =>
    step.asked.flatMap((asked) => (asked.by === 'unit' ? [asked.unitId] : [])),
  );
  const house = await app.house();
  const supervisor = await supervisorOf(db, opened.document.owner_id, day);
  const lookups = {
    ownerId: opened.document.owner_id,
    ...(supervisor ? { ownerSupervisorId: supervisor } : {}),
    unitMembers: await membersOf(db, units, day),
    fieldHolders: Object.fromEntries(
      Object.entries({ ...opened.document.facts, ...opened.work?.facts }).map(([key, value]) => [
        key,
        typeof value === 'string' ? value : undefined,
      ]),
    ),
    chosen,
    fallbacks: [house.fallbackApprover].filter((id): id is string => id !== null),
  };
  return type.route.steps.map((step) => ({ step, people: resolveStep(step, lookups) }));
};

/** What the rules of the life of a revision need to know of route and run. */
export const routeFactsOf = async (
  app: App,
  db: Db | Trx,
  opened: Opened,
  viewer: Viewer,
  day: string,
): Promise<RouteFacts> => {
  const { type, work } = opened;
  const run = work ? await store.findOpenRun(db, work.id) : undefined;
  // Who is chosen is known only when it is sent: a step with a choice counts as fillable until then.
  const resolved =
    work?.state === 'draft'
      ? await resolveRoute(db, app, opened, type, ['chosen-later', 'chosen-later-2', 'chosen-later-3'], day)
      : [];
  const steps = run ? await store.listSteps(db, [run.id]) : [];
  const open = steps.find((step) => step.state === 'open');
  const mine =
    open && run
      ? (await store.listAssignments(db, [run.id])).some(
          (a) => a.step_id === open.id && a.state === 'open' && a.person_id === viewer.id,
        )
      : false;
  return {
    steps: type.route.steps.length,
    unfilled: resolved.flatMap(({ step, people }) => (people.ok ? [] : [step.name])),
    mayCheckInByStep: Boolean(open?.editing && mine),
    hasOpenRun: run !== undefined,
  };
};

/** Sends a draft for review and approval: a new run of the type's route as it stands now. */
export const send = (
  app: App,
  viewer: Viewer,
  ref: string,
  input: BodyOf<typeof api.documents.send>,
): Promise<{ run: number }> =>
  actOn(app, viewer, ref, async (work) => {
    const opened = await openForAct(work, viewer, ref);
    const { document, type } = opened;
    ensureAllowed(
      decideAct(
        'send',
        await situationOf(work.trx, opened, viewer, await routeFactsOf(app, work.trx, opened, viewer, work.day)),
      ),
    );
    const revision = opened.work;
    if (!revision) throw refused('wrong_state', { act: 'send', state: 'none in work' });
    if (!type.route.steps.some((step) => step.kind !== 'approval')) {
      const blocking = await openBlocking(work.trx, revision.id);
      if (blocking[0]) throw refused('blocking_comment', blocking[0]);
    }
    const chosen = await namesOf(work.trx, input.chosen);
    for (const id of input.chosen) {
      const person = chosen.get(id);
      if (!person || person.state === 'deactivated')
        throw refused('person_inactive', { who: person?.name ?? 'A person chosen' });
    }
    const resolved = await resolveRoute(work.trx, app, opened, type, input.chosen, work.day);
    ensureAllowed(resolved.flatMap(({ people }) => (people.ok ? [] : people.refusals)));
    const run = await startRun(work, {
      document,
      revision,
      definition: type.route,
      message: input.message,
      people: resolved.map(({ people }) => (people.ok ? people.value : [])),
    });
    work.record({
      kind: 'revision.sent',
      subject: subjectOf(document, revision),
      payload: {
        run: run.n,
        message: input.message,
        version: revision.version_count,
        steps: type.route.steps.map((step) => step.name),
      },
    });
    await advance(app, work, { document, revision, run });
    return { run: run.n };
  });

const startRun = async (
  work: Work,
  input: {
    document: Opened['document'];
    revision: NonNullable<Opened['work']>;
    definition: RouteDefinition;
    message: string;
    people: string[][];
  },
) => {
  const id = newId();
  const n = ((await store.listRuns(work.trx, input.revision.id))[0]?.n ?? 0) + 1;
  await store.insertRun(work.trx, {
    id,
    documentId: input.document.id,
    revisionId: input.revision.id,
    n,
    definition: input.definition,
    message: input.message,
    by: work.actor.id ?? '',
    now: work.now,
  });
  for (const [index, step] of input.definition.steps.entries()) {
    const stepId = newId();
    await store.insertStep(work.trx, {
      id: stepId,
      runId: id,
      n: index,
      name: step.name,
      kind: step.kind,
      meaning: step.meaning ?? null,
      rule: step.rule,
      workingDays: step.workingDays,
      editing: step.editing ?? false,
      onDecline: String(step.onDecline),
    });
    await store.insertAssignments(
      work.trx,
      stepId,
      (input.people[index] ?? []).map((personId, position) => ({ id: newId(), personId, n: position })),
    );
  }
  const run = await store.findRun(work.trx, id);
  if (!run) throw new Error('the run just made is not there');
  return run;
};

type Asked = {
  assignment: store.AssignmentRow & { run_id: string };
  run: store.RunRow;
  step: store.StepRow;
  steps: store.StepRow[];
  all: (store.AssignmentRow & { run_id: string })[];
};

/** Opens an assignment for the person asked or the deputy; for anybody else it does not exist. */
const openAssignment = async (db: Db | Trx, viewer: Viewer, id: string, day: string): Promise<Asked> => {
  const assignment = await store.findAssignment(db, id);
  if (!assignment) throw refused('not_found');
  const isDeputy =
    assignment.person_id !== viewer.id &&
    (await store.listDeputies(db, [assignment.person_id], day)).some((d) => d.deputy_id === viewer.id);
  if (assignment.person_id !== viewer.id && !isDeputy && assignment.decided_by !== viewer.id)
    throw refused('not_found');
  const run = await store.findRun(db, assignment.run_id);
  if (!run) throw refused('not_found');
  const steps = await store.listSteps(db, [run.id]);
  const step = steps.find((s) => s.id === assignment.step_id);
  if (!step) throw refused('not_found');
  return { assignment, run, step, steps, all: await store.listAssignments(db, [run.id]) };
};

const answerRefusals = async (
  db: Db | Trx,
  asked: Asked,
  viewer: Viewer,
  decision: Decision,
  words: string,
): Promise<Refusal[]> => {
  const { assignment, run, step, steps, all } = asked;
  const own = all.filter((a) => a.step_id === step.id);
  const after = own.map((a) =>
    a.id === assignment.id
      ? decision === 'decline'
        ? ('decline' as const)
        : ('positive' as const)
      : store.toAnswer(a),
  );
  const isLastApproval = step.kind === 'approval' && !steps.some((s) => s.kind === 'approval' && s.n > step.n);
  const approvals = new Set(steps.filter((s) => s.kind === 'approval').map((s) => s.id));
  return decideAnswer({
    decision,
    words,
    kind: step.kind,
    assignmentState: assignment.state,
    runOpen: run.state === 'running',
    deciderId: viewer.id,
    principalId: assignment.person_id,
    answeredInStepBy: own
      .filter((a) => a.id !== assignment.id && a.state === 'answered')
      .flatMap((a) => (a.decided_by ? [a.decided_by] : [])),
    authors: new Set(await authorsOf(db, run.revision_id)),
    signedBy: all
      .filter((a) => approvals.has(a.step_id) && a.decision === 'approve')
      .flatMap((a) => (a.decided_by ? [a.decided_by] : [])),
    isLastSignature: isLastApproval && stepOutcome(step.rule, after).state === 'done',
  });
};

/** Decides in a step; approving signs. Whoever decides first for an assignment closes it, deputy or principal. */
export const decide = async (
  app: App,
  viewer: Viewer,
  id: string,
  input: BodyOf<typeof api.tasks.decide>,
): Promise<AnswerOf<typeof api.tasks.decide>> => {
  const day = dayOf(app.clock(), (await app.house()).zone);
  const before = await openAssignment(app.db, viewer, id, day);
  const signs = before.step.kind === 'approval' && input.decision === 'approve';
  const named = (refusals: Refusal[], asked: Asked) =>
    refusals.map((r) =>
      r.code === 'already_decided' && asked.assignment.decided_by_name
        ? refusal(r.code, { who: asked.assignment.decided_by_name })
        : r,
    );
  ensureAllowed(named(await answerRefusals(app.db, before, viewer, input.decision, input.words), before));
  if (signs) {
    const record = before.run.record_id ? await getRecord(app.db, before.run.record_id) : undefined;
    const [document, revision] = [
      await findDocument(app.db, before.run.document_id),
      await findRevision(app.db, before.run.revision_id),
    ];
    if (!document || !revision || !record) throw refused('record_changed');
    const credentials: Credentials = { name: input.name, password: input.password };
    await checkSigning(app, viewer, credentials, { frozen: record.digest, seen: input.digest ?? '' }, [
      document,
      revision,
    ]);
  }
  return app.act(actorOf(viewer), async (work) => {
    await lockDocument(work.trx, before.run.document_id);
    await store.lockRun(work.trx, before.run.id);
    const asked = await openAssignment(work.trx, viewer, id, work.day);
    ensureAllowed(named(await answerRefusals(work.trx, asked, viewer, input.decision, input.words), asked));
    const document = await findDocument(work.trx, asked.run.document_id);
    const revision = await findRevision(work.trx, asked.run.revision_id);
    if (!document || !revision) throw refused('not_found');
    if (input.version !== revision.version_count) throw refused('changed_meanwhile');
    const done = await store.answer(work.trx, {
      id,
      decision: input.decision,
      words: input.words,
      now: work.now,
      by: viewer.id,
      version: revision.version_count,
    });
    if (done === 0) throw refused('already_decided');
    const asDeputy = asked.assignment.person_id !== viewer.id;
    let signature: { id: string; digest: string } | undefined;
    if (signs) {
      const record = asked.run.record_id ? await getRecord(work.trx, asked.run.record_id) : undefined;
      if (!record || record.digest !== input.digest) throw refused('record_changed');
      signature = await sign(work, viewer, {
        record,
        meaning: asked.step.meaning ?? asked.step.name,
        forPersonId: asDeputy ? asked.assignment.person_id : null,
        assignmentId: id,
      });
    }
    work.record({
      kind: 'decision.given',
      subject: subjectOf(document, revision),
      ...(asDeputy ? { for: asked.assignment.person_name } : {}),
      payload: {
        run: asked.run.n,
        step: asked.step.name,
        decision: input.decision,
        words: input.words,
        version: revision.version_count,
        ...(signature
          ? { signature: signature.id, digest: signature.digest, meaning: asked.step.meaning ?? asked.step.name }
          : {}),
      },
    });
    if (input.decision !== 'decline' && asked.run.started_by !== viewer.id) {
      await notify(app, work, [asked.run.started_by], {
        kind: 'decision',
        subject: `${document.number} ${revision.label}: ${viewer.name} ${isPositive(input.decision) && signs ? 'approved' : `says ${input.decision}`}`,
        lead: `${asked.step.name}: ${input.decision}${asDeputy ? ` (for ${asked.assignment.person_name})` : ''}.`,
        ...(input.words ? { quote: input.words } : {}),
        link: { path: `/d/${encodeURIComponent(document.number)}`, words: 'Open the document' },
      });
    }
    await advance(app, work, { document, revision, run: asked.run });
    const [run, moved] = [await store.findRun(work.trx, asked.run.id), await findRevision(work.trx, revision.id)];
    return { runState: run?.state ?? '', documentState: moved?.state ?? revision.state };
  });
};

/** Calls a run back to draft: author or controller, with a reason. */
export const callBack = (app: App, viewer: Viewer, ref: string, reason: string): Promise<void> =>
  actOn(app, viewer, ref, async (work) => {
    const opened = await openForAct(work, viewer, ref);
    ensureAllowed(
      decideAct(
        'call back',
        await situationOf(work.trx, opened, viewer, await routeFactsOf(app, work.trx, opened, viewer, work.day)),
      ),
    );
    const revision = opened.work;
    const run = revision && (await store.findOpenRun(work.trx, revision.id));
    if (!revision || !run) throw refused('run_ended');
    await store.lockRun(work.trx, run.id);
    const waiting = (await store.listAssignments(work.trx, [run.id]))
      .filter((a) => a.state === 'open')
      .map((a) => a.person_id);
    await stopRun(work, { document: opened.document, revision, run }, reason);
    work.record({
      kind: 'revision.called-back',
      subject: subjectOf(opened.document, revision),
      payload: { run: run.n, reason },
    });
    await notify(
      app,
      work,
      waiting.filter((id) => id !== viewer.id),
      {
        kind: 'run end',
        subject: `${opened.document.number} ${revision.label} was called back`,
        lead: `${viewer.name} called it back; your decision is no longer awaited.`,
        quote: reason,
        link: { path: '/', words: 'Open my Desk' },
      },
    );
  });

/** Resolves a comment; a run that waited for it moves on in the same transaction. */
export const resolveComment = (
  app: App,
  viewer: Viewer,
  ref: string,
  commentId: string,
  resolution: string,
): Promise<void> =>
  actOn(app, viewer, ref, async (work) => {
    const opened = await openForAct(work, viewer, ref);
    await resolve(work, viewer, opened, commentId, resolution);
    await moveOn(app, work, opened);
  });

/** Moves a waiting run on when something that hindered it may have gone. */
export const moveOn = async (app: App, work: Work, opened: Opened): Promise<void> => {
  const run = opened.work && (await store.findOpenRun(work.trx, opened.work.id));
  if (!run?.held_up || !opened.work) return;
  await store.lockRun(work.trx, run.id);
  await advance(app, work, { document: opened.document, revision: opened.work, run });
};

export const remind = (app: App, viewer: Viewer, ref: string): Promise<{ reminded: number }> =>
  actOn(app, viewer, ref, async (work) => {
    const opened = await openForAct(work, viewer, ref);
    const run = opened.work && (await store.findOpenRun(work.trx, opened.work.id));
    if (!run || !opened.work)
      throw refused('wrong_state', { act: 'remind', state: opened.work?.state ?? 'none in work' });
    if (run.started_by !== viewer.id && !opened.rights.has('release') && !opened.rights.has('manage'))
      throw refused('right_missing', { right: 'release' });
    const open = (await store.listAssignments(work.trx, [run.id])).filter((a) => a.state === 'open');
    for (const assignment of open) {
      await notify(app, work, [assignment.person_id], {
        kind: 'reminder',
        subject: `Reminder: ${opened.document.number} ${opened.work.label} waits for you`,
        lead: `${viewer.name} reminds you: your decision on ${opened.work.title} is awaited since ${assignment.opened_at?.toISOString().slice(0, 10)}.`,
        link: { path: `/tasks/${assignment.id}`, words: 'Decide' },
      });
    }
    await store.noteReminded(
      work.trx,
      open.map((a) => a.id),
      work.now,
    );
    work.record({
      kind: 'run.reminded',
      subject: subjectOf(opened.document, opened.work),
      payload: { people: open.length },
    });
    return { reminded: open.length };
  });

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
  const day = dayOf(app.clock(), (await app.house()).zone);
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
  const house = await app.house();
  const day = dayOf(app.clock(), house.zone);
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
  const [version] = toVersions({ document, type }, revision, [latest], await filesOf(app.db, [latest.id]));
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
    changes: factChanges(type.fields, before, revision),
    inForceLabel: before?.label ?? null,
    version,
    run: current,
    decisions: [...decisions],
    signs: step.kind === 'approval',
    digest: record?.digest ?? null,
    asksForName: nameAsked(app, viewer, house.signingIdleMinutes),
    refusals: refusals.map((r) => ({ code: r.code, detail: sentenceOf(r.code, r.params) })),
    revisionId: revision.id,
    mayEdit: step.editing && assignment.state === 'open',
    zone: house.zone,
    signInName: viewer.signInName,
  };
};

export const openRunOf = store.findOpenRun;

/** For whom a person stands in on a day. */
export const standingInFor = async (db: Db | Trx, personId: string, day: string): Promise<Set<string>> =>
  new Set((await store.listPrincipals(db, personId, day)).map((row) => row.person_id));
