import { expect, test } from 'vitest';
import { readProjects, valuesFrom } from './values.ts';

test('many projects are read by the headings of their columns, in any order', () => {
  expect(readProjects('project\tclient\tlead\nLake line\tOberlauf\tLin\nRidge\tFjell', ['client', 'project'])).toEqual({
    projects: [
      { client: 'Oberlauf', project: 'Lake line' },
      { client: 'Fjell', project: 'Ridge' },
    ],
    wrong: null,
  });
  expect(readProjects('client;place\nOberlauf;x', ['client', 'project']).wrong).toContain('project is missing');
  expect(readProjects(' \n', ['client'])).toEqual({ projects: [], wrong: null });
});

test('an entry fills placeholders by the key of its metadata, its name the project', () => {
  const entry = { code: 'P-2502', name: 'Lake line', metadata: { client: 'Oberlauf', place: '' } };
  expect(valuesFrom(entry, ['client', 'project', 'code', 'place', 'other'])).toEqual({
    client: 'Oberlauf',
    project: 'Lake line',
    code: 'P-2502',
  });
});
