import { api, FIRST_STEPS, NEW_TYPE } from '@kanonos/contract';
import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { at, lastSent, ME, refusedWith, renderPage, sent } from '../../testing/renderPage.tsx';
import { FirstStepsCard } from './FirstStepsCard.tsx';
import { SetupPage } from './SetupPage.tsx';

const stateWith = (done: readonly string[] = [], more = {}) => ({
  [at(api.setup.state)]: {
    isOpen: true,
    steps: FIRST_STEPS.map((step) => ({ step, done: done.includes(step) })),
    mail: { from: 'kanonos@brook.example', server: null },
    ...more,
  },
});
const UNITS = {
  [at(api.people.units)]: {
    units: [
      { id: 'd1', kind: 'department', code: 'LAB', name: 'Laboratory' },
      { id: 'r1', kind: 'role', code: 'QA', name: 'Quality assurance' },
    ],
  },
  [at(api.people.list)]: { people: [] },
};
const ORGANISATION = {
  name: 'My organisation',
  code: 'ORG',
  zone: 'UTC',
  week: [1, 2, 3, 4, 5],
  holidays: [],
  signingIdleMinutes: 15,
  fallbackApprover: null,
  rowVersion: 1,
};
const administrator = { ...ME, organisationRights: ['administer'] } as const;

describe('the first steps', () => {
  it('open at the first one that is not done, and tell how many are', async () => {
    const { router } = renderPage(
      <SetupPage />,
      { ...stateWith(['organisation', 'administrator']), [at(api.setup.configurations)]: { configurations: [] } },
      '/setup',
    );
    expect(await screen.findByText('2 of 6 done')).toBeTruthy();
    expect(router.state.location.search).toBe('?step=configuration');
    expect(screen.getByRole('button', { current: 'step' }).textContent).toContain('Starting configuration');
  });

  it('are chosen from the list, with the way to the next one', async () => {
    const { user, router } = renderPage(<SetupPage />, { ...stateWith(), ...UNITS }, '/setup?step=people');
    await user.click(await screen.findByRole('button', { name: 'Next step: Mail' }));
    expect(router.state.location.search).toBe('?step=mail');
    await user.click(screen.getByRole('button', { name: /^6 First documents/ }));
    expect(screen.queryByRole('button', { name: /^Next step/ })).toBeNull();
    expect(screen.getByRole('link', { name: 'Import legacy documents' }).getAttribute('href')).toBe('/imports');
  });

  it('are finished and offered again', async () => {
    const { user } = renderPage(
      <SetupPage />,
      { ...stateWith([], { isOpen: false }), [at(api.setup.close)]: {} },
      '/setup?step=documents',
    );
    await user.click(await screen.findByRole('button', { name: 'Show first steps again' }));
    expect(lastSent()).toMatchObject({ path: '/api/setup/close', body: { open: true } });
  });

  it('that cannot be loaded say why', async () => {
    renderPage(
      <SetupPage />,
      { [at(api.setup.state)]: refusedWith(403, 'right_missing', 'You may not set up.') },
      '/setup',
    );
    expect(await screen.findByText(/You may not set up/)).toBeTruthy();
  });
});

describe('the organisation', () => {
  it('takes over the holidays of a country, and is saved as a whole', async () => {
    const { user } = renderPage(
      <SetupPage />,
      {
        ...stateWith(),
        [at(api.rules.organisation)]: ORGANISATION,
        [at(api.rules.changeOrganisation)]: {},
        [at(api.setup.holidays)]: {
          countries: [{ code: 'CH', name: 'Switzerland' }],
          regions: [],
          holidays: [{ day: '2026-08-01', name: 'National Day' }],
        },
      },
      '/setup?step=organisation',
    );
    await user.clear(await screen.findByLabelText('Name'));
    await user.type(screen.getByLabelText('Name'), 'Brook Laboratories');
    await user.clear(screen.getByLabelText('Code'));
    await user.type(screen.getByLabelText('Code'), 'brk');
    await user.click(await screen.findByRole('button', { name: 'Add 1 holiday to the calendar' }));
    expect(screen.getByText('1 holiday in the calendar')).toBeTruthy();
    await user.click(screen.getByLabelText('Friday'));
    await user.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() =>
      expect(lastSent()?.body).toMatchObject({
        name: 'Brook Laboratories',
        code: 'BRK',
        week: [1, 2, 3, 4],
        holidays: [{ day: '2026-08-01', name: 'National Day' }],
        reason: 'First steps',
      }),
    );
  });
});

describe('a starting configuration', () => {
  const rule = (code: string, name: string, steps: string[]) => {
    const { registerUnitIds, fallbackApproverId, ...rest } = NEW_TYPE;
    return {
      rule: {
        ...rest,
        registerUnits: [],
        fallbackApprover: null,
        code,
        name,
        numbering: 'ORG-{type}-{counter:4}',
        route: { name: '', steps: steps.map((step) => ({ name: step })) },
      },
    };
  };
  const configuration = {
    id: 'quality',
    name: 'Quality management',
    about: 'Policies and procedures.',
    package: {
      units: [
        { kind: 'role', code: 'CTRL', name: 'Document controller' },
        { kind: 'group', code: 'AUTH', name: 'Authors' },
      ],
      types: [rule('POL', 'Policy', ['Review', 'Approve']), rule('REC', 'Record', [])],
    },
    folders: [{ path: ['Management system'], code: '1', rights: [] }],
    unitRights: {},
  };
  const answers = {
    ...stateWith(),
    [at(api.setup.configurations)]: { configurations: [configuration] },
    [at(api.rules.types)]: { types: [] },
    [at(api.setup.apply)]: { types: 1, folders: 1 },
  };

  it('shows first numbers, routes and folders before it is taken over', async () => {
    const { user } = renderPage(<SetupPage />, answers, '/setup?step=configuration');
    await user.click(await screen.findByText('Quality management'));
    expect(screen.getByText(`${ME.organisation.code}-POL-0001`)).toBeTruthy();
    expect(screen.getByText('Review → Approve')).toBeTruthy();
    expect(screen.getByText('released without a route')).toBeTruthy();
    expect(screen.getByText('Management system')).toBeTruthy();
    expect(sent.filter(({ method }) => method !== 'GET')).toEqual([]);
  });

  it('brings what stays ticked, with the own part', async () => {
    const { user } = renderPage(<SetupPage />, answers, '/setup?step=configuration');
    await user.click(await screen.findByText('Quality management'));
    await user.click(screen.getByRole('checkbox', { name: /Record/ }));
    await user.click(screen.getByRole('checkbox', { name: 'Authors' }));
    await user.click(screen.getByRole('button', { name: 'Use this configuration with 1 type' }));
    await waitFor(() => expect(lastSent()?.body).toEqual({ id: 'quality', types: ['POL'], join: ['role/CTRL'] }));
  });

  it('needs at least one type', async () => {
    const { user } = renderPage(<SetupPage />, answers, '/setup?step=configuration');
    await user.click(await screen.findByText('Quality management'));
    for (const box of [/Policy/, /Record/]) await user.click(screen.getByRole('checkbox', { name: box }));
    expect(screen.getByRole<HTMLButtonElement>('button', { name: /^Use this configuration/ }).disabled).toBe(true);
  });
});

describe('people', () => {
  it('are added one by one; a refused one stays with the reason', async () => {
    const { user } = renderPage(
      <SetupPage />,
      {
        ...stateWith(),
        ...UNITS,
        [at(api.people.add)]: ({ body }: { body: unknown }) =>
          (body as { name: string }).name === 'Bo Lind'
            ? refusedWith(409, 'sign_in_name_taken', 'The sign-in name bo.lind is taken.')
            : { id: 'p1' },
      },
      '/setup?step=people',
    );
    const [box] = await screen.findAllByLabelText('People from a spreadsheet or CSV file');
    await user.click(box as HTMLElement);
    await user.paste('Ada Brook; ada@b.example; LAB; QA\nBo Lind; bo@b.example');
    await user.click(screen.getByRole('button', { name: 'Add 2 people' }));
    expect(await screen.findByText('The sign-in name bo.lind is taken.')).toBeTruthy();
    expect(screen.queryByRole('cell', { name: 'Ada Brook' })).toBeNull();
    const [first] = sent.filter(({ path }) => path === '/api/people').filter(({ method }) => method === 'POST');
    expect(first?.body).toMatchObject({
      name: 'Ada Brook',
      signInName: 'ada.brook',
      departmentId: 'd1',
      roleIds: ['r1'],
      from: ME.organisation.today,
    });
  });
});

describe('mail', () => {
  it('says that nobody is reached without a server, and sends a test', async () => {
    const { user } = renderPage(
      <SetupPage />,
      { ...stateWith(), [at(api.setup.testMail)]: { to: ME.email } },
      '/setup?step=mail',
    );
    expect(await screen.findByText(/reach nobody/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Send test mail' }));
    expect(lastSent()).toMatchObject({ method: 'POST', path: '/api/setup/test-mail' });
  });

  it('names the server that is in use', async () => {
    renderPage(
      <SetupPage />,
      stateWith([], { mail: { from: 'kanonos@brook.example', server: 'smtp://mail.brook.example:25' } }),
      '/setup?step=mail',
    );
    expect(await screen.findByText('smtp://mail.brook.example:25')).toBeTruthy();
    expect(screen.queryByText(/reach nobody/)).toBeNull();
  });
});

describe('the card on the Desk', () => {
  it('shows administrators what is done and leads on', async () => {
    renderPage(<FirstStepsCard />, stateWith(['organisation']), '/', administrator as never);
    expect(await screen.findByText('1 of 6 done')).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Continue first steps' }).getAttribute('href')).toBe('/setup');
    expect(screen.getByRole('link', { name: 'Mail' }).getAttribute('href')).toBe('/setup?step=mail');
  });

  it('is not shown once the steps are finished', async () => {
    const { container } = renderPage(<FirstStepsCard />, stateWith([], { isOpen: false }), '/', administrator as never);
    await waitFor(() => expect(sent.length).toBe(1));
    expect(container.textContent).toBe('');
  });
});
