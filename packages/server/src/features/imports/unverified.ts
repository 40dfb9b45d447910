import type { AnswerOf, api } from '@kanonos/contract';
import type { Confidentiality } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { type Db, rows, type Trx } from '../../platform/db/connect.ts';
import { rightsOnMany, toPlace, type Viewer } from '../access/index.ts';
import { subjectOf } from '../documents/index.ts';
import { actorOf } from '../session/index.ts';

type UnverifiedRow = {
  id: string;
  number: string;
  title: string;
  label: string;
  state: string;
  revision_id: string;
  folder_id: string;
  owner_id: string;
  confidentiality: Confidentiality;
  since: Date;
};
const MOST = 2000;
const list = (db: Db | Trx, ids: readonly string[] | null) =>
  rows<UnverifiedRow>(
    db,
    `select id, number, newest_title as title, newest_label as label, newest_state as state, newest_revision_id as revision_id, folder_id, owner_id, confidentiality, unverified_since as since
     from documents where unverified_since is not null and removed_at is null and (:ids::uuid[] is null or id = any(:ids::uuid[])) order by unverified_since, number limit ${MOST}`,
    { ids },
  );

const managed = async (db: Db | Trx, viewer: Viewer, found: UnverifiedRow[]): Promise<UnverifiedRow[]> => {
  const rights = await rightsOnMany(db, viewer, found.map(toPlace));
  return found.filter((row) => rights.get(row.id)?.has('manage'));
};

/** What was taken over and nobody has looked at yet, as far as a viewer manages it. */
export const unverifiedDocuments = async (
  app: App,
  viewer: Viewer,
): Promise<AnswerOf<typeof api.imports.unverified>> => {
  const found = await managed(app.db, viewer, await list(app.db, null));
  return {
    documents: found.slice(0, 500).map(({ id, number, title, label, state, since }) => ({
      id,
      number,
      title,
      label,
      state,
      since: since.toISOString(),
    })),
    total: found.length,
  };
};

/** Somebody has looked at them: the mark goes, with an event for each. */
export const confirmTakenOver = (app: App, viewer: Viewer, ids: readonly string[]): Promise<{ confirmed: number }> =>
  app.command(actorOf(viewer), async (work) => {
    const found = await managed(work.trx, viewer, await list(work.trx, ids));
    await rows(work.trx, 'update documents set unverified_since = null where id = any(:ids::uuid[])', {
      ids: found.map((row) => row.id),
    });
    for (const row of found)
      work.record({
        kind: 'document.verified',
        subject: subjectOf(row, { id: row.revision_id, label: row.label }),
      });
    return { confirmed: found.length };
  });
