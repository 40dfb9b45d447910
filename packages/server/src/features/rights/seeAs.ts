import type { App } from '../../platform/app.ts';
import { refused } from '../../platform/refused.ts';
import { actorOf, type Viewer } from '../access/index.ts';
import { findPerson, setSeesAs } from './store.ts';

/**
 * Lets an administrator see the application as a person sees it. The session stays the administrator's: nothing can be changed in it,
 * what is opened is recorded for the administrator, and the beginning and the end are on record.
 */
export const seeAs = (app: App, viewer: Viewer, personId: string, reason: string): Promise<void> =>
  app.command(actorOf(viewer), async (work) => {
    if (personId === viewer.id) throw refused('seeing_as_oneself');
    const person = await findPerson(work.trx, personId);
    if (!person || !viewer.session) throw refused('not_found');
    await setSeesAs(work.trx, viewer.session.tokenHash, person.id);
    work.record({
      kind: 'seeing-as.started',
      subject: { person: { id: person.id, name: person.sign_in_name } },
      payload: { reason },
    });
  });

/** Ends it; who sees as oneself already changes nothing. */
export const stopSeeingAs = async (app: App, viewer: Viewer): Promise<void> => {
  const { seenBy, session } = viewer;
  if (!seenBy || !session) return;
  await app.command(seenBy, async (work) => {
    await setSeesAs(work.trx, session.tokenHash, null);
    work.record({ kind: 'seeing-as.ended', subject: { person: { id: viewer.id, name: viewer.signInName } } });
  });
};
