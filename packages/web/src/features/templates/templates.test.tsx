import { api, type Template } from '@kanonos/contract';
import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { typeInfo, uploaded } from '../../testing/fixtures.ts';
import { at, lastSent, refusedWith, renderPage } from '../../testing/renderPage.tsx';
import { ApplyTemplateDialog } from './ApplyTemplateDialog.tsx';
import { TemplateDialog } from './TemplateDialog.tsx';

const type = typeInfo();
const template: Template = {
  id: 'm1',
  typeId: type.id,
  name: 'Procedure, English',
  language: 'en',
  fileName: 'procedure.docx',
  sha256: 'c3'.repeat(32),
  kind: 'Word',
  retired: false,
  places: ['number'],
  rowVersion: 2,
  editions: [{ n: 3, at: '2026-11-01T08:00:00.000Z', by: 'Otto Brandvik', reason: 'Logo', fileName: 'procedure.docx' }],
};
const looked = {
  places: [
    { name: 'number', label: 'Number' },
    { name: 'nummer', label: null },
  ],
  names: [{ name: 'number', label: 'Number' }],
};

describe('a template', () => {
  it('is looked at before it holds: what it contains, and which names are unknown', async () => {
    const { user } = renderPage(<TemplateDialog template={undefined} types={[type]} close={() => {}} />, {
      'POST /api/uploads': uploaded(),
      [at(api.templates.look)]: looked,
      [at(api.templates.save)]: { id: 'm2' },
    });
    const add = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Add template' });
    expect(add().disabled).toBe(true);
    await user.selectOptions(screen.getByLabelText('Type'), 'PRO Procedure');
    await user.type(screen.getByLabelText('Name'), 'Procedure, English');
    await user.upload(screen.getByLabelText('File'), new File(['x'], 'procedure.docx'));
    expect(await screen.findByText(/nummer/)).toBeTruthy();
    await user.type(screen.getByLabelText('Reason'), 'First edition');
    await user.click(add());
    expect(lastSent()?.body).toMatchObject({
      id: null,
      typeId: type.id,
      name: 'Procedure, English',
      uploadId: uploaded().id,
      rowVersion: 0,
    });
  });

  it('whose file cannot be used says so, and is not added', async () => {
    const { user } = renderPage(<TemplateDialog template={undefined} types={[type]} close={() => {}} />, {
      'POST /api/uploads': uploaded(),
      [at(api.templates.look)]: refusedWith(422, 'template_kind', 'Use a DOCX, XLSX, ODT or Markdown file.'),
    });
    await user.selectOptions(screen.getByLabelText('Type'), 'PRO Procedure');
    await user.upload(screen.getByLabelText('File'), new File(['x'], 'procedure.pdf'));
    expect(await screen.findByText('Use a DOCX, XLSX, ODT or Markdown file.')).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Add template' }).disabled).toBe(true);
  });

  it('keeps its type and its file, and becomes the next edition', async () => {
    const { user } = renderPage(<TemplateDialog template={template} types={[type]} close={() => {}} />, {
      [at(api.templates.save)]: { id: 'm1' },
    });
    expect(screen.getByLabelText<HTMLSelectElement>('Type').disabled).toBe(true);
    await user.click(screen.getByRole('checkbox', { name: /^Retired/ }));
    await user.type(screen.getByLabelText('Reason'), 'Replaced');
    await user.click(screen.getByRole('button', { name: 'Save as next edition' }));
    expect(lastSent()?.body).toMatchObject({ id: 'm1', uploadId: null, retired: true, rowVersion: 2 });
  });
});

describe('bringing a template onto drafts', () => {
  const drafts = {
    rows: [
      { documentId: 'd1', number: 'THR-PRO-0001', title: 'Rope' },
      { documentId: 'd2', number: 'THR-PRO-0002', title: 'Grip' },
    ],
  };

  it('takes the ticked ones, and shows which were left unchanged and why', async () => {
    const { user } = renderPage(<ApplyTemplateDialog template={template} close={() => {}} />, {
      [at(api.find.register)]: drafts,
      [at(api.templates.bring, { id: 'm1' })]: {
        done: [{ number: 'THR-PRO-0001', version: 3 }],
        refused: [{ number: 'THR-PRO-0002', reasons: ['It is checked out.'] }],
      },
    });
    await user.click(await screen.findByRole('checkbox', { name: 'All 2 drafts' }));
    expect(screen.getByLabelText<HTMLTextAreaElement>('Note on these versions').value).toMatch(/edition 3/i);
    await user.click(screen.getByRole('button', { name: /2/ }));
    expect(await screen.findByText('It is checked out.')).toBeTruthy();
    expect(lastSent()?.body).toMatchObject({ ids: ['d1', 'd2'] });
    expect(screen.getByRole('button', { name: 'Close' })).toBeTruthy();
  });

  it('says that there is no draft', async () => {
    renderPage(<ApplyTemplateDialog template={template} close={() => {}} />, { [at(api.find.register)]: { rows: [] } });
    expect(await screen.findByText(/^No document of this type is/)).toBeTruthy();
  });
});
