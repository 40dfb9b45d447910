import type { ChoiceList, Field, Lookup } from '@kanonos/contract';
import { screen } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { fieldOf } from '../../testing/fixtures.ts';
import { renderPage } from '../../testing/renderPage.tsx';
import { FieldDetail } from './FieldDetail.tsx';

const plants: ChoiceList = {
  key: 'plants',
  name: 'Plants',
  dependsOn: null,
  options: [{ code: 'N', text: 'North' }],
  rowVersion: 1,
  usedBy: [],
};
const lines: ChoiceList = { ...plants, key: 'lines', name: 'Lines', dependsOn: 'plants' };
const equipment: Lookup = {
  key: 'equipment',
  name: 'Equipment',
  metadata: [{ key: 'maker', label: 'Maker', kind: 'text' }],
  entries: [],
  rowVersion: 1,
  usedBy: [],
};

const Held = ({ first, others = [], uses = [] }: { first: Field; others?: Field[]; uses?: string[] }) => {
  const [field, setField] = useState(first);
  return (
    <>
      <FieldDetail
        field={field}
        fields={[field, ...others]}
        choices={[plants, lines]}
        lookups={[equipment]}
        onChange={setField}
        uses={uses}
      />
      <output>{JSON.stringify(field)}</output>
    </>
  );
};
const draw = (first: Field, others: Field[] = []) => renderPage(<Held first={first} others={others} />);
const field = (): Field => JSON.parse(screen.getByRole('status').textContent ?? '{}');

describe('the key of a field', () => {
  it('follows its label until it is given by hand', async () => {
    const { user } = draw(fieldOf({ kind: 'text', key: 'field', label: '' }));
    await user.type(screen.getByLabelText('Label'), 'Test date');
    expect(field().key).toBe('testDate');
    await user.clear(screen.getByLabelText('Key'));
    await user.type(screen.getByLabelText('Key'), 'tested');
    await user.type(screen.getByLabelText('Label'), ' of the grip');
    expect(field()).toMatchObject({ key: 'tested', label: 'Test date of the grip' });
  });

  it('is never that of another field', async () => {
    const { user } = draw(fieldOf({ kind: 'text', key: 'field', label: '' }), [
      fieldOf({ kind: 'text', key: 'maker', label: 'Maker' }),
    ]);
    await user.type(screen.getByLabelText('Label'), 'Maker');
    expect(field().key).not.toBe('maker');
  });
});

describe('the kind of a field', () => {
  it('takes with it what belongs to no other kind', async () => {
    const { user } = draw(fieldOf({ kind: 'number', key: 'force', label: 'Force', unit: 'kN', mandatory: true }));
    await user.selectOptions(screen.getByLabelText('Kind'), 'text');
    expect(field()).toEqual({ key: 'force', label: 'Force', kind: 'text', mandatory: true, level: 'document' });
    expect(screen.queryByLabelText(/^Unit/)).toBeNull();
  });

  it('offers a pattern and its message for texts, reminders for dates', async () => {
    const { user } = draw(fieldOf({ kind: 'text', key: 'serial', label: 'Serial number' }));
    await user.type(screen.getByLabelText(/^Pattern/), 'SN-\\d+');
    await user.type(screen.getByLabelText(/^Validation message/), 'Enter SN- and digits.');
    expect(field()).toMatchObject({ pattern: 'SN-\\d+', patternWords: 'Enter SN- and digits.' });
    await user.selectOptions(screen.getByLabelText('Kind'), 'date');
    expect(screen.queryByLabelText(/^Pattern/)).toBeNull();
    await user.selectOptions(screen.getByLabelText('Reminds'), 'owner');
    await user.clear(screen.getByLabelText('Days before'));
    await user.type(screen.getByLabelText('Days before'), '14');
    expect(field().remind).toEqual({ to: 'owner', days: 14 });
    await user.selectOptions(screen.getByLabelText('Reminds'), '');
    expect(field().remind).toBeUndefined();
  });
});

describe('a choice', () => {
  it('takes its options from a list, and what the list depends on from the field that has it', async () => {
    const { user } = draw(fieldOf({ kind: 'choice', key: 'line', label: 'Line' }), [
      fieldOf({ kind: 'choice', key: 'plant', label: 'Plant', list: 'plants' }),
    ]);
    await user.selectOptions(screen.getByLabelText('Option list'), 'lines');
    expect(field()).toMatchObject({ list: 'lines', options: lines.options, dependsOn: 'plant' });
    expect(screen.queryByLabelText('Options')).toBeNull();
    await user.selectOptions(screen.getByLabelText('Option list'), '');
    expect(field().list).toBeUndefined();
  });

  it('has options of its own, a line each', async () => {
    const { user } = draw(fieldOf({ kind: 'choice', key: 'size', label: 'Size', options: [] }));
    await user.type(screen.getByLabelText('Options'), 'A Large{enter}B;Small;;retired');
    expect(field().options).toEqual([
      { code: 'A', text: 'Large' },
      { code: 'B', text: 'Small', retired: true },
    ]);
  });
});

describe('the first value', () => {
  it.each([
    ['date', ['none', 'fixed value', 'the day of registering', 'from the folder', 'from the parent']],
    ['person', ['none', 'fixed value', 'whoever registers', 'from the folder', 'from the parent']],
    ['text', ['none', 'fixed value', 'from the folder', 'from the parent']],
  ] as const)('of a %s comes from what fits its kind', (kind, offered) => {
    draw(fieldOf({ kind, key: 'x', label: 'X' }));
    const select = screen.getByLabelText<HTMLSelectElement>('Default value');
    expect([...select.options].map((option) => option.text)).toEqual(offered);
  });

  it('that is fixed is entered as its kind asks', async () => {
    const { user } = draw(fieldOf({ kind: 'yes/no', key: 'lift', label: 'Lift' }));
    await user.selectOptions(screen.getByLabelText('Default value'), 'fixed');
    await user.selectOptions(screen.getByLabelText('Value'), 'yes');
    expect(field().default).toEqual({ from: 'fixed', value: 'true' });
    await user.selectOptions(screen.getByLabelText('Default value'), 'folder');
    expect(field().default).toEqual({ from: 'folder' });
    await user.selectOptions(screen.getByLabelText('Default value'), '');
    expect(field().default).toBeUndefined();
  });

  it('of a date is typed as people write it', async () => {
    const { user } = draw(fieldOf({ kind: 'date', key: 'due', label: 'Due' }));
    await user.selectOptions(screen.getByLabelText('Default value'), 'fixed');
    await user.type(screen.getByLabelText('Value'), '3 dec');
    expect(field().default).toEqual({ from: 'fixed', value: '2026-12-03' });
  });
});

it('an entry of a list fills other fields, one each', async () => {
  const { user } = draw(fieldOf({ kind: 'entry', key: 'plant', label: 'Equipment' }), [
    fieldOf({ kind: 'text', key: 'maker', label: 'Maker' }),
    fieldOf({ kind: 'text', key: 'supplier', label: 'Supplier' }),
  ]);
  await user.selectOptions(screen.getByLabelText('Look-up list'), 'equipment');
  const fills = screen.getByLabelText('Maker of the entry fills');
  await user.selectOptions(fills, 'maker');
  expect(field().fills).toEqual({ maker: 'maker' });
  await user.selectOptions(fills, 'supplier');
  expect(field().fills).toEqual({ supplier: 'maker' });
  await user.selectOptions(fills, '');
  expect(field().fills).toBeUndefined();
});

it('shows the uses of a field, and ticks its settings', async () => {
  const { user } = renderPage(
    <Held first={fieldOf({ kind: 'text', key: 'x', label: 'X' })} uses={['numbering rule', 'file name']} />,
  );
  expect(screen.getByText(/numbering rule, file name/)).toBeTruthy();
  for (const name of ['Required for submission', 'Revision field', 'Column in the register', 'Must be unique'])
    await user.click(screen.getByRole('checkbox', { name }));
  expect(field()).toMatchObject({ mandatory: true, level: 'revision', shown: true, unique: true });
  await user.click(screen.getByRole('checkbox', { name: 'Must be unique' }));
  expect(field()).not.toHaveProperty('unique');
});
