import type { AnswerOf, api, BodyOf } from '@kanonos/contract';
import { dayInWords, dayOf } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { refused } from '../../platform/refused.ts';
import { actorOf, type Viewer } from '../access/index.ts';
import { notify } from '../mailing/index.ts';
import { teamOf } from '../people/index.ts';
import * as store from './store.ts';

type Entered = BodyOf<typeof api.session.addAbsence>;

const absencesOf = async (db: Db, personId: string, day: string) =>
  (await store.listAbsences(db, personId, day)).map((a) => ({
    id: a.id,
    from: a.from_day,
    to: a.to_day,
    deputy: a.deputy_id ? { id: a.deputy_id, name: a.deputy_name ?? '' } : null,
  }));

export const absences = async (app: App, viewer: Viewer): Promise<AnswerOf<typeof api.session.absences>> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const standing = await store.listStandingIn(app.db, viewer.id, day);
  return {
    mine: await absencesOf(app.db, viewer.id, day),
    standingInFor: standing.map((s) => ({ person: { id: s.person_id, name: s.name }, from: s.from_day, to: s.to_day })),
  };
};

/** The absences of somebody else, for that person's supervisor or whoever keeps people. */
export const absencesOfPerson = async (
  app: App,
  viewer: Viewer,
  personId: string,
): Promise<AnswerOf<typeof api.people.absences>> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  await assertMayEnterFor(app.db, viewer, personId, day);
  return { absences: await absencesOf(app.db, personId, day) };
};

/** An absence is entered by the person, the person's supervisor, or whoever keeps people: somebody who falls ill cannot do it. */
const assertMayEnterFor = async (db: Db | Trx, viewer: Viewer, personId: string, day: string): Promise<void> => {
  if (personId === viewer.id || viewer.organisationRights.has('people') || viewer.organisationRights.has('administer'))
    return;
  if (!(await teamOf(db, viewer.id, day)).some(({ id }) => id === personId)) throw refused('not_found');
};

/** Enters an absence; from its first day the deputy gets the assignments as well. */
export const addAbsence = async (
  app: App,
  viewer: Viewer,
  absence: Entered,
  personId = viewer.id,
): Promise<{ id: string }> => {
  if (absence.to < absence.from) throw refused('absence_days');
  if (absence.deputyId === personId) throw refused('deputy_self');
  return app.command(actorOf(viewer), async (work) => {
    await assertMayEnterFor(work.trx, viewer, personId, work.day);
    const person = await store.findPerson(work.trx, personId);
    if (!person) throw refused('not_found');
    const deputy = absence.deputyId ? await store.findPerson(work.trx, absence.deputyId) : undefined;
    if (absence.deputyId && !deputy) throw refused('not_found');
    if (deputy && deputy.state === 'deactivated') throw refused('person_inactive', { who: deputy.name });
    // A deputy decides and signs: that is nothing for an outside party.
    if (deputy?.outside) throw refused('deputy_outside', { who: deputy.name });
    const id = newId();
    await store.insertAbsence(work.trx, { id, personId, ...absence });
    work.record({
      kind: 'absence.added',
      subject: { person: { id: personId, name: person.sign_in_name } },
      payload: { from: absence.from, to: absence.to, deputy: deputy?.sign_in_name ?? null },
    });
    const days = `from ${dayInWords(absence.from)} to ${dayInWords(absence.to)}`;
    if (deputy) {
      const isOwn = personId === viewer.id;
      await notify(app, work, [deputy.id], {
        kind: 'absence',
        subject: `You are acting for ${person.name}`,
        lead: `${person.name} is away ${days}${isOwn ? ' and named you as deputy' : `; ${viewer.name} named you as deputy`}. Tasks of ${person.name} will also appear on your Desk.`,
        link: { path: '/', label: 'Open my Desk' },
      });
    }
    if (personId !== viewer.id) {
      await notify(app, work, [personId], {
        kind: 'absence',
        subject: 'An absence was entered for you',
        lead: `${viewer.name} entered that you are away ${days}${deputy ? `; ${deputy.name} acts for you` : ''}. You can delete it in your profile.`,
        link: { path: '/profile', label: 'Open my profile' },
      });
    }
    return { id };
  });
};

export const endAbsence = (app: App, viewer: Viewer, id: string, personId = viewer.id): Promise<void> =>
  app.command(actorOf(viewer), async (work) => {
    await assertMayEnterFor(work.trx, viewer, personId, work.day);
    const person = await store.findPerson(work.trx, personId);
    if (!person || (await store.deleteAbsence(work.trx, { id, personId })) === 0) throw refused('not_found');
    work.record({ kind: 'absence.removed', subject: { person: { id: personId, name: person.sign_in_name } } });
  });
