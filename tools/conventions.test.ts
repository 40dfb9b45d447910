import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { sourceFiles } from './lib/sourceFiles.ts';

const filesIn = (...paths: string[]) =>
  paths.flatMap(sourceFiles).filter((file) => !/\.test\.tsx?$|\/tests\//.test(file));

/** Lines of files that match, as `file:line`, so that a finding can be opened. */
const linesWith = (files: readonly string[], pattern: RegExp) =>
  files.flatMap((file) =>
    readFileSync(file, 'utf8')
      .split('\n')
      .flatMap((line, i) => (pattern.test(line) ? [`${file}:${i + 1} ${line.trim()}`] : [])),
  );

const features = filesIn('packages/server/src/features');

describe('one clock', () => {
  it('SQL takes the day and the instant as parameters, and never asks the database for them', () => {
    const asks =
      /\b(current_date|current_timestamp|current_time|localtimestamp|clock_timestamp|statement_timestamp)\b|(?<!\.)\bnow\(\)/i;
    expect(linesWith(features, asks)).toEqual([]);
  });

  it('a day is cut in the zone of the organisation, never off an instant in UTC', () => {
    const cuts = /toISOString\(\)\.(slice|substring|substr|split)|date_trunc\('day'/;
    expect(linesWith([...features, ...filesIn('packages/contract/src')], cuts)).toEqual([]);
  });

  it('features read the clock of the application, so that tests and the demo can set it', () => {
    // Files of the intake folder bear the time of the machine, whatever the application's clock says.
    const reads = linesWith(
      features.filter((file) => !file.endsWith('intake/watch.ts')),
      /\bnew Date\(\)|\bDate\.now\(\)/,
    );
    expect(reads).toEqual([]);
  });
});

describe('one place for SQL', () => {
  it('only the stores of a feature speak to the database', () => {
    const others = features.filter((file) => !/\/store\w*\.ts$/.test(file));
    expect(linesWith(others, /\b(rows|firstRow|changed)(<.*>)?\(\s*(db|trx|work\.trx|app\.db)\b/)).toEqual([]);
  });
});
