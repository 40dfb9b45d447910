import type { AnswerOf, api } from '@kanonos/contract';
import { createRecogniser, drawingFormat, extensionOf, readFileName } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { parse } from '../../platform/parsing/index.ts';
import type { Viewer } from '../access/index.ts';
import { getStored } from '../content/index.ts';
import { knownRules } from '../rules/index.ts';
import { matchNames } from './matching.ts';

const MOST_BYTES = 60 * 1024 * 1024;

/** The references of an uploaded drawing, each matched to a document by number or name where the format can be read. */
export const drawingReferences = async (
  app: App,
  viewer: Viewer,
  uploadId: string,
): Promise<AnswerOf<typeof api.documents.references>> => {
  const upload = await getStored(app, app.db, viewer, uploadId);
  const extension = extensionOf(upload.name);
  const format = drawingFormat(extension);
  if (format !== 'open' || upload.size > MOST_BYTES) return { format, references: [] };
  const names = await parse('references', await app.content.intactPath(upload.sha256), extension);
  const recognise = createRecogniser(await knownRules(app.db));
  const matches = await matchNames(
    app,
    viewer,
    names.map((name) => ({ name, sha256: '', number: readFileName(name, recognise).number })),
  );
  return {
    format,
    references: names.map((name, i) => {
      const match = matches[i];
      return { name, document: match ? { number: match.number, title: match.title } : null };
    }),
  };
};
