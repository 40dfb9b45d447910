import { api } from '@kanonos/contract';
import { describe, expect, test } from 'vitest';
import type { z } from 'zod';
import { checkIn, checkOut, discardCheckout, takeOverCheckout } from '../features/authoring/service.ts';
import { release } from '../features/release/service.ts';
import { withdraw } from '../features/release/withdraw.ts';
import { recall, submit } from '../features/rounds/service.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();

/** Commands whose object is no state of the document: one version, and what was found at the source. */
const OF_NO_STATE = ['removeVersion', 'checkSource'];

describe('the door of commands', () => {
  test('every command on a document names the state that it was decided on', () => {
    const commands = Object.values(api.documents).filter(
      (one) =>
        one.method !== 'GET' &&
        one.path.startsWith('/api/documents/:document/') &&
        !OF_NO_STATE.includes(String(one.id)),
    );
    expect(commands.length).toBeGreaterThan(18);
    const unseen = commands.filter((one) => {
      const fields = Object.keys((one.body as unknown as z.ZodObject).shape);
      return !fields.includes('seen') && !fields.includes('rowVersion');
    });
    expect(unseen.map((one) => one.id)).toEqual([]);
  });

  test('what changed since it was seen is refused, and nothing of the command is left', async () => {
    const { app } = organisation;
    const author = await organisation.as('author');
    const controller = await organisation.as('controller');
    const { number } = await organisation.register('author');
    const drafted = (await organisation.page('author', number)).stateTag;

    await checkOut(app, author, number, { seen: drafted, note: '', expectedBack: null });
    // Another window still shows the draft as free: its commands name an outdated state.
    expect(await codeOf(discardCheckout(app, author, number, { seen: drafted }))).toBe('changed_meanwhile');
    expect(await codeOf(takeOverCheckout(app, controller, number, { seen: drafted, reason: 'ill' }))).toBe(
      'changed_meanwhile',
    );
    expect(
      await codeOf(checkIn(app, author, number, { seen: drafted, uploadId: null, note: 'x', title: 'Another title' })),
    ).toBe('changed_meanwhile');
    const out = await organisation.page('author', number);
    expect(out.checkout).not.toBeNull();
    expect(out.versions).toHaveLength(1);

    const { version } = await checkIn(app, author, number, {
      seen: out.stateTag,
      uploadId: null,
      note: 'another title',
      title: 'Another title',
    });
    expect(version).toBe(2);
    expect(await codeOf(submit(app, author, number, { seen: out.stateTag, message: '', chosen: [] }))).toBe(
      'changed_meanwhile',
    );
    expect((await organisation.page('author', number)).rounds).toEqual([]);
  });

  test('a day, a withdrawal and a round are part of what was seen', async () => {
    const { app } = organisation;
    const controller = await organisation.as('controller');
    const { number } = await organisation.register('author');
    await organisation.submitAndReview(number);
    const inApproval = (await organisation.page('author', number)).stateTag;
    await organisation.decideAs('owner', number);
    await organisation.decideAs('authority', number);
    expect(
      await codeOf(recall(app, await organisation.as('author'), number, { seen: inApproval, reason: 'too soon' })),
    ).not.toBe('');
    const approved = (await organisation.page('controller', number)).stateTag;
    expect(approved).not.toBe(inApproval);
    await release(app, controller, number, { seen: approved, on: null, name: null, password: null });
    const inForce = (await organisation.page('controller', number)).stateTag;
    await withdraw(app, controller, number, { seen: inForce, on: '2030-01-01', reason: 'replaced' });
    expect(await codeOf(withdraw(app, controller, number, { seen: inForce, on: null, reason: 'now' }))).toBe(
      'changed_meanwhile',
    );
    expect((await organisation.page('controller', number)).inForce?.label).toBe('A');
  });
});
