import type { AnswerOf, api, BodyOf, QueryOf } from '@kanonos/contract';
import { addDays, isWorkingDay, levelWeeks, loadPerWeek, weekOf } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { RefusalError } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { latestReviewDays, moveReview } from '../reviews/index.ts';
import { horizon } from './service.ts';
import { listAbsences } from './store.ts';

/** Other days for reviews in weeks that have more work than they hold, within what their types allow. Nothing is moved. */
export const proposeLevel = async (
  app: App,
  viewer: Viewer,
  { hours, ...asked }: QueryOf<typeof api.horizon.level>,
): Promise<AnswerOf<typeof api.horizon.level>> => {
  const { calendar } = await app.organisation();
  const { items, weeks, from, until } = await horizon(app, viewer, asked);
  // What is overdue is done now: it stays where it is, and counts in the first week.
  const reviews = items.filter(({ kind, overdue }) => kind === 'review' && !overdue);
  const latest = await latestReviewDays(app, new Map(reviews.map(({ documentId, day }) => [documentId, day])));
  const movable = reviews.map(({ documentId, day, minutes }) => ({
    id: documentId,
    day,
    minutes,
    earliest: addDays(from, 1),
    latest: latest.get(documentId) ?? day,
  }));
  const stays = new Map(weeks.map(({ week, reading, review }) => [week, reading + review]));
  for (const { day, minutes } of movable) stays.set(weekOf(day), (stays.get(weekOf(day)) ?? 0) - minutes);
  const ownerOf = new Map(reviews.map(({ documentId, person }) => [documentId, person?.id ?? '']));
  const absences = await listAbsences(app.db, [...new Set(ownerOf.values())]);
  const works = (day: string, id: string) =>
    isWorkingDay(
      day,
      calendar,
      absences
        .filter(({ person_id }) => person_id === ownerOf.get(id))
        .map((one) => ({ from: one.from_day, to: one.to_day })),
    );
  const moves = levelWeeks(movable, stays, hours * 60, works);
  const to = new Map(moves.map((move) => [move.id, move.to]));
  const after = loadPerWeek(
    items.map((item) => (item.kind === 'review' ? { ...item, day: to.get(item.documentId) ?? item.day } : item)),
    from,
    until,
  );
  const overfull = (of: typeof weeks) => of.filter(({ reading, review }) => reading + review > hours * 60).length;
  return {
    moves: reviews.flatMap((item) => {
      const day = to.get(item.documentId);
      const { documentId, number, title, person } = item;
      return day ? [{ documentId, number, title, person, from: item.day, to: day }] : [];
    }),
    overfull: { before: overfull(weeks), after: overfull(after) },
  };
};

/** Moves reviews to other days, each in a transaction of its own: one that cannot be moved keeps no other from it. */
export const moveReviews = async (
  app: App,
  viewer: Viewer,
  { moves, reason }: BodyOf<typeof api.horizon.move>,
): Promise<AnswerOf<typeof api.horizon.move>> => {
  const left: AnswerOf<typeof api.horizon.move>['left'] = [];
  for (const { documentId, from, to } of moves) {
    try {
      await moveReview(app, viewer, documentId, { due: from, to, reason });
    } catch (error) {
      if (!(error instanceof RefusalError)) throw error;
      left.push({ documentId, refusals: [...error.refusals] });
    }
  }
  return { moved: moves.length - left.length, left };
};
