import { type AnswerOf, type api, FIRST_STEPS } from '@kanonos/contract';
import { dayOf } from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import { newId } from '../../platform/db/ids.ts';
import { refused } from '../../platform/refused.ts';
import type { Handler } from '../access/index.ts';
import { actorOf, replaceGrants, type Viewer, viewerOf } from '../access/index.ts';
import { blockPlan, makeFolder } from '../filing/index.ts';
import { mailAddresses, mailServerState } from '../mailing/index.ts';
import { joinUnits, resetPerson } from '../people/index.ts';
import { applyPackageIn, finishOrganisation, listFolders, seedOrganisation } from '../rules/index.ts';
import type { StartingFolder } from './configurations/build.ts';
import { STARTING_CONFIGURATIONS } from './configurations/index.ts';
import * as store from './store.ts';
import { trimmedPackage } from './trim.ts';

export { publicHolidays } from './holidays.ts';

/** Which first steps are done, seen from the data, so that they can be left and resumed. */
export const setupState = async (app: App): Promise<AnswerOf<typeof api.setup.state>> => {
  const progress = await store.findProgress(app.db);
  return {
    isOpen: progress?.first_steps === 'open',
    steps: FIRST_STEPS.map((step) => ({ step, done: progress?.[step] ?? false })),
    mail: await mailServerState(app),
  };
};

export const startingConfigurations = (): AnswerOf<typeof api.setup.configurations> =>
  structuredClone({ configurations: STARTING_CONFIGURATIONS }) as AnswerOf<typeof api.setup.configurations>;

/** Takes over a starting configuration in one transaction: rules, rights of units, folders that are missing, with their rights. */
export const applyStartingConfiguration: Handler<typeof api.setup.apply> = (app, viewer, input) =>
  app.command(actorOf(viewer), async (work) => {
    const found = STARTING_CONFIGURATIONS.find(({ id }) => id === input.id);
    if (!found) throw refused('not_found');
    const wanted = trimmedPackage(found, input.types, work.organisation.code);
    if (wanted.types.length === 0) throw refused('nothing_changed');
    await applyPackageIn(app, work, viewer, wanted, `Starting configuration: ${found.name}`);
    const units = new Map((await store.listUnits(work.trx)).map((unit) => [`${unit.kind}/${unit.code}`, unit.id]));
    for (const [name, rights] of Object.entries(found.unitRights)) {
      const unitId = units.get(name);
      if (unitId) await store.setUnitRights(work.trx, unitId, rights);
    }
    const folders = await makeFolders(work, found.folders, units);
    await joinUnits(
      work,
      viewer,
      input.join.flatMap((name) => units.get(name) ?? []),
    );
    work.record({
      kind: 'setup.configuration-applied',
      subject: {},
      payload: {
        name: found.name,
        types: wanted.types.map(({ rule }) => rule.code),
        folders,
        rights: Object.entries(found.unitRights).map(([unit, rights]) => `${unit}: ${rights.join(', ')}`),
      },
    });
    return { types: wanted.types.length, folders: folders.length };
  });

/** The code of a new area: as given, or the next number that no area has. */
const freeCode = (wanted: string | null, folders: readonly { code: string | null }[]): string | null => {
  if (wanted === null) return null;
  const taken = new Set(folders.map(({ code }) => code));
  let code = wanted;
  for (let n = 1; taken.has(code); n++) code = String(n);
  return code;
};

/** Makes the folders that are missing, areas first; one that is there already keeps its rights. Answers the paths made. */
const makeFolders = async (
  work: UnitOfWork,
  folders: readonly StartingFolder[],
  units: ReadonlyMap<string, string>,
): Promise<string[]> => {
  await blockPlan(work.trx);
  const made: string[] = [];
  for (const { path, code, rights } of folders) {
    const rows = await listFolders(work.trx);
    const at = (names: readonly string[]) =>
      rows.find((row) => row.path_names.join('/').toLowerCase() === names.join('/').toLowerCase());
    if (at(path)) continue;
    const id = newId();
    await makeFolder(work, { id, name: path.at(-1) ?? '', code: freeCode(code, rows) }, at(path.slice(0, -1)));
    made.push(path.join(' / '));
    if (rights.length > 0)
      await replaceGrants(
        work.trx,
        { folderId: id },
        rights.map((grant) => ({
          subject:
            grant.to === 'everyone' ? { kind: 'all', id: null } : { kind: 'unit', id: units.get(grant.to) ?? null },
          rights: grant.rights,
          withheld: false,
        })),
      );
  }
  return made;
};

/** Sends a test mail to one's own address. */
export const sendTestMail = async (app: App, viewer: Viewer): Promise<{ to: string }> => {
  if (!viewer.email) throw refused('mail_address_missing');
  await app.command(actorOf(viewer), (work) =>
    mailAddresses(app, work, [viewer.email], {
      kind: 'test',
      subject: `Test mail of ${work.organisation.name}`,
      lead: 'This mail shows that the mail server is set up: Kanonos can reach the people of your organisation.',
      link: { path: '/setup?step=mail', label: 'Back to the first steps' },
    }),
  );
  return { to: viewer.email };
};

/** Stops offering the first steps, or offers them again. */
export const closeSetup = (app: App, viewer: Viewer, open: boolean): Promise<void> =>
  app.command(actorOf(viewer), async (work) => {
    await store.setFirstSteps(work.trx, open ? 'open' : 'done');
    work.record({ kind: 'setup.closed', subject: {}, payload: { open } });
  });

/**
 * Sets up an organisation without types, folders and documents, with one administrator whose first steps are offered.
 *
 * @returns the sign-in name and the address of the one-time link that sets the administrator's password
 */
export const beginEmpty = async (app: App, zone: string): Promise<{ signInName: string; link: string }> => {
  await seedOrganisation(app, {
    name: 'My organisation',
    code: 'ORG',
    zone,
    demoPassword: null,
    holidays: [],
    units: [],
    folders: [],
    types: [],
    grants: [],
    counters: [],
  });
  const founder = { id: newId(), signInName: 'administrator', name: 'First administrator' };
  const day = dayOf(app.clock(), zone);
  await store.insertFounder(app.db, { ...founder, from: day });
  await store.setFirstSteps(app.db, 'open');
  const viewer = await viewerOf(app.db, founder.id, day);
  const { token } = await resetPerson(app, viewer, founder.id, 'First start');
  await finishOrganisation(app);
  return {
    signInName: founder.signInName,
    link: `${app.config.publicUrl}/password/${token}?to=${encodeURIComponent('/setup')}`,
  };
};
