import type { TypeRule } from '@kanonos/contract';
import { addDays } from '@kanonos/core';
import { beforeAll, describe, expect, test } from 'vitest';
import {
  removeRoundRule,
  roundRuleLog,
  roundRules,
  saveRoundRule,
  tryRoundRule,
} from '../features/roundRules/service.ts';
import { startByRules } from '../features/roundRules/startByRules.ts';
import { changeType, typeDetail } from '../features/rules/types.ts';
import { codeOf } from './organisation.ts';
import { stepOf } from './steps.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();
const TODAY = () => organisation.clock.now.toISOString().slice(0, 10);

beforeAll(async () => {
  const id = organisation.types.get('PRO') ?? '';
  const { rule, rowVersion } = await typeDetail(organisation.app, id);
  const inform = (name: string, more: object) => ({
    route: {
      name,
      leadsTo: 'nothing',
      steps: [stepOf(organisation, 'Take note', ['controller'], { kind: 'acknowledge', ...more })],
    },
    taken: { by: 'choice', mayChoose: 'author' },
  });
  await changeType(organisation.app, await organisation.as('admin'), id, {
    rule: {
      ...rule,
      fields: [
        ...rule.fields,
        { key: 'until', label: 'Guarantee until', kind: 'date', mandatory: false, level: 'document' },
        { key: 'witness', label: 'Witness', kind: 'person', mandatory: false, level: 'document' },
      ],
      furtherRoutes: [
        inform('Inform', {}),
        inform('Nobody', { assignees: [{ by: 'field', key: 'witness' }] }),
      ] as TypeRule['furtherRoutes'],
    },
    reason: 'rounds by rule',
    rowVersion,
    from: null,
    fill: [],
  });
});

type Body = Parameters<typeof saveRoundRule>[2];
let made = 0;
const body = (more: Partial<Body> = {}): Body => ({
  name: `Rule ${++made}`,
  active: true,
  reason: 'so that nobody forgets it',
  typeId: organisation.types.get('PRO') ?? '',
  folderId: null,
  occasion: { on: 'in force' },
  condition: null,
  route: 'Inform',
  responsibleId: organisation.ids.controller ?? '',
  ...more,
});
const save = async (more: Partial<Body> = {}) =>
  (await saveRoundRule(organisation.app, await organisation.as('admin'), body(more))).id;
const started = async (number: string) =>
  (await organisation.page('controller', number)).rounds.filter(({ isAdHoc }) => isAdHoc).map(({ name }) => name);
const log = async (id: string, as = 'controller') =>
  (await roundRuleLog(organisation.app, await organisation.as(as), id)).starts;
const endAll = async () => {
  const viewer = await organisation.as('admin');
  for (const { id, rowVersion } of (await roundRules(organisation.app)).rules)
    await removeRoundRule(organisation.app, viewer, id, { rowVersion, reason: 'next test' });
};

describe('a rule', () => {
  test('starts one round for what comes into force after it was saved, however often and by how many it is looked at', async () => {
    await endAll();
    const before = await organisation.register('author');
    await organisation.toInForce(before.number);
    const id = await save({ name: 'New rules' });
    const { number } = await organisation.register('author');
    await organisation.toInForce(number);
    await Promise.all([startByRules(organisation.app), startByRules(organisation.app)]);
    await startByRules(organisation.app);
    expect(await started(number)).toEqual(['New rules']);
    expect(await started(before.number)).toEqual([]);
    expect(await log(id)).toMatchObject([{ number, asks: ['Controller'], problem: null }]);
    expect(await log(id, 'stranger')).toHaveLength(1);
    expect((await roundRules(organisation.app)).rules).toMatchObject([{ started: 1, failed: 0 }]);
    expect((await organisation.verdict()).kind).toBe('intact');
  });

  test('looks only at its folder and at documents that meet its condition', async () => {
    await endAll();
    await save({ folderId: organisation.folders.get('1') ?? '', condition: 'department:OPS' });
    const other = await organisation.register('author', { folder: '1', department: 'eng' });
    const met = await organisation.register('author', { folder: '1/a', department: 'ops' });
    const elsewhere = await organisation.register('author', { folder: '2', department: 'ops' });
    for (const { number } of [other, elsewhere, met]) await organisation.toInForce(number);
    await startByRules(organisation.app);
    expect([await started(other.number), await started(elsewhere.number)]).toEqual([[], []]);
    expect(await started(met.number)).toHaveLength(1);
  });

  test('keeps why it could not start a round, and does not try for ever', async () => {
    await endAll();
    const id = await save({ route: 'Nobody' });
    const { number } = await organisation.register('author');
    await organisation.toInForce(number);
    await startByRules(organisation.app);
    await startByRules(organisation.app);
    const [only, ...more] = await log(id);
    expect(more).toEqual([]);
    expect(only).toMatchObject({ number, asks: [] });
    expect(only?.problem).toContain('Take note');
    expect(await started(number)).toEqual([]);
  });

  test('reaches a day in a field once, also after a standstill, and not before it was saved', async () => {
    await endAll();
    const { id: documentId, number } = await organisation.register('author');
    await organisation.toInForce(number);
    await organisation.correct('controller', documentId, {
      metadata: { until: addDays(TODAY(), 35) },
      reason: 'guarantee',
    });
    const missed = await organisation.register('author');
    await organisation.toInForce(missed.number);
    await organisation.correct('controller', missed.id, {
      metadata: { until: addDays(TODAY(), 29) },
      reason: 'guarantee',
    });
    await save({ name: 'Ends soon', occasion: { on: 'day reached', field: 'until', days: -30 } });
    await startByRules(organisation.app);
    expect(await started(number)).toEqual([]);
    organisation.clock.now = new Date(organisation.clock.now.getTime() + 9 * 86_400_000);
    await startByRules(organisation.app);
    await startByRules(organisation.app);
    expect(await started(number)).toEqual(['Ends soon']);
    expect(await started(missed.number)).toEqual([]);
  });

  test('starts at a change of its field, and not a second round while the first runs', async () => {
    await endAll();
    const id = await save({ occasion: { on: 'field changed', field: 'until' } });
    const { id: documentId, number } = await organisation.register('author');
    await organisation.toInForce(number);
    const change = async (until: string) => {
      await organisation.correct('controller', documentId, { metadata: { until }, reason: 'agreed anew' });
      await startByRules(organisation.app);
    };
    await organisation.correct('controller', documentId, { keywords: ['other'], reason: 'no day' });
    await change('2028-05-01');
    await change('2028-06-01');
    expect(await started(number)).toHaveLength(1);
    expect(new Set((await log(id)).map(({ problem }) => problem))).toEqual(
      new Set(['A round that the same rule started on this document still runs.', null]),
    );
  });
});

test('a trial tells what would have started in 30 days, and starts nothing', async () => {
  await endAll();
  const { number } = await organisation.register('author');
  await organisation.toInForce(number);
  const draft = await organisation.register('author2');
  const {
    name: _name,
    active: _active,
    reason: _reason,
    ...asked
  } = body({ responsibleId: organisation.ids.reader ?? '' });
  const tried = await tryRoundRule(organisation.app, await organisation.as('admin'), asked);
  expect(tried.starts.find((one) => one.number === number)).toMatchObject({ asks: ['Controller'], problem: null });
  expect(tried.rounds).toBe(tried.starts.filter(({ problem }) => problem === null).length);
  const arrived = await tryRoundRule(organisation.app, await organisation.as('admin'), {
    ...asked,
    occasion: { on: 'file arrived' },
  });
  expect(arrived.starts.some((one) => one.number === draft.number)).toBe(false);
  expect(await started(number)).toEqual([]);
});

test('a rule names what is there, once, and nobody overwrites what another saved', async () => {
  await endAll();
  const id = await save({ name: 'Twice' });
  expect(await codeOf(save({ name: 'twice' }))).toBe('rule_name_taken');
  expect(await codeOf(save({ route: 'Usual' }))).toBe('route_not_offered');
  expect(await codeOf(save({ occasion: { on: 'day reached', field: 'limit', days: 1 } }))).toBe(
    'occasion_field_unknown',
  );
  expect(await codeOf(save({ condition: 'nothing:5' }))).toBe('search_field_unknown');
  await save({ id, rowVersion: 1, name: 'Once', active: false });
  expect(await codeOf(save({ id, rowVersion: 1, name: 'Other' }))).toBe('changed_meanwhile');
  const { number } = await organisation.register('author');
  await organisation.toInForce(number);
  await startByRules(organisation.app);
  expect(await started(number)).toEqual([]);
  // What happened while it was off is not made up for.
  await save({ id, rowVersion: 2, name: 'Once', active: true });
  await startByRules(organisation.app);
  expect(await started(number)).toEqual([]);
});
