import type { AnswerOf, api, QueryOf, ReadingTask, Requirement, Team } from '@kanonos/contract';
import { sentenceOf } from '@kanonos/contract';
import {
  addDays,
  compliance,
  dayInWords,
  dayOf,
  daysBetween,
  hasRight,
  isReleased,
  type ReadingState,
  type Refusal,
  type RevisionState,
  readingMinutes,
  recordDigest,
  refusal,
  shownState,
} from '@kanonos/core';
import { documentAddress } from '../../platform/addresses.ts';
import type { App } from '../../platform/app.ts';
import { groupBy } from '../../platform/collections.ts';
import { newId } from '../../platform/db/ids.ts';
import { assertAllowed, refused } from '../../platform/refused.ts';
import { sha256 } from '../../platform/trail/append.ts';
import type { HandlerOf } from '../access/index.ts';
import { actorOf, ensureRight, isWithheld, listScope, toPlace, type Viewer } from '../access/index.ts';
import { insertComment } from '../comments/index.ts';
import { findDocument, openDocument, runCommand, subjectOf, toVersions } from '../documents/index.ts';
import { notify, notifyEach } from '../mailing/index.ts';
import { namesOf, teamOf, unitsByIds } from '../people/index.ts';
import { fieldChanges, findRevision, listFiles, listVersions, markOf } from '../revisions/index.ts';
import { getType } from '../rules/index.ts';
import {
  type Credentials,
  checkSigning,
  filesToOpen,
  latestRecord,
  nameAssignees,
  readingSignature,
  recordTextOf,
  sign,
  toSignatureInfo,
} from '../signing/index.ts';
import { deriveFor, membersOfAudience, termsOf } from './duties.ts';
import { isEveryone, scopesOf, teamMembers } from './scopes.ts';
import * as store from './store.ts';

const today = async (app: App) => dayOf(app.clock(), (await app.organisation()).zone);

export const myReadings = async (app: App, viewer: Viewer): Promise<AnswerOf<typeof api.reading.mine>> => {
  const day = await today(app);
  return {
    rows: (await listMine(app, viewer)).map((row) => ({
      id: row.id,
      number: row.number,
      title: row.title,
      label: row.label,
      mark: markOf(row.revision_state, row.on_hold),
      state: shownState(row.state, row.due_on, day),
      due: row.due_on,
      minutes: readingMinutes(row),
      policy: row.policy,
      closedAt: row.closed_at?.toISOString() ?? null,
    })),
  };
};

const openReading = async (app: App, viewer: Viewer, id: string) => {
  const reading = await store.findReading(app.db, id);
  if (!reading || reading.person_id !== viewer.id) throw refused('not_found');
  const [document, revision] = [
    await findDocument(app.db, reading.document_id),
    await findRevision(app.db, reading.revision_id),
  ];
  if (!document || !revision || (await isWithheld(app.db, viewer, toPlace(document), await today(app))))
    throw refused('not_found');
  return { reading, document, revision, type: await getType(app.db, document.type_id) };
};

const blockers = (reading: store.ReadingRow, revisionState: string): Refusal[] => {
  if (reading.state !== 'open') return [refusal('reading_closed', { state: reading.state })];
  return revisionState === 'in force' || revisionState === 'scheduled' ? [] : [refusal('reading_not_in_force')];
};

/** One reading with everything that is needed to read and sign it. */
export const readingTask = async (app: App, viewer: Viewer, id: string): Promise<ReadingTask> => {
  const { reading, document, revision, type } = await openReading(app, viewer, id);
  const organisation = await app.organisation();
  const versions = await listVersions(app.db, revision.id);
  const latest = versions[0];
  if (!latest) throw refused('not_found');
  const files = await listFiles(app.db, [latest.id]);
  const [version] = toVersions({ document, type }, revision, [latest], files, (await app.organisation()).zone);
  if (!version) throw refused('not_found');
  const last = await store.findLastSigned(app.db, {
    documentId: document.id,
    personId: viewer.id,
    ordinal: revision.ordinal,
  });
  const lastRevision = last ? await findRevision(app.db, last.revision_id) : undefined;
  const requirement = await store.findRequirement(app.db, document.id);
  const signature = reading.state === 'signed' ? await readingSignature(app.db, reading.id) : undefined;
  const refusals = blockers(reading, revision.state);
  const text = recordTextOf(document, revision, files);
  return {
    id: reading.id,
    document: { id: document.id, number: document.number, type: type.name },
    label: revision.label,
    title: revision.title,
    mark: markOf(revision.state, document.hold !== null),
    state: shownState(reading.state, reading.due_on, await today(app)),
    due: reading.due_on,
    newJoiner: reading.new_joiner,
    policy: reading.policy,
    kind: requirement?.kind ?? 'read and sign',
    instructions: requirement?.instructions ?? '',
    minutes: readingMinutes({
      words: files.reduce((n, f) => n + f.words, 0),
      pictures: files.reduce((n, f) => n + f.pictures, 0),
    }),
    reason: revision.reason,
    summary: revision.summary,
    changeKind: revision.change_kind,
    lastSigned: last ? { label: last.label, at: last.closed_at.toISOString() } : null,
    changes: fieldChanges(type.fields, lastRevision, revision),
    version,
    digest: (await latestRecord(app.db, revision.id))?.digest ?? recordDigest(text, sha256),
    files: await filesToOpen(app.db, viewer, document.id, latest.id),
    asksForName: nameAssignees(app, viewer, organisation.signingIdleMinutes),
    signature: signature ? toSignatureInfo(signature, { text, files }) : null,
    owner: { id: document.owner_id, name: document.owner_name },
    maySign: refusals.length === 0,
    refusals: refusals.map((r) => ({ code: r.code, detail: sentenceOf(r.code, r.params, organisation.zone) })),
    inForceSince: revision.effective_from?.toISOString() ?? null,
    zone: organisation.zone,
    signInName: viewer.signInName,
    remark: reading.remark,
  };
};

/** Signs that a revision was read: bound to the revision's frozen record; a remark goes to the owner. */
export const signReading = async (
  app: App,
  viewer: Viewer,
  id: string,
  input: Credentials & { password: string; digest: string; remark: string },
): Promise<void> => {
  const { reading, document, revision } = await openReading(app, viewer, id);
  assertAllowed(blockers(reading, revision.state));
  const checked = await checkSigning(app, viewer, input, input.digest, [document, revision]);
  await runCommand(app, viewer, { document: document.id }, async (work) => {
    const locked = await store.lockReading(work.trx, id);
    const current = await findRevision(work.trx, revision.id);
    if (locked?.state !== 'open') throw refused('reading_closed', { state: locked?.state ?? 'gone' });
    assertAllowed(blockers(locked, current?.state ?? ''));
    const record = await latestRecord(work.trx, revision.id);
    if (!record) throw refused('record_changed');
    await store.signReading(work.trx, { id, now: work.now, remark: input.remark });
    const signed = await sign(app, work, viewer, { record, checked, meaning: 'read and understood', readingId: id });
    work.record({
      kind: 'reading.signed',
      subject: subjectOf(document, revision),
      payload: { ...signed, due: locked.due_on },
    });
    if (input.remark) {
      await insertComment(work, {
        documentId: document.id,
        revision,
        viewer,
        kind: 'remark',
        text: input.remark,
        quote: null,
      });
      await notify(app, work, [document.owner_id], {
        kind: 'remark',
        about: document.id,
        subject: `Remark on ${document.number} ${revision.label} by ${viewer.name}`,
        lead: `${viewer.name} read ${revision.title} and left a remark.`,
        quote: input.remark,
        link: { path: documentAddress(document.number, 'side=comments'), label: 'Open the remark' },
      });
    }
  });
};

const toRequirement = async (app: App, row: store.RequirementRow): Promise<Requirement> => {
  const names = await namesOf(app.db, [...row.audience.personIds, ...row.audience.exceptPersonIds]);
  const person = (id: string) => ({ id, name: names.get(id)?.name ?? '' });
  return {
    id: row.id,
    audience: {
      everyone: row.audience.everyone,
      units: await unitsByIds(app.db, row.audience.unitIds),
      people: row.audience.personIds.map(person),
      except: row.audience.exceptPersonIds.map(person),
    },
    ...termsOf(row),
    fromType: row.from_type,
    rowVersion: row.row_version,
  };
};

/**
 * Whose readings count where a revision is shown: its own once it may be read, or was; until then those of the revision that is in
 * force beside it.
 */
export const revisionRead = <R extends { id: string; state: RevisionState }>(shown: R, inForce: R | undefined): R =>
  isReleased(shown.state) || shown.state === 'scheduled' ? shown : (inForce ?? shown);

/** Who must read a document and who has; for who may manage or supervise, everyone else sees the figures only. */
export const readers = async (
  app: App,
  viewer: Viewer,
  ref: string,
  { revision: shownId }: QueryOf<typeof api.reading.readers> = {},
): Promise<AnswerOf<typeof api.reading.readers>> => {
  const day = await today(app);
  const opened = await openDocument(app.db, viewer, ref, day);
  const visible = opened.revisions.filter((r) => opened.rights.has('read work') || isReleased(r.state));
  const requirement = await store.findRequirement(app.db, opened.document.id);
  const all = await store.listReaders(
    app.db,
    opened.document.id,
    visible.map((r) => r.id),
    day,
  );
  const mayAll = opened.rights.has('read work') || viewer.organisationRights.has('audit');
  const team = new Set((await teamOf(app.db, viewer.id, day)).map((person) => person.id));
  const shown = visible.find((r) => r.id === shownId) ?? opened.inForce ?? visible[0];
  const current = all.filter((row) => shown && row.revision_id === revisionRead(shown, opened.inForce)?.id);
  const counted = compliance(current.map((row) => shownState(row.state, row.due_on, day)));
  return {
    requirements: requirement ? [await toRequirement(app, requirement)] : [],
    readers: all
      .filter((row) => mayAll || team.has(row.person_id) || row.person_id === viewer.id)
      .map((row) => ({
        assignmentId: row.id,
        person: { id: row.person_id, name: row.person_name },
        department: row.department,
        state: shownState(row.state, row.due_on, day),
        label: row.label,
        due: row.due_on,
        closedAt: row.closed_at?.toISOString() ?? null,
        policy: row.policy,
      })),
    compliance: { ...counted, percent: counted.percent ?? null },
    mayManage: hasRight(opened.rights, 'manage'),
  };
};

export const setRequirement: HandlerOf<typeof api.reading.setRequirement> = (app, viewer, ref, input) =>
  runCommand(app, viewer, { document: ref }, async (work, opened) => {
    ensureRight(opened.rights, 'manage');
    const units = await unitsByIds(work.trx, input.unitIds);
    if (units.length !== new Set(input.unitIds).size)
      throw refused('unit_unknown', { field: 'Readers', kind: 'department, role, group or site' });
    const people = await namesOf(work.trx, [...input.personIds, ...input.exceptPersonIds]);
    if ([...input.personIds, ...input.exceptPersonIds].some((id) => !people.has(id)))
      throw refused('unit_unknown', { field: 'Readers', kind: 'person' });
    const audience = {
      everyone: input.everyone,
      unitIds: input.unitIds,
      personIds: input.personIds,
      exceptPersonIds: input.exceptPersonIds,
    };
    const before = await store.findRequirement(work.trx, opened.document.id);
    const values = {
      audience,
      kind: input.kind,
      instructions: input.instructions,
      workingDays: input.workingDays,
      newJoinerDays: input.newJoinerDays,
      perChange: input.perChange,
      beforeInForce: input.beforeInForce,
    };
    let id = before?.id ?? '';
    if (before) {
      if (
        input.rowVersion !== before.row_version ||
        (await store.changeRequirement(work.trx, { id, ...values, rowVersion: before.row_version })) === 0
      )
        throw refused('changed_meanwhile');
    } else {
      id = newId();
      await store.insertRequirement(work.trx, {
        id,
        documentId: opened.document.id,
        ...values,
        fromType: false,
        from: work.day,
      });
    }
    work.record({
      kind: 'readers.defined',
      subject: subjectOf(opened.document),
      payload: {
        everyone: input.everyone,
        units: units.map((u) => u.name),
        people: input.personIds.map((p) => people.get(p)?.signInName ?? ''),
        except: input.exceptPersonIds.map((p) => people.get(p)?.signInName ?? ''),
        workingDays: input.workingDays,
        instructions: input.instructions,
        reason: input.reason,
      },
    });
    for (const revision of [opened.inForce, opened.work])
      if (revision) await deriveFor(app, work, opened.document, revision);
    return { id, people: (await membersOfAudience(work.trx, audience, work.day)).size };
  });

/** The state of a team: people × documents, the share, the pace of the last weeks and what each week asks. */
export const teamReading = async (app: App, viewer: Viewer, wanted: string | undefined): Promise<Team> => {
  const day = await today(app);
  const scopes = await scopesOf(app, viewer, day);
  const scope = scopes.find((s) => s.key === wanted) ?? (wanted ? undefined : scopes[0]);
  if (!scope) throw refused('not_found');
  const members = await teamMembers(app, scope.key, day);
  const all = await store.listTeamReadings(
    app.db,
    members.map((person) => person.id),
  );
  // Of everybody those are shown who have something to read; of a team all, for a team is looked over whole.
  const reads = new Set(all.map((row) => row.person_id));
  const people = isEveryone(scope.key) ? members.filter(({ id }) => reads.has(id)) : members;
  const documents = [
    ...new Map(
      all.map((row) => [
        row.revision_id,
        { id: row.document_id, number: row.number, label: row.label, title: row.title, minutes: readingMinutes(row) },
      ]),
    ).entries(),
  ];
  const cell = new Map(
    all.map((row) => [
      `${row.person_id} ${row.revision_id}`,
      { id: row.id, state: shownState(row.state, row.due_on, day) as ReadingState, due: row.due_on },
    ]),
  );
  const states = all.map((row) => shownState(row.state, row.due_on, day));
  const overdue = all.filter((row) => shownState(row.state, row.due_on, day) === 'overdue');
  const total = compliance(states);
  const withNull = (c: ReturnType<typeof compliance>) => ({ ...c, percent: c.percent ?? null });
  return {
    name: scope.name,
    scopes,
    scope: scope.key,
    documents: documents.map(([, document]) => document),
    people: people.map((person) => {
      const cells = documents.map(([revisionId]) => cell.get(`${person.id} ${revisionId}`) ?? null);
      return { person, cells, compliance: withNull(compliance(cells.flatMap((c) => (c ? [c.state] : [])))) };
    }),
    total: withNull(total),
    overdue: overdue.length,
    oldestOverdueDays: Math.max(0, ...overdue.map((row) => daysBetween(row.due_on, day))),
    pace: paceOf(all, day, (await app.organisation()).zone),
    burden: burdenOf(all, people.length, day),
  };
};

type TeamRow = Awaited<ReturnType<typeof store.listTeamReadings>>[number];

/** For each of the last 28 days: the share signed of what was asked by then. */
const paceOf = (all: TeamRow[], day: string, zone: string) =>
  Array.from({ length: 29 }, (_, i) => addDays(day, i - 28)).flatMap((at) => {
    const assigned = all.filter((row) => dayOf(row.opened_at, zone) <= at);
    const done = assigned.filter((row) => row.closed_at && dayOf(row.closed_at, zone) <= at);
    return assigned.length ? [{ day: at, percent: Math.round((done.length / assigned.length) * 1000) / 10 }] : [];
  });

/** Minutes asked of one person per week by due day, from four weeks ago to four ahead. */
const burdenOf = (all: TeamRow[], people: number, day: string) => {
  const monday = addDays(day, -((new Date(`${day}T00:00:00Z`).getUTCDay() + 6) % 7));
  return Array.from({ length: 8 }, (_, i) => addDays(monday, (i - 4) * 7)).map((week) => {
    const inWeek = all.filter((row) => row.due_on >= week && row.due_on < addDays(week, 7));
    return {
      week,
      minutes: people ? Math.round(inWeek.reduce((sum, row) => sum + readingMinutes(row), 0) / people) : 0,
    };
  });
};

/** Reminds the late ones of a team, one mail each with everything that is late. */
export const remindOverdue = async (
  app: App,
  viewer: Viewer,
  wanted: string | undefined,
): Promise<{ people: number; readings: number }> => {
  const day = await today(app);
  const scopes = await scopesOf(app, viewer, day);
  const scope = scopes.find((s) => s.key === wanted) ?? (wanted ? undefined : scopes[0]);
  if (!scope) throw refused('not_found');
  const people = await teamMembers(app, scope.key, day);
  const overdue = (
    await store.listTeamReadings(
      app.db,
      people.map((p) => p.id),
    )
  ).filter((row) => shownState(row.state, row.due_on, day) === 'overdue');
  if (overdue.length === 0) throw refused('nobody_overdue');
  const byPerson = groupBy(overdue, (row) => row.person_id);
  await app.command(actorOf(viewer), async (work) => {
    await notifyEach(
      app,
      work,
      [...byPerson].map(([personId, rows]) => ({
        personId,
        message: {
          kind: 'reminder',
          subject:
            rows.length === 1
              ? `Reminder: ${rows[0]?.number} is waiting to be read`
              : `Reminder: ${rows.length} documents are waiting to be read`,
          lead: `${viewer.name} reminds you of overdue reading.`,
          lines: rows.map((row) => `${row.number} ${row.label}, ${row.title}: was due ${dayInWords(row.due_on)}`),
          link: { path: rows.length === 1 ? `/reading/${rows[0]?.id}` : '/', label: 'Read and sign' },
        },
      })),
    );
    await store.noteReminded(
      work.trx,
      overdue.map((row) => row.id),
      work.now,
    );
    work.record({
      kind: 'reading.reminded',
      subject: {},
      payload: { team: scope.name, people: byPerson.size, readings: overdue.length },
    });
  });
  return { people: byPerson.size, readings: overdue.length };
};

export const findMine = store.findMine;
/** One's readings, without those of documents that are withheld from one. */
export const listMine = async (app: App, viewer: Viewer) => {
  const hidden = new Set((await listScope(app.db, viewer, await today(app))).withheldDocuments);
  return (await store.listMine(app.db, viewer.id)).filter((row) => !hidden.has(row.document_id));
};
