import { api, NEW_TYPE, type TypeRule } from '@kanonos/contract';
import { screen, within } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { fieldOf } from '../../../testing/fixtures.ts';
import { at, lastSent, refusedWith, renderPage } from '../../../testing/renderPage.tsx';
import { RouteSection } from './RouteSection.tsx';

const review = {
  name: 'Review',
  kind: 'review' as const,
  assignees: [{ by: 'owner' as const }],
  rule: { kind: 'all' as const },
  workingDays: 5,
  onReject: 'draft' as const,
};
const approval = { ...review, name: 'Approval', kind: 'approval' as const, meaning: 'approved' };
const rule = (changes: Partial<TypeRule> = {}): TypeRule => ({
  ...NEW_TYPE,
  code: 'PRO',
  name: 'Procedure',
  route: { name: 'Review, Approval', steps: [review, approval] },
  fields: [fieldOf({ kind: 'people', key: 'experts', label: 'Experts' })],
  ...changes,
});
const types = [
  {
    id: 't2',
    code: 'DWG',
    name: 'Drawing',
    family: '',
    group: '',
    retired: false,
    numbering: null,
    documents: 4,
    planned: null,
  },
];
const known = {
  [at(api.people.units)]: { units: [{ id: 'u1', kind: 'department', code: 'MNT', name: 'Maintenance' }] },
  [at(api.people.names)]: { people: [{ id: 'p1', name: 'Lin Sato', department: 'Engineering' }] },
};

const Held = ({ first }: { first: TypeRule }) => {
  const [now, setNow] = useState(first);
  return (
    <>
      <RouteSection rule={now} edit={(change) => setNow({ ...now, ...change })} types={types} typeId="t1" />
      <output data-testid="rule">{JSON.stringify(now)}</output>
    </>
  );
};
const draw = (first = rule(), answers = {}) => renderPage(<Held first={first} />, { ...known, ...answers });
const now = (): TypeRule => JSON.parse(screen.getByTestId('rule').textContent ?? '{}');
/** The step that is open for editing. */
const step = (n: number) => within(screen.getByRole('group', { name: `Step ${n}` }));
const open = (user: ReturnType<typeof draw>['user'], n: number) =>
  user.click(screen.getByRole('button', { name: new RegExp(`^Edit step ${n},`) }));

describe('the steps of a route', () => {
  it('are added, an approval after an approval, and taken out', async () => {
    const { user } = draw(rule({ route: { name: '', steps: [] } }));
    expect(screen.getByText(/^No steps/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Add step' }));
    await user.selectOptions(step(1).getByLabelText('Kind'), 'approval, signed');
    await user.click(screen.getByRole('button', { name: 'Add step' }));
    expect(now().route.steps.map(({ kind }) => kind)).toEqual(['approval', 'approval']);
    await user.click(step(2).getByRole('button', { name: 'Remove' }));
    expect(now().route.steps).toHaveLength(1);
  });

  it('change places, and a rejection leads to the draft then', async () => {
    const steps = [review, { ...approval, onReject: 0 }];
    const { user } = draw(rule({ route: { name: 'R', steps } }));
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Step 1 earlier' }).disabled).toBe(true);
    await open(user, 2);
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Step 2 later' }).disabled).toBe(true);
    await user.click(screen.getByRole('button', { name: 'Step 2 earlier' }));
    expect(now().route.steps.map(({ name, onReject }) => [name, onReject])).toEqual([
      ['Approval', 'draft'],
      ['Review', 'draft'],
    ]);
  });

  it('go back to an earlier step when rejected', async () => {
    const { user } = draw();
    await open(user, 2);
    await user.selectOptions(step(2).getByLabelText('When rejected, go to'), 'step 1, Review');
    expect(now().route.steps[1]?.onReject).toBe(0);
  });

  it('are complete when some agree, as many as are named', async () => {
    const { user } = draw();
    await user.selectOptions(step(1).getByLabelText('Complete when'), 'some agree');
    expect(now().route.steps[0]?.rule).toEqual({ kind: 'k of n', k: 2 });
    const many = step(1).getByLabelText('How many');
    await user.clear(many);
    expect(now().route.steps[0]?.rule).toEqual({ kind: 'k of n', k: 1 });
  });

  it('that are signed have a meaning, the others may let people check in', async () => {
    const { user } = draw();
    await open(user, 2);
    expect(step(2).getByLabelText<HTMLInputElement>('Meaning of the signature').value).toBe('approved');
    expect(step(2).queryByRole('checkbox', { name: 'Assignees may check in' })).toBeNull();
    await open(user, 1);
    await user.click(step(1).getByRole('checkbox', { name: 'Assignees may check in' }));
    expect(now().route.steps[0]?.editing).toBe(true);
  });

  it('are assigned to the owner, units, people and those whom a field names', async () => {
    const { user } = draw();
    await screen.findAllByRole('option', { name: 'Maintenance (department)' });
    await user.selectOptions(step(1).getByLabelText('Add assignee'), 'Maintenance (department)');
    await user.selectOptions(step(1).getByLabelText('Add assignee'), 'the person named in Experts');
    await user.selectOptions(step(1).getByLabelText('Add assignee'), 'chosen by the author, at least 2');
    await user.click(step(1).getByRole('combobox', { name: 'Add person' }));
    await user.click(await screen.findByRole('option', { name: /Lin Sato/ }));
    expect(now().route.steps[0]?.assignees).toEqual([
      { by: 'owner' },
      { by: 'unit', unitId: 'u1' },
      { by: 'field', key: 'experts' },
      { by: 'chosen', minimum: 2 },
      { by: 'person', personId: 'p1' },
    ]);
    for (const name of ['the owner', 'Maintenance', 'the person named in Experts', 'chosen by the author, at least 2'])
      await user.click(step(1).getByRole('button', { name: `Remove ${name}` }));
    await user.click(step(1).getByRole('button', { name: 'Remove Lin Sato' }));
    expect(step(1).getByText('nobody yet')).toBeTruthy();
  });
});

describe('the line of steps', () => {
  it('shows each step with whom it asks, and those of one time together', async () => {
    const steps = [
      review,
      { ...review, name: 'Safety', beside: true as const, when: 'change:major' },
      { ...approval, escalations: [{ action: 'hand over' as const, afterDays: 5, to: { by: 'supervisor' as const } }] },
    ];
    draw(rule({ route: { name: 'R', steps } }));
    const together = within(screen.getByRole('list', { name: 'Steps below each other run at the same time' }));
    expect(together.getAllByRole('listitem')).toHaveLength(2);
    expect(together.getByText('only where Change kind is major')).toBeTruthy();
    expect(screen.getByText('after 5 working days: hand over to their supervisor')).toBeTruthy();
  });

  it('makes a step run beside the one before, and sends back only to what is done by then', async () => {
    const { user } = draw(rule({ route: { name: 'R', steps: [review, { ...review, name: 'Safety' }, approval] } }));
    await open(user, 2);
    await user.selectOptions(step(2).getByLabelText('When rejected, go to'), 'step 1, Review');
    await user.click(step(2).getByRole('checkbox', { name: 'Runs at the same time as the step before' }));
    expect(now().route.steps[1]).toMatchObject({ beside: true, onReject: 'draft' });
    await open(user, 3);
    expect(step(3).queryByRole('checkbox', { name: /^Runs at the same time/ })).toBeNull();
    await user.selectOptions(step(3).getByLabelText('When rejected, go to'), 'step 1, Review');
    await user.click(step(3).getByRole('checkbox', { name: /^Keep the answers/ }));
    expect(now().route.steps[2]).toMatchObject({ onReject: 0, keepsAgreed: true });
  });
});

describe('a check-in during the review', () => {
  it('asks again, unless a step or the whole route keeps its decisions', async () => {
    const editing = { ...review, name: 'Edit', editing: true };
    const { user } = draw(rule({ route: { name: 'R', steps: [review, editing, approval] } }));
    const keeps = () => screen.queryByRole('checkbox', { name: 'Decisions of this step stay after a check-in' });
    await open(user, 1);
    await user.click(keeps() as HTMLElement);
    expect(now().route.steps[0]).toMatchObject({ keepsDecisions: true });
    await user.click(keeps() as HTMLElement);
    expect(now().route.steps[0]?.keepsDecisions).toBeUndefined();
    await open(user, 3);
    expect(keeps()).toBeNull();
    await open(user, 1);
    await user.click(screen.getByRole('checkbox', { name: /^After a check-in during the review/ }));
    expect(now().route.keepsDecisions).toBe(true);
    expect(keeps()).toBeNull();
  });
});

describe('the condition of a step', () => {
  it('is pressed together, or typed, and both say the same', async () => {
    const { user } = draw();
    await user.click(step(1).getByRole('checkbox', { name: 'only where all of these hold' }));
    expect(now().route.steps[0]?.when).toBe('change:major');
    await user.click(step(1).getByRole('button', { name: 'first issue' }));
    expect(now().route.steps[0]?.when).toBe('change:major or change:"first issue"');
    await user.clear(step(1).getByLabelText('Condition as text'));
    await user.type(step(1).getByLabelText('Condition as text'), 'not missing:experts');
    expect(step(1).getByLabelText<HTMLSelectElement>('Field').value).toBe('experts');
    expect(step(1).getByLabelText<HTMLSelectElement>('Compared by').value).toBe('is given');
    await user.click(step(1).getByRole('button', { name: 'Remove condition 1' }));
    expect(now().route.steps[0]?.when).toBeUndefined();
  });

  it('that cannot be read says why', async () => {
    const { user } = draw(rule({ route: { name: 'R', steps: [{ ...review, when: 'colour:red' }] } }));
    expect(step(1).getByText(/^This cannot be read yet: .*colour/)).toBeTruthy();
    expect(step(1).getByText(/^This condition says more than rows can show/)).toBeTruthy();
    await user.clear(step(1).getByLabelText('Condition as text'));
    expect(step(1).getByRole('button', { name: 'Add condition' })).toBeTruthy();
  });
});

it('what follows when nobody answers is added line by line', async () => {
  const { user } = draw();
  await user.click(step(1).getByRole('button', { name: 'Add reminder or escalation' }));
  await user.click(step(1).getByRole('button', { name: 'Add reminder or escalation' }));
  const [, second] = step(1).getAllByLabelText('What happens');
  await user.selectOptions(second as HTMLElement, 'hand over to');
  expect(now().route.steps[0]?.escalations).toEqual([
    { action: 'remind', afterDays: 3 },
    { action: 'hand over', afterDays: 6, to: { by: 'supervisor' } },
  ]);
  await user.selectOptions(step(1).getByLabelText('Whom'), 'a person');
  await user.click(step(1).getByRole('combobox', { name: 'Person' }));
  await user.click(await screen.findByRole('option', { name: /Lin Sato/ }));
  expect(now().route.steps[0]?.escalations?.[1]).toMatchObject({ to: { by: 'person', personId: 'p1' } });
  for (const n of [2, 1]) await user.click(step(1).getByRole('button', { name: `Remove line ${n}` }));
  expect(now().route.steps[0]?.escalations).toBeUndefined();
});

describe('a route of a change kind', () => {
  it('begins with that of every change, and gives way to it again', async () => {
    const { user } = draw();
    await user.click(screen.getByRole('button', { name: 'Minor' }));
    expect(screen.getByText(/A minor change uses the route of every change: Review, then Approval/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Add own route' }));
    await open(user, 2);
    await user.click(step(2).getByRole('button', { name: 'Remove' }));
    expect(now().routes.minor?.steps).toHaveLength(1);
    expect(now().route.steps).toHaveLength(2);
    expect(screen.getByRole('button', { name: 'Minor, own route' })).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Use the route of every change' }));
    expect(now().routes).toEqual({});
  });
});

describe('the route of another type', () => {
  it('is copied', async () => {
    const { user } = draw(rule({ route: { name: '', steps: [] } }), {
      [at(api.rules.type, { id: 't2' })]: { id: 't2', rule: rule() },
    });
    await user.selectOptions(screen.getByLabelText('Copy the route of'), 'DWG Drawing');
    expect(await screen.findByRole('button', { name: 'Edit step 2, Approval' })).toBeTruthy();
    expect(now().route.steps.map(({ name }) => name)).toEqual(['Review', 'Approval']);
  });

  it('that fails leaves the route unchanged, and shows the reason', async () => {
    const { user } = draw(rule(), {
      [at(api.rules.type, { id: 't2' })]: refusedWith(403, 'forbidden', 'You may not see this type.'),
    });
    await user.selectOptions(screen.getByLabelText('Copy the route of'), 'DWG Drawing');
    expect(await screen.findByText('You may not see this type.')).toBeTruthy();
    expect(now().route.steps).toHaveLength(2);
  });
});

it('readers have their days, and what each kind of change asks of them', async () => {
  const { user } = draw();
  await user.click(screen.getByRole('checkbox', { name: /^Documents of this type have required readers/ }));
  expect(now().reading).toMatchObject({ workingDays: 10, newJoinerDays: 5, unitIds: [] });
  await user.click(await screen.findByRole('button', { name: 'Maintenance' }));
  await user.clear(screen.getByLabelText('Working days to read'));
  await user.type(screen.getByLabelText('Working days to read'), '7');
  await user.selectOptions(screen.getByLabelText('minor change'), 'carry over');
  await user.type(screen.getByLabelText(/^Instructions for readers/), 'Try it once.');
  expect(now().reading).toMatchObject({
    unitIds: ['u1'],
    workingDays: 7,
    perChange: { minor: 'carry over', major: 'read all' },
    instructions: 'Try it once.',
  });
  await user.click(screen.getByRole('checkbox', { name: /^Documents of this type have required readers/ }));
  expect(now().reading).toBeNull();
});

describe('trying a route', () => {
  const tried = (changes: object) => ({
    documentId: 'd1',
    number: 'THR-PRO-0118',
    title: 'Grip overhaul',
    label: 'C',
    mark: 'open',
    steps: [
      { name: 'Review', people: ['Lin Sato'], applies: true, problem: null },
      { name: 'Approval', people: [], applies: true, problem: 'Nobody can be found for the step “Approval”.' },
    ],
    problems: [],
    forecast: null,
    ...changes,
  });
  const trial = (answer: object) => ({
    [at(api.rounds.tryRoute, { id: 't1' })]: { doubts: [], tried: 2, all: 2, stopped: 0, documents: [], ...answer },
  });

  it('shows what is doubtful, where it would stop and whom it would ask, by the steps as they stand', async () => {
    const { user } = draw(
      rule(),
      trial({
        doubts: [{ kind: 'owner is the only approver', steps: ['Approval'], person: null, needed: null, named: null }],
        stopped: 1,
        documents: [
          tried({ problems: [{ kind: 'nobody is asked', steps: ['Approval'], person: null }] }),
          tried({
            documentId: 'd2',
            number: 'THR-PRO-0119',
            forecast: { half: '2026-12-03', mostly: '2026-12-07', nearlyAll: '2026-12-11' },
          }),
        ],
      }),
    );
    await user.click(screen.getByRole('button', { name: 'Try this route' }));
    const dialog = within(await screen.findByRole('dialog'));
    expect(await dialog.findByText(/^Only the owner approves \(“Approval”\)/)).toBeTruthy();
    expect(dialog.getByText(/^1 of 2 documents would stop/)).toBeTruthy();
    expect(
      within(dialog.getByRole('region', { name: 'Would stop' })).getByText('“Approval” would ask nobody.'),
    ).toBeTruthy();
    expect(dialog.getByText('Review: Lin Sato → Approval: – · likely done on 3 Dec')).toBeTruthy();
    expect(lastSent()?.body).toMatchObject({ route: { steps: [{ name: 'Review' }, { name: 'Approval' }] } });
  });

  it('says that all would pass, and how many of them were tried', async () => {
    const { user } = draw(rule(), trial({ tried: 300, all: 812 }));
    await user.click(screen.getByRole('button', { name: 'Try this route' }));
    expect(
      await screen.findByText('All 300 documents that you see would pass. The newest 300 of 812 were tried.'),
    ).toBeTruthy();
  });
});

describe('further routes', () => {
  it('are added with a name, when they are taken, and steps of their own', async () => {
    const { user } = draw();
    await user.click(screen.getByRole('button', { name: 'Add route' }));
    await user.type(screen.getByLabelText(/^Name of the route/), 'Emergency');
    await user.selectOptions(screen.getByLabelText('When it is taken'), 'controller');
    const own = screen.getByText('Emergency').closest('li') as HTMLElement;
    await user.click(within(own).getByRole('button', { name: 'Add step' }));
    expect(now().furtherRoutes).toMatchObject([
      { route: { name: 'Emergency', steps: [{ name: 'Review' }] }, taken: { by: 'choice', mayChoose: 'controller' } },
    ]);
    expect(now().route.steps).toHaveLength(2);
  });

  it('are taken by condition, or lead to nothing, and are removed again', async () => {
    const { user } = draw(
      rule({
        furtherRoutes: [{ route: { name: 'Large', steps: [review] }, taken: { by: 'choice', mayChoose: 'author' } }],
      }),
    );
    expect(screen.getByText('chosen by whoever submits')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Edit' }));
    await user.selectOptions(screen.getByLabelText('When it is taken'), 'condition');
    expect(now().furtherRoutes[0]?.taken).toEqual({ by: 'condition', when: 'change:major' });
    await user.selectOptions(screen.getByLabelText('When it is taken'), 'nothing');
    expect(now().furtherRoutes[0]?.route.leadsTo).toBe('nothing');
    expect(screen.getByText('offered for ad hoc rounds')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Remove route Large' }));
    expect(now().furtherRoutes).toEqual([]);
  });
});
