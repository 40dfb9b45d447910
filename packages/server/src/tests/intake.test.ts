import { existsSync, mkdirSync, readdirSync, utimesSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { expect, test } from 'vitest';
import { extractText } from '../features/content/text.ts';
import { listIncomingFiles, putBack, setAside, takeIncomingFile } from '../features/intake/service.ts';
import { takeIncomingFiles } from '../features/intake/watch.ts';
import { rows } from '../platform/db/connect.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();

/** Puts a file into the intake folder as if it had been written some time ago. */
const arrive = (path: string, text: string | Buffer, secondsAgo = 10) => {
  const at = join(organisation.app.config.intakeDir, path);
  mkdirSync(dirname(at), { recursive: true });
  writeFileSync(at, text);
  const when = new Date(Date.now() - secondsAgo * 1000);
  utimesSync(at, when, when);
  return at;
};
const list = async (person = 'author', aside = false) =>
  (await listIncomingFiles(organisation.app, await organisation.as(person), aside)).incomingFiles;
const readTexts = async () => {
  for (const { sha256 } of await rows<{ sha256: string }>(
    organisation.app.db,
    `select sha256 from contents where text_state = 'waiting'`,
  ))
    await extractText(organisation.app, sha256);
};

test('what arrives is taken once, proposed by folder, name and text, and filed by one', async () => {
  const at = arrive('Procedure/Below/scan_0001.md', '# Slip force of the grip\nLimit: 12 kN\n');
  expect(await takeIncomingFiles(organisation.app)).toBe(1);
  expect(existsSync(at)).toBe(false);
  await readTexts();
  const [incomingFile] = await list();
  expect(incomingFile?.proposal).toMatchObject({
    typeId: organisation.types.get('PRO'),
    folderId: organisation.folders.get('1/a'),
    title: 'Slip force of the grip',
    metadata: { limit: '12 kN' },
    origins: { type: 'the folder', folder: 'the folder', title: 'the text', limit: 'the text' },
  });
  const file = async (person: string) => {
    const upload = await takeIncomingFile(organisation.app, await organisation.as(person), incomingFile?.id ?? '');
    return organisation.registerAs(person, {
      typeId: incomingFile?.proposal.typeId ?? '',
      folderId: incomingFile?.proposal.folderId ?? '',
      title: 'Slip force',
      metadata: incomingFile?.proposal.metadata ?? {},
      uploadId: upload.id,
      incomingFileId: incomingFile?.id ?? '',
    });
  };
  const before = await rows(organisation.app.db, 'select last from counters');
  const results = await Promise.all(['author', 'author2'].map((person) => codeOf(file(person))));
  expect(results.sort()).toEqual(['done', 'incoming_file_gone']);
  expect(await list()).toEqual([]);
  // The one who came second took no number.
  expect(
    await rows(organisation.app.db, 'select sum(last)::int - :n::int as more from counters', {
      n: (before as { last: number }[]).reduce((a, b) => a + Number(b.last), 0),
    }),
  ).toEqual([{ more: 1 }]);
});

test('stopped between any two steps nothing is lost and nothing is taken twice', async () => {
  const path = arrive('twice.md', 'once');
  const { mtime } = (await import('node:fs')).statSync(path);
  await takeIncomingFiles(organisation.app);
  // As if the server had died before the file was removed: it is still there.
  writeFileSync(path, 'once');
  utimesSync(path, mtime, mtime);
  expect(await takeIncomingFiles(organisation.app)).toBe(0);
  expect(existsSync(path)).toBe(false);
  expect((await list()).map((one) => one.path)).toEqual(['twice.md']);
  // Put there again it is another incoming file, marked as known once its bytes are filed.
  arrive('twice.md', 'once', 5);
  expect(await takeIncomingFiles(organisation.app)).toBe(1);
  expect(await list()).toHaveLength(2);
});

test('files still being written are left alone; hidden files and links too', async () => {
  arrive('fresh.md', 'half', 0);
  arrive('.hidden.md', 'x');
  arrive('.partial/x.md', 'x');
  expect(await takeIncomingFiles(organisation.app)).toBe(0);
  expect(readdirSync(organisation.app.config.intakeDir)).toContain('fresh.md');
});

test('a file that cannot be filed is put aside with its reason and does not delay others', async () => {
  arrive('tool.exe', Buffer.from('MZ....'));
  arrive('empty.md', '');
  arrive('good.md', 'good');
  await takeIncomingFiles(organisation.app);
  const refused = (await list()).filter((one) => one.state === 'refused');
  expect(refused.map((one) => [one.name, one.why !== null])).toEqual([
    ['empty.md', true],
    ['tool.exe', true],
  ]);
  expect(existsSync(join(organisation.app.config.intakeDir, '.refused'))).toBe(true);
  expect((await list()).some((one) => one.name === 'good.md')).toBe(true);
});

test('a reader does not see it; a file that was set aside no longer waits and can be restored', async () => {
  expect(await codeOf(list('reader'))).toBe('right_missing');
  const [one] = await list();
  await setAside(organisation.app, await organisation.as('author'), one?.id ?? '', 'not ours');
  expect((await list()).some((other) => other.id === one?.id)).toBe(false);
  expect((await list('author2', true))[0]).toMatchObject({ id: one?.id, why: 'not ours', by: 'Author' });
  expect(await codeOf(takeIncomingFile(organisation.app, await organisation.as('author'), one?.id ?? ''))).toBe(
    'incoming_file_gone',
  );
  await putBack(organisation.app, await organisation.as('author2'), one?.id ?? '');
  expect((await list()).some((other) => other.id === one?.id)).toBe(true);
});
