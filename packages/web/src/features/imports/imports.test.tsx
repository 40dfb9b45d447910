import { api, type ImportDetail, type ImportLine } from '@kanonos/contract';
import { screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { at, lastSent, renderPage } from '../../testing/renderPage.tsx';
import { ImportPage } from './ImportPage.tsx';

const detail = (changes: Partial<ImportDetail> = {}): ImportDetail => ({
  id: 'i1',
  name: 'old-register.csv',
  by: { id: 'p1', name: 'Otto Brandvik' },
  at: '2026-11-20T08:00:00.000Z',
  state: 'checked',
  counts: { lines: 12, ready: 9, warned: 1, refused: 2, done: 0 },
  headings: ['No.', 'What', ''],
  mapping: {
    columns: ['number', null, null],
    dateOrder: 'dmy',
    typeCode: null,
    folder: null,
    owner: null,
    state: 'in force',
  },
  sample: [['PRO-7', 'Rope splice', 'x']],
  files: 3,
  begins: [{ scope: 'THR-PRO-#', last: 7 }],
  meanings: [
    { value: 'number', text: 'Number' },
    { value: 'title', text: 'Title' },
  ],
  reasons: [{ code: 'title_missing', example: 'The title is missing.', lines: 2 }],
  rowVersion: 6,
  ...changes,
});
const line = (changes: Partial<ImportLine>): ImportLine => ({
  line: 1,
  cells: ['PRO-7', 'Rope splice', 'x'],
  state: 'ready',
  reasons: [],
  warnings: [],
  number: null,
  ...changes,
});
const draw = (about = detail(), lines: ImportLine[] = [], answers = {}) =>
  renderPage(<ImportPage />, {
    [at(api.imports.detail, { id: '' })]: about,
    [at(api.imports.lines, { id: 'i1' })]: { lines, next: null },
    [at(api.documents.types)]: { types: [] },
    [at(api.documents.folders)]: { folders: [] },
    ...answers,
  });

describe('the columns of a list', () => {
  it('get a meaning, and are saved with what was seen', async () => {
    const { user } = draw(detail({ state: 'prepared' }), [], { [at(api.imports.setMapping, { id: 'i1' })]: {} });
    expect(await screen.findByText('Rope splice')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Save columns' })).toBeNull();
    await user.selectOptions(screen.getByRole('combobox', { name: /What/ }), 'Title');
    await user.selectOptions(screen.getByLabelText('Date format'), 'mdy');
    await user.click(screen.getByRole('button', { name: 'Save columns' }));
    expect(lastSent()?.body).toMatchObject({
      mapping: { columns: ['number', 'title', null], dateOrder: 'mdy' },
      rowVersion: 6,
    });
  });

  it('go back to what was saved', async () => {
    const { user } = draw(detail({ state: 'prepared' }));
    await user.selectOptions(await screen.findByRole('combobox', { name: /What/ }), 'Title');
    await user.click(screen.getByRole('button', { name: 'Discard' }));
    expect(screen.getByRole<HTMLSelectElement>('combobox', { name: /What/ }).value).toBe('');
  });
});

describe('an import', () => {
  it('begins with the lines that are refused, each with its reasons', async () => {
    draw(detail(), [line({ state: 'refused', reasons: ['The title is missing.', 'No such folder.'] })]);
    expect(await screen.findByText('No such folder.')).toBeTruthy();
    const filter = within(screen.getByRole('group', { name: 'Filter lines' }));
    expect(filter.getByRole('button', { pressed: true }).textContent).toMatch(/2/);
    expect(screen.getByText('THR-PRO-#')).toBeTruthy();
  });

  it('shows warnings, and links to what was done', async () => {
    draw(detail({ counts: { lines: 2, ready: 1, warned: 1, refused: 0, done: 1 } }), [
      line({ warnings: ['The owner is unknown; it is yours.'] }),
      line({ line: 2, state: 'done', number: 'THR-PRO-0007' }),
    ]);
    expect(await screen.findByText(/^The owner is unknown/)).toBeTruthy();
    expect(screen.getByRole('link', { name: 'THR-PRO-0007' })).toBeTruthy();
  });

  it('is started with a reason, and says what is left out', async () => {
    const { user } = draw(detail(), [], { [at(api.imports.run, { id: 'i1' })]: {} });
    await user.click(await screen.findByRole('button', { name: /^Import 9/ }));
    const dialog = within(screen.getByRole('dialog'));
    expect(dialog.getByText(/2 refused lines/)).toBeTruthy();
    expect(dialog.getByRole<HTMLButtonElement>('button', { name: 'Import' }).disabled).toBe(true);
    await user.type(dialog.getByLabelText('Reason'), 'Taken over from the old register');
    await user.click(dialog.getByRole('button', { name: 'Import' }));
    expect(lastSent()?.body).toEqual({ reason: 'Taken over from the old register' });
  });

  it('cannot begin before all lines are checked', async () => {
    draw(detail({ state: 'prepared', counts: { lines: 12, ready: 0, warned: 0, refused: 0, done: 0 } }));
    expect((await screen.findByRole<HTMLButtonElement>('button', { name: /^Import/ })).disabled).toBe(true);
    expect(screen.getByRole('button', { name: 'Check all lines' })).toBeTruthy();
  });

  it('that runs shows how far it is, and can be stopped', async () => {
    const { user } = draw(
      detail({ state: 'running', counts: { lines: 12, ready: 6, warned: 0, refused: 2, done: 4 } }),
      [],
      {
        [at(api.imports.stop, { id: 'i1' })]: {},
      },
    );
    await user.click(await screen.findByRole('button', { name: 'Stop import' }));
    expect(screen.getByText(/^4 of 10 lines imported/)).toBeTruthy();
    expect(lastSent()?.path).toBe(at(api.imports.stop, { id: 'i1' }).split(' ')[1]);
  });
});

describe('a line that was refused', () => {
  const refused = line({ line: 4, state: 'refused', reasons: ['The title is missing.'], cells: ['PRO-9', '', 'x'] });

  it('is found by the reason, and found again without it', async () => {
    const { user, router } = draw(detail(), [refused]);
    const reason = within(await screen.findByRole('region', { name: 'Reasons' })).getByRole('button', {
      name: /The title is missing/,
    });
    await user.click(reason);
    expect(router.state.location.search).toBe('?lines=refused&reason=title_missing');
    expect(reason.getAttribute('aria-pressed')).toBe('true');
    await user.click(reason);
    expect(router.state.location.search).toBe('?lines=refused');
  });

  it('is corrected where it stands, with what was seen', async () => {
    const { user } = draw(detail(), [refused], { [at(api.imports.correctLine, { id: 'i1', line: '4' })]: {} });
    await user.click(await screen.findByRole('button', { name: 'Correct line 4' }));
    const dialog = within(screen.getByRole('dialog'));
    expect(dialog.getByText('The title is missing.')).toBeTruthy();
    expect(dialog.getByRole<HTMLButtonElement>('button', { name: 'Save line' }).disabled).toBe(true);
    await user.type(dialog.getByLabelText('What'), 'Rope splice');
    await user.click(dialog.getByRole('button', { name: 'Save line' }));
    expect(lastSent()?.body).toEqual({ cells: ['PRO-9', 'Rope splice', 'x'], seen: ['PRO-9', '', 'x'] });
  });

  it('is no longer corrected once it is imported', async () => {
    draw(detail(), [line({ line: 4, state: 'done', number: 'PRO-9' })]);
    await screen.findByRole('link', { name: 'PRO-9' });
    expect(screen.queryByRole('button', { name: /^Correct line/ })).toBeNull();
  });
});
