import { api } from '@kanonos/contract';
import { screen, waitFor, within } from '@testing-library/react';
import { expect, it } from 'vitest';
import { documentPage } from '../../../testing/fixtures.ts';
import { at, lastSent, renderPage } from '../../../testing/renderPage.tsx';
import { PlannedRounds } from './PlannedRounds.tsx';
import { SignOutsideDialog } from './SignOutsideDialog.tsx';
import { StartRoundDialog } from './StartRoundDialog.tsx';

const [MARA, OTTO] = ['00000000-0000-7000-8000-000000000001', '00000000-0000-7000-8000-000000000002'];
const PEOPLE = {
  people: [
    { id: MARA, name: 'Mara Quill', department: 'Rope' },
    { id: OTTO, name: 'Otto Brandvik', department: 'Rope' },
  ],
};
const draft = documentPage();
const page = documentPage({ revision: { ...draft.revision, state: 'in force' } });

it('starts a round with steps made on the spot, on the revision in view', async () => {
  const { user } = renderPage(<StartRoundDialog page={page} close={() => {}} />, {
    'GET /api/people/names': PEOPLE,
    [at(api.adHocRounds.start, { document: page.id })]: { round: 3 },
  });
  await user.type(await screen.findByLabelText('What the round is for'), 'Comments from the workshop');
  const first = screen.getByRole('group', { name: 'Step 1' });
  const button = screen.getByRole<HTMLButtonElement>('button', { name: 'Start round' });
  expect(button.disabled).toBe(true);
  await user.type(within(first).getByRole('combobox', { name: /Who is asked/ }), 'Mara');
  await user.click(await screen.findByText('Mara Quill'));
  await user.click(screen.getByRole('button', { name: 'Add step' }));
  const second = screen.getByRole('group', { name: 'Step 2' });
  await user.selectOptions(within(second).getByLabelText('What is asked'), 'approval');
  await user.type(within(second).getByRole('combobox', { name: /Who is asked/ }), 'Otto');
  await user.click(await screen.findByText('Otto Brandvik'));
  // A signature says what it means.
  expect(button.disabled).toBe(true);
  await user.selectOptions(within(second).getByLabelText('Meaning of the signature'), 'Witnessed');
  await user.click(button);
  await waitFor(() =>
    expect(lastSent()?.body).toMatchObject({
      revisionId: page.revision.id,
      name: 'Comments from the workshop',
      lastDay: null,
      steps: [
        { kind: 'review', name: 'Check', people: [MARA], isAnyOne: false, beside: false },
        { kind: 'approval', name: 'Sign', meaning: 'Witnessed', people: [OTTO] },
      ],
    }),
  );
});

it('plans a round for a day, which is listed until then and can be cancelled', async () => {
  const { user } = renderPage(<StartRoundDialog page={page} close={() => {}} />, {
    'GET /api/people/names': PEOPLE,
    [at(api.adHocRounds.plan, { document: page.id })]: { id: 'x' },
  });
  await user.type(await screen.findByLabelText('What the round is for'), 'Winter check');
  await user.type(
    within(screen.getByRole('group', { name: 'Step 1' })).getByRole('combobox', { name: /Who is asked/ }),
    'Mara',
  );
  await user.click(await screen.findByText('Mara Quill'));
  await user.type(screen.getByLabelText(/^Begins on/), '14 dec{Tab}');
  await user.click(await screen.findByRole('button', { name: 'Plan round' }));
  await waitFor(() => expect(lastSent()?.body).toMatchObject({ name: 'Winter check', on: '2026-12-14' }));
});

it('lists what is planned, and cancels it with a reason', async () => {
  const { user } = renderPage(<PlannedRounds page={page} />, {
    [at(api.adHocRounds.planned, { document: page.id })]: {
      rounds: [
        {
          id: 'x',
          label: 'C',
          name: 'Winter check',
          on: '2026-12-14',
          by: { id: MARA, name: 'Mara Quill' },
          mayCancel: true,
        },
      ],
    },
    [at(api.adHocRounds.cancelPlanned, { id: 'x' })]: {},
  });
  expect((await screen.findByText('Winter check')).closest('li')?.textContent).toContain(
    'begins on 14 Dec 2026, planned by Mara Quill',
  );
  await user.click(screen.getByRole('button', { name: 'Cancel round Winter check' }));
  const dialog = within(await screen.findByRole('dialog'));
  await user.type(dialog.getByRole('textbox', { name: /Reason/ }), 'not needed');
  await user.click(dialog.getByRole('button', { name: 'Cancel round' }));
  await waitFor(() => expect(lastSent()?.body).toEqual({ reason: 'not needed' }));
});

it('offers no signature on what can still change, and says why', async () => {
  renderPage(<StartRoundDialog page={draft} close={() => {}} />, { 'GET /api/people/names': PEOPLE });
  const kinds = within(await screen.findByLabelText('What is asked')).getAllByRole('option');
  expect(kinds.map(({ textContent }) => textContent)).not.toContain('Sign');
  expect(screen.queryByText(/It can still change/)).not.toBeNull();
});

it('signs outside a round once every file was opened and a meaning is chosen', async () => {
  const toSign = {
    revisionId: page.revision.id,
    label: 'C',
    meanings: ['Witnessed'],
    digest: 'f'.repeat(64),
    covers: { files: [], fields: [{ label: 'Title', value: 'Haul rope' }] },
    files: [{ id: OTTO, name: 'procedure.md', opened: true }],
    asksForName: false,
  };
  const { user } = renderPage(<SignOutsideDialog page={page} close={() => {}} />, {
    [at(api.adHocRounds.toSign, { document: page.id })]: toSign,
    [at(api.adHocRounds.sign, { document: page.id })]: {},
  });
  await screen.findByText('Witnessed');
  await user.selectOptions(screen.getByLabelText('Meaning of the signature'), 'Witnessed');
  await user.type(await screen.findByLabelText(/Password of/), 'secret');
  await user.click(screen.getByRole('button', { name: 'Sign' }));
  await waitFor(() =>
    expect(lastSent()?.body).toMatchObject({ meaning: 'Witnessed', digest: 'f'.repeat(64), password: 'secret' }),
  );
});
