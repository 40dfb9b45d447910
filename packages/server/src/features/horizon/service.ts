import type { AnswerOf, api, QueryOf } from '@kanonos/contract';
import { addDays, addMonths, dayOf, hasRight, loadPerWeek, REVIEW_MINUTES, readingMinutes } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { refused } from '../../platform/refused.ts';
import { listScope, rightsOnFolders, type Viewer } from '../access/index.ts';
import { markOf } from '../revisions/index.ts';
import * as store from './store.ts';

const MONTHS_AHEAD = 2;
/** Two years and a bit: further ahead nothing is planned by the day. */
const LONGEST_DAYS = 800;

/** The folders that somebody answers for: those in which they release; with the right to audit, all that they see. */
const answeredFolders = async (app: App, viewer: Viewer, seen: string[]): Promise<string[]> => {
  if (viewer.organisationRights.has('audit')) return seen;
  return [...(await rightsOnFolders(app.db, viewer))].filter(([, own]) => hasRight(own, 'release')).map(([id]) => id);
};

/** What comes due up to a day, with the load of each week: one's own, or all that one answers for. */
export const horizon = async (
  app: App,
  viewer: Viewer,
  { until, whose, person, department }: QueryOf<typeof api.horizon.show>,
): Promise<AnswerOf<typeof api.horizon.show>> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const scope = await listScope(app.db, viewer, day);
  const folderIds = await answeredFolders(app, viewer, scope.seeFolders);
  const mayAll = folderIds.length > 0;
  if (whose === 'all' && !mayAll) throw refused('right_missing', { right: 'release' });
  const latest = addDays(day, LONGEST_DAYS);
  // The middle of the three: what is asked for, between today and the latest day.
  const last = [day, until ?? addMonths(day, MONTHS_AHEAD), latest].sort()[1] as string;
  const found = await store.listDue(app.db, scope, {
    day,
    until: last,
    all: whose === 'all',
    folderIds,
    person: person ?? null,
    department: department ?? null,
  });
  const items = found.slice(0, store.MOST_DUE).map((row) => ({
    id: row.id,
    kind: row.kind,
    day: row.day,
    overdue: row.day < day,
    documentId: row.document_id,
    number: row.number,
    title: row.title,
    label: row.label,
    mark: markOf(row.state, row.on_hold),
    person: row.person_id && row.person ? { id: row.person_id, name: row.person } : null,
    people: row.people,
    what: row.what,
    minutes:
      row.kind === 'reading'
        ? row.people * readingMinutes({ words: row.words, pictures: row.pictures })
        : row.kind === 'review'
          ? REVIEW_MINUTES
          : 0,
  }));
  return {
    from: day,
    until: last,
    mayAll,
    items,
    weeks: loadPerWeek(items, day, last),
    isCut: found.length > store.MOST_DUE,
  };
};
