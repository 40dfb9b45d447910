import { readFile } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { strFromU8, strToU8, zipSync } from 'fflate';
import { expect, test } from 'vitest';
import { takeUpload } from '../features/content/uploads.ts';
import { matchFiles } from '../features/documents/matching.ts';
import { registerDocument } from '../features/registration/service.ts';
import {
  applyTemplate,
  listTemplates,
  lookAtTemplate,
  saveTemplate,
  templateChoices,
} from '../features/templates/service.ts';
import { rows } from '../platform/db/connect.ts';
import { readParts } from '../platform/office/package.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();

const send = async (person: string, name: string, bytes: Uint8Array | string) =>
  (
    await takeUpload(
      organisation.app,
      await organisation.as(person),
      name,
      Readable.from([Buffer.from(bytes as Uint8Array)]),
    )
  ).id;
const save = async (more: Partial<Parameters<typeof saveTemplate>[2]>) =>
  saveTemplate(organisation.app, await organisation.as('admin'), {
    id: null,
    typeId: organisation.types.get('PRO') ?? '',
    name: 'Plain',
    language: '',
    uploadId: null,
    retired: false,
    rowVersion: 0,
    reason: 'because',
    ...more,
  });
const register = async (templateId: string, more = {}) =>
  registerDocument(
    organisation.app,
    await organisation.as('author'),
    {
      typeId: organisation.types.get('PRO') ?? '',
      folderId: organisation.folders.get('1') ?? '',
      title: 'Slip force',
      metadata: { limit: '12 kN' },
      uploadId: null,
      templateId,
      ...more,
    },
    null,
  );
const contentOf = async (number: string) => {
  const sha256 = (await organisation.page('author', number)).versions[0]?.files[0]?.sha256 ?? '';
  return readFile(organisation.app.content.pathOf(sha256));
};

const W = 'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"';
const docx = (head: string, body: string) =>
  zipSync({
    '[Content_Types].xml': strToU8(
      '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>',
    ),
    '_rels/.rels': strToU8('<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"/>'),
    'word/document.xml': strToU8(
      `<w:document ${W} xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><w:body><w:p><w:r><w:t>${body}</w:t></w:r></w:p><w:sectPr><w:headerReference w:type="default" r:id="h"/></w:sectPr></w:body></w:document>`,
    ),
    'word/_rels/document.xml.rels': strToU8(
      '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="h" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/header" Target="header1.xml"/></Relationships>',
    ),
    'word/header1.xml': strToU8(`<w:hdr ${W}>${head}</w:hdr>`),
  });

test('a document begun from a template has its own number, title and metadata in the file', async () => {
  const uploadId = await send(
    'admin',
    'plain.md',
    '# {{title}}\n{{number}} {{revision}} by {{owner}}: {{limit}} {{later}}',
  );
  expect(
    await lookAtTemplate(organisation.app, await organisation.as('admin'), {
      typeId: organisation.types.get('PRO') ?? '',
      uploadId,
    }),
  ).toMatchObject({
    kind: 'md',
    places: [{ name: 'title', label: 'Title' }, {}, {}, {}, { label: 'Limit' }, { label: null }],
  });
  const { id } = await save({ uploadId });
  const made = await Promise.all([register(id), register(id)]);
  for (const { number } of made)
    expect((await contentOf(number)).toString()).toBe(`# Slip force\n${number} A by Author: 12 kN {{later}}`);
  expect(await codeOf(register(id, { typeId: organisation.types.get('TWO'), metadata: {} }))).toBe('template_unknown');
  expect(await codeOf(register('', { templateId: null }))).toBe('original_missing');
});

test('the title is in the language of the template', async () => {
  const { id } = await save({ name: 'Deutsch', language: 'de', uploadId: await send('admin', 'de.md', '{{title}}') });
  const { number } = await register(id, { titles: { de: 'Schlupfkraft' } });
  expect((await contentOf(number)).toString()).toBe('Schlupfkraft');
});

test('editions are kept, names are unique, and files that cannot hold metadata are refused', async () => {
  const first = await send('admin', 'a.md', 'a');
  const { id } = await save({ name: 'Kept', uploadId: first });
  expect(await codeOf(save({ name: 'Kept', uploadId: first }))).toBe('template_name_taken');
  expect(await codeOf(save({ name: 'None' }))).toBe('template_without_file');
  expect(await codeOf(save({ name: 'Text', uploadId: await send('admin', 'a.txt', 'x') }))).toBe('template_kind');
  expect(await codeOf(save({ id, name: 'Kept', rowVersion: 1 }))).toBe('nothing_changed');
  await save({ id, name: 'Kept', rowVersion: 1, uploadId: await send('admin', 'b.md', 'b'), reason: 'new head' });
  expect(await codeOf(save({ id, name: 'Other', rowVersion: 1 }))).toBe('changed_meanwhile');
  const found = (await listTemplates(organisation.app, await organisation.as('admin'))).templates.find(
    (one) => one.id === id,
  );
  expect(found?.editions.map((edition) => [edition.n, edition.reason, edition.fileName])).toEqual([
    [2, 'new head', 'b.md'],
    [1, 'because', 'a.md'],
  ]);
  await save({ id, name: 'Kept', rowVersion: 2, retired: true });
  expect((await templateChoices(organisation.app.db)).templates.some((one) => one.id === id)).toBe(false);
  expect(await codeOf(register(id))).toBe('template_unknown');
  await expect(rows(organisation.app.db, 'update template_editions set n = 9')).rejects.toThrow();
});

test('head and foot are brought onto drafts as new versions; the others are named and stay', async () => {
  const { id } = await save({
    name: 'Going out',
    uploadId: await send('admin', 'word.docx', docx('NEW HEAD', 'template')),
  });
  const own = async () =>
    organisation.registerAs('author', {
      title: 'Mine',
      ownerId: organisation.ids.owner ?? null,
      uploadId: await send('author', 'mine.docx', docx('OLD HEAD', `MY TEXT ${Math.random()}`)),
    });
  const [draft, out, markdown, released] = [
    await own(),
    await own(),
    await organisation.register('author'),
    await own(),
  ];
  await organisation.checkOut('author2', out.number);
  await organisation.toInForce(released.number);
  const { done, refused } = await applyTemplate(organisation.app, await organisation.as('author'), id, {
    ids: [draft.id, out.id, markdown.id, released.id],
    note: 'New head',
  });
  expect(done).toEqual([{ id: draft.id, number: draft.number, version: 2 }]);
  expect(refused.map((one) => one.number)).toEqual([out.number, markdown.number, released.number]);
  const parts = readParts(new Uint8Array(await contentOf(draft.number)));
  expect(strFromU8(parts.get('word/document.xml') ?? new Uint8Array())).toContain('MY TEXT');
  expect([...parts].map(([, bytes]) => strFromU8(bytes)).join()).toContain('NEW HEAD');
  expect((await organisation.verdict()).kind).toBe('intact');
});

test('a file that left with its metadata inside is known by its number when it comes back under another name', async () => {
  const { id } = await save({ name: 'Comes back', uploadId: await send('admin', 'word.docx', docx('<w:p/>', 'text')) });
  const made = await register(id);
  const uploadId = await send('author', 'scan 17.docx', await contentOf(made.number));
  const {
    files: [file],
  } = await matchFiles(organisation.app, await organisation.as('author'), [uploadId]);
  expect(file).toMatchObject({ document: { number: made.number, by: 'number' }, named: { limit: '12 kN' } });
});
