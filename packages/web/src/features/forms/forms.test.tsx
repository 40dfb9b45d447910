import { api, type FormInfo, type FormRecord } from '@kanonos/contract';
import { screen, waitFor, within } from '@testing-library/react';
import { Route, Routes } from 'react-router';
import { describe, expect, it } from 'vitest';
import { at, lastSent, refusedWith, renderPage, sent } from '../../testing/renderPage.tsx';
import { EditFormsPage } from './EditFormsPage.tsx';
import { FillFormPage } from './FillFormPage.tsx';
import { FormsPage } from './FormsPage.tsx';
import { RecordPage } from './RecordPage.tsx';

const FORM = '00000000-0000-7000-8000-00000000000f';
const RECORD = '00000000-0000-7000-8000-00000000000a';
const form: FormInfo = {
  id: FORM,
  code: 'INC',
  purpose: 'record',
  name: 'Incident',
  about: 'Anything that went wrong',
  version: 1,
  sections: [
    {
      title: 'What happened',
      help: 'In your own words',
      questions: [
        { key: 'what_happened', label: 'What happened', kind: 'long text', mandatory: true },
        { key: 'hurt', label: 'Was somebody hurt', kind: 'yes/no', mandatory: true },
      ],
    },
    {
      title: 'Who was hurt',
      help: '',
      when: 'hurt:yes',
      questions: [{ key: 'days', label: 'Days off', kind: 'number', mandatory: true }],
    },
  ],
};
const record: FormRecord = {
  id: RECORD,
  number: null,
  form,
  document: null,
  by: { id: 'p', name: 'Mara Quill' },
  savedAt: '2026-11-27T08:00:00.000Z',
  sentAt: null,
  rowVersion: 2,
  answers: { what_happened: 'The rope slipped' },
  names: {},
  inWords: [{ title: 'What happened', lines: [{ key: 'w', label: 'What happened', value: 'The rope slipped' }] }],
  files: [],
  request: null,
  mine: true,
};
const line = { ...record, form: { id: FORM, code: 'INC', name: 'Incident' }, first: 'What happened: The rope slipped' };
const pages = (
  <Routes>
    <Route path="/forms" element={<FormsPage />} />
    <Route path="/forms/:id" element={<FillFormPage />} />
    <Route path="/records/:id" element={<RecordPage />} />
  </Routes>
);
const draw = (address: string, more: Record<string, unknown> = {}) =>
  renderPage(
    pages,
    {
      [at(api.forms.offered)]: {
        forms: [form],
        drafts: [line],
        records: [{ ...line, id: 's', number: 'INC-2026-0001', sentAt: record.savedAt }],
      },
      [at(api.forms.record, { id: RECORD })]: record,
      [at(api.forms.save)]: { id: RECORD, rowVersion: 3 },
      [at(api.forms.send, { id: RECORD })]: { number: 'INC-2026-0002', request: null },
      [at(api.forms.discard, { id: RECORD })]: {},
      ...more,
    },
    address,
  );
const sectionsSent = () => (lastSent()?.body as { sections: FormInfo['sections'] } | undefined)?.sections ?? [];
const press = (name: string | RegExp) => screen.getByRole('button', { name });

describe('filling in', () => {
  it('goes section by section, asks what follows from the answers, and is sent as it was checked', async () => {
    const { user } = draw(`/forms/${FORM}`);
    await user.type(await screen.findByRole('textbox', { name: /What happened/ }), 'The rope slipped');
    const sections = within(screen.getByRole('navigation', { name: 'Sections' }));
    expect(sections.queryByRole('button', { name: 'Who was hurt' })).toBeNull();
    await user.selectOptions(screen.getByRole('combobox', { name: /Was somebody hurt/ }), 'true');
    await user.click(press('Next'));
    expect(document.activeElement?.textContent).toBe('Who was hurt');
    await user.click(press('Next'));
    expect(screen.getByRole('status').textContent).toBe('Still to be answered: Days off');
    expect((press('Send') as HTMLButtonElement).disabled).toBe(true);
    await user.click(sections.getByRole('button', { name: 'Who was hurt' }));
    await user.type(screen.getByRole('textbox', { name: /Days off/ }), '3');
    await user.click(press('Next'));
    expect(within(screen.getByRole('region', { name: 'Who was hurt' })).getByText('3')).toBeTruthy();
    await user.click(press('Send'));
    await screen.findByRole('heading', { name: 'Forms' });
    expect(sent.filter(({ method }) => method === 'POST').map(({ body }) => body)).toEqual([
      {
        formId: FORM,
        answers: { what_happened: 'The rope slipped', hurt: true, days: 3 },
        keptFiles: [],
        uploads: [],
      },
      { rowVersion: 3 },
    ]);
  });

  it('goes on with a draft, keeps it, and discards it', async () => {
    const { user } = draw(`/forms/${FORM}?draft=${RECORD}`);
    const text = (await screen.findByRole('textbox', { name: /What happened/ })) as HTMLTextAreaElement;
    expect(text.value).toBe('The rope slipped');
    await user.type(text, ' again');
    await user.click(press('Save draft'));
    await waitFor(() =>
      expect(lastSent()?.body).toMatchObject({
        id: RECORD,
        rowVersion: 2,
        answers: { what_happened: 'The rope slipped again' },
      }),
    );
    await user.click(press('Discard draft'));
    await waitFor(() => expect(lastSent()?.body).toEqual({ rowVersion: 3 }));
  });

  it('keeps what was typed when it is refused', async () => {
    const { user } = draw(`/forms/${FORM}`, {
      [at(api.forms.save)]: refusedWith(409, 'form_not_offered', 'The form is not offered here.'),
    });
    await user.type(await screen.findByRole('textbox', { name: /What happened/ }), 'Slipped');
    await user.click(press('Save draft'));
    expect(await screen.findByText('The form is not offered here.')).toBeTruthy();
    expect((screen.getByRole('textbox', { name: /What happened/ }) as HTMLTextAreaElement).value).toBe('Slipped');
  });
});

it('forms, drafts and records each lead on', async () => {
  draw('/forms');
  expect((await screen.findByRole('link', { name: 'Fill in Incident' })).getAttribute('href')).toBe(`/forms/${FORM}`);
  expect(screen.getByRole('link', { name: 'Continue Incident' }).getAttribute('href')).toBe(
    `/forms/${FORM}?draft=${RECORD}`,
  );
  expect(screen.getByRole('link', { name: 'INC-2026-0001' }).getAttribute('href')).toBe('/records/s');
});

it('a record says what was answered, and opens as a PDF', async () => {
  draw(`/records/${RECORD}`);
  expect(await screen.findByRole('heading', { name: 'Incident Draft' })).toBeTruthy();
  expect(screen.getByText('The rope slipped')).toBeTruthy();
  expect(screen.getByRole('link', { name: 'Open as PDF' }).getAttribute('href')).toBe(
    `/api/form-records/${RECORD}/pdf`,
  );
});

describe('the editor', () => {
  const edited = {
    ...form,
    rowVersion: 4,
    active: true,
    typeIds: [],
    receiverIds: [],
    records: 2,
    versions: [{ n: 1, at: record.savedAt, by: 'Dagny Holm', reason: 'first', sections: form.sections }],
  };
  const open = (forms: unknown[], address = '/rules/forms') =>
    renderPage(
      <EditFormsPage />,
      {
        [at(api.forms.all)]: { forms },
        [at(api.people.units)]: { units: [] },
        [at(api.documents.types)]: { types: [] },
        [at(api.forms.edit)]: { id: FORM, version: 2 },
      },
      address,
    );

  it('adds a question that is asked after an answer, and saves a version with its reason', async () => {
    const { user } = open([edited]);
    const section = within(await screen.findByRole('group', { name: 'Section 2' }));
    await user.click(section.getByRole('button', { name: 'Add question' }));
    await user.type(section.getByRole('textbox', { name: 'Question' }), 'Which doctor');
    const [, asked] = section.getAllByRole('combobox', { name: 'Asked' });
    await user.selectOptions(asked as HTMLElement, 'Where “Was somebody hurt”');
    const [, value] = section.getAllByRole('combobox', { name: 'Value' });
    await user.selectOptions(value as HTMLElement, 'yes');
    await user.type(screen.getByRole('textbox', { name: /Reason/ }), 'asked by the doctor');
    await user.click(press('Save version'));
    await waitFor(() =>
      expect(lastSent()?.body).toMatchObject({ id: FORM, rowVersion: 4, reason: 'asked by the doctor' }),
    );
    const sections = sectionsSent();
    expect(sections[1]?.questions[1]).toEqual({
      key: 'question',
      label: 'Which doctor',
      kind: 'text',
      mandatory: false,
      when: 'hurt:yes',
    });
  });

  it('shows the form as it is filled in, with its conditions', async () => {
    const { user } = open([edited]);
    await user.click(await screen.findByText('Preview'));
    await user.selectOptions(await screen.findByRole('combobox', { name: /Was somebody hurt/ }), 'true');
    expect(screen.getByRole('button', { name: 'Who was hurt' })).toBeTruthy();
    expect(sent.filter(({ method }) => method === 'POST')).toEqual([]);
  });

  it('moves and removes questions and sections', async () => {
    const { user } = open([edited]);
    const first = within(await screen.findByRole('group', { name: 'Section 1' }));
    await user.click(first.getByRole('button', { name: 'Move Was somebody hurt up' }));
    await user.click(screen.getByRole('button', { name: 'Remove Who was hurt' }));
    await user.type(screen.getByRole('textbox', { name: /Reason/ }), 'shorter');
    await user.click(press('Save version'));
    await waitFor(() => expect(lastSent()?.body).toBeTruthy());
    const sections = sectionsSent();
    expect(sections.map(({ questions }) => questions.map(({ key }) => key))).toEqual([['hurt', 'what_happened']]);
  });
});
