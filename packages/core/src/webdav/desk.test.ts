import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { ifHolds, lockSeconds, parseIf, tokensOf } from './ifHeader.ts';
import { looksTemporary, namesApart } from './names.ts';

describe('an If header', () => {
  test('is read as the standard shows it (RFC 4918 10.4.6 to 10.4.11)', () => {
    expect(parseIf('(<urn:uuid:181d4fae> ["I am an ETag"]) (["I am another ETag"])')).toEqual([
      {
        conditions: [
          { not: false, token: 'urn:uuid:181d4fae' },
          { not: false, etag: '"I am an ETag"' },
        ],
      },
      { conditions: [{ not: false, etag: '"I am another ETag"' }] },
    ]);
    expect(parseIf('(Not <urn:uuid:1> <urn:uuid:2>)')).toEqual([
      {
        conditions: [
          { not: true, token: 'urn:uuid:1' },
          { not: false, token: 'urn:uuid:2' },
        ],
      },
    ]);
    expect(
      parseIf('<http://host/a> (<urn:1> [W/"weak"]) (["strong"]) <http://host/b> (["x"])')?.map((l) => l.resource),
    ).toEqual(['http://host/a', 'http://host/a', 'http://host/b']);
  });

  test('that is not well-formed is none', () => {
    for (const wrong of ['', '()', '(<a>', '<a>', 'x', '(Not)', '(<a>) <b> (<c>)', '((<a>))', '(Not Not <a>)', '["x"]'])
      expect(parseIf(wrong), wrong).toBeUndefined();
  });

  test('holds when all of one list hold', () => {
    const state = { tokens: new Set(['urn:1']), etag: '"a"' };
    const holds = (header: string) => ifHolds(parseIf(header) ?? [], () => state);
    expect(
      ['(<urn:1>)', '(<urn:1> ["a"])', '(<urn:2>) (["a"])', '(Not <DAV:no-lock>)', '(Not ["b"])'].map(holds),
    ).toEqual(Array(5).fill(true));
    expect(['(<urn:2>)', '(<urn:1> ["b"])', '(Not <urn:1>)', '(<DAV:no-lock>)'].map(holds)).toEqual(
      Array(4).fill(false),
    );
  });

  test('hands in every token that it does not deny', () => {
    expect(tokensOf(parseIf('<http://h/a> (<urn:1> Not <urn:2>) (<urn:3>)') ?? [])).toEqual(
      new Set(['urn:1', 'urn:3']),
    );
  });

  test('written from its parts reads back as them', () => {
    const token = fc.stringMatching(/^[a-z]{1,8}:[a-z0-9-]{1,12}$/);
    const condition = fc.record({ not: fc.boolean(), token });
    const lists = fc.array(fc.array(condition, { minLength: 1, maxLength: 4 }), { minLength: 1, maxLength: 4 });
    fc.assert(
      fc.property(lists, (parts) => {
        const header = parts
          .map((list) => `(${list.map((c) => `${c.not ? 'Not ' : ''}<${c.token}>`).join(' ')})`)
          .join(' ');
        expect(parseIf(header)).toEqual(parts.map((conditions) => ({ conditions })));
      }),
    );
  });
});

test('a lock lasts as long as is asked, within what is possible', () => {
  expect(
    ['Second-300', 'Infinite, Second-4100000000', 'Second-1', 'Second-4100000000', undefined, 'nonsense'].map(
      lockSeconds,
    ),
  ).toEqual([300, 86_400, 60, 86_400, 600, 600]);
});

test('names of temporary files are known, and names that people give are not taken for them', () => {
  for (const name of [
    '~$port.docx',
    '~WRD0001.tmp',
    '.~lock.a.odt#',
    'A1B2C3D4',
    'x.swp',
    '.DS_Store',
    '._a.pdf',
    'Thumbs.db',
    'a.docx~',
    'plan.docx.sb-1a2b3c4d-Ab12cd',
  ])
    expect(looksTemporary(name), name).toBe(true);
  for (const name of [
    'Report.docx',
    'THR-PRO-0118_C_Grip-overhaul.docx',
    'new folder of ropes.md',
    'tmp.docx',
    'B2.pdf',
    'deadbeef.docx',
  ])
    expect(looksTemporary(name), name).toBe(false);
});

describe('names in one folder', () => {
  test('end with their number only where they are equal', () => {
    const file = (name: string, number: string, label = 'A') => ({ name, number, label });
    expect(namesApart([file('a.md', 'N-1'), file('A.md', 'N-2'), file('b.md', 'N-3')])).toEqual([
      'a N-1.md',
      'A N-2.md',
      'b.md',
    ]);
    expect(namesApart([file('a.md', 'N-1', 'A'), file('a.md', 'N-1', 'B')])).toEqual(['a N-1 A.md', 'a N-1 B.md']);
    expect(namesApart([file('a', 'N/1'), file('a', 'N-2')])).toEqual(['a N-1', 'a N-2']);
  });

  test('are never the same, in any case', () => {
    const part = fc.constantFrom('a', 'A', 'b', 'a N-1', 'a.md', 'A.md');
    fc.assert(
      fc.property(
        fc.array(
          fc.record({ name: part, number: fc.constantFrom('N-1', 'N-2'), label: fc.constantFrom('A', 'B', '') }),
          {
            maxLength: 12,
          },
        ),
        (files) => {
          const names = namesApart(files);
          expect(new Set(names.map((name) => name.toLowerCase())).size).toBe(files.length);
        },
      ),
    );
  });
});
