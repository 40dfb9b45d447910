import type { AnswerOf, api } from '@kanonos/contract';
import { dayOf, foldText } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { rows } from '../../platform/db/connect.ts';
import { listScope, SEES, SEES_WORK, type Viewer } from '../access/index.ts';

const SHOWN = 12;
/** Of a large organisation the documents that changed last say enough about which words are used. */
const LOOKED_AT = 20_000;

/** Keywords that begin with some letters, by how often they stand on documents that a viewer may see. */
export const suggestKeywords = async (
  app: App,
  viewer: Viewer,
  find: string,
): Promise<AnswerOf<typeof api.documents.keywords>> => {
  const scope = await listScope(app.db, viewer, dayOf(app.clock(), (await app.organisation()).zone));
  const found = await rows<{ word: string; documents: number }>(
    app.db,
    `select word, count(*)::int as documents from (
       select unnest(d.keywords) as word from (
         select d.keywords from documents d
         where d.removed_at is null and cardinality(d.keywords) > 0 and (${SEES_WORK} or (d.public_state is not null and ${SEES}))
         order by d.changed_at desc limit ${LOOKED_AT}) d) words
     group by word order by count(*) desc, word limit 5000`,
    { ...scope },
  );
  const begins = foldText(find);
  return { keywords: found.filter(({ word }) => foldText(word).startsWith(begins)).slice(0, SHOWN) };
};
