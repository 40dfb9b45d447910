import type { AnswerOf, api, Bottleneck, BottleneckGroup, QueryOf } from '@kanonos/contract';
import { addDays, dayOf, workingDayCounter } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { groupBy } from '../../platform/collections.ts';
import { listScope, type Viewer } from '../access/index.ts';
import { markOf } from '../revisions/index.ts';
import { LOOKS_BACK_DAYS } from './forecasting.ts';
import { overseenBy } from './overseeing.ts';
import { listSeenAnswers, type SeenAnswerRow } from './storePast.ts';

type PastAnswer = SeenAnswerRow & { workingDays: number; late: boolean };
const MOST_BEHIND_ONE = 500;
/** The share of answers that took no longer: nine of ten. */
const SLOW = 0.9;

const GROUP: Record<BottleneckGroup, (one: PastAnswer) => { key: string; name: string }> = {
  step: (one) => ({ key: `${one.type} · ${one.step}`, name: `${one.step} (${one.type})` }),
  person: (one) => ({ key: one.person_id, name: one.person }),
  department: (one) => ({ key: one.department_id ?? '', name: one.department ?? 'No department' }),
  month: (one) => ({ key: one.answered.slice(0, 7), name: one.answered.slice(0, 7) }),
};

/** The answers of the last twelve months in what the viewer oversees, with how long each took. */
const answersOf = async (app: App, viewer: Viewer): Promise<PastAnswer[]> => {
  const { zone, calendar } = await app.organisation();
  const day = dayOf(app.clock(), zone);
  const since = addDays(day, -LOOKS_BACK_DAYS);
  const scope = await listScope(app.db, viewer, day);
  const workingDays = workingDayCounter(addDays(since, -LOOKS_BACK_DAYS), day, calendar);
  return (await listSeenAnswers(app.db, scope, { since, zone, day, ...(await overseenBy(app, viewer, day)) })).map(
    (one) => ({
      ...one,
      workingDays: workingDays(one.asked, one.answered),
      late: one.due_on !== null && one.answered > one.due_on,
    }),
  );
};

const quantile = (sorted: readonly number[], q: number): number =>
  sorted[Math.max(0, Math.ceil(sorted.length * q) - 1)] ?? 0;

const summed = (key: string, name: string, answers: readonly PastAnswer[]): Bottleneck => {
  const days = answers.map((one) => one.workingDays).sort((a, b) => a - b);
  return {
    key,
    name,
    answers: answers.length,
    medianDays: quantile(days, 0.5),
    slowDays: quantile(days, SLOW),
    latePercent: Math.round((answers.filter((one) => one.late).length / answers.length) * 100),
    rejections: answers.filter((one) => one.decision === 'reject').length,
  };
};

/** How long answers took, by one kind of group: months in their order, the others by the slowest first. */
export const bottlenecks = async (
  app: App,
  viewer: Viewer,
  { by = 'step' }: QueryOf<typeof api.rounds.bottlenecks>,
): Promise<AnswerOf<typeof api.rounds.bottlenecks>> => {
  const groups = groupBy(await answersOf(app, viewer), (one) => GROUP[by](one).key);
  const rows = [...groups].flatMap(([key, answers]) =>
    answers.slice(0, 1).map((first) => summed(key, GROUP[by](first).name, answers)),
  );
  return {
    rows: rows.sort((a, b) =>
      by === 'month'
        ? a.key.localeCompare(b.key)
        : b.medianDays - a.medianDays || b.slowDays - a.slowDays || a.name.localeCompare(b.name),
    ),
  };
};

/** The answers behind one group, the slowest first. */
export const pastAnswers = async (
  app: App,
  viewer: Viewer,
  { by, key }: QueryOf<typeof api.rounds.pastAnswers>,
): Promise<AnswerOf<typeof api.rounds.pastAnswers>> => ({
  rows: (await answersOf(app, viewer))
    .filter((one) => GROUP[by](one).key === key)
    .sort((a, b) => b.workingDays - a.workingDays || a.number.localeCompare(b.number))
    .slice(0, MOST_BEHIND_ONE)
    .map((one) => ({
      documentId: one.document_id,
      number: one.number,
      title: one.title,
      label: one.label,
      mark: markOf(one.state),
      round: one.round,
      step: one.step,
      person: one.person,
      decision: one.decision,
      asked: one.asked,
      answered: one.answered,
      workingDays: one.workingDays,
      late: one.late,
    })),
});
