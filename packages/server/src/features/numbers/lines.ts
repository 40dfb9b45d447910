import type { AnswerOf, api } from '@kanonos/contract';
import { createRecogniser } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { Viewer } from '../access/index.ts';
import { readSentTable } from '../content/index.ts';
import { knownRules } from '../rules/index.ts';

const LOOKED_AT = 500;

/** The column with the numbers: the one in which most of the first lines read as numbers of the organisation, else the first. */
export const columnOfNumbers = (rows: readonly (readonly string[])[], isNumber: (text: string) => boolean): number => {
  const width = Math.max(1, ...rows.slice(0, LOOKED_AT).map((row) => row.length));
  const counts = Array.from(
    { length: width },
    (_, i) => rows.slice(0, LOOKED_AT).filter((row) => isNumber((row[i] ?? '').trim())).length,
  );
  return counts.indexOf(Math.max(...counts));
};

/** The numbers of an uploaded table, for the rule bench. A heading that is itself a number counts as a line. */
export const linesOfTable = async (
  app: App,
  viewer: Viewer,
  uploadId: string,
): Promise<AnswerOf<typeof api.numbers.lines>> => {
  const {
    rows: [headings = [], ...rows],
    note,
  } = await readSentTable(app, viewer, uploadId);
  const recognise = createRecogniser(await knownRules(app.db));
  const isNumber = (text: string) => text !== '' && recognise(text).kind !== 'outside';
  const column = columnOfNumbers(rows, isNumber);
  const heading = headings[column] ?? '';
  const lines = rows.map((row) => (row[column] ?? '').slice(0, 240));
  return { column: heading, lines: isNumber(heading.trim()) ? [heading, ...lines] : lines, note };
};
