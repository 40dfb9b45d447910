import { api, type Endpoint } from '@kanonos/contract';
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { documentPage, fieldOf, original, uploaded, version } from '../../../testing/fixtures.ts';
import { at, lastSent, refusedWith, renderPage } from '../../../testing/renderPage.tsx';
import { AuthoringDialogs } from './AuthoringDialogs.tsx';

const page = documentPage({
  versions: [version()],
  fields: [fieldOf({ kind: 'number', key: 'limit', label: 'Slip-force limit', unit: 'kN', level: 'revision' })],
  metadata: { limit: '12' },
  checkout: {
    by: { id: 'p1', name: 'Mara Quill' },
    since: '2026-11-27T08:00:00.000Z',
    mine: true,
    note: '',
    expectedBack: null,
    saved: null,
  } as unknown as ReturnType<typeof documentPage>['checkout'],
});
const of = (endpoint: Endpoint) => at(endpoint, { document: page.id });
const dialog = (command: string, answers = {}, about = page) =>
  renderPage(<AuthoringDialogs page={about} command={command} close={() => {}} />, answers);
const changedFile = () => new File(['new words'], 'grip-overhaul-new.docx');
const arrived = {
  'POST /api/uploads': uploaded(),
  [at(api.documents.match)]: { files: [{ uploadId: uploaded().id, named: {}, document: null }] },
};

describe('checking out', () => {
  it('sends what it is for and until when, and hands out no file where only the document is reserved', async () => {
    const { user } = dialog('check out', { [of(api.documents.checkOut)]: { fileIds: [] } });
    await user.click(screen.getByRole('radio', { name: /^Reserve only/ }));
    expect(screen.queryByText('THR-PRO-0118_C_Grip-overhaul.docx')).toBeNull();
    await user.type(screen.getByLabelText(/^Purpose/), 'New limits');
    await user.type(screen.getByLabelText(/^Expected back/), '3 dec');
    await user.click(screen.getByRole('button', { name: 'Check out' }));
    expect(lastSent()?.body).toMatchObject({ seen: 'seen-1', note: 'New limits', expectedBack: '2026-12-03' });
  });

  it('names the file as it is handed out, and offers the browser for texts alone', () => {
    dialog('check out');
    expect(screen.getByText('THR-PRO-0118_C_Grip-overhaul.docx')).toBeTruthy();
    expect(screen.queryByRole('radio', { name: /^Edit in the browser/ })).toBeNull();
  });

  it('offers the browser for a text', () => {
    dialog('check out', {}, documentPage({ versions: [version([original({ mediaType: 'text/markdown' })])] }));
    expect(screen.getByRole('radio', { name: /^Edit in the browser/ })).toBeTruthy();
  });

  it('goes to the editor where the text is edited in the browser', async () => {
    const text = documentPage({ versions: [version([original({ mediaType: 'text/markdown' })])] });
    const { user, router } = dialog('check out', { [of(api.documents.checkOut)]: { fileIds: ['f'] } }, text);
    await user.click(screen.getByRole('radio', { name: /^Edit in the browser/ }));
    await user.click(screen.getByRole('button', { name: 'Check out' }));
    await waitFor(() => expect(router.state.location.pathname).toBe('/d/THR-PRO-0118/edit'));
  });

  it('hands several originals out in one package', async () => {
    const assign = vi.fn();
    vi.stubGlobal('location', { ...window.location, assign });
    const two = documentPage({
      versions: [version([original({ id: 'a' }), original({ id: 'b', handedOutName: 'sheet 2.docx' })])],
    });
    const { user } = dialog(
      'check out',
      {
        [of(api.documents.checkOut)]: { fileIds: ['a', 'b'] },
        [at(api.bulk.downloadPackage)]: { id: 'package-1', documents: 1 },
      },
      two,
    );
    expect(screen.getByText(/Files in one package/).textContent).toContain('sheet 2.docx');
    await user.click(screen.getByRole('button', { name: 'Check out' }));
    await waitFor(() => expect(assign).toHaveBeenCalledWith('/api/download-packages/package-1'));
    expect(lastSent()?.body).toEqual({ ids: [two.id], filter: null, content: 'work' });
  });

  it('shows who was first, and keeps the typed text', async () => {
    const { user } = dialog('check out', {
      [of(api.documents.checkOut)]: refusedWith(409, 'checked_out', 'Otto Brandvik has it checked out.'),
    });
    await user.type(screen.getByLabelText(/^Purpose/), 'New limits');
    await user.click(screen.getByRole('button', { name: 'Check out' }));
    expect(await screen.findByText('Otto Brandvik has it checked out.')).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>(/^Purpose/).value).toBe('New limits');
  });
});

describe('checking in', () => {
  it('sends the file with the note, and the other facts of the revision unchanged', async () => {
    const { user } = dialog('check in', { ...arrived, [of(api.documents.checkIn)]: { version: 3 } });
    await user.upload(screen.getByLabelText('The changed file'), changedFile());
    expect(await screen.findByText('grip-overhaul-new.docx')).toBeTruthy();
    await user.type(screen.getByLabelText('Note on this version'), 'Limit raised to 14 kN');
    await user.click(screen.getByRole('button', { name: 'Check in' }));
    expect(lastSent()?.body).toMatchObject({
      seen: 'seen-1',
      uploadId: uploaded().id,
      note: 'Limit raised to 14 kN',
      title: 'Grip overhaul and slip-force test',
      metadata: { limit: 12 },
      more: [],
      sameContentMeant: false,
    });
    expect(lastSent()?.body).not.toHaveProperty('name');
  });

  it('offers the names that the file may be stored under', async () => {
    const { user } = dialog('check in', { ...arrived, [of(api.documents.checkIn)]: { version: 3 } });
    await user.upload(screen.getByLabelText('The changed file'), changedFile());
    expect((await screen.findByLabelText<HTMLInputElement>('Stored name')).value).toBe('grip-overhaul-new.docx');
    await user.click(screen.getByRole('button', { name: 'grip-overhaul.docx' }));
    await user.type(screen.getByLabelText('Note on this version'), 'Limits');
    await user.click(screen.getByRole('button', { name: 'Check in' }));
    expect(lastSent()?.body).toMatchObject({ name: 'grip-overhaul.docx' });
  });

  it('asks for no name where the naming rule gives it', async () => {
    const named = { ...page, followsNamingRule: { own: null, holds: true } };
    const { user } = dialog('check in', arrived, named);
    await user.upload(screen.getByLabelText('The changed file'), changedFile());
    expect(await screen.findByText('grip-overhaul-new.docx')).toBeTruthy();
    expect(screen.queryByLabelText('Stored name')).toBeNull();
  });

  it('shows how the file differs from the document, and takes over only ticked differences', async () => {
    const { user } = dialog('check in', {
      ...arrived,
      [at(api.documents.match)]: {
        files: [{ uploadId: uploaded().id, named: { limit: '14', title: 'Grip overhaul' }, document: null }],
      },
      [of(api.documents.checkIn)]: { version: 3 },
    });
    await user.upload(screen.getByLabelText('The changed file'), changedFile());
    const differences = await screen.findByRole('group', { name: 'Differences found in the file' });
    expect(within(differences).getAllByRole('checkbox')).toHaveLength(2);
    await user.click(within(differences).getByRole('checkbox', { name: /^Title/ }));
    await user.type(screen.getByLabelText('Note on this version'), 'Limits');
    await user.click(screen.getByRole('button', { name: 'Check in' }));
    expect(lastSent()?.body).toMatchObject({
      title: 'Grip overhaul and slip-force test',
      metadata: { limit: 14 },
    });
  });

  it('asks whether unchanged content is meant, and only then sends it so', async () => {
    const { user } = dialog('check in', {
      ...arrived,
      [of(api.documents.checkIn)]: ({ body }: { body: unknown }) =>
        (body as { sameContentMeant: boolean }).sameContentMeant
          ? { version: 3 }
          : refusedWith(409, 'same_content', 'The file has the same content as version 2.'),
    });
    await user.upload(screen.getByLabelText('The changed file'), changedFile());
    await user.type(screen.getByLabelText('Note on this version'), 'Scanned again');
    expect(screen.queryByRole('button', { name: 'Check in unchanged content' })).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Check in' }));
    await user.click(await screen.findByRole('button', { name: 'Check in unchanged content' }));
    expect(lastSent()?.body).toMatchObject({ sameContentMeant: true, note: 'Scanned again' });
  });

  it('keeps further originals, with the facts about each', async () => {
    const plates = {
      ...page,
      versions: [version([original(), original({ id: 'f2', name: 'plate-2.pdf', sheet: 2 })])],
    };
    const { user } = dialog('check in', { ...arrived, [of(api.documents.checkIn)]: { version: 3 } }, plates);
    expect(screen.getByText('The other originals (1)')).toBeTruthy();
    await user.upload(screen.getByLabelText('The changed file'), changedFile());
    await user.type(screen.getByLabelText('Note on this version'), 'Limits');
    await user.click(screen.getByRole('button', { name: 'Check in' }));
    expect(lastSent()?.body).toMatchObject({ more: [{ keep: 'f2', sheet: 2 }] });
  });

  it('shows the file saved on the network drive, and that it is accepted', () => {
    const saved = { at: '2026-11-27T15:00:00.000Z', size: 51_000 };
    const checkout = { ...page.checkout, saved } as typeof page.checkout;
    dialog('check in', {}, { ...page, checkout });
    expect(screen.getByText('Saved on the network drive')).toBeTruthy();
    expect(screen.getByLabelText('Use another file')).toBeTruthy();
  });

  it('refuses what is no file to keep, with the reason', async () => {
    const { user } = dialog('check in', {
      'POST /api/uploads': refusedWith(422, 'file_empty', 'The file is empty.', 'file'),
    });
    await user.upload(screen.getByLabelText('The changed file'), changedFile());
    expect(await screen.findByText('The file is empty.')).toBeTruthy();
  });
});

it('discarding a check-out is a question with two ways, and sends what was seen', async () => {
  const { user } = dialog('discard check-out', { [of(api.documents.discardCheckout)]: {} });
  expect(screen.getByRole('button', { name: 'Keep check-out' })).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Discard' }));
  expect(lastSent()?.body).toEqual({ seen: 'seen-1' });
});
