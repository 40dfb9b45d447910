import type { AnswerOf, api, ContentIncident } from '@kanonos/contract';
import { documentAddress } from '../../platform/addresses.ts';
import type { App } from '../../platform/app.ts';
import { groupBy } from '../../platform/collections.ts';
import { refused } from '../../platform/refused.ts';
import { actorOf, type ListScope, rightsOnFolders, type Viewer } from '../access/index.ts';
import { countFailed, sendAgain } from '../mailing/index.ts';
import * as store from './store.ts';

type IncidentRow = Awaited<ReturnType<typeof store.listIncidents>>[number];

const toIncidents = (rows: readonly IncidentRow[]): ContentIncident[] =>
  [...groupBy(rows, (row) => row.sha256)].flatMap(([sha256, places]) => {
    const [first] = places;
    return first
      ? [
          {
            sha256,
            what: first.what,
            foundBy: first.found_by,
            foundAt: first.found_at.toISOString(),
            places: places.flatMap((place) =>
              place.number ? [{ number: place.number, label: place.label ?? '', name: place.name ?? '' }] : [],
            ),
          },
        ]
      : [];
  });

/** What keeps the system from its work. */
export const systemStatus = async (app: App): Promise<AnswerOf<typeof api.system.status>> => {
  const checked = await store.countChecked(app.db);
  return {
    incidents: toIncidents(await store.listIncidents(app.db)),
    failedWork: (await store.listSetAside(app.db)).map((row) => ({
      kind: row.kind,
      subject: row.subject,
      label: row.label,
      number: row.number,
      reason: row.reason,
      tries: row.tries,
      since: row.first_at.toISOString(),
      lastAt: row.last_at.toISOString(),
    })),
    failedMails: await countFailed(app.db),
    checked: { contents: checked.n, oldest: checked.oldest },
  };
};

export type Attention = { kind: 'content' | 'work' | 'mail'; text: string; link: string };

const things = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`;

/** The system notices on a person's Desk: all for administrators, altered files of their documents for controllers. */
export const attentionFor = async (app: App, viewer: Viewer, scope: ListScope): Promise<Attention[]> => {
  const rows = await store.listIncidents(app.db);
  if (viewer.organisationRights.has('administer')) {
    const [incidents, work, mails] = [
      toIncidents(rows).length,
      await store.countSetAside(app.db),
      await countFailed(app.db),
    ];
    return [
      ...(incidents
        ? [
            {
              kind: 'content' as const,
              text: `${things(incidents, 'stored file', 'stored files')} failed the check`,
              link: '/system',
            },
          ]
        : []),
      ...(work
        ? [
            {
              kind: 'work' as const,
              text: `${things(work, 'background task', 'background tasks')} failed`,
              link: '/system',
            },
          ]
        : []),
      ...(mails
        ? [{ kind: 'mail' as const, text: `${things(mails, 'mail was', 'mails were')} not sent`, link: '/mail' }]
        : []),
    ];
  }
  if (rows.length === 0) return [];
  const rights = await rightsOnFolders(app.db, viewer);
  const hidden = new Set(scope.withheldDocuments);
  const mine = rows.filter(
    (row) =>
      row.folder_id && row.document_id && rights.get(row.folder_id)?.has('release') && !hidden.has(row.document_id),
  );
  return [...new Set(mine.map((row) => row.number ?? ''))].map((number) => ({
    kind: 'content' as const,
    text: `${number}: a stored file failed the check`,
    link: documentAddress(number),
  }));
};

/** Retries background work that was set aside, within a minute. */
export const tryFailedWorkAgain = (app: App, viewer: Viewer, by: { kind: string; subject: string }): Promise<void> =>
  app.command(actorOf(viewer), async (work) => {
    const again = await store.tryAgain(work.trx, { ...by, now: work.now });
    if (!again) throw refused('failed_work_gone');
    work.record({
      kind: 'work.retried',
      subject: again.document_id && again.number ? { document: { id: again.document_id, number: again.number } } : {},
      payload: { work: by.kind, of: again.label },
    });
  });

/** Reads stored bytes again, now. */
export const checkContent = async (app: App, sha256: string): Promise<AnswerOf<typeof api.system.checkContent>> => {
  if (!(await store.findChecked(app.db, sha256))) throw refused('not_found');
  return { finding: await app.content.verify(sha256, 'check now') };
};

export const resendMails = (app: App, viewer: Viewer, id: string | null): Promise<number> =>
  app.command(actorOf(viewer), (work) => sendAgain(app, work, id));
