import { randomBytes } from 'node:crypto';
import type { AnswerOf, api } from '@kanonos/contract';
import { dayOf } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { refused } from '../../platform/refused.ts';
import { actorOf, type Viewer, viewerOf } from '../access/index.ts';
import { tokenHash } from '../session/index.ts';
import * as store from './store.ts';

const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789';

/** Twenty letters in fives, to be read and typed: some 98 bits. */
const makePassword = (): string =>
  Array.from(randomBytes(20), (byte) => LETTERS[byte % LETTERS.length])
    .join('')
    .replace(/(.{5})(?=.)/g, '$1-');

/** A password for one program of a person's: shown once, kept as a digest, ended on the profile. */
export const makeProgramPassword = async (
  app: App,
  viewer: Viewer,
  name: string,
): Promise<AnswerOf<typeof api.programs.addProgramPassword>> => {
  const password = makePassword();
  await app.command(actorOf(viewer), async (work) => {
    await store.insertProgramPassword(work.trx, {
      personId: viewer.id,
      name,
      tokenHash: tokenHash(password),
      now: work.now,
    });
    work.record({
      kind: 'program-password.created',
      subject: { person: { id: viewer.id, name: viewer.signInName } },
      payload: { name },
    });
  });
  return { password };
};

export const programPasswords = async (
  app: App,
  viewer: Viewer,
): Promise<AnswerOf<typeof api.programs.programPasswords>> => ({
  address: `${app.config.publicUrl.replace(/\/$/, '')}/webdav/`,
  passwords: (await store.listProgramPasswords(app.db, viewer.id)).map((row) => ({
    id: row.id,
    name: row.name,
    madeAt: row.made_at.toISOString(),
    usedAt: row.used_at?.toISOString() ?? null,
  })),
});

export const endProgramPassword = (app: App, viewer: Viewer, id: string): Promise<void> =>
  app.command(actorOf(viewer), async (work) => {
    const ended = await store.deleteProgramPassword(work.trx, { id, personId: viewer.id });
    if (!ended) throw refused('not_found');
    work.record({
      kind: 'program-password.ended',
      subject: { person: { id: viewer.id, name: viewer.signInName } },
      payload: { name: ended.name },
    });
  });

const NOTED_MS = 60_000;

/** Who a program works for, by the sign-in name and a program's password (RFC 7617); the person's own password opens nothing here. */
export const viewerOfProgram = async (app: App, header: string | undefined): Promise<Viewer | undefined> => {
  const encoded = /^Basic ([\w+/=-]+)$/i.exec(header ?? '')?.[1];
  if (!encoded) return undefined;
  const [signInName = '', ...rest] = Buffer.from(encoded, 'base64').toString('utf8').split(':');
  const found = await store.findByProgramPassword(app.db, { signInName, tokenHash: tokenHash(rest.join(':').trim()) });
  if (!found) return undefined;
  const now = app.clock();
  if (!found.used_at || now.getTime() - found.used_at.getTime() > NOTED_MS)
    await store.noteUse(app.db, { id: found.id, now });
  return viewerOf(app.db, found.person_id, dayOf(now, (await app.organisation()).zone));
};
