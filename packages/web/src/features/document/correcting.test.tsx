import { api, type DocumentPage } from '@kanonos/contract';
import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { documentPage, fieldOf, uploaded } from '../../testing/fixtures.ts';
import { at, lastSent, refusedWith, renderPage } from '../../testing/renderPage.tsx';
import { CorrectMetadata } from './CorrectMetadata.tsx';
import { AddSupportingFile } from './commands/DriveDialogs.tsx';
import { OriginalField } from './OriginalField.tsx';

const fields = [
  fieldOf({ kind: 'text', key: 'limit', label: 'Limit', level: 'revision' }),
  fieldOf({ kind: 'text', key: 'maker', label: 'Maker' }),
];
const draft = documentPage({ fields, metadata: { limit: '12 kN', maker: 'Halden' } });
const inForce: DocumentPage = { ...draft, revision: { ...draft.revision, state: 'in force' } };
const save = at(api.documents.correctMetadata, { document: draft.id });
const known = {
  [at(api.people.names)]: { people: [] },
  [at(api.people.units)]: { units: [] },
  [at(api.documents.keywords)]: { keywords: [] },
};
const draw = (page: DocumentPage, answers = {}) =>
  renderPage(<CorrectMetadata page={page} close={() => {}} />, { ...known, ...answers });

describe('correcting metadata', () => {
  it('of a draft reaches title and revision fields, and needs no reason', async () => {
    const { user } = draw(draft, { [save]: {} });
    const limit = screen.getByLabelText(/^Limit/);
    await user.clear(limit);
    await user.type(limit, '14 kN');
    expect(screen.queryByLabelText('Reason')).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Save' }));
    expect(lastSent()?.body).toMatchObject({
      title: draft.revision.title,
      metadata: { limit: '14 kN', maker: 'Halden' },
      rowVersion: 7,
      revisionRowVersion: 4,
    });
  });

  it('of what is in force reaches document fields alone, and needs a reason', async () => {
    const { user } = draw(inForce, { [save]: {} });
    expect(screen.queryByLabelText(/^Limit/)).toBeNull();
    expect(screen.queryByLabelText('Title')).toBeNull();
    const maker = screen.getByLabelText(/^Maker/);
    await user.clear(maker);
    await user.type(maker, 'Halden & Roe');
    await user.type(screen.getByLabelText('Reason'), 'Renamed');
    await user.click(screen.getByRole('button', { name: 'Save' }));
    expect(lastSent()?.body).toMatchObject({ metadata: { maker: 'Halden & Roe' }, reason: 'Renamed' });
  });

  it('takes another day of review, as people write it', async () => {
    const { user } = draw(draft, { [save]: {} });
    const day = screen.getByLabelText<HTMLInputElement>(/^Next review date/);
    expect(day.value).toBe('9 Mar 2028');
    await user.clear(day);
    await user.type(day, '1 feb 2027');
    await user.click(screen.getByRole('button', { name: 'Save' }));
    expect(lastSent()?.body).toMatchObject({ reviewOn: '2027-02-01' });
  });

  it('shows a refusal, with the field that it is about', async () => {
    const { user } = draw(draft, { [save]: refusedWith(422, 'field_pattern', 'Maker: enter a known maker.', 'maker') });
    await user.click(screen.getByRole('button', { name: 'Save' }));
    expect(await screen.findByText('Maker: enter a known maker.')).toBeTruthy();
  });
});

describe('an original', () => {
  const draw = (answers = {}) => {
    const taken: unknown[] = [];
    return {
      taken,
      ...renderPage(<OriginalField label="Original" value={null} onChange={(upload) => taken.push(upload)} />, answers),
    };
  };

  it('is an address on the web', async () => {
    const { user, taken } = draw({ [at(api.documents.written)]: uploaded({ name: 'films.example' }) });
    await user.click(screen.getByRole('button', { name: 'Web address' }));
    await user.type(screen.getByLabelText('Address of the page or video'), 'https://films.example/1{Enter}');
    expect(lastSent()?.body).toEqual({ kind: 'web address', address: 'https://films.example/1' });
    await screen.findByLabelText('Address of the page or video');
    expect(taken.at(-1)).toMatchObject({ name: 'films.example' });
  });

  it('is paper at a place, with its pages', async () => {
    const { user } = draw({ [at(api.documents.written)]: uploaded() });
    await user.click(screen.getByRole('button', { name: 'Paper' }));
    await user.type(screen.getByLabelText('Where the paper is kept'), 'Cabinet 4');
    await user.type(screen.getByLabelText(/^Pages/), '12x');
    await user.click(screen.getByRole('button', { name: 'Use this place' }));
    expect(lastSent()?.body).toEqual({ kind: 'paper', place: 'Cabinet 4', pages: 12 });
  });

  it('that is refused says why', async () => {
    const { user } = draw({
      [at(api.documents.written)]: refusedWith(422, 'address_invalid', 'Start it with https://.', 'address'),
    });
    await user.click(screen.getByRole('button', { name: 'Web address' }));
    await user.type(screen.getByLabelText('Address of the page or video'), 'films');
    await user.click(screen.getByRole('button', { name: 'Use this address' }));
    expect(await screen.findByText('Start it with https://.')).toBeTruthy();
  });
});

it('a supporting file is added with what it is', async () => {
  const { user } = renderPage(<AddSupportingFile page={draft} close={() => {}} />, {
    'POST /api/uploads': uploaded(),
    [at(api.programs.addSupportingFile, { document: draft.id })]: {},
  });
  const add = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Add supporting file' });
  expect(add().disabled).toBe(true);
  await user.upload(screen.getByLabelText('File'), new File(['x'], 'photo.png'));
  await user.type(screen.getByLabelText('Description'), 'The worn grip');
  await user.click(add());
  expect(lastSent()?.body).toEqual({ uploadId: uploaded().id, note: 'The worn grip' });
});
