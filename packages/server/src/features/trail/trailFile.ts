import type { api, QueryOf } from '@kanonos/contract';
import { dayOf, timeOf } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { ListFile } from '../../platform/http/sendTable.ts';
import { trailRows } from './service.ts';

const PIECE = 200;

const COLUMNS = [
  { heading: 'Event', width: 9 },
  { heading: 'Day', width: 12 },
  { heading: 'Time', width: 8 },
  { heading: 'Person', width: 22 },
  { heading: 'Acting for', width: 22 },
  { heading: 'What', width: 60 },
  { heading: 'Kind', width: 24 },
  { heading: 'Document', width: 20 },
  { heading: 'Revision', width: 9 },
  { heading: 'Hash', width: 60 },
];

/** The events that a filter of the trail finds, newest first, as a list to read and to sort. */
export const trailFile = async (
  app: App,
  filter: Omit<QueryOf<typeof api.evidence.trailFile>, 'format'>,
): Promise<ListFile> => {
  const { zone } = await app.organisation();
  let page = await trailRows(app, { ...filter, limit: PIECE });
  const pieces = async function* () {
    for (;;) {
      yield page.rows.map((row) => {
        const at = new Date(row.at);
        return [
          row.seq,
          dayOf(at, zone),
          timeOf(at, zone),
          row.actorName,
          row.forPerson,
          row.text,
          row.kind,
          row.documentNumber,
          row.label,
          row.hash,
        ];
      });
      if (page.next === null) return;
      page = await trailRows(app, { ...filter, before: page.next, limit: PIECE });
    }
  };
  return { name: `Audit trail ${dayOf(app.clock(), zone)}`, columns: COLUMNS, pieces: pieces() };
};
