import type { TypeRule } from '@kanonos/contract';
import { beforeAll, expect, test } from 'vitest';
import { changeSignatories, signatoryHistory, signatoryTable } from '../features/rules/signatories.ts';
import { applyDuePlans, changeType, typeDetail } from '../features/rules/types.ts';
import { codeOf } from './organisation.ts';
import { stepOf } from './steps.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();
type Change = Parameters<typeof changeSignatories>[2];
const person = (name: string) => ({ by: 'person' as const, personId: organisation.ids[name] ?? '' });

beforeAll(async () => {
  for (const code of ['PRO', 'TWO']) {
    const id = organisation.types.get(code) ?? '';
    const { rule, rowVersion } = await typeDetail(organisation.app, id);
    const steps = [
      stepOf(organisation, 'Review', ['reviewer']),
      stepOf(organisation, 'Approval', ['owner'], { kind: 'approval', meaning: 'approved' }),
    ];
    await changeType(organisation.app, await organisation.as('admin'), id, {
      rule: { ...rule, route: { name: 'Usual', steps } as TypeRule['route'] },
      reason: 'two steps',
      rowVersion,
      from: null,
      fill: [],
    });
  }
});

const table = () => signatoryTable(organisation.app);
const askedIn = async (code: string, column: string) => {
  const { columns, rows } = await table();
  return rows.find((row) => row.code === code && row.place === '')?.cells[columns.indexOf(column)]?.assignees;
};
const cellsOf = async (codes: readonly string[], column: string): Promise<Change['cells']> => {
  const { columns, rows } = await table();
  return rows.flatMap(({ code, typeId, rowVersion, place, cells }) => {
    const cell = cells[columns.indexOf(column)];
    return cell && place === '' && codes.includes(code) ? [{ typeId, rowVersion, place, step: cell.step }] : [];
  });
};
const change = async (cells: Change['cells'], given: Partial<Change> = {}) =>
  changeSignatories(organisation.app, await organisation.as('admin'), {
    cells,
    assignees: [person('author2')],
    how: 'replace',
    reason: 'Owner left',
    from: null,
    ...given,
  });

test('shows whom each step asks, types by steps', async () => {
  const { columns, rows, people } = await table();
  expect(columns).toEqual(expect.arrayContaining(['Review', 'Approval']));
  expect(rows.filter(({ code }) => code === 'PRO' || code === 'TWO')).toHaveLength(2);
  expect(await askedIn('PRO', 'Approval')).toEqual([person('owner')]);
  expect(people).toContainEqual({ id: organisation.ids.owner, name: 'Owner' });
});

test('changes many types at once, each with an edition of its own', async () => {
  const before = await organisation.register('author');
  await organisation.submit('author', before.number);
  expect(await change(await cellsOf(['PRO', 'TWO'], 'Approval'))).toEqual({ types: 2 });
  expect(await askedIn('PRO', 'Approval')).toEqual([person('author2')]);
  expect(await askedIn('TWO', 'Approval')).toEqual([person('author2')]);
  await change(await cellsOf(['PRO'], 'Review'), { how: 'add' });
  expect(await askedIn('PRO', 'Review')).toEqual([person('reviewer'), person('author2')]);
  await change(await cellsOf(['PRO'], 'Review'), { how: 'remove' });
  expect(await askedIn('PRO', 'Review')).toEqual([person('reviewer')]);
  // A round that runs keeps whom it asks.
  const steps = (await organisation.page('controller', before.number)).rounds[0]?.steps;
  expect(steps?.[1]?.assignments.map((one) => one.person.name)).toEqual(['Owner']);
  const changes = (await signatoryHistory(organisation.app)).changes.filter(({ code }) => code === 'PRO');
  expect(changes.slice(0, 3).map(({ by, reason }) => [by, reason])).toEqual(Array(3).fill(['Admin', 'Owner left']));
  expect(changes[0]?.differences).toEqual([
    expect.objectContaining({ before: 'Reviewer, Author2', after: 'Reviewer' }),
  ]);
});

test('changes all of them or none', async () => {
  const cells = await cellsOf(['PRO', 'TWO'], 'Approval');
  const stale = cells.map((cell, at) => (at === 1 ? { ...cell, rowVersion: cell.rowVersion - 1 } : cell));
  expect(await codeOf(change(stale, { assignees: [person('controller')] }))).toBe('changed_meanwhile');
  expect(await askedIn('PRO', 'Approval')).toEqual([person('author2')]);
  expect(await codeOf(change(cells, { assignees: [{ by: 'field', key: 'nobody' }] }))).toBe('step_field_unknown');
  expect(await codeOf(change(cells, { how: 'remove' }))).toBe('step_asks_nobody');
  expect(await codeOf(change(cells.map((cell) => ({ ...cell, step: 9 }))))).toBe('changed_meanwhile');
});

test('holds from a day on, and meanwhile the types take no other change', async () => {
  const cells = await cellsOf(['TWO'], 'Approval');
  const day = '2030-01-07';
  await change(cells, { assignees: [person('controller')], from: day });
  expect(await askedIn('TWO', 'Approval')).toEqual([person('author2')]);
  expect((await table()).rows.find(({ code }) => code === 'TWO')?.planned).toBe(day);
  expect((await signatoryHistory(organisation.app)).changes[0]).toMatchObject({ code: 'TWO', at: null, from: day });
  expect(await codeOf(change(cells))).toBe('rule_planned_already');
  organisation.clock.now = new Date(`${day}T08:00:00Z`);
  await applyDuePlans(organisation.app);
  expect(await askedIn('TWO', 'Approval')).toEqual([person('controller')]);
});
