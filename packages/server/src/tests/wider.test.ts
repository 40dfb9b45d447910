import { api, type BodyInOf } from '@kanonos/contract';
import { describe, expect, test } from 'vitest';
import { takeWritten } from '../features/content/uploads.ts';
import { handOut } from '../features/documents/files.ts';
import { suggestKeywords } from '../features/documents/keywords.ts';
import { matchFiles } from '../features/documents/matching.ts';
import { registerPage } from '../features/find/service.ts';
import { previewRegistration, registerDocument } from '../features/registration/service.ts';
import { rows } from '../platform/db/connect.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();

const register = async (person: string, more: Partial<BodyInOf<typeof api.documents.register>> = {}) =>
  registerDocument(
    organisation.app,
    await organisation.as(person),
    {
      typeId: organisation.types.get('PRO') ?? '',
      folderId: organisation.folders.get('1') ?? '',
      title: 'Grip overhaul',
      ownerId: organisation.ids.owner ?? null,
      uploadId: await organisation.upload(person, `# ${Math.random()}`),
      ...more,
    },
    null,
  );

describe('several originals', () => {
  test('are filed with their descriptions, kept or replaced one by one, and carried over by a revision', async () => {
    const { number } = await register('author', {
      about: { description: 'Left side', sheet: 1 },
      more: [
        { uploadId: await organisation.upload('author', 'right', 'right.md'), description: 'Right side', sheet: 2 },
        { uploadId: await organisation.upload('author', 'rechts', 'rechts.md'), language: 'de', sheet: 2 },
      ],
    });
    const [first] = (await organisation.page('author', number)).versions;
    expect(first?.files.map(({ sheet, language, description }) => [sheet, language, description])).toEqual([
      [1, '', 'Left side'],
      [2, '', 'Right side'],
      [2, 'de', ''],
    ]);
    await organisation.checkOut('author', number);
    const keep = first?.files.slice(1) ?? [];
    await organisation.checkIn('author', number, {
      uploadId: null,
      note: 'German sheet anew',
      sameContentMeant: false,
      more: [
        { keep: keep[0]?.id, description: 'Right side', language: '', sheet: 2 },
        {
          uploadId: await organisation.upload('author', 'rechts neu', 'rechts.md'),
          description: '',
          language: 'de',
          sheet: 2,
        },
      ],
    });
    const [second] = (await organisation.page('author', number)).versions;
    expect(
      second?.files.map((file) => file.sha256 === first?.files[file.sheet === 1 ? 0 : file.language ? 2 : 1]?.sha256),
    ).toEqual([true, true, false]);
    await organisation.toInForce(number);
    await organisation.revise('author', number, { changeKind: 'minor', reason: 'r' });
    expect((await organisation.page('author', number)).versions[0]?.files.map((file) => file.description)).toEqual([
      'Left side',
      'Right side',
      '',
    ]);
  });

  test('sheets that leave one out are refused and nothing is filed', async () => {
    const before = await rows(organisation.app.db, 'select count(*)::int as n from documents');
    expect(
      await codeOf(
        register('author', {
          about: { sheet: 1 },
          more: [{ uploadId: await organisation.upload('author', 'x'), sheet: 3 }],
        }),
      ),
    ).toBe('sheet_left_out');
    expect(await rows(organisation.app.db, 'select count(*)::int as n from documents')).toEqual(before);
  });
});

describe('originals that are no files', () => {
  test('an address and a paper are filed, hashed and shown as such', async () => {
    const author = await organisation.as('author');
    const film = await takeWritten(organisation.app, author, {
      kind: 'web address',
      address: 'https://films.example/7',
    });
    const paper = await takeWritten(organisation.app, author, { kind: 'paper', place: 'Room 2', pages: 3 });
    const one = await register('author', { uploadId: film.id });
    const two = await register('author', { uploadId: paper.id });
    expect((await organisation.page('author', one.number)).versions[0]?.files[0]).toMatchObject({
      show: 'address',
      sha256: film.sha256,
    });
    expect((await organisation.page('author', two.number)).versions[0]?.files[0]?.show).toBe('paper');
    expect(await codeOf(takeWritten(organisation.app, author, { kind: 'web address', address: 'javascript:x' }))).toBe(
      'address_invalid',
    );
  });

  test('another paper is not taken for the first because both are called paper; the same words are', async () => {
    const author = await organisation.as('author');
    const first = await takeWritten(organisation.app, author, { kind: 'paper', place: 'Room 4', pages: null });
    const { number } = await register('author', { uploadId: first.id });
    const other = await takeWritten(organisation.app, author, { kind: 'paper', place: 'Room 5', pages: null });
    const again = await takeWritten(organisation.app, author, { kind: 'paper', place: 'Room 4', pages: null });
    const { files } = await matchFiles(organisation.app, author, [other.id, again.id]);
    expect(files.map((file) => file.document?.number ?? null)).toEqual([null, number]);
  });
});

describe('titles, parents, sites, own review', () => {
  test('titles in languages are signed: they freeze with the revision', async () => {
    const { number } = await register('author', { titles: { de: 'Klemmenrevision' } });
    await organisation.correct('author', number, { titles: { de: 'Klemmenüberholung', fr: 'Révision' } });
    await organisation.toInForce(number);
    expect((await organisation.page('controller', number)).titles).toEqual({ de: 'Klemmenüberholung', fr: 'Révision' });
    expect(await codeOf(organisation.correct('controller', number, { titles: { de: 'anders' } }))).toBe('wrong_state');
    expect(await codeOf(register('author', { titles: { Deutsch: 'x' } }))).toBe('title_language_invalid');
  });

  test('a parent is shown from both ends, never in a circle, and unseen ones are as if they were not', async () => {
    const a = await register('author');
    const b = await register('author', { parent: a.number });
    expect((await organisation.page('author', a.number)).children.map((one) => one.number)).toEqual([b.number]);
    expect((await organisation.page('author', b.number)).parent?.number).toBe(a.number);
    expect(await codeOf(organisation.correct('author', a.number, { parent: b.number }))).toBe('parent_in_circle');
    expect(await codeOf(register('author', { parent: 'TST-PRO-9999' }))).toBe('parent_unknown');
    await rows(
      organisation.app.db,
      `insert into grants (id, document_id, subject_kind, subject_id, rights, withheld) values (gen_random_uuid(), :id, 'person', :person, '{}', true)`,
      {
        id: a.id,
        person: organisation.ids.author2,
      },
    );
    expect(await codeOf(register('author2', { parent: a.number }))).toBe('parent_unknown');
    expect((await organisation.page('author2', b.number)).parent).toBeNull();
    await organisation.correct('author', b.number, { parent: null, location: 'Hall 2' });
    expect(await organisation.page('author', b.number)).toMatchObject({ parent: null, location: 'Hall 2' });
  });

  test('numbers extend the number of the parent where the rule says so', async () => {
    await rows(organisation.app.db, `update types set numbering_rule = '{parent}-F{counter:2}' where code = 'TWO'`);
    const parent = await register('author');
    const typeId = organisation.types.get('TWO') ?? '';
    expect(await codeOf(register('author', { typeId }))).toBe('number_needs_field_value');
    const shown = await previewRegistration(organisation.app, await organisation.as('author'), {
      typeId,
      folderId: organisation.folders.get('1') ?? '',
      title: 'x',
      parent: parent.number,
    });
    expect(shown.number).toBe(`${parent.number}-F01`);
    const made = await Promise.all([1, 2, 3].map(() => register('author', { typeId, parent: parent.number })));
    expect(made.map((one) => one.number).sort()).toEqual([1, 2, 3].map((n) => `${parent.number}-F0${n}`));
    expect(await codeOf(organisation.correct('author', made[0]?.number ?? '', { parent: null }))).toBe(
      'parent_in_number',
    );
  });

  test('an own review interval counts from coming into force', async () => {
    const { number } = await register('author', { reviewEvery: 3 });
    await organisation.toInForce(number);
    expect((await organisation.page('controller', number)).reviewOn).toBe('2027-02-25');
    expect(await codeOf(register('author', { sites: ['NOWHERE'] }))).toBe('entry_unknown');
  });
});

describe('confidentiality', () => {
  test('forbids copies to readers, whatever is granted, but not to the holder of the check-out', async () => {
    const { number } = await register('author', { confidentiality: 'restricted' });
    const page = await organisation.page('author', number);
    expect(page.rights).not.toContain('download');
    const file = page.versions[0]?.files[0]?.id ?? '';
    expect(await codeOf(handOut(organisation.app, await organisation.as('author'), file, 'download'))).toBe(
      'right_missing',
    );
    await organisation.checkOut('author', number);
    expect(await codeOf(handOut(organisation.app, await organisation.as('author'), file, 'download'))).toBe('done');
  });

  test('keeps parties outside from what may not be shared, in lists as on its page', async () => {
    const { number } = await register('author', {});
    await organisation.toInForce(number);
    await rows(organisation.app.db, 'update people set outside = true where id = :id', { id: organisation.ids.reader });
    await rows(
      organisation.app.db,
      `insert into grants (id, folder_id, subject_kind, subject_id, rights) values (gen_random_uuid(), :folder, 'person', :person, '{read}')`,
      { folder: organisation.folders.get('1'), person: organisation.ids.reader },
    );
    const listed = async () =>
      (
        await registerPage(
          organisation.app,
          await organisation.as('reader'),
          api.find.register.query.parse({ revisionScope: 'in force', limit: 200 }),
        )
      ).rows.map((row) => row.number);
    expect(await listed()).toContain(number);
    await organisation.correct('controller', number, { confidentiality: 'confidential' });
    expect(await listed()).not.toContain(number);
    expect(await codeOf(organisation.page('reader', number))).toBe('not_found');
    await organisation.correct('controller', number, { confidentiality: 'public' });
    expect(await codeOf(organisation.page('reader', number))).toBe('done');
  });
});

test('keywords are suggested by their frequency on visible documents', async () => {
  await register('author', { keywords: ['grip', 'rope'] });
  await register('author', { keywords: ['grip', 'Gründung'] });
  const found = await suggestKeywords(organisation.app, await organisation.as('author'), 'GR');
  expect(found.keywords).toEqual([
    { word: 'grip', documents: 2 },
    { word: 'Gründung', documents: 1 },
  ]);
});
