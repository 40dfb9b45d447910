import type { Unit } from '@kanonos/contract';
import { parse } from 'csv-parse/browser/esm/sync';
import { signInNameFrom } from '../people/signInName.ts';
import { wording } from './wording.ts';

/** A person read from a line, with what is wrong with it. */
export type PersonLine = {
  line: number;
  name: string;
  signInName: string;
  email: string;
  departmentId: string | null;
  roleIds: string[];
  groupIds: string[];
  problems: string[];
};

const COLUMNS = ['name', 'email', 'department', 'roles', 'signInName'] as const;
type Column = (typeof COLUMNS)[number];
const HEADINGS: Record<Column, RegExp> = {
  name: /^(full )?name$/i,
  email: /mail/i,
  department: /department|unit/i,
  roles: /roles?|groups?/i,
  signInName: /sign.?in|user|login|account/i,
};
const MAIL = /^[^\s@]+@[^\s@]+\.[^\s@]+$/;

/** The cells of all lines, separated by tabs, else by semicolons, else by commas (RFC 4180 for quotation marks). */
const cellsOf = (text: string): string[][] => {
  const [first = ''] = text.split('\n', 1);
  const delimiter = first.includes('\t') ? '\t' : first.includes(';') ? ';' : ',';
  return parse(text, { delimiter, bom: true, trim: true, relax_quotes: true, relax_column_count: true });
};

/**
 * People from pasted lines or a CSV file. The first line may name the columns; without it they are name, mail address, department,
 * roles and groups, sign-in name. Units are given by code or name, several with + or |.
 */
export const readPeople = (text: string, units: readonly Unit[]): PersonLine[] => {
  const lines = cellsOf(text)
    .map((cells, i) => ({ line: i + 1, cells }))
    .filter(({ cells }) => cells.some(Boolean));
  const headed = lines[0]?.cells.some((cell) => HEADINGS.email.test(cell) && !MAIL.test(cell)) ?? false;
  const at = (column: Column): number =>
    headed ? (lines[0]?.cells.findIndex((cell) => HEADINGS[column].test(cell)) ?? -1) : COLUMNS.indexOf(column);
  const find = (kinds: readonly Unit['kind'][], word: string) =>
    units.find(
      (unit) =>
        kinds.includes(unit.kind) && [unit.code, unit.name].some((one) => one.toLowerCase() === word.toLowerCase()),
    );
  const seen = new Set<string>();
  return (headed ? lines.slice(1) : lines).map(({ line, cells }) => {
    const cell = (column: Column) => cells[at(column)] ?? '';
    const [name, email, department] = [cell('name'), cell('email'), cell('department')];
    const problems: string[] = [];
    if (!name) problems.push(wording.problems.name);
    if (!MAIL.test(email)) problems.push(wording.problems.email);
    else if (seen.has(email.toLowerCase())) problems.push(wording.problems.twice);
    seen.add(email.toLowerCase());
    const unit = department ? find(['department'], department) : undefined;
    if (department && !unit) problems.push(wording.problems.department(department));
    const words = cell('roles')
      .split(/[+|]/)
      .map((word) => word.trim())
      .filter(Boolean);
    const parts = words.flatMap((word) => {
      const part = find(['role', 'group'], word);
      if (!part) problems.push(wording.problems.role(word));
      return part ?? [];
    });
    return {
      line,
      name,
      signInName: cell('signInName') || signInNameFrom(name),
      email,
      departmentId: unit?.id ?? null,
      roleIds: parts.filter(({ kind }) => kind === 'role').map(({ id }) => id),
      groupIds: parts.filter(({ kind }) => kind === 'group').map(({ id }) => id),
      problems,
    };
  });
};
