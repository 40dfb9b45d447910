import { api, type Field } from '@kanonos/contract';
import { screen } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { fieldOf } from '../../testing/fixtures.ts';
import { at, renderPage } from '../../testing/renderPage.tsx';
import { MetadataFields } from './MetadataFields.tsx';
import type { MetadataValues } from './metadataValues.ts';

const Held = ({
  fields,
  first = {},
  ...props
}: {
  fields: Field[];
  first?: MetadataValues;
  errors?: Record<string, string>;
}) => {
  const [values, setValues] = useState<MetadataValues>(first);
  return (
    <>
      <MetadataFields fields={fields} values={values} onChange={setValues} {...props} />
      <output>{JSON.stringify(values)}</output>
    </>
  );
};
const values = () => JSON.parse(screen.getByRole('status').textContent ?? '{}');

const plant = fieldOf({
  kind: 'choice',
  key: 'plant',
  label: 'Plant',
  options: [
    { code: 'N', text: 'North' },
    { code: 'S', text: 'South' },
  ],
});
const line = fieldOf({
  kind: 'choice',
  key: 'line',
  label: 'Line',
  dependsOn: 'plant',
  options: [
    { code: 'N1', text: 'North one', under: 'N' },
    { code: 'S1', text: 'South one', under: 'S' },
    { code: 'X', text: 'Both' },
  ],
});

describe('choices', () => {
  it('that depend on another offer what belongs to it, and go when the other one changes', async () => {
    const { user } = renderPage(<Held fields={[plant, line]} first={{ plant: 'N', line: 'N1' }} />);
    expect(screen.queryByRole('option', { name: 'South one' })).toBeNull();
    await user.selectOptions(screen.getByLabelText(/^Plant/), 'S');
    expect(values()).toEqual({ plant: 'S', line: '' });
    expect(screen.getByRole('option', { name: 'South one' })).toBeTruthy();
  });

  it('stay where they belong to every one', async () => {
    const { user } = renderPage(<Held fields={[plant, line]} first={{ plant: 'N', line: 'X' }} />);
    await user.selectOptions(screen.getByLabelText(/^Plant/), 'S');
    expect(values()).toEqual({ plant: 'S', line: 'X' });
  });

  it('that are retired are not offered, but kept and marked so where already chosen', () => {
    const size = fieldOf({
      kind: 'choice',
      key: 'size',
      label: 'Size',
      options: [
        { code: 'A', text: 'Large' },
        { code: 'B', text: 'Small', retired: true },
      ],
    });
    const { unmount } = renderPage(<Held fields={[size]} first={{ size: 'A' }} />);
    expect(screen.queryByRole('option', { name: /Small/ })).toBeNull();
    unmount();
    renderPage(<Held fields={[size]} first={{ size: 'B' }} />);
    expect(screen.getByRole('option', { name: 'Small (retired)' })).toBeTruthy();
  });

  it('of which several hold are pressed one by one', async () => {
    const tags = fieldOf({
      kind: 'choices',
      key: 'tags',
      label: 'Hazards',
      options: [
        { code: 'h', text: 'Heights' },
        { code: 'p', text: 'Pinch points' },
      ],
    });
    const { user } = renderPage(<Held fields={[tags]} />);
    await user.click(screen.getByRole('button', { name: 'Heights' }));
    await user.click(screen.getByRole('button', { name: 'Pinch points' }));
    expect(values()).toEqual({ tags: 'h\np' });
  });
});

describe('fields by their kind', () => {
  it('take a day as people write it', async () => {
    const { user } = renderPage(<Held fields={[fieldOf({ kind: 'date', key: 'due', label: 'Due' })]} />);
    await user.type(screen.getByLabelText(/^Due/), '+2wd');
    expect(values()).toEqual({ due: '2026-12-01' });
  });

  it('name their unit, say whether they may stay empty, and show what is wrong', () => {
    const fields = [
      fieldOf({ kind: 'number', key: 'force', label: 'Force', unit: 'kN', mandatory: true }),
      fieldOf({ kind: 'text', key: 'note', label: 'Note' }),
    ];
    renderPage(<Held fields={fields} errors={{ force: 'Enter a number.' }} />);
    expect(screen.getByLabelText('Force (kN)').getAttribute('aria-invalid')).toBe('true');
    expect(screen.getByText('Enter a number.')).toBeTruthy();
    expect(screen.getByText('(optional)')).toBeTruthy();
  });

  it('ask a yes or no in words', async () => {
    const { user } = renderPage(<Held fields={[fieldOf({ kind: 'yes/no', key: 'lift', label: 'Lift needed' })]} />);
    await user.selectOptions(screen.getByLabelText(/^Lift needed/), 'no');
    expect(values()).toEqual({ lift: 'false' });
  });

  it('offer departments by their code and folders by their path', async () => {
    const fields = [
      fieldOf({ kind: 'department', key: 'dep', label: 'Department' }),
      fieldOf({ kind: 'folder', key: 'place', label: 'Archive folder' }),
    ];
    const { user } = renderPage(<Held fields={fields} />, {
      'GET /api/units': {
        units: [
          { id: 'u1', kind: 'department', code: 'MNT', name: 'Maintenance' },
          { id: 'u2', kind: 'site', code: 'N', name: 'North' },
        ],
      },
      'GET /api/folders': { folders: [{ id: 'f1', parentId: null, name: 'Carriers' }] },
    });
    await user.selectOptions(
      screen.getByLabelText(/^Department/),
      await screen.findByRole('option', { name: 'Maintenance' }),
    );
    expect(screen.queryByRole('option', { name: 'North' })).toBeNull();
    await user.selectOptions(
      screen.getByLabelText(/^Archive folder/),
      await screen.findByRole('option', { name: /Carriers/ }),
    );
    expect(values()).toEqual({ dep: 'MNT', place: 'f1' });
  });

  it('fill other fields from the entry that is picked', async () => {
    const fields = [
      fieldOf({ kind: 'entry', key: 'plant', label: 'Equipment', list: 'plants', fills: { maker: 'maker' } }),
      fieldOf({ kind: 'text', key: 'maker', label: 'Maker' }),
    ];
    const { user } = renderPage(<Held fields={fields} />, {
      [at(api.rules.entries, { key: 'plants' })]: {
        entries: [{ code: 'G-4', name: 'Grip 4', metadata: { maker: 'Halden & Roe' }, retired: false }],
      },
    });
    await user.click(screen.getByLabelText(/^Equipment/));
    await user.click(await screen.findByRole('option', { name: /Grip 4/ }));
    expect(values()).toEqual({ plant: 'G-4', maker: 'Halden & Roe' });
  });
});
