import { api, type IncomingFile } from '@kanonos/contract';
import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { fieldOf, typeInfo } from '../../testing/fixtures.ts';
import { at, lastSent, refusedWith, renderPage } from '../../testing/renderPage.tsx';
import { IntakePage } from './IntakePage.tsx';

const pro = typeInfo({ fields: [fieldOf({ kind: 'text', key: 'maker', label: 'Maker' })] });
const file = (changes: Partial<IncomingFile> = {}): IncomingFile => ({
  id: 'f1',
  path: 'Operations/scan-12.pdf',
  name: 'scan-12.pdf',
  size: 48_000,
  mediaType: 'application/pdf',
  arrivedAt: '2026-11-27T08:00:00.000Z',
  state: 'waiting',
  why: null,
  by: null,
  read: true,
  proposal: {
    typeId: pro.id,
    folderId: null,
    number: null,
    label: null,
    title: 'Rope splice record',
    metadata: { maker: 'Halden & Roe' },
    origins: { title: 'the text', type: 'the folder' },
  },
  known: null,
  ...changes,
});
const draw = (files: IncomingFile[], answers = {}, address = '/intake') =>
  renderPage(
    <IntakePage />,
    {
      [at(api.intake.list)]: {
        incomingFiles: files,
        folder: '/srv/intake',
        mailAddress: 'documents@tarnholt.example',
        waiting: files.length,
      },
      [at(api.documents.types)]: { types: [pro] },
      [at(api.documents.folders)]: { folders: [] },
      ...answers,
    },
    address,
  );

describe('what arrived', () => {
  it('is shown with the proposals from its folder, name and text, and their sources', async () => {
    draw([file()]);
    expect(await screen.findByText('PRO Procedure')).toBeTruthy();
    expect(screen.getByText('Rope splice record')).toBeTruthy();
    expect(screen.getByText('Maker: Halden & Roe')).toBeTruthy();
    expect(screen.getAllByText('from the text').length).toBeGreaterThan(0);
    expect(screen.getAllByText('No suggestion').length).toBeGreaterThan(0);
    expect(screen.getByRole('link', { name: 'Register' }).getAttribute('href')).toBe('/new?incomingFile=f1');
  });

  it('that is known becomes a version where one may check in, else one is led to revise', async () => {
    const known = { number: 'THR-PRO-0118', title: 'Grip overhaul', by: 'bytes' as const, mayCheckIn: true };
    const { unmount } = draw([file({ known })]);
    expect(await screen.findByRole('button', { name: /THR-PRO-0118/ })).toBeTruthy();
    unmount();
    draw([file({ known: { ...known, mayCheckIn: false } })]);
    const revise = await screen.findByRole('link', { name: /^Revise THR-PRO-0118/ });
    expect(revise.getAttribute('href')).toBe('/d/THR-PRO-0118?command=revise');
  });

  it('is set aside with a reason', async () => {
    const { user } = draw([file()], { [at(api.intake.setAside, { id: 'f1' })]: {} });
    await user.click((await screen.findAllByRole('button', { name: 'Set aside' })).at(-1) as HTMLElement);
    await user.type(screen.getByLabelText('Reason'), 'Scanned twice');
    await user.click(screen.getAllByRole('button', { name: 'Set aside' }).at(-1) as HTMLElement);
    expect(lastSent()?.body).toEqual({ reason: 'Scanned twice' });
  });

  it('that was set aside shows why and by whom, and is restored', async () => {
    const { user } = draw(
      [file({ state: 'set aside', why: 'Scanned twice.', by: 'Otto Brandvik' })],
      { [at(api.intake.putBack, { id: 'f1' })]: {} },
      '/intake?aside=yes',
    );
    expect(await screen.findByText('Scanned twice.')).toBeTruthy();
    expect(screen.getByText(/Otto Brandvik/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Restore' }));
    expect(lastSent()?.method).toBe('POST');
  });

  it('shows that there is none, or that the list failed', async () => {
    const { unmount } = draw([]);
    expect(await screen.findByText('No incoming files')).toBeTruthy();
    unmount();
    renderPage(<IntakePage />, {
      [at(api.intake.list)]: refusedWith(403, 'right_missing', 'You may not see incoming files.'),
    });
    expect(await screen.findByText('You may not see incoming files.')).toBeTruthy();
  });
});
