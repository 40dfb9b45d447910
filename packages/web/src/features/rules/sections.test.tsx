import { api, NEW_TYPE, type TypeRule } from '@kanonos/contract';
import { screen } from '@testing-library/react';
import { type ComponentType, useState } from 'react';
import { describe, expect, it } from 'vitest';
import { fieldOf } from '../../testing/fixtures.ts';
import { at, renderPage } from '../../testing/renderPage.tsx';
import { FieldsSection } from './FieldsSection.tsx';
import { FilesSection } from './FilesSection.tsx';
import { NumberSection } from './NumberSection.tsx';
import { LifeSection, type Section, WhatSection } from './sections.tsx';

const procedure: TypeRule = { ...NEW_TYPE, code: 'PRO', name: 'Procedure', example: 'Grip overhaul' };
const summary = {
  id: 't2',
  code: 'DWG',
  name: 'Drawing',
  family: 'Engineering',
  group: '',
  retired: false,
  numbering: '',
  documents: 0,
  planned: null,
};
const New = (props: Section) => <WhatSection {...props} types={[summary]} isNew />;
const Numbers = (props: Section) => (
  <NumberSection {...props} rules={[]} problems={['Naming rule: {fields} is unknown.']} />
);

const now = (): TypeRule => JSON.parse(screen.getByTestId('rule').textContent ?? '{}');
const draw = (Part: ComponentType<Section>, first = procedure, answers = {}) => {
  const Held = () => {
    const [rule, setRule] = useState(first);
    return (
      <>
        <Part rule={rule} edit={(change) => setRule((before) => ({ ...before, ...change }))} />
        <output data-testid="rule">{JSON.stringify(rule)}</output>
      </>
    );
  };
  return renderPage(<Held />, answers);
};

describe('what a type is', () => {
  const drawing = { ...procedure, code: 'DWG', name: 'Drawing', family: 'Engineering', numbering: 'X-{counter:3}' };

  it('has a code in capitals, and is for everyone until units are named', async () => {
    const { user } = draw(New, procedure, {
      [at(api.people.units)]: { units: [{ id: 'u1', kind: 'department', code: 'MNT', name: 'Maintenance' }] },
    });
    await user.clear(screen.getByLabelText('Code'));
    await user.type(screen.getByLabelText('Code'), 'wi');
    expect(now().code).toBe('WI');
    expect(screen.getByRole('button', { name: 'everyone' }).getAttribute('aria-pressed')).toBe('true');
    await user.click(await screen.findByRole('button', { name: 'Maintenance' }));
    expect(now().registerUnitIds).toEqual(['u1']);
    await user.click(screen.getByRole('button', { name: 'everyone' }));
    expect(now().registerUnitIds).toEqual([]);
  });

  it('is copied from another but for code and name', async () => {
    const { user } = draw(New, procedure, { [at(api.rules.type, { id: 't2' })]: { id: 't2', rule: drawing } });
    await user.selectOptions(screen.getByLabelText('Copy from'), 'copy of DWG Drawing');
    expect(await screen.findByText('Copied from DWG Drawing; enter code and name.')).toBeTruthy();
    expect(now()).toMatchObject({ code: 'PRO', name: 'Procedure', family: 'Engineering', numbering: 'X-{counter:3}' });
  });
});

describe('labels and life cycle', () => {
  it('shows which labels a scheme gives', async () => {
    const { user } = draw(LifeSection);
    expect(screen.getByText(/^Gives A, B, C/)).toBeTruthy();
    await user.selectOptions(screen.getByLabelText('Revision labels'), 'Whole numbers');
    await user.selectOptions(screen.getByLabelText('Starts with'), '0');
    await user.selectOptions(screen.getByLabelText('Digits'), 'at least 2');
    expect(now().scheme).toEqual({ kind: 'integers', first: 0, width: 2 });
    expect(screen.getByText(/^Gives 00, 01/)).toBeTruthy();
  });

  it('reads stages as they are written', async () => {
    const { user } = draw(LifeSection);
    await user.selectOptions(screen.getByLabelText('Revision labels'), 'Stages');
    const stages = screen.getByLabelText<HTMLInputElement>('Stages');
    expect(stages.value).toBe('P2, letters');
    await user.clear(stages);
    await user.type(stages, 'P2, C2, letters');
    await user.tab();
    expect(now().scheme).toEqual({
      kind: 'staged',
      stages: [{ prefix: 'P', width: 2 }, { prefix: 'C', width: 2 }, { letters: true }],
    });
  });

  it('says that no interval means no periodic review', async () => {
    const { user } = draw(LifeSection);
    const months = screen.getByLabelText('Review interval');
    await user.clear(months);
    await user.type(months, '0');
    expect(now().reviewEvery).toBe(0);
    expect(screen.getByText('0: no periodic review')).toBeTruthy();
    // Nothing is asked about a review that there is not.
    expect(screen.queryByLabelText('Counted from')).toBeNull();
  });

  it('counts the review from a fixed day that has a day and a month', async () => {
    const { user } = draw(LifeSection);
    await user.selectOptions(screen.getByLabelText('Counted from'), 'fixed day');
    expect(now().review).toMatchObject({ from: 'fixed day', fixedDay: '01-01' });
    await user.selectOptions(screen.getByLabelText('Month'), 'March');
    const day = screen.getByLabelText('Day');
    await user.clear(day);
    await user.type(day, '31');
    expect(now().review.fixedDay).toBe('03-31');
    await user.selectOptions(screen.getByLabelText('Counted from'), 'release');
    expect(now().review).toMatchObject({ from: 'release', fixedDay: null });
    await user.clear(screen.getByLabelText('Supervisor is told, days after'));
    expect(now().review.escalateAfterDays).toBeNull();
  });
});

describe('number and name', () => {
  const typed = { ...procedure, numbering: 'THR-{type}-{counter:4}', naming: '{number}_{title}.{ext}' };

  it('shows the next numbers, and a token is put in by pressing it', async () => {
    const { user } = draw(Numbers, typed);
    expect(screen.getByText('THR-PRO-0001')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: '{year:2}' }));
    expect(now().numbering).toBe('THR-{type}-{counter:4}{year:2}');
    expect(screen.getByText('THR-PRO-000126')).toBeTruthy();
  });

  it('shows how a downloaded file is named, and puts tokens before the ending', async () => {
    const { user } = draw(Numbers, typed);
    expect(screen.getByText(/^THR-PRO-0001_Grip-overhaul\.docx$/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: '{version}' }));
    expect(now().naming).toBe('{number}_{title}_{version}.{ext}');
  });

  it('shows an error at its field', () => {
    draw(Numbers, typed);
    expect(screen.getByLabelText('Naming rule').getAttribute('aria-invalid')).toBe('true');
    expect(screen.getByLabelText('Numbering rule', { selector: 'input.inp' }).getAttribute('aria-invalid')).toBe(
      'false',
    );
  });

  it('that come from outside may have a pattern instead', async () => {
    const { user } = draw(Numbers, typed);
    await user.click(screen.getByRole('radio', { name: /^External/ }));
    expect(now().numbering).toBeNull();
    await user.type(screen.getByLabelText(/^Pattern/), 'EN .+');
    expect(now().externalPattern).toBe('EN .+');
    await user.click(screen.getByRole('radio', { name: /^Numbering rule/ }));
    expect(now()).toMatchObject({ numbering: '{type}-{counter:4}', externalPattern: null });
  });

  it('show where a document would be filed', async () => {
    const { user } = draw(Numbers, typed);
    expect(screen.getByText('the chosen folder')).toBeTruthy();
    const filing = screen.getByLabelText(/^Filing rule/);
    await user.click(filing);
    await user.paste('Carriers / {year}');
    expect(screen.getByText('Carriers / 2026')).toBeTruthy();
  });
});

describe('the fields of a type', () => {
  const two = {
    ...procedure,
    fields: [
      fieldOf({ kind: 'text', key: 'maker', label: 'Maker' }),
      fieldOf({ kind: 'date', key: 'tested', label: 'Tested on', mandatory: true }),
    ],
  };

  it('are none at first, and one that is added is open', async () => {
    const { user } = draw(FieldsSection, procedure);
    expect(screen.getByText('This type has no fields besides the title')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Add field' }));
    expect(screen.getByRole('button', { name: /^No label yet/, expanded: true })).toBeTruthy();
    expect(now().fields).toHaveLength(1);
  });

  it('are moved and removed', async () => {
    const { user } = draw(FieldsSection, two);
    await user.click(screen.getByRole('button', { name: 'Move Tested on up' }));
    expect(now().fields.map(({ key }) => key)).toEqual(['tested', 'maker']);
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Move Tested on up' }).disabled).toBe(true);
    await user.click(screen.getByRole('button', { name: 'Remove Tested on' }));
    expect(now().fields.map(({ key }) => key)).toEqual(['maker']);
  });
});

describe('files and retention', () => {
  it('keeps for ever, or for years after an event', async () => {
    const { user } = draw(FilesSection);
    await user.selectOptions(screen.getByLabelText('Retention'), 'years after it was withdrawn');
    expect(now().keeping).toEqual({ from: 'withdrawn', years: 10 });
    await user.clear(screen.getByLabelText('Years'));
    expect(now().keeping).toEqual({ from: 'withdrawn', years: 1 });
    await user.selectOptions(screen.getByLabelText('Retention'), 'permanent');
    expect(now().keeping).toBeNull();
  });

  it('reads status codes a line each, and asks how often a source is checked', async () => {
    const { user } = draw(FilesSection);
    await user.type(screen.getByLabelText(/^Status codes for sharing/), 'S1 suitable for coordination{enter}S2');
    await user.tab();
    expect(now().sharing).toEqual([
      { code: 'S1', text: 'suitable for coordination' },
      { code: 'S2', text: '' },
    ]);
    await user.click(screen.getByRole('checkbox', { name: /^External documents/ }));
    expect(now().origin).toEqual({ checkMonths: 12 });
  });
});
