import type { api, BodyInOf } from '@kanonos/contract';
import { beforeAll, describe, expect, test } from 'vitest';
import { setState } from '../features/authoring/ownState.ts';
import { registerPage } from '../features/find/service.ts';
import { changeOrganisation, organisationSettings } from '../features/rules/settings.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();

type Change = Partial<BodyInOf<typeof api.rules.changeOrganisation>>;
const define = async (ownStates: NonNullable<Change['ownStates']>) => {
  const now = await organisationSettings(organisation.app);
  await changeOrganisation(organisation.app, await organisation.as('admin'), {
    name: now.name,
    week: now.week,
    holidays: now.holidays,
    signingIdleMinutes: now.signingIdleMinutes,
    fallbackApproverId: null,
    rowVersion: now.rowVersion,
    reason: 'says more',
    ownStates,
  });
  organisation.app.forgetOrganisation();
};
const usual = () =>
  define([
    { name: 'waiting for test', within: 'draft', unitIds: [] },
    { name: 'in translation', within: 'draft', unitIds: [organisation.units.get('ctrl') ?? ''] },
    { name: 'with the authority', within: 'in review', unitIds: [organisation.units.get('ctrl') ?? ''] },
  ]);
const set = async (as: string, ref: string, state: string | null) =>
  setState(organisation.app, await organisation.as(as), ref, { seen: '*', state, note: '' });

beforeAll(usual);

describe('a state of its own', () => {
  test('is offered by state and person, set, and seen by those who read work', async () => {
    const { number } = await organisation.register('author');
    expect((await organisation.page('author', number)).ownStates).toEqual(['waiting for test']);
    expect((await organisation.page('controller', number)).ownStates).toEqual(['waiting for test', 'in translation']);
    expect(await codeOf(set('author', number, 'in translation'))).toBe('own_state_unknown');
    expect(await codeOf(set('reader', number, 'waiting for test'))).toBe('not_found');
    await set('author', number, 'waiting for test');
    expect((await organisation.page('controller', number)).revision.ownState).toBe('waiting for test');
    const { rows } = await registerPage(organisation.app, await organisation.as('author'), {
      q: 'state:"waiting for test"',
      sort: 'number',
      order: 'asc',
      limit: 20,
    } as Parameters<typeof registerPage>[2]);
    expect(rows).toMatchObject([{ number, where: 'Draft: waiting for test' }]);
    await set('author', number, null);
    expect((await organisation.page('author', number)).revision.ownState).toBeNull();
    expect((await organisation.verdict()).kind).toBe('intact');
  });

  test('changes nothing about what may be done, and ends when the document moves on', async () => {
    const { number } = await organisation.register('author');
    await set('author', number, 'waiting for test');
    await organisation.submit('author', number);
    const page = await organisation.page('controller', number);
    expect(page.revision).toMatchObject({ state: 'in review', ownState: null });
    expect(page.ownStates).toEqual(['with the authority']);
    await set('controller', number, 'with the authority');
    expect(await codeOf(set('author', number, null))).toBe('no_own_state');
    await organisation.decideAs('reviewer', number, 'reject', 'limit is missing');
    expect((await organisation.page('author', number)).revision).toMatchObject({ state: 'draft', ownState: null });
  });

  test('is none of what is decided, nor of an organisation without any', async () => {
    const { number } = await organisation.register('author');
    await organisation.toInForce(number);
    expect(await codeOf(set('controller', number, 'waiting for test'))).toBe('no_own_state');
    await define([]);
    const other = await organisation.register('author');
    expect(await codeOf(set('author', other.number, 'waiting for test'))).toBe('no_own_state');
  });

  test('has one name within a state, and its change stays on record', async () => {
    const twice = (['Paused', 'paused'] as const).map((name) => ({ name, within: 'draft' as const, unitIds: [] }));
    expect(await codeOf(define(twice))).toBe('own_state_twice');
    await usual();
    expect(JSON.stringify((await organisationSettings(organisation.app)).editions[0])).toContain('waiting for test');
  });
});
