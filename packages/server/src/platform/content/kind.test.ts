import { describe, expect, test } from 'vitest';
import { isSheetsByOffice, isShownByPages, mediaTypeOf, showOf } from './kind.ts';

const kindOf = (name: string, bytes: string | number[]) => mediaTypeOf(name, Buffer.from(bytes as string));
const PNG = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 0x0d, 0x49, 0x48, 0x44, 0x52];
const ZIP = [0x50, 0x4b, 0x03, 0x04, 20, 0, 0, 0, 8, 0];

describe('what a file is', () => {
  test('is recognised by its bytes, whatever its name', async () => {
    expect(await kindOf('drawing.txt', PNG)).toEqual({ mediaType: 'image/png', warning: null });
    expect((await kindOf('x.PDF', '%PDF-1.7\n%âãÏÓ\n')).mediaType).toBe('application/pdf');
  });

  test('among texts is recognised by its name', async () => {
    const kinds = await Promise.all(
      ['a.md', 'a.csv', 'a.txt', 'a.log', 'a.dxf', 'a.eml'].map((name) => kindOf(name, 'Plain words, nothing else.')),
    );
    expect(kinds.map((kind) => kind.mediaType)).toEqual([
      'text/markdown',
      'text/csv',
      'text/plain',
      'text/plain',
      'image/vnd.dxf',
      'message/rfc822',
    ]);
    expect((await kindOf('plan', '<svg xmlns="http://www.w3.org/2000/svg"></svg>')).mediaType).toBe('image/svg+xml');
  });

  test('may be a text in an old encoding or one that is cut inside a character', async () => {
    expect((await kindOf('alt.txt', [0x50, 0x72, 0xfc, 0x66, 0x75, 0x6e, 0x67])).mediaType).toBe('text/plain');
    expect((await kindOf('neu.txt', [...Buffer.from('Prüfung der Klemme ü').subarray(0, -1)])).mediaType).toBe(
      'text/plain',
    );
  });

  test('that promises a format and does not hold it is kept with a warning and cannot be shown', async () => {
    for (const name of ['broken.pdf', 'broken.docx', 'broken.xlsx']) {
      const { mediaType, warning } = await kindOf(name, 'not at all');
      expect(mediaType).toBe('application/octet-stream');
      expect(warning).toContain('cannot be displayed');
      expect(showOf(mediaType)).toBe('none');
    }
    expect((await kindOf('picture.pdf', PNG)).mediaType).toBe('application/octet-stream');
  });

  test('is a scan where its page list follows the pages', async () => {
    for (const head of ['II*\u0000', 'MM\u0000*', 'II+\u0000'])
      expect((await kindOf('scan', [...Buffer.from(head, 'latin1'), 0xff, 0xff, 0xff, 0x7f, 1, 2])).mediaType).toBe(
        'image/tiff',
      );
    expect([showOf('image/tiff'), showOf('image/bmp')]).toEqual(['pages', 'picture']);
    expect(isShownByPages('image/tiff') && isShownByPages('application/msword')).toBe(true);
    expect(isShownByPages('image/png')).toBe(false);
  });

  test('slides and OpenDocument files that are none are kept with a warning', async () => {
    for (const name of ['a.pptx', 'a.odt', 'a.ods', 'a.odp'])
      expect(await kindOf(name, 'no zip at all')).toMatchObject({ mediaType: 'application/octet-stream' });
    expect((await kindOf('a.pptx', ZIP)).mediaType).toContain('presentationml');
  });

  test('inside a zip is believed by its name where the head does not show it', async () => {
    expect((await kindOf('a.docx', ZIP)).mediaType).toContain('wordprocessingml');
    expect((await kindOf('a.zip', ZIP)).mediaType).toBe('application/zip');
  });
});

describe('refused', () => {
  test.each([
    ['setup.pdf', [0x4d, 0x5a, 0x90, 0]],
    ['tool', [0x7f, 0x45, 0x4c, 0x46, 2]],
    ['notes.txt', '#!/bin/sh\nrm -rf /'],
    ['run.bat', 'echo'],
    ['run.PS1', 'echo'],
    ['lib.jar', ZIP],
  ])('a program is refused, also as %s', async (name, bytes) => {
    await expect(kindOf(name, bytes as string)).rejects.toMatchObject({ refusals: [{ code: 'file_executable' }] });
  });

  test('every other kind is accepted, to be handed out and not shown', async () => {
    const others: [string, number[]][] = [
      ['model.catpart', [0x56, 0x35, 0x5f, 0x43, 0x46, 0x56, 0x32, 0, 0, 1]],
      ['data.bin', [0, 1, 2, 3, 0, 255]],
      ['parts.7z', [0x37, 0x7a, 0xbc, 0xaf, 0x27, 0x1c, 0, 4]],
    ];
    for (const [name, bytes] of others) {
      const { mediaType, warning } = await kindOf(name, bytes);
      expect([mediaType, warning, showOf(mediaType)], name).toEqual(['application/octet-stream', null, 'none']);
    }
  });

  test('a sound is recognised also where it begins after its cover', async () => {
    expect((await kindOf('song.mp3', [0x49, 0x44, 0x33, 3, 0, 0, 0, 0, 0, 0, 0, 0])).mediaType).toBe('audio/mpeg');
  });

  test('office files with macros and templates are shown by pages, in which no macro runs', () => {
    for (const kind of [
      'application/vnd.ms-word.document.macroenabled.12',
      'application/vnd.openxmlformats-officedocument.wordprocessingml.template',
      'application/vnd.oasis.opendocument.text-template',
    ])
      expect(showOf(kind)).toBe('pages');
    for (const kind of [
      'application/vnd.ms-excel.sheet.macroenabled.12',
      'application/vnd.oasis.opendocument.spreadsheet',
    ])
      expect([showOf(kind), isShownByPages(kind)]).toEqual(['sheets', true]);
  });

  test('only workbooks that cannot be read here are read by another one', () => {
    const kinds = ['application/vnd.ms-excel', 'application/vnd.oasis.opendocument.spreadsheet'];
    expect(kinds.map(isSheetsByOffice)).toEqual([true, true]);
    expect(isSheetsByOffice('application/vnd.ms-excel.sheet.macroenabled.12')).toBe(false);
    expect(isSheetsByOffice('application/msword')).toBe(false);
  });
});
