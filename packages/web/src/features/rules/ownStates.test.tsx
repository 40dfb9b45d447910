import { api } from '@kanonos/contract';
import { screen, waitFor } from '@testing-library/react';
import { expect, it } from 'vitest';
import { at, lastSent, renderPage } from '../../testing/renderPage.tsx';
import { OwnStates } from './OwnStates.tsx';
import type { Organisation } from './organisationBody.ts';

const CTRL = { id: '00000000-0000-7000-8000-000000000009', name: 'Document control', kind: 'role', code: 'CTRL' };
const now = {
  name: 'Thornway',
  week: [1, 2, 3, 4, 5],
  holidays: [],
  signingIdleMinutes: 10,
  fallbackApprover: null,
  rowVersion: 4,
  ownStates: [{ name: 'waiting for test', within: 'draft', unitIds: [] }],
} as unknown as Organisation;

it('adds a state within the review that one unit sets, and keeps the others', async () => {
  const { user } = renderPage(<OwnStates organisation={now} units={[CTRL as never]} close={() => {}} />, {
    [at(api.rules.changeOrganisation)]: {},
  });
  await user.click(await screen.findByRole('button', { name: 'Add own state' }));
  const [, name] = screen.getAllByRole('textbox', { name: /^Name/ });
  await user.type(name as HTMLElement, 'with the authority');
  const [, within] = screen.getAllByRole('combobox', { name: 'Within' });
  await user.selectOptions(within as HTMLElement, 'In review');
  const [, unit] = screen.getAllByRole('button', { name: 'Document control' });
  await user.click(unit as HTMLElement);
  await user.type(screen.getByRole('textbox', { name: /Reason/ }), 'asked for');
  await user.click(screen.getByRole('button', { name: 'Save' }));
  await waitFor(() =>
    expect(lastSent()?.body).toMatchObject({
      rowVersion: 4,
      ownStates: [
        { name: 'waiting for test', within: 'draft', unitIds: [] },
        { name: 'with the authority', within: 'in review', unitIds: [CTRL.id] },
      ],
    }),
  );
});
