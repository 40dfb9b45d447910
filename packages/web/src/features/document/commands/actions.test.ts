import { refusal } from '@kanonos/core';
import { describe, expect, it } from 'vitest';
import { commandsWith, documentPage } from '../../../testing/fixtures.ts';
import { actionsOf, matching } from './actions.ts';

const checkedOut = refusal('checked_out', { who: 'Joren Adeyemi', since: '2026-11-07T09:00:00.000Z' });
const page = documentPage({
  canChooseReviewers: 2,
  commands: commandsWith({
    'check in': refusal('not_checked_out'),
    'discard check-out': refusal('not_checked_out'),
    'take over check-out': refusal('not_checked_out'),
    'check out': checkedOut,
    recall: refusal('wrong_state', { state: 'draft', command: 'recall' }),
    restore: refusal('not_removed'),
    withdraw: refusal('right_missing', { right: 'release' }),
    submit: refusal('step_unfilled', { step: 'Review' }),
  }),
});
const names = (actions: readonly { name: string }[]) => actions.map(({ name }) => name);

describe('what can be done with a document', () => {
  const { groups, impossible } = actionsOf(page, 'Europe/Vienna');

  it('is in groups, the most frequent first', () => {
    expect(groups.map(({ name }) => name)).toEqual(['Work', 'Life', 'Document']);
    expect(groups[1]?.actions.map(({ key }) => key).slice(0, 2)).toEqual(['release', 'revise']);
  });

  it('leaves out what concerns another situation, and keeps the rest with its reason', () => {
    const all = [...groups.flatMap(({ actions }) => actions), ...impossible];
    expect(all.map(({ key }) => key)).not.toContain('check in');
    expect(all.map(({ key }) => key)).not.toContain('restore');
    expect(impossible.find(({ key }) => key === 'check out')?.reason).toContain('Joren Adeyemi');
    expect(impossible.find(({ key }) => key === 'withdraw')?.reason).toContain('release');
    expect(groups.flatMap(({ actions }) => actions).every(({ reason }) => reason === null)).toBe(true);
  });

  it('offers submitting while only its reviewers are missing, for they are chosen in its dialog', () => {
    expect(groups[0]?.actions.map(({ key }) => key)).toContain('submit');
  });

  it('leads to a dialog of the page, or to a page of its own', () => {
    const life = groups[1]?.actions ?? [];
    expect(life.find(({ key }) => key === 'release')?.to).toEqual({ address: '/d/THR-PRO-0118/release' });
    expect(life.find(({ key }) => key === 'revise')?.to).toEqual({ command: 'revise' });
  });

  it('is found by any words of its name, in any order', () => {
    const actions = [{ name: 'Open in desktop application' }, { name: 'Check out' }];
    expect(names(matching(actions, 'DESK open'))).toEqual(['Open in desktop application']);
    expect(matching(actions, '')).toHaveLength(2);
    expect(matching(actions, 'print')).toEqual([]);
  });

  it('gives readers the permanent address, and lets them suggest a change and ask about it', () => {
    const { groups: forReader } = actionsOf(documentPage({ rights: ['see', 'read'], commands: [] }), 'UTC');
    expect(forReader.flatMap(({ actions }) => actions.map(({ key }) => key))).toEqual([
      'suggest',
      'round',
      'addresses',
    ]);
  });
});
