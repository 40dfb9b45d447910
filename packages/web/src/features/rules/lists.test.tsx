import { api, type ChoiceList, type Lookup, NEW_TYPE, type TypeTrial } from '@kanonos/contract';
import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { at, lastSent, refusedWith, renderPage, sent } from '../../testing/renderPage.tsx';
import { ChoiceEditor } from './ChoiceEditor.tsx';
import { DropPlan } from './Editions.tsx';
import { LookupEditor } from './LookupEditor.tsx';
import { SaveTypeDialog } from './SaveTypeDialog.tsx';

const plants: ChoiceList = {
  key: 'plants',
  name: 'Plants',
  dependsOn: null,
  options: [{ code: 'N', text: 'North' }],
  rowVersion: 4,
  usedBy: ['Procedure'],
};

describe('a choice list', () => {
  const save = at(api.rules.saveChoices, { key: 'plants' });

  it('is saved with a reason and what was seen', async () => {
    const { user } = renderPage(<ChoiceEditor now={plants} all={[plants]} />, { [save]: {} });
    expect(screen.getByText('Used by Procedure.')).toBeTruthy();
    await user.type(screen.getByLabelText('Options'), '{enter}S;South');
    await user.type(screen.getByLabelText('Reason'), 'A second plant');
    await user.click(screen.getByRole('button', { name: 'Save list' }));
    expect(lastSent()?.body).toEqual({
      name: 'Plants',
      dependsOn: null,
      options: [
        { code: 'N', text: 'North' },
        { code: 'S', text: 'South' },
      ],
      rowVersion: 4,
      reason: 'A second plant',
    });
  });

  it('names the options that its third column may name', async () => {
    const lines = { ...plants, key: 'lines', name: 'Lines' };
    const { user } = renderPage(<ChoiceEditor now={lines} all={[plants, lines]} />);
    expect(screen.queryByRole('option', { name: 'Lines' })).toBeNull();
    await user.selectOptions(screen.getByLabelText('Depends on'), 'Plants');
    expect(screen.getByText(/^The third column names the parent option: N/)).toBeTruthy();
  });

  it('that is new gets a key from its name, and none that is taken', async () => {
    const fresh = { ...plants, key: '', name: '', options: [], rowVersion: 0, usedBy: [] };
    const { user } = renderPage(<ChoiceEditor now={fresh} all={[plants]} />);
    await user.type(screen.getByLabelText('Name'), 'Plants');
    expect(screen.queryByText('Key plants')).toBeNull();
    expect(screen.getByText(/^Key plants\w+/)).toBeTruthy();
  });

  it('tells in words that somebody else was first', async () => {
    const { user } = renderPage(<ChoiceEditor now={plants} all={[plants]} />, {
      [save]: refusedWith(409, 'changed_meanwhile', 'Somebody else changed it meanwhile.'),
    });
    await user.type(screen.getByLabelText('Name'), ' of the organisation');
    await user.type(screen.getByLabelText('Reason'), 'Clearer');
    await user.click(screen.getByRole('button', { name: 'Save list' }));
    expect(await screen.findByText('Somebody else changed it meanwhile.')).toBeTruthy();
  });
});

describe('a look-up list', () => {
  const equipment: Lookup = {
    key: 'equipment',
    name: 'Equipment',
    metadata: [{ key: 'maker', label: 'Maker', kind: 'text' }],
    entries: [{ code: 'GR-44', name: 'Grip', metadata: { maker: 'Halden & Roe' }, retired: false }],
    rowVersion: 2,
    usedBy: [],
  };
  const save = at(api.rules.saveLookup, { key: 'equipment' });

  it('is edited as lines, a column for each metadata', async () => {
    const { user } = renderPage(<LookupEditor now={equipment} />, { [save]: {} });
    const lines = screen.getByLabelText(/^Entries: code, name, maker/);
    await user.type(lines, '{enter}GR-45;Grip, small;Halden & Roe;retired');
    await user.type(screen.getByLabelText('Reason'), 'Bought');
    await user.click(screen.getByRole('button', { name: 'Save list' }));
    expect(lastSent()?.body).toMatchObject({
      rowVersion: 2,
      entries: [
        { code: 'GR-44', retired: false },
        { code: 'GR-45', name: 'Grip, small', metadata: { maker: 'Halden & Roe' }, retired: true },
      ],
    });
  });

  it('keeps the key of a metadata whose label is typed anew', async () => {
    const { user } = renderPage(<LookupEditor now={equipment} />, { [save]: {} });
    const labels = screen.getByLabelText(/^Metadata of an entry/);
    await user.clear(labels);
    await user.type(labels, 'Maker, Year');
    await user.type(screen.getByLabelText('Reason'), 'One more');
    await user.click(screen.getByRole('button', { name: 'Save list' }));
    expect(lastSent()?.body).toMatchObject({ metadata: [{ key: 'maker' }, { key: 'year' }] });
  });
});

describe('saving a type', () => {
  const rule = { ...NEW_TYPE, code: 'PRO', name: 'Procedure', releaseWithoutRoute: true };
  const detail = { id: 't1', rule, rowVersion: 3, planned: null, editions: [] } as unknown as Parameters<
    typeof SaveTypeDialog
  >[0]['detail'];
  const trial = (changes: Partial<TypeTrial> = {}): TypeTrial => ({
    refusals: [],
    differences: [{ what: 'naming', before: 'a', after: 'b' }],
    documents: 12,
    drafts: 2,
    gaps: [],
    dropped: [],
    leftBehind: [],
    examples: [],
    ...changes,
  });
  const draw = (answer: TypeTrial, saved = vi.fn(), about = detail) => ({
    saved,
    ...renderPage(<SaveTypeDialog detail={about} rule={rule} saved={saved} close={() => {}} />, {
      [at(api.rules.tryType)]: answer,
      [at(api.rules.changeType, { id: 't1' })]: {},
      [at(api.rules.addType)]: { id: 't9' },
    }),
  });

  it('shows whom it reaches, and is saved with a reason', async () => {
    const { user, saved } = draw(
      trial({
        dropped: [{ label: 'Maker', documents: 4 }],
        leftBehind: [{ scope: 'THR-PRO-#', last: 118 }],
        examples: [{ number: 'THR-PRO-0118', title: 'Grip', fileName: 'THR-PRO-0118_Grip.docx' }],
      }),
    );
    expect(await screen.findByText(/12 documents are of this type, 2 of them drafts/)).toBeTruthy();
    expect(screen.getByText(/4 documents keep their value/)).toBeTruthy();
    expect(screen.getByText(/up to 118 stay readable/)).toBeTruthy();
    expect(screen.getByText('THR-PRO-0118_Grip.docx')).toBeTruthy();
    await user.type(screen.getByLabelText('Reason'), 'Shorter names');
    await user.click(screen.getByRole('button', { name: 'Save' }));
    expect(lastSent()?.body).toMatchObject({ reason: 'Shorter names', rowVersion: 3, from: null, fill: [] });
    await waitFor(() => expect(saved).toHaveBeenCalledWith(false));
  });

  it('fills gaps by the default value, those that stay ticked', async () => {
    const gaps = ['site', 'line'].map((key) => ({
      key,
      label: key,
      level: 'document' as const,
      reached: 3,
      fills: true,
    }));
    const { user } = draw(trial({ gaps }));
    const [first] = await screen.findAllByRole('checkbox', { name: 'Fill in the default value' });
    await user.click(first as HTMLElement);
    await user.type(screen.getByLabelText('Reason'), 'Needed now');
    await user.click(screen.getByRole('button', { name: 'Save' }));
    expect(lastSent()?.body).toMatchObject({ fill: ['line'] });
  });

  it('is planned for a day, and fills nothing then', async () => {
    const gaps = [{ key: 'site', label: 'Site', level: 'document' as const, reached: 1, fills: true }];
    const { user, saved } = draw(trial({ gaps }));
    await user.type(screen.getByLabelText(/^Applies from/), '1 jan');
    await user.type(screen.getByLabelText('Reason'), 'With the new year');
    expect(screen.queryByRole('checkbox')).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Plan change' }));
    expect(lastSent()?.body).toMatchObject({ from: '2027-01-01', fill: [] });
    await waitFor(() => expect(saved).toHaveBeenCalledWith(true));
  });

  it('waits while the trial refuses', async () => {
    const refusals = [{ code: 'rule_ambiguous', detail: 'Another type has this code.' }] as TypeTrial['refusals'];
    const { user } = draw(trial({ refusals }));
    expect(await screen.findByText('Another type has this code.')).toBeTruthy();
    await user.type(screen.getByLabelText('Reason'), 'Why not');
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Save' }).disabled).toBe(true);
  });

  it('that is new leads to it', async () => {
    const { user, router } = draw(trial(), vi.fn(), { id: null, rule });
    await user.type(screen.getByLabelText('Reason'), 'First');
    await user.click(await screen.findByRole('button', { name: 'Add type' }));
    await waitFor(() => expect(router.state.location.pathname).toBe('/rules/types/t9'));
    expect(sent.some(({ path }) => path.endsWith('/t1'))).toBe(false);
  });
});

it('a planned change is cancelled with a reason', async () => {
  const { user } = renderPage(<DropPlan id="t1" />, { [at(api.rules.dropPlan, { id: 't1' })]: {} });
  await user.click(screen.getByRole('button', { name: 'Cancel planned change' }));
  await user.type(screen.getByLabelText('Reason'), 'Not needed');
  await user.click(screen.getAllByRole('button', { name: 'Cancel planned change' }).at(-1) as HTMLElement);
  expect(lastSent()?.body).toEqual({ reason: 'Not needed' });
});
