import { api } from '@kanonos/contract';
import { refusal } from '@kanonos/core';
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { commandsWith, documentPage } from '../../../testing/fixtures.ts';
import { at, lastSent, refusedWith, renderPage } from '../../../testing/renderPage.tsx';
import { ActionList, ActionsMenu } from './ActionsMenu.tsx';
import { actionsOf } from './actions.ts';
import { ReadersDialog } from './ReadersDialog.tsx';
import { ReviseDialog } from './ReviseDialog.tsx';
import { SubmitDialog } from './SubmitDialog.tsx';

const page = documentPage({
  commands: commandsWith({ withdraw: refusal('right_missing', { right: 'release' }) }),
});

describe('the actions of a document', () => {
  const draw = () => {
    const choose = vi.fn();
    return {
      choose,
      ...renderPage(<ActionList number={page.number} {...actionsOf(page, 'Europe/Vienna')} choose={choose} />),
    };
  };

  it('are found by typing and chosen by keys', async () => {
    const { user, choose } = draw();
    await user.type(screen.getByRole('combobox', { name: 'Find an action' }), 'revise');
    expect(screen.getAllByRole('option')).toHaveLength(1);
    await user.keyboard('{ArrowDown}{Enter}');
    expect(choose.mock.lastCall?.[0].key).toBe('revise');
  });

  it('fold what is not possible now, and show it with the reason when asked, or typed', async () => {
    const { user } = draw();
    expect(screen.queryByRole('option', { name: /^Withdraw/ })).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Show 1 not possible now' }));
    const folded = screen.getByRole('group', { name: 'Not possible now' });
    expect(within(folded).getByRole('option').getAttribute('aria-disabled')).toBe('true');
    expect(within(folded).getByText(/You need the right/)).toBeTruthy();
    await user.type(screen.getByRole('combobox'), 'nothing of the kind');
    expect(screen.getByText('No action has this name.')).toBeTruthy();
  });

  it('name who could do what one lacks the right for', async () => {
    const { user } = renderPage(
      <ActionList number={page.number} {...actionsOf(page, 'Europe/Vienna')} choose={() => {}} />,
      {
        [at(api.rights.holders, { document: page.number })]: {
          holders: ['Lin Sato', 'Document Control', 'Ada Berg', 'Release board', 'Noor Haas'],
        },
      },
    );
    await user.click(screen.getByRole('button', { name: 'Show 1 not possible now' }));
    expect(await screen.findByText(/Could be done by Lin Sato, Document Control, Ada Berg and 2 more\./)).toBeTruthy();
  });

  it('are not there for a day of the past', () => {
    renderPage(
      <ActionsMenu page={documentPage({ commands: page.commands, view: { day: '2025-11-28', until: [] } })} />,
    );
    expect(screen.queryByRole('button', { name: /Actions/ })).toBeNull();
  });
});

describe('revising', () => {
  it('names the label that follows from the kind of change, and sends what was seen', async () => {
    const { user } = renderPage(<ReviseDialog page={page} close={() => {}} />, {
      [`POST /api/documents/${page.id}/revise`]: { label: 'D' },
    });
    await user.click(screen.getByRole('radio', { name: /^Minor/ }));
    expect(screen.getByRole('button', { name: /C$/ })).toBeTruthy();
    await user.click(screen.getByRole('radio', { name: /^Major/ }));
    await user.type(screen.getByLabelText('Reason'), 'New limit');
    await user.click(screen.getByRole('button', { name: /D$/ }));
    expect(lastSent()?.body).toMatchObject({ seen: 'seen-1', changeKind: 'major', reason: 'New limit', label: null });
  });

  it('asks for the label where a supplier gives it', () => {
    renderPage(<ReviseDialog page={documentPage({ labelsAhead: { by: 'maker' } })} close={() => {}} />);
    expect(screen.getByLabelText(/^Supplier/)).toBeTruthy();
  });
});

describe('submitting', () => {
  const step = {
    name: 'Check',
    kind: 'review',
    workingDays: 3,
    people: ['Lin Sato'],
    chosenMinimum: null,
    problem: null,
    beside: false,
    when: null,
    applies: true,
  };
  const route = (more = {}) => ({
    [at(api.documents.submissionRoute, { document: page.id })]: {
      name: 'Owner alone',
      choices: [] as string[],
      changeKind: 'minor',
      forecast: { half: '2026-12-03', mostly: '2026-12-07', nearlyAll: '2026-12-11' },
      steps: [step, { ...step, name: 'Approve', people: [], problem: 'Nobody is found for “Approve”.' }],
      ...more,
    },
  });

  it('shows the route of this kind of change, whom it asks, and a step that would find nobody', async () => {
    renderPage(<SubmitDialog page={page} close={() => {}} />, route());
    expect(await screen.findByText('Route for a minor change: Owner alone')).toBeTruthy();
    expect(screen.getByText(/3 working days: Lin Sato/)).toBeTruthy();
    expect(screen.getByText(/Likely done by 3 Dec\. Four of five like cases by 7 Dec/)).toBeTruthy();
    expect(screen.getByText('Nobody is found for “Approve”.')).toBeTruthy();
  });

  it('names the route alone for a first issue', async () => {
    renderPage(<SubmitDialog page={page} close={() => {}} />, route({ changeKind: 'first issue' }));
    expect(await screen.findByText('Route: Owner alone')).toBeTruthy();
  });

  it('offers the routes that may be chosen, and sends the one that is', async () => {
    const { user } = renderPage(<SubmitDialog page={page} close={() => {}} />, {
      ...route({ choices: ['Emergency'] }),
      [at(api.documents.submit, { document: page.id })]: { round: 2 },
    });
    await user.selectOptions(await screen.findByLabelText('Route'), 'Emergency');
    await user.click(screen.getByRole('button', { name: 'Submit' }));
    await waitFor(() => expect(lastSent()?.body).toMatchObject({ route: 'Emergency' }));
  });
});

it('submitting shows a refusal in words, and keeps the message', async () => {
  const place = `/api/documents/${page.id}/submit`;
  const { user } = renderPage(<SubmitDialog page={documentPage({ canChooseReviewers: 1 })} close={() => {}} />, {
    'GET /api/people/names': { people: [{ id: '2', name: 'Lin Sato', department: 'Engineering' }] },
    [`POST ${place}`]: refusedWith(422, 'step_too_few_chosen', 'Choose at least 1 for “Review”.'),
  });
  await user.type(screen.getByLabelText(/^Message/), 'Please look at the limits.');
  await user.click(screen.getByRole('button', { name: 'Submit' }));
  expect(await screen.findByText('Choose at least 1 for “Review”.')).toBeTruthy();
  expect(screen.getByLabelText<HTMLTextAreaElement>(/^Message/).value).toBe('Please look at the limits.');
  expect(lastSent()?.path).toBe(place);
});

it('readers are units and people, with days and what a change asks of whom', async () => {
  const { user } = renderPage(<ReadersDialog page={page} requirement={undefined} close={() => {}} />, {
    'GET /api/units': { units: [{ id: 'u1', kind: 'department', code: 'MNT', name: 'Maintenance' }] },
    [`PUT /api/documents/${page.id}/requirement`]: { people: 14 },
  });
  await user.click(await screen.findByRole('button', { name: 'Maintenance' }));
  const days = screen.getByLabelText('Working days for current staff');
  await user.clear(days);
  await user.type(days, '5');
  await user.selectOptions(screen.getByLabelText(/^After a minor change/), 'read all');
  await user.click(screen.getByRole('button', { name: 'Save' }));
  expect(lastSent()?.body).toMatchObject({
    unitIds: ['u1'],
    workingDays: 5,
    newJoinerDays: 10,
    perChange: { minor: 'read all', major: 'read the changes', editorial: 'carry over' },
    rowVersion: null,
  });
});
