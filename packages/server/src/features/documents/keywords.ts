import type { AnswerOf, api } from '@kanonos/contract';
import { dayOf, foldText } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { listScope, type Viewer } from '../access/index.ts';
import { listKeywords } from './store.ts';

const SHOWN = 12;

/** Keywords that begin with some letters, by how many documents that a viewer may see carry them. */
export const suggestKeywords = async (
  app: App,
  viewer: Viewer,
  find: string,
): Promise<AnswerOf<typeof api.documents.keywords>> => {
  const scope = await listScope(app.db, viewer, dayOf(app.clock(), (await app.organisation()).zone));
  const found = await listKeywords(app.db, { ...scope });
  const begins = foldText(find);
  return { keywords: found.filter(({ word }) => foldText(word).startsWith(begins)).slice(0, SHOWN) };
};
