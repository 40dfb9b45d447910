import { api } from '@kanonos/contract';
import { screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { at, lastSent, ME, refusedWith, renderPage } from '../../testing/renderPage.tsx';
import { RightsPanel } from './RightsPanel.tsx';
import { SeeingAs } from './SeeingAs.tsx';

const number = 'THR-PRO-0001';
const lin = { id: '01a0000a-0000-7000-8000-0000000000aa', name: 'Lin Sato' };
const mine = {
  person: { id: ME.id, name: ME.name },
  rights: ['see', 'read'],
  reasons: [{ why: 'entry', folder: 'Procedures', subject: 'Engineering', rights: ['read'], withheld: false }],
  mayAskOthers: true,
  mayChange: true,
};
const grants = {
  own: [{ subject: { kind: 'person' as const, ...lin }, rights: ['author'], withheld: false }],
  above: [
    {
      folder: 'Procedures',
      grants: [{ subject: { kind: 'unit', id: 'u1', name: 'Engineering' }, rights: ['read'], withheld: false }],
    },
  ],
  tag: 'abc',
};
const answers = {
  [at(api.rights.explain, { document: number })]: mine,
  [at(api.rights.grants, { document: number })]: grants,
  [at(api.rights.setGrants, { document: number })]: {},
  [at(api.rights.seeAs)]: {},
  [at(api.people.units)]: { units: [] },
  [at(api.people.names)]: { people: [{ ...lin, department: 'Engineering' }] },
};

describe('rights on a document', () => {
  it('tell me what I may do and by which entry', async () => {
    renderPage(<RightsPanel number={number} />, answers);
    expect(await screen.findByText('Your rights: see, read')).toBeTruthy();
    expect(screen.getByText('by the entry for Engineering on the folder Procedures')).toBeTruthy();
  });

  it('show neither others nor the entries to who may only read', async () => {
    renderPage(<RightsPanel number={number} />, {
      ...answers,
      [at(api.rights.explain, { document: number })]: { ...mine, mayAskOthers: false, mayChange: false },
    });
    await screen.findByText('Your rights: see, read');
    expect(screen.queryByRole('combobox')).toBeNull();
    expect(screen.queryByRole('button', { name: 'Edit rights' })).toBeNull();
  });

  it('say what is taken away by confidentiality and what is withheld by name', async () => {
    renderPage(<RightsPanel number={number} />, {
      ...answers,
      [at(api.rights.explain, { document: number })]: {
        ...mine,
        person: lin,
        rights: [],
        reasons: [
          { why: 'confidentiality', folder: null, subject: 'restricted', rights: ['download'], withheld: true },
          { why: 'entry', folder: null, subject: 'Lin Sato', rights: [], withheld: true },
        ],
      },
    });
    expect(await screen.findByText('Lin Sato has no rights here.')).toBeTruthy();
    expect(screen.getByText('download: taken away because the document is restricted')).toBeTruthy();
    expect(screen.getByText('Everything is withheld from Lin Sato on this document.')).toBeTruthy();
  });

  it('are changed as a whole, with a reason and what was seen', async () => {
    const { user } = renderPage(<RightsPanel number={number} />, answers);
    await user.click(await screen.findByRole('button', { name: 'Edit rights' }));
    const dialog = within(screen.getByRole('dialog'));
    await user.click(dialog.getByRole('button', { name: 'Remove entry' }));
    await user.type(dialog.getByLabelText('Reason'), 'Moved on');
    await user.click(dialog.getByRole('button', { name: 'Save' }));
    expect(lastSent()?.body).toEqual({ grants: [], reason: 'Moved on', tag: 'abc' });
  });
});

describe('seeing as somebody', () => {
  const administrator = { ...ME, organisationRights: ['administer' as const] };

  it('begins with a reason, from the rights of that person', async () => {
    const { user } = renderPage(
      <RightsPanel number={number} />,
      { ...answers, [at(api.rights.explain, { document: number })]: { ...mine, person: lin } },
      '/',
      administrator,
    );
    await user.click(await screen.findByRole('button', { name: 'See as Lin Sato' }));
    const dialog = within(screen.getByRole('dialog'));
    expect(dialog.getByRole<HTMLButtonElement>('button', { name: 'See as' }).disabled).toBe(true);
    await user.type(dialog.getByLabelText('Reason'), 'She finds nothing');
    await user.click(dialog.getByRole('button', { name: 'See as' }));
    expect(lastSent()?.body).toEqual({ personId: lin.id, reason: 'She finds nothing' });
  });

  it('is offered to administrators alone', async () => {
    renderPage(<RightsPanel number={number} />, {
      ...answers,
      [at(api.rights.explain, { document: number })]: { ...mine, person: lin },
    });
    await screen.findByText('Rights of Lin Sato: see, read');
    expect(screen.queryByRole('button', { name: /^See as/ })).toBeNull();
  });

  it('stays in sight on every page until it is stopped', async () => {
    const { user } = renderPage(
      <SeeingAs />,
      { [at(api.rights.stopSeeingAs)]: refusedWith(500, 'unexpected', 'Try again.') },
      '/',
      { ...ME, name: 'Lin Sato', seenBy: 'Mara Quill' },
    );
    expect(screen.getByText('Mara Quill, you see the application as Lin Sato, read only.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Stop' }));
    expect(lastSent()).toMatchObject({ method: 'DELETE', path: '/api/session/see-as' });
  });

  it('is not mentioned to who sees as oneself', () => {
    renderPage(<SeeingAs />);
    expect(screen.queryByRole('status')).toBeNull();
  });
});
