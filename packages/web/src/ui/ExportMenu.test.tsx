import { api } from '@kanonos/contract';
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, expect, test, vi } from 'vitest';
import { at, lastSent, refusedWith, renderPage } from '../testing/renderPage.tsx';
import { ExportMenu } from './ExportMenu.tsx';
import { saveFile } from './saveFile.ts';

vi.mock('./saveFile.ts', () => ({ saveFile: vi.fn() }));
afterEach(() => vi.mocked(saveFile).mockClear());

const list = {
  name: 'People',
  headings: ['Name', 'Since'],
  rows: () => [
    ['=cmd', '2026-01-05'],
    ['Lin, Sato', null],
  ],
};
const choose = async (item: RegExp) => {
  await userEvent.click(screen.getByRole('button', { name: /^Export/ }));
  await userEvent.click(await screen.findByRole('menuitem', { name: item }));
};

test('a list leaves as CSV that runs nothing', async () => {
  renderPage(<ExportMenu list={list} />, {});
  await choose(/CSV/);
  await waitFor(() => expect(saveFile).toHaveBeenCalled());
  const [name, content] = vi.mocked(saveFile).mock.calls[0] ?? [];
  expect([name, content]).toEqual(['People.csv', `\ufeffName,Since\r\n'=cmd,2026-01-05\r\n"Lin, Sato",\r\n`]);
});

test('a workbook is written by the server from the rows that are shown', async () => {
  renderPage(<ExportMenu list={list} />, { [at(api.tables.write)]: {} });
  await choose(/workbook/i);
  await waitFor(() => expect(vi.mocked(saveFile).mock.calls[0]?.[0]).toBe('People.xlsx'));
  expect(lastSent()?.body).toEqual({ name: 'People', headings: list.headings, rows: list.rows() });
});

test('a refusal is shown, and nothing is saved', async () => {
  renderPage(<ExportMenu list={list} />, {
    [at(api.tables.write)]: refusedWith(400, 'input_invalid', 'Too many rows.'),
  });
  await choose(/workbook/i);
  expect(vi.mocked(saveFile)).not.toHaveBeenCalled();
});

test('a long list is an address that the server reads to its end', async () => {
  renderPage(<ExportMenu list={{ addressOf: (format) => `/api/register/file?format=${format}` }} />, {});
  await userEvent.click(screen.getByRole('button', { name: /^Export/ }));
  expect((await screen.findByRole('menuitem', { name: /CSV/ })).getAttribute('href')).toBe(
    '/api/register/file?format=csv',
  );
});
