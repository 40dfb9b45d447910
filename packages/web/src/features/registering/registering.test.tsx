import { screen, within } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it, vi } from 'vitest';
import { fieldOf, typeInfo } from '../../testing/fixtures.ts';
import { renderPage } from '../../testing/renderPage.tsx';
import { FiledByRule, FolderSelect } from './FolderSelect.tsx';
import { ManyGrid } from './ManyGrid.tsx';
import { columnsOf, newRow, type Row } from './manyRows.ts';
import { TypeChooser } from './TypeChooser.tsx';

const types = [
  typeInfo({ id: 'pro' }),
  typeInfo({ id: 'win', code: 'WIN', name: 'Work instruction', help: 'One task at one place' }),
  typeInfo({ id: 'dwg', code: 'DWG', name: 'Drawing', family: 'Engineering', group: 'Drawings', help: 'A sheet' }),
  typeInfo({ id: 'lab', code: 'LAB', name: 'Laboratory report', mayRegister: false }),
];

describe('choosing a type', () => {
  const draw = (value = '', recent: string[] = []) => {
    const change = vi.fn();
    return { change, ...renderPage(<TypeChooser types={types} recent={recent} value={value} onChange={change} />) };
  };

  it('finds by a few letters, and Enter takes the first', async () => {
    const { user, change } = draw();
    await user.type(screen.getByLabelText('Find a type'), 'work');
    expect(within(screen.getByRole('list', { name: 'Types found' })).getAllByRole('button')).toHaveLength(1);
    await user.keyboard('{Enter}');
    expect(change).toHaveBeenCalledWith('win');
  });

  it('reports that none matches, and offers only types that one may register', async () => {
    const { user, change } = draw();
    await user.type(screen.getByLabelText('Find a type'), 'laboratory');
    expect(screen.getByText('No matching type.')).toBeTruthy();
    await user.keyboard('{Enter}');
    expect(change).not.toHaveBeenCalled();
  });

  it('goes down from family to group to type', async () => {
    const { user, change } = draw();
    await user.click(screen.getByRole('button', { name: /^Engineering/ }));
    expect(screen.queryByRole('button', { name: /WIN/ })).toBeNull();
    await user.click(screen.getByRole('button', { name: /DWG/ }));
    expect(change).toHaveBeenCalledWith('dwg');
  });

  it('offers what one registered lately, until something is typed', async () => {
    const { user } = draw('', ['win', 'lab', 'gone']);
    // Once among the recent ones, once in its group.
    expect(screen.getAllByRole('button', { name: 'WIN Work instruction' })).toHaveLength(2);
    expect(screen.queryByText('LAB')).toBeNull();
    await user.type(screen.getByLabelText('Find a type'), 'dra');
    expect(screen.queryByRole('button', { name: 'WIN Work instruction' })).toBeNull();
  });

  it('folds to what the type is for, and is kept on Escape', async () => {
    const { user, change } = draw('pro');
    expect(screen.getByText(/How a task is done, step by step/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Choose another type' }));
    await user.keyboard('{Escape}');
    expect(screen.getByRole('button', { name: 'Choose another type' })).toBeTruthy();
    expect(change).not.toHaveBeenCalled();
  });
});

describe('the folder', () => {
  it('is chosen among those that one may author in', async () => {
    const folders = [
      { id: 'f1', parentId: null, name: 'Carriers', mayAuthor: false },
      { id: 'f2', parentId: 'f1', name: 'Grips', mayAuthor: true },
    ] as unknown as Parameters<typeof FolderSelect>[0]['folders'];
    renderPage(<FolderSelect folders={folders} value="" onChange={() => {}} />);
    expect(screen.getByRole<HTMLOptionElement>('option', { name: 'Carriers' }).disabled).toBe(true);
    expect(screen.getByRole<HTMLOptionElement>('option', { name: /Carriers.+Grips/ }).disabled).toBe(false);
  });

  it('follows from the rule, and marks its new parts', () => {
    renderPage(<FiledByRule rule="Carriers / {year}" place={{ names: ['Carriers', '2026'], made: 1 }} />);
    expect(screen.getByText('2026').className).toContain('petrol');
    expect(screen.getByText('new folders are created')).toBeTruthy();
  });
});

const drawing = typeInfo({
  fields: [
    fieldOf({ kind: 'choice', key: 'size', label: 'Size', options: [{ code: 'A3', text: 'Size A3' }] }),
    fieldOf({ kind: 'date', key: 'on', label: 'Issued', mandatory: true }),
  ],
});
const Grid = ({ first }: { first: Row[] }) => {
  const [rows, setRows] = useState(first);
  return (
    <>
      <ManyGrid
        rows={rows}
        setRows={setRows}
        patch={(id, change) => setRows((all) => all.map((row) => (row.id === id ? { ...row, ...change } : row)))}
        columns={columnsOf(drawing)}
        common={{ size: 'A3' }}
      />
      <output>{JSON.stringify(rows.map(({ title, metadata, as }) => ({ title, ...metadata, as })))}</output>
    </>
  );
};
const fileRow = (name: string, changes: Partial<Row> = {}): Row => ({
  ...newRow({ name } as File),
  state: 'ready',
  ...changes,
});
const rows = () => JSON.parse(screen.getByRole('status').textContent ?? '[]');

describe('many files as rows', () => {
  it('take a block from a spreadsheet, days as people write them', async () => {
    const { user } = renderPage(<Grid first={[fileRow('a.pdf'), fileRow('b.pdf')]} />);
    await user.click(screen.getByLabelText(/^Title.+a\.pdf/));
    await user.paste('Rope\tSize A3\t3 dec\nGrip\tA3\t03/12/2026');
    expect(rows()).toEqual([
      { title: 'Rope', size: 'A3', on: '2026-12-03', as: 'new' },
      { title: 'Grip', size: 'A3', on: '', as: 'new' },
    ]);
    expect(screen.getByLabelText<HTMLInputElement>(/^Issued.+a\.pdf/).value).toBe('3 Dec 2026');
  });

  it('are filled down by Ctrl+D', async () => {
    const { user } = renderPage(<Grid first={[fileRow('a.pdf'), fileRow('b.pdf'), fileRow('c.pdf')]} />);
    await user.type(screen.getByLabelText(/^Title.+b\.pdf/), 'Grip');
    await user.keyboard('{Control>}d{/Control}');
    expect(rows().map((row: { title: string }) => row.title)).toEqual(['', 'Grip', 'Grip']);
  });

  it('become new documents, versions of a known one, or nothing', async () => {
    const known = { number: 'THR-DWG-0007', state: 'in force', by: 'name' as const };
    const { user } = renderPage(
      <Grid first={[fileRow('a.pdf', { match: { document: known } as unknown as Row['match'] })]} />,
    );
    expect(screen.getByRole('link', { name: 'THR-DWG-0007' })).toBeTruthy();
    const becomes = screen.getByLabelText(/^What becomes of a\.pdf|^What a\.pdf becomes/);
    await user.selectOptions(becomes, 'ignored');
    expect(rows()[0].as).toBe('leave out');
    expect(screen.getByLabelText<HTMLInputElement>(/^Title.+a\.pdf/).disabled).toBe(true);
    await user.selectOptions(becomes, 'version');
    expect(rows()[0].as).toBe('version');
  });

  it('tell what was refused, and where those that are done are found', () => {
    renderPage(
      <Grid
        first={[
          fileRow('a.pdf', { state: 'refused', problem: 'The title is missing.' }),
          fileRow('b.pdf', { state: 'done', done: 'THR-DWG-0008' }),
        ]}
      />,
    );
    expect(screen.getByText('The title is missing.')).toBeTruthy();
    expect(screen.getByRole('link', { name: 'THR-DWG-0008' })).toBeTruthy();
  });
});
