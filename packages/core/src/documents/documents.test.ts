import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { expandRights, RIGHTS, type Right } from '../access/rights.ts';
import { DEFAULT_CONFIDENTIALITY, FORBIDDEN, withoutForbidden } from './confidentiality.ts';
import { checkOriginals, sheetWords } from './originals.ts';
import { checkTitles, titlesOf, withTitles } from './titles.ts';
import { writtenContent } from './written.ts';

describe('titles in languages', () => {
  it('are kept among the revision fields and are found again', () => {
    const metadata = withTitles({ area: '2' }, { de: 'Prüfung der Klemme', 'pt-BR': 'Ensaio' });
    expect(titlesOf(metadata)).toEqual({ de: 'Prüfung der Klemme', 'pt-BR': 'Ensaio' });
    expect(metadata.area).toBe('2');
  });
  it('replace those before, and empty ones go', () => {
    expect(withTitles(withTitles({ a: 1 }, { de: 'Eins', fr: 'Un' }), { de: ' ', it: 'Uno' })).toEqual({
      a: 1,
      'title:it': 'Uno',
    });
  });
  it('are refused under what is no language', () => {
    expect(checkTitles({ de: 'x', German: 'y', 'x y': 'z' }).map((r) => r.params?.language)).toEqual(['German', 'x y']);
  });
});

describe('confidentiality', () => {
  it('forbids what its level forbids, whatever is granted', () => {
    const all = withoutForbidden(expandRights(['manage']), DEFAULT_CONFIDENTIALITY.restricted, false);
    expect(all.has('download')).toBe(false);
    expect(all.has('print')).toBe(false);
    expect(all.has('author')).toBe(true);
  });
  it('keeps outside parties out', () => {
    expect(withoutForbidden(new Set<Right>(['read']), DEFAULT_CONFIDENTIALITY.confidential, true).size).toBe(0);
    expect(withoutForbidden(new Set<Right>(['read']), DEFAULT_CONFIDENTIALITY.public, true).has('read')).toBe(true);
  });
  it('only ever takes away', () => {
    fc.assert(
      fc.property(fc.subarray([...RIGHTS]), fc.subarray([...FORBIDDEN]), fc.boolean(), (rights, forbids, outside) => {
        const before = expandRights(rights);
        const left = withoutForbidden(before, forbids, outside);
        expect([...left].every((right) => before.has(right))).toBe(true);
        for (const command of forbids) expect(left.has(command as Right)).toBe(false);
      }),
    );
  });
});

describe('originals that are no files', () => {
  it('hold an address as a list of one', () => {
    expect(writtenContent({ kind: 'web address', address: ' https://tarnholt.example/film?id=3 ' })).toEqual({
      ok: true,
      value: {
        text: 'https://tarnholt.example/film?id=3\r\n',
        name: 'tarnholt.example.uri',
        mediaType: 'text/uri-list',
      },
    });
  });
  it.each(['javascript:alert(1)', 'ftp://a.b', 'hello', 'http://localhost/x'])('refuse %s', (address) => {
    expect(writtenContent({ kind: 'web address', address }).ok).toBe(false);
  });
  it('give the place where a paper is kept', () => {
    const paper = writtenContent({ kind: 'paper', place: 'Archive room 2, cabinet 4', pages: 12 });
    expect(paper.ok && paper.value.text).toBe('Kept on paper at: Archive room 2, cabinet 4\nPages: 12\n');
    expect(writtenContent({ kind: 'paper', place: ' ', pages: null }).ok).toBe(false);
  });
});

describe('several originals', () => {
  const sheet = (n: number | null, language = '') => ({ description: '', language, sheet: n });
  it('may be sheets, each in several languages', () => {
    expect(checkOriginals([sheet(1, 'de'), sheet(1, 'en'), sheet(2), sheet(null)])).toEqual([]);
    expect(sheetWords(2, [sheet(1), sheet(2), sheet(3)])).toBe('sheet 2 of 3');
  });
  it('are refused when a sheet is left out or a language is none', () => {
    expect(checkOriginals([sheet(1), sheet(3)])).toEqual([{ code: 'sheet_left_out', params: { sheet: 2, of: 3 } }]);
    expect(checkOriginals([sheet(null, 'deutsch-')])[0]?.code).toBe('title_language_invalid');
  });
});
