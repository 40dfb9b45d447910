import { createHash, randomBytes } from 'node:crypto';
import type { AnswerOf, api, Me } from '@kanonos/contract';
import { CONFIDENTIALITIES, dayOf, hasRight, type Right } from '@kanonos/core';
import type { Actor, App, UnitOfWork } from '../../platform/app.ts';
import { hashPassword, passwordWeakness } from '../../platform/auth/passwords.ts';
import { refused } from '../../platform/refused.ts';
import { actorOf, rightsOnFolders, type Viewer, viewerBySession, viewerOf } from '../access/index.ts';
import { mailAddresses, notify, SECRET } from '../mailing/index.ts';
import * as store from './store.ts';

const SESSION_HOURS = 14;
const LINK_DAYS = 7;
const FREE_TRIES = 3;
const LONGEST_WAIT_SECONDS = 300;

export const tokenHash = (token: string) => createHash('sha256').update(token).digest('hex');
const SIGN_IN: Actor = { id: null, signInName: 'system.sign-in', name: 'Sign-in' };

/** The viewer behind a session cookie; undefined when it ended or the person may no longer sign in. */
export const viewerOfToken = async (app: App, token: string): Promise<Viewer | undefined> => {
  const now = app.clock();
  return viewerBySession(app.db, {
    tokenHash: tokenHash(token),
    day: dayOf(now, (await app.organisation()).zone),
    now,
  });
};

/** Counts a try under a key before it is judged; refuses one too soon after wrong ones. */
const countTry = async (app: App, key: string, now: Date) => {
  const seconds = await store.countTry(app.db, { key, now, free: FREE_TRIES, longest: LONGEST_WAIT_SECONDS });
  if (seconds !== undefined) throw refused('sign_in_slowed', { seconds });
};

/**
 * Signs in: a new session for each sign-in, its token only in the cookie. Wrong tries slow the next down per name, and are
 * events of their own: with the person's name if there is such a person, else with a digest that reveals nothing.
 */
export const signIn = async (
  app: App,
  input: { name: string; password: string; address: string },
): Promise<{ token: string; personId: string }> => {
  const name = input.name.trim();
  const now = app.clock();
  const key = `name ${app.secrets.nameDigest(name)}`;
  await countTry(app, key, now);
  const person = await store.findPersonByName(app.db, name);
  const right = await app.checkPassword(input.password, person?.password_hash ?? null);
  if (person && right && person.state === 'active') {
    const token = randomBytes(32).toString('base64url');
    await app.command({ id: person.id, signInName: person.sign_in_name, name: person.name }, async (work) => {
      await store.forgetWrong(work.trx, key);
      await store.insertSession(work.trx, {
        tokenHash: tokenHash(token),
        personId: person.id,
        now: work.now,
        expires: new Date(work.now.getTime() + SESSION_HOURS * 3_600_000),
      });
      work.record({ kind: 'session.opened', subject: { person: { id: person.id, name: person.sign_in_name } } });
    });
    return { token, personId: person.id };
  }
  await app.command(SIGN_IN, async (work) => {
    work.record({
      kind: 'sign-in.failed',
      ...(person ? { actor: person.sign_in_name } : {}),
      subject: person ? { person: { id: person.id, name: person.sign_in_name } } : {},
      payload: person ? { state: person.state } : { nameDigest: app.secrets.nameDigest(name) },
    });
  });
  // Whether a name is known, or has no password yet, is nothing that a stranger learns here.
  throw refused('sign_in_wrong');
};

/** Signs out whoever signed in, also while seeing the application as somebody else. */
export const signOut = (app: App, viewer: Viewer, everywhere: boolean): Promise<void> => {
  const person = viewer.seenBy?.id ? { ...viewer.seenBy, id: viewer.seenBy.id } : viewer;
  return app.command({ id: person.id, signInName: person.signInName, name: person.name }, async (work) => {
    if (everywhere) {
      await store.deleteSessions(work.trx, person.id);
      await endPrograms(work, person);
    } else if (viewer.session) await store.deleteSession(work.trx, viewer.session.tokenHash);
    work.record({
      kind: 'session.ended',
      subject: { person: { id: person.id, name: person.signInName } },
      payload: { everywhere },
    });
  });
};

/** Ends every password of a program of a person's, on record. */
export const endPrograms = async (work: UnitOfWork, person: { id: string; signInName: string }): Promise<void> => {
  const ended = await store.deleteProgramPasswords(work.trx, person.id);
  if (ended > 0)
    work.record({
      kind: 'program-password.all-ended',
      subject: { person: { id: person.id, name: person.signInName } },
      payload: { passwords: ended },
    });
};

/** What the application needs of who is signed in; `seenBy` names who sees it as that person. */
export const me = async (app: App, personId: string, seenBy: string | null = null): Promise<Me> => {
  const organisation = await app.organisation();
  const now = app.clock();
  const day = dayOf(now, organisation.zone);
  const person = await store.findPerson(app.db, personId);
  if (!person) throw refused('not_signed_in');
  const viewer = await viewerOf(app.db, person.id, day);
  const rights = await rightsOnFolders(app.db, viewer);
  const supervises = await store.countSupervised(app.db, person.id, day);
  const holds = (right: Right) => [...rights.values()].some((given) => hasRight(given, right));
  return {
    id: person.id,
    signInName: person.sign_in_name,
    name: person.name,
    seenBy,
    email: person.email,
    department: await store.departmentOf(app.db, person.id, day),
    mailMode: person.mail_mode,
    outside: viewer.outside,
    organisationRights: [...viewer.organisationRights],
    mayRegister: [...rights.values()].some((given) => given.has('author')),
    overseesRounds: supervises > 0 || holds('release') || holds('manage'),
    managesFolders: [...rights.values()].some((given) => given.has('manage')),
    supervises,
    rowVersion: person.row_version,
    organisation: {
      name: organisation.name,
      code: organisation.code,
      zone: organisation.zone,
      demo: organisation.demo,
      today: day,
      signingIdleMinutes: organisation.signingIdleMinutes,
      week: [...organisation.calendar.week],
      holidays: [...organisation.calendar.holidays],
      stateWords: { ...organisation.stateWords },
      signatureMeanings: [...organisation.signatureMeanings],
      confidentiality: Object.fromEntries(
        CONFIDENTIALITIES.map((level) => [level, [...organisation.confidentiality[level]]]),
      ) as Me['organisation']['confidentiality'],
    },
  };
};

export const welcome = async (app: App): Promise<AnswerOf<typeof api.session.welcome>> => {
  const organisation = await app.organisation();
  const people = organisation.demo ? await store.listDemoPeople(app.db, dayOf(app.clock(), organisation.zone)) : [];
  return {
    organisation: organisation.name,
    demo: organisation.demo
      ? {
          password: organisation.demoPassword ?? '',
          people: people.map((p) => ({
            signInName: p.sign_in_name,
            name: p.name,
            department: p.department ?? '',
            part: p.part,
          })),
        }
      : null,
  };
};

export const changeProfile = async (
  app: App,
  viewer: Viewer,
  change: { mailMode: string; rowVersion: number },
): Promise<Me> => {
  await app.command(actorOf(viewer), async (work) => {
    if ((await store.changeProfile(work.trx, { id: viewer.id, ...change })) === 0) throw refused('changed_meanwhile');
    work.record({
      kind: 'person.changed',
      subject: { person: { id: viewer.id, name: viewer.signInName } },
      payload: { after: { mails: change.mailMode } },
    });
  });
  return me(app, viewer.id);
};

export const changePassword = async (
  app: App,
  viewer: Viewer,
  change: { present: string; next: string },
): Promise<void> => {
  const key = `password ${viewer.id}`;
  await countTry(app, key, app.clock());
  const person = await store.findPerson(app.db, viewer.id);
  if (!(await app.checkPassword(change.present, person?.password_hash ?? null))) throw refused('password_wrong');
  await store.takeBackTry(app.db, key);
  const hash = await newHash(change.next, [viewer.name, viewer.signInName]);
  await app.command(actorOf(viewer), async (work) => {
    await store.forgetWrong(work.trx, key);
    await store.setPasswordHash(work.trx, viewer.id, hash);
    await store.deleteSessions(work.trx, viewer.id, viewer.session?.tokenHash ?? null);
    work.record({ kind: 'password.changed', subject: { person: { id: viewer.id, name: viewer.signInName } } });
  });
};

const newHash = (password: string, names: string[]) => {
  const weakness = passwordWeakness(password, names);
  if (weakness) throw refused('password_weak', { reason: weakness });
  return hashPassword(password);
};

/** Makes a link by which a person sets a password and mails it; links made before become void. */
export const mailPasswordLink = async (
  app: App,
  work: UnitOfWork,
  person: { id: string; name: string; signInName: string },
  kind: 'first' | 'reset',
): Promise<string> => {
  const token = randomBytes(32).toString('base64url');
  await store.voidLinks(work.trx, person.id, work.now);
  await store.insertLink(work.trx, {
    tokenHash: tokenHash(token),
    personId: person.id,
    kind,
    expires: new Date(work.now.getTime() + LINK_DAYS * 86_400_000),
  });
  const message =
    kind === 'first'
      ? {
          kind: 'password link',
          subject: `Welcome to the controlled documents of ${work.organisation.name}`,
          lead: `Your sign-in name is ${person.signInName}. Set your password with this link within ${LINK_DAYS} days.`,
        }
      : {
          kind: 'password link',
          subject: 'Your password was reset',
          lead: `${work.actor.name} reset your password; the old one no longer works. Set a new one with this link within ${LINK_DAYS} days. If you did not ask for this, notify your security contact.`,
        };
  const link = { path: `/password/${SECRET}`, label: 'Set my password' };
  await notify(app, work, [person.id], { ...message, link, secret: token }, true);
  // Also where the person was known before: who changed the address first cannot take over an account unseen.
  if (kind === 'reset') {
    const known = await store.listAddresses(work.trx, person.id);
    const current = (await store.findPerson(work.trx, person.id))?.email;
    await mailAddresses(
      app,
      work,
      known.filter((address) => address !== current),
      {
        kind: 'security',
        subject: 'Your password was reset',
        lead: `${work.actor.name} reset the password of ${person.signInName}. The link to set a new one was sent to ${current}. If this is not your address, or nobody asked for the reset, notify your security contact immediately.`,
        link: { path: '/', label: 'Open Kanonos' },
      },
    );
  }
  return token;
};

export const passwordLink = async (app: App, token: string) => {
  const link = await store.findLink(app.db, tokenHash(token), app.clock());
  if (!link) throw refused('link_invalid');
  return { name: link.name, signInName: link.sign_in_name, until: link.expires_at.toISOString() };
};

export const setPasswordByLink = async (app: App, token: string, password: string): Promise<void> => {
  const link = await store.findLink(app.db, tokenHash(token), app.clock());
  if (!link) throw refused('link_invalid');
  const hash = await newHash(password, [link.name, link.sign_in_name]);
  await app.command({ id: link.person_id, signInName: link.sign_in_name, name: link.name }, async (work) => {
    if ((await store.useLink(work.trx, tokenHash(token), work.now)) === 0) throw refused('link_invalid');
    await store.setPasswordHash(work.trx, link.person_id, hash);
    await store.deleteSessions(work.trx, link.person_id);
    work.record({ kind: 'password.set', subject: { person: { id: link.person_id, name: link.sign_in_name } } });
  });
};
