import { dayOf, type Refusal } from '@kanonos/core';
import { type App, SYSTEM_CLOCK, type UnitOfWork } from '../../platform/app.ts';
import { RefusalError, refused } from '../../platform/refused.ts';
import { viewerOf } from '../access/index.ts';
import { lockDocument, openDocument, subjectOf } from '../documents/index.ts';
import { advance, ensureAskable, meantRevision, startRound } from '../rounds/index.ts';
import { eachOnItsOwn } from '../system/index.ts';
import { type Found, meetsRule, occasionsOf, roundOf } from './looking.ts';
import * as store from './store.ts';

/**
 * The clock's job: each rule looks at what happened since it last looked, and starts a round for each occasion on a document that meets
 * it. An occasion is kept under its key, so that none starts two rounds, also where two processes look at once or one stopped halfway.
 *
 * @returns how many rounds were started
 */
export const startByRules = async (app: App): Promise<number> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  let started = 0;
  for (const row of (await store.listRules(app.db)).filter(({ active }) => active)) {
    const until = { seq: await store.newestSeq(app.db), day };
    const { found, reach } = await occasionsOf(
      app.db,
      toRule(row),
      { seq: row.checked_seq, day: row.checked_to },
      until,
    );
    const done = await eachOnItsOwn(
      app,
      'round by rule',
      found,
      ({ documentId, number, key }) => ({
        subject: `${row.id} ${documentId} ${key}`,
        label: `${row.name}: ${number}`,
        documentId,
      }),
      async (one) => {
        if (await startOne(app, row, one)) started++;
      },
    );
    // What failed is looked at again; what was done meanwhile is known by its key.
    if (done === found.length) await store.advanceRule(app.db, { id: row.id, ...reach });
  }
  return started;
};

export const toRule = (row: store.RuleRow) => ({
  name: row.name,
  typeId: row.type_id,
  folderId: row.folder_id,
  occasion: row.occasion,
  condition: row.condition,
  route: row.route,
});

/** Starts the round of an occasion, or keeps why it cannot be started. */
const startOne = async (app: App, row: store.RuleRow, found: Found): Promise<boolean> => {
  const of = { ruleId: row.id, documentId: found.documentId, occasion: found.key };
  try {
    return await app.command(SYSTEM_CLOCK, async (work) => {
      await lockDocument(work.trx, found.documentId);
      if (await store.findStart(work.trx, of)) return false;
      const roundId = await startIn(app, work, row, found);
      if (roundId) await store.insertStart(work.trx, { ...of, now: work.now, roundId, problems: null });
      return roundId !== undefined;
    });
  } catch (error) {
    if (!(error instanceof RefusalError)) throw error;
    const problems: readonly Refusal[] = error.refusals;
    await app.command(SYSTEM_CLOCK, (work) =>
      store.insertStart(work.trx, { ...of, now: work.now, roundId: null, problems }),
    );
    return false;
  }
};

/** The round is in the name of whoever is responsible for the rule, who must be there and may read what it is about. */
const startIn = async (app: App, work: UnitOfWork, row: store.RuleRow, found: Found): Promise<string | undefined> => {
  const responsible = await viewerOf(work.trx, row.responsible_id, work.day);
  const opened = await openDocument(work.trx, responsible, found.documentId, work.day);
  const revision = meantRevision(opened, found.revisionId);
  const rule = toRule(row);
  if (!(await meetsRule(work.trx, rule, opened, revision))) return undefined;
  if (await store.hasRunningRound(work.trx, { ruleId: row.id, documentId: found.documentId }))
    throw refused('rule_round_running');
  const { route, people } = await roundOf(work.trx, app, rule, opened, revision, work.day);
  await ensureAskable(work, opened, revision, new Set(people.flatMap((asked) => asked ?? [])));
  const { document } = opened;
  const round = await startRound(work, {
    document,
    revision,
    definition: route,
    message: '',
    people,
    by: row.responsible_id,
  });
  work.record({
    kind: 'round.started',
    subject: subjectOf(document, revision),
    payload: {
      round: round.n,
      name: row.name,
      message: '',
      steps: route.steps.filter((_, at) => people[at]).map(({ name }) => name),
      lastDay: null,
      documents: [],
      files: [],
      rule: row.name,
    },
  });
  await advance(app, work, { document, revision, round });
  return round.id;
};
