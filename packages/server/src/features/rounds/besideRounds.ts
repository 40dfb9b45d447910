import type { RoundInfo } from '@kanonos/contract';
import type { Db } from '../../platform/db/connect.ts';
import type { Viewer } from '../access/index.ts';
import { openIfVisible } from '../documents/index.ts';
import { listRoundDocuments, listRoundFiles } from './storeAdHoc.ts';

/** What is attached to rounds: of the documents, those that exist for the viewer. */
export const besideRounds = async (
  db: Db,
  viewer: Viewer,
  rounds: readonly { id: string; leads_to: string }[],
  day: string,
): Promise<(roundId: string) => Pick<RoundInfo, 'documents' | 'files'>> => {
  const ids = rounds.filter((round) => round.leads_to === 'nothing').map(({ id }) => id);
  if (ids.length === 0) return () => ({ documents: [], files: [] });
  const documents = await listRoundDocuments(db, ids);
  const files = await listRoundFiles(db, ids);
  const seen = new Set<string>();
  for (const id of new Set(documents.map((one) => one.id))) if (await openIfVisible(db, viewer, id, day)) seen.add(id);
  return (roundId) => ({
    documents: documents
      .filter((one) => one.round_id === roundId && seen.has(one.id))
      .map(({ id, number }) => ({ id, number })),
    files: files.filter((one) => one.round_id === roundId).map(({ id, name }) => ({ id, name })),
  });
};
