import { api, type RoundRule } from '@kanonos/contract';
import { screen, waitFor, within } from '@testing-library/react';
import { expect, it } from 'vitest';
import { at, lastSent, refusedWith, renderPage } from '../../testing/renderPage.tsx';
import { RoundRulesPage } from './RoundRulesPage.tsx';

const ID = '00000000-0000-7000-8000-000000000007';
const TYPE = '00000000-0000-7000-8000-000000000002';
const MARA = { id: '00000000-0000-7000-8000-000000000001', name: 'Mara Quill' };
const rule: RoundRule = {
  id: ID,
  rowVersion: 3,
  name: 'Guarantee ends',
  typeId: TYPE,
  type: { code: 'PRO', name: 'Procedure' },
  folderId: null,
  folder: null,
  occasion: { on: 'day reached', field: 'until', days: -30 },
  field: 'Guarantee until',
  condition: null,
  route: 'Inform',
  responsibleId: MARA.id,
  responsible: MARA,
  active: true,
  started: 4,
  failed: 1,
  last: '2026-11-20T08:00:00.000Z',
};
const field = (key: string, label: string, kind: 'date' | 'text') => ({
  key,
  label,
  kind,
  mandatory: false,
  level: 'document' as const,
});
const start = { documentId: ID, number: 'PRO-1', title: 'Haul rope', at: null, day: '2026-11-12' };
const draw = (rules: RoundRule[], address = '/rules/rounds', more: Record<string, unknown> = {}) =>
  renderPage(
    <RoundRulesPage />,
    {
      [at(api.people.units)]: { units: [] },
      [at(api.people.names)]: { people: [{ ...MARA, department: 'Rope' }] },
      [at(api.documents.folders)]: { folders: [] },
      [at(api.roundRules.list)]: {
        rules,
        types: [
          {
            id: TYPE,
            code: 'PRO',
            name: 'Procedure',
            routes: ['Inform'],
            fields: [field('until', 'Guarantee until', 'date'), field('limit', 'Limit', 'text')],
          },
          { id: MARA.id, code: 'WIN', name: 'Instruction', routes: [], fields: [] },
        ],
      },
      [at(api.roundRules.log, { id: ID })]: {
        starts: [
          { ...start, asks: ['Otto Brandvik'], problem: null },
          { ...start, number: 'PRO-2', asks: [], problem: 'Nobody can be asked.' },
        ],
      },
      [at(api.roundRules.try)]: { rounds: 2, starts: [{ ...start, asks: ['Otto Brandvik'], problem: null }] },
      [at(api.roundRules.save)]: { id: ID },
      [at(api.roundRules.remove, { id: ID })]: {},
      ...more,
    },
    address,
  );

it('shows each rule with its occasion in words, and what it did', async () => {
  draw([rule]);
  const line = await screen.findByRole('link', { name: /Guarantee ends/ });
  expect(line.textContent).toContain('30 days before the day in Guarantee until');
  expect(line.textContent).toContain('4 rounds');
  expect(line.textContent).toContain('1 could not be started');
  const log = within(screen.getByRole('region', { name: 'What it did' }));
  expect((await log.findByText('asks Otto Brandvik')).closest('li')?.textContent).toContain('PRO-1');
  expect(log.getByText(/Nobody can be asked\./).closest('li')?.textContent).toContain('PRO-2');
});

it('is tried as it stands before it is saved', async () => {
  const { user } = draw([rule]);
  await user.clear(await screen.findByRole('spinbutton', { name: /Days/ }));
  await user.type(screen.getByRole('spinbutton', { name: /Days/ }), '14');
  await user.click(screen.getByRole('button', { name: 'Try on the last 30 days' }));
  expect((await screen.findByRole('status')).textContent).toBe('Would have started 2 rounds in the last 30 days.');
  expect(lastSent()?.body).toMatchObject({
    occasion: { on: 'day reached', field: 'until', days: -14 },
    route: 'Inform',
    responsibleId: MARA.id,
  });
});

it('is made of an occasion, documents, a route and a person; a type without such a route leads to its rules', async () => {
  const { user } = draw([], '/rules/rounds?rule=new');
  const save = await screen.findByRole('button', { name: 'Save rule' });
  expect((save as HTMLButtonElement).disabled).toBe(true);
  await user.type(screen.getByRole('textbox', { name: /^Name/ }), 'Limits');
  await user.selectOptions(screen.getByRole('combobox', { name: /Type of document/ }), `${'WIN'} Instruction`);
  expect(screen.getByRole('link', { name: 'Add one in its rules' }).getAttribute('href')).toBe(
    `/rules/types/${MARA.id}`,
  );
  await user.selectOptions(screen.getByRole('combobox', { name: /Type of document/ }), 'PRO Procedure');
  await user.selectOptions(screen.getByRole('combobox', { name: 'Occasion' }), 'A day in a field is reached');
  expect(within(screen.getByRole('combobox', { name: /^Field/ })).queryByRole('option', { name: 'Limit' })).toBeNull();
  await user.selectOptions(screen.getByRole('combobox', { name: 'Occasion' }), 'A field changes');
  await user.selectOptions(screen.getByRole('combobox', { name: /^Field/ }), 'Limit');
  await user.selectOptions(screen.getByRole('combobox', { name: /^Route/ }), 'Inform');
  await user.click(screen.getByRole('combobox', { name: /In the name of/ }));
  await user.click(await screen.findByText('Mara Quill'));
  await user.type(screen.getByRole('textbox', { name: /Reason/ }), 'limits are agreed');
  await waitFor(() => expect((save as HTMLButtonElement).disabled).toBe(false));
  await user.click(save);
  await waitFor(() =>
    expect(lastSent()?.body).toMatchObject({
      name: 'Limits',
      active: true,
      occasion: { on: 'field changed', field: 'limit' },
      typeId: TYPE,
      folderId: null,
      condition: null,
      route: 'Inform',
      reason: 'limits are agreed',
    }),
  );
});

it('says why it is refused, and is removed with a reason', async () => {
  const { user } = draw([rule], '/rules/rounds', {
    [at(api.roundRules.save)]: refusedWith(422, 'rule_name_taken', 'There is already a rule named so.'),
  });
  await user.type(await screen.findByRole('textbox', { name: /Reason/ }), 'agreed');
  await user.click(screen.getByRole('button', { name: 'Save rule' }));
  expect(await screen.findByText(/There is already a rule named/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Remove rule' }));
  const dialog = within(await screen.findByRole('dialog'));
  await user.type(dialog.getByRole('textbox', { name: /Reason/ }), 'no guarantees any more');
  await user.click(dialog.getByRole('button', { name: 'Remove rule' }));
  await waitFor(() => expect(lastSent()?.body).toEqual({ rowVersion: 3, reason: 'no guarantees any more' }));
});
