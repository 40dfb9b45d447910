import type { Unit } from '@kanonos/contract';
import { describe, expect, it } from 'vitest';
import { signInNameFrom } from '../people/signInName.ts';
import { readPeople } from './peopleLines.ts';

const UNITS: Unit[] = [
  { id: 'd1', kind: 'department', code: 'LAB', name: 'Laboratory' },
  { id: 'r1', kind: 'role', code: 'QA', name: 'Quality assurance' },
  { id: 'g1', kind: 'group', code: 'AUTH', name: 'Authors' },
];

describe('people from lines', () => {
  it('are read in the usual order, with units by code or name', () => {
    expect(readPeople('Ada Brook; ada@brook.example; LAB; qa + Authors', UNITS)).toEqual([
      {
        line: 1,
        name: 'Ada Brook',
        signInName: 'ada.brook',
        email: 'ada@brook.example',
        departmentId: 'd1',
        roleIds: ['r1'],
        groupIds: ['g1'],
        problems: [],
      },
    ]);
  });

  it('follow a header line in any order, of a CSV file with quotation marks', () => {
    const [person] = readPeople(
      '\uFEFF"E-mail","Full name","User","Department"\n"a@b.example","Brook, Ada","ada","Laboratory"\n',
      UNITS,
    );
    expect(person).toMatchObject({
      line: 2,
      name: 'Brook, Ada',
      email: 'a@b.example',
      signInName: 'ada',
      departmentId: 'd1',
    });
  });

  it('may be pasted from a spreadsheet, with empty lines between', () => {
    expect(readPeople('Ada\ta@b.example\n\nBo\tb@b.example', UNITS).map(({ line, name }) => [line, name])).toEqual([
      [1, 'Ada'],
      [3, 'Bo'],
    ]);
  });

  it('name what is wrong in each line', () => {
    const problems = (text: string) => readPeople(text, UNITS).map((one) => one.problems);
    expect(problems('; nobody')).toEqual([['Enter a name.', 'Enter a mail address such as ada@example.org.']]);
    expect(problems('Ada; a@b.example; OPS; chief')).toEqual([
      ['There is no department OPS.', 'There is no role or group chief.'],
    ]);
    expect(problems('Ada; a@b.example\nBo; A@B.example')).toEqual([[], ['This mail address is in the list twice.']]);
  });

  it('are none of an empty text', () => {
    expect(readPeople(' \n\n', UNITS)).toEqual([]);
  });
});

it('a sign-in name comes from the name, in plain letters', () => {
  expect(signInNameFrom('Bjørn  Ähre-Ost')).toBe('bjrn.ahre-ost');
});
