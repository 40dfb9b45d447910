// Passwords, links and sessions under attack.
import { beforeAll, describe, expect, test } from 'vitest';
import { findMail, keptBody, sendMail } from '../../features/mailing/service.ts';
import { changePerson, personDetail, resetPerson } from '../../features/people/service.ts';
import { setPasswordByLink, signIn, signOut } from '../../features/session/service.ts';
import { makeProgramPassword, programPasswords, viewerOfProgram } from '../../features/webdav/passwords.ts';
import { passwordWeakness } from '../../platform/auth/passwords.ts';
import { firstRow, rows } from '../../platform/db/connect.ts';
import { codeOf, cookieOf, PASSWORD } from '../organisation.ts';
import { withOrganisation } from '../withOrganisation.ts';

const organisation = withOrganisation();
let base: string;
beforeAll(async () => {
  base = await organisation.listen();
});

const mailOf = async (address: string, kind: string) =>
  (
    await firstRow<{ id: string }>(
      organisation.app.db,
      'select id from mails where address = :address and kind = :kind order by created_at desc, id desc limit 1',
      { address, kind },
    )
  )?.id ?? '';

describe('3: links by which a password is set', () => {
  test('are in no stored mail, neither before nor after it was sent, and reach their receiver', async () => {
    const { token } = await organisation.addPerson('linked');
    const id = await mailOf('linked@test.example', 'password link');
    const cookie = await cookieOf(base, 'admin');
    const shown = async () => (await fetch(`${base}/api/mails/${id}`, { headers: { cookie } })).text();
    expect(await shown()).not.toContain(token);
    let left = '';
    await sendMail(
      organisation.app,
      {
        send: async (mail) => {
          left = mail.text + mail.html;
        },
      },
      id,
    );
    expect(left).toContain(`/password/${token}`);
    expect(await shown()).not.toContain(token);
    const mail = await findMail(organisation.app, id);
    expect(mail).toMatchObject({ state: 'sent', secret: null });
    expect(mail && keptBody(mail)).toMatchObject({ redacted: true });
    for (const table of ['mails', 'events', 'password_links'])
      expect(
        await rows(organisation.app.db, `select 1 from ${table} x where x::text like :like`, { like: `%${token}%` }),
      ).toEqual([]);
  });

  test('a reset is announced at every address of the person', async () => {
    const admin = await organisation.as('admin');
    const { id } = await organisation.addPerson('taken.over');
    const before = await personDetail(organisation.app, id);
    await changePerson(organisation.app, admin, id, {
      name: before.name,
      email: 'attacker@test.example',
      organisationRights: [],
      rowVersion: before.rowVersion,
    });
    expect(await mailOf('taken.over@test.example', 'security')).not.toBe('');
    await rows(organisation.app.db, `delete from mails where kind = 'security'`);
    await resetPerson(organisation.app, admin, id, 'lost');
    expect(await mailOf('attacker@test.example', 'password link')).not.toBe('');
    expect(await mailOf('taken.over@test.example', 'security')).not.toBe('');
  });
});

describe('31: tries in the same moment', () => {
  test('of forty wrong passwords at sign-in a few are judged', async () => {
    const attempt = (password: string) => codeOf(signIn(organisation.app, { name: 'reviewer', password, address: '' }));
    const codes = await Promise.all(Array.from({ length: 40 }, (_, i) => attempt(`guess ${i}`)));
    expect(codes.filter((code) => code === 'sign_in_wrong').length).toBeLessThanOrEqual(4);
    expect(codes.filter((code) => code === 'sign_in_slowed').length).toBeGreaterThanOrEqual(36);
    expect(await attempt(PASSWORD)).toBe('sign_in_slowed');
    organisation.clock.now = new Date(organisation.clock.now.getTime() + 10 * 60_000);
    expect(await attempt(PASSWORD)).toBe('done');
  });
});

describe('34: passwords of programs', () => {
  const opens = async (name: string, password: string) =>
    (await viewerOfProgram(organisation.app, `Basic ${Buffer.from(`${name}:${password}`).toString('base64')}`)) !==
    undefined;

  test('end with a reset and with signing out everywhere, and are listed with their last use', async () => {
    const viewer = await organisation.as('author2');
    const { password } = await makeProgramPassword(organisation.app, viewer, 'office');
    expect(await opens('author2', password)).toBe(true);
    expect((await programPasswords(organisation.app, viewer)).passwords[0]?.usedAt).toBe(
      organisation.clock.now.toISOString(),
    );
    await signOut(organisation.app, viewer, true);
    expect(await opens('author2', password)).toBe(false);
    const next = await makeProgramPassword(organisation.app, viewer, 'office');
    expect(await opens('author2', next.password)).toBe(true);
    const { token } = await resetPerson(organisation.app, await organisation.as('admin'), viewer.id, 'lost');
    await setPasswordByLink(organisation.app, token, 'seven grips on carrier 31');
    expect(await opens('author2', next.password)).toBe(false);
  });
});

describe('35: what a stranger learns at sign-in', () => {
  test('an invited account answers like one that does not exist', async () => {
    await organisation.addPerson('invited');
    const answer = async (name: string) => {
      const response = await fetch(`${base}/api/session`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ name, password: 'any password at all' }),
      });
      const { instance: _, requestId: __, ...problem } = (await response.json()) as Record<string, unknown>;
      return { status: response.status, problem };
    };
    expect(await answer('invited')).toEqual(await answer('nobody.at.all'));
  });

  test('a password from a well-known list is not taken', () => {
    for (const easy of ['password12345', 'iloveyou1234', 'qwertyuiop12', 'Passw0rd!Passw0rd!'])
      expect([easy, passwordWeakness(easy, []) !== undefined]).toEqual([easy, true]);
  });
});
