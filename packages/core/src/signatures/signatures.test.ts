import { createHash } from 'node:crypto';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { decideSigning, recordDigest, type SigningRecord, signingRecordText } from './signingRecord.ts';

const sha256 = (data: string | Uint8Array) => createHash('sha256').update(data).digest();
const record: SigningRecord = {
  document: '018876d0-0000-7000-8000-000000000118',
  number: 'THR-PRO-0118',
  revision: '018876d0-0000-7000-8000-00000000118c',
  label: 'C',
  changeKind: 'major',
  files: [
    {
      role: 'rendition',
      name: 'THR-PRO-0118_C_Grip-overhaul.pdf',
      sha256: '3fb3657ecd3c57c18dd546e771914191e5195fd89cc35a45778888da3bfae9da',
    },
    {
      role: 'original',
      name: 'THR-PRO-0118_C_Grip-overhaul.docx',
      sha256: '52c3935626c104b2cbc9031291a1c4d56614c38f52072a361d658a58a9c48698',
    },
  ],
  metadata: { title: 'Grip overhaul and slip-force test', reason: 'Trial on carrier 31', summary: '' },
};

test('the digest of a record is that of its canonical text', () => {
  expect(recordDigest(signingRecordText(record), sha256)).toBe(
    'c92a600a0473c9c32bdcf9b3819a452fd69a227b9263d1b3854fa590bfcbe282',
  );
});

test('the order of files and metadata does not matter, their content does', () => {
  const digest = (r: SigningRecord) => recordDigest(signingRecordText(r), sha256);
  fc.assert(
    fc.property(fc.shuffledSubarray([...record.files], { minLength: 2, maxLength: 2 }), fc.string(), (files, title) => {
      const same = digest({ ...record, files }) === digest(record);
      const other = digest({ ...record, metadata: { ...record.metadata, title } });
      return same && (title === record.metadata.title) === (other === digest(record));
    }),
  );
});

describe('signing', () => {
  const now = new Date('2026-11-25T10:00:00Z');
  const attempt = {
    nameGiven: true,
    nameRight: true,
    passwordRight: true,
    now,
    idleMinutes: 15,
    frozenDigest: 'a',
    seenDigest: 'a',
  };
  const codes = (more: object) => decideSigning({ ...attempt, ...more }).map((r) => r.code);
  test('the first of a period of access asks name and password, later ones the password', () => {
    expect(codes({})).toEqual([]);
    expect(codes({ nameGiven: false })).toEqual(['signing_needs_name']);
    expect(codes({ nameGiven: false, lastSignedAt: new Date('2026-11-25T09:50:00Z') })).toEqual([]);
    expect(codes({ nameGiven: false, lastSignedAt: new Date('2026-11-25T09:44:00Z') })).toEqual(['signing_needs_name']);
  });
  test('a wrong password, somebody else’s name, a lock and a changed record are refused', () => {
    expect(codes({ passwordRight: false })).toEqual(['signing_wrong']);
    expect(codes({ nameRight: false })).toEqual(['signing_wrong']);
    expect(codes({ lockedUntil: new Date('2026-11-25T10:05:00Z') })).toEqual(['signing_locked']);
    expect(codes({ lockedUntil: new Date('2026-11-25T09:59:00Z') })).toEqual([]);
    expect(codes({ seenDigest: 'b' })).toEqual(['record_changed']);
  });
});
