import { RIGHTS } from '@kanonos/core';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { listBlueprints, saveBlueprint } from '../features/blueprints/service.ts';
import { listStamps, saveStamp } from '../features/comments/stamps.ts';
import { changeFolder, filingPlan, folderGrants, setGrants } from '../features/filing/service.ts';
import { changePerson, personDetail } from '../features/people/service.ts';
import { readers, setRequirement } from '../features/reading/service.ts';
import { listLists, saveChoices, saveLookup } from '../features/rules/lists.ts';
import { changeOrganisation, organisationSettings } from '../features/rules/settings.ts';
import { changeType, typeDetail } from '../features/rules/types.ts';
import { changeProfile, me } from '../features/session/service.ts';
import { newId } from '../platform/db/ids.ts';
import { codeOf, openOrganisation, type TestOrganisation } from './organisation.ts';

// Two people at once: the second is warned, and nothing is silently overwritten, whatever both change.

let organisation: TestOrganisation;
let number = '';
let documentId = '';
const stamp = newId();
const reason = 'as the test says';

/** Something that two people may change: its present words with their version, and a save of other words over a version. */
type Thing = {
  read: () => Promise<{ text: string; version: number }>;
  save: (text: string, version: number) => Promise<unknown>;
};

const folderId = () => organisation.folders.get('2') ?? '';
const listed = async (kind: 'choices' | 'lookups') => {
  const list = (await listLists(organisation.app))[kind].find((one) => one.key === 'parts');
  return { text: list?.name ?? '', version: list?.rowVersion ?? 0 };
};
const admin = () => organisation.as('admin');

const THINGS: Record<string, Thing> = {
  'the metadata of a document': {
    read: async () => {
      const page = await organisation.page('author', number);
      return { text: page.revision.title, version: page.revision.rowVersion };
    },
    save: (title, rowVersion) => organisation.correct('author', documentId, { title, revisionRowVersion: rowVersion }),
  },
  'who must read a document': {
    read: async () => {
      const [requirement] = (await readers(organisation.app, await organisation.as('controller'), number)).requirements;
      return { text: requirement?.instructions ?? '', version: requirement?.rowVersion ?? 0 };
    },
    save: async (instructions, rowVersion) =>
      setRequirement(organisation.app, await organisation.as('controller'), number, {
        everyone: true,
        unitIds: [],
        personIds: [],
        exceptPersonIds: [],
        kind: 'read and sign',
        instructions,
        workingDays: 5,
        newJoinerDays: 5,
        perChange: {},
        beforeInForce: false,
        reason: '',
        rowVersion: rowVersion || null,
      }),
  },
  'a type': {
    read: async () => {
      const { rule, rowVersion } = await typeDetail(organisation.app, organisation.types.get('TWO') ?? '');
      return { text: rule.help, version: rowVersion };
    },
    save: async (help, rowVersion) => {
      const id = organisation.types.get('TWO') ?? '';
      const { rule } = await typeDetail(organisation.app, id);
      return changeType(organisation.app, await admin(), id, {
        rule: { ...rule, help },
        reason,
        rowVersion,
        from: null,
        fill: [],
      });
    },
  },
  'a choice list': {
    read: () => listed('choices'),
    save: async (name, rowVersion) =>
      saveChoices(organisation.app, await admin(), 'parts', { name, dependsOn: null, options: [], rowVersion, reason }),
  },
  'a look-up list': {
    read: () => listed('lookups'),
    save: async (name, rowVersion) =>
      saveLookup(organisation.app, await admin(), 'parts', { name, metadata: [], entries: [], rowVersion, reason }),
  },
  'the organisation': {
    read: async () => {
      const { name, rowVersion } = await organisationSettings(organisation.app);
      return { text: name, version: rowVersion };
    },
    save: async (name, rowVersion) => {
      const { week, holidays, signingIdleMinutes } = await organisationSettings(organisation.app);
      return changeOrganisation(organisation.app, await admin(), {
        name,
        week,
        holidays,
        signingIdleMinutes,
        fallbackApproverId: null,
        rowVersion,
        reason,
      });
    },
  },
  'a folder': {
    read: async () => {
      const folder = (await filingPlan(organisation.app, await admin())).folders.find((one) => one.id === folderId());
      return { text: folder?.name ?? '', version: folder?.rowVersion ?? 0 };
    },
    save: async (name, rowVersion) =>
      changeFolder(organisation.app, await admin(), folderId(), {
        parentId: null,
        name,
        code: '2',
        metadata: {},
        departmentId: null,
        state: 'open',
        rowVersion,
        reason,
      }),
  },
  'the rights on a folder': {
    read: async () => {
      const { own, rowVersion } = await folderGrants(organisation.app, await admin(), folderId());
      const one = own.find((grant) => grant.subject.kind === 'person');
      return { text: one?.rights.join(', ') ?? '', version: rowVersion };
    },
    save: async (text, rowVersion) =>
      setGrants(organisation.app, await admin(), folderId(), {
        grants: [
          { subject: { kind: 'all', id: null }, rights: ['see', 'read'], withheld: false },
          {
            subject: { kind: 'person', id: organisation.ids.reader ?? '' },
            // Words as rights: each digit another one.
            rights: ['see', ...RIGHTS.slice(Number(text.at(-1)) + 1, Number(text.at(-1)) + 2)],
            withheld: false,
          },
        ],
        rowVersion,
        reason: `${reason} ${text}`,
      }),
  },
  'a person': {
    read: async () => {
      const { name, rowVersion } = await personDetail(organisation.app, organisation.ids.stranger ?? '');
      return { text: name, version: rowVersion };
    },
    save: async (name, rowVersion) =>
      changePerson(organisation.app, await admin(), organisation.ids.stranger ?? '', {
        name,
        email: 'stranger@test.example',
        organisationRights: [],
        rowVersion,
      }),
  },
  'the own profile': {
    read: async () => {
      const { mailMode, rowVersion } = await me(organisation.app, (await organisation.as('reader')).id);
      return { text: mailMode, version: rowVersion };
    },
    save: async (_, rowVersion) =>
      changeProfile(organisation.app, await organisation.as('reader'), { mailMode: 'daily', rowVersion }),
  },
  'a blueprint': {
    read: async () => {
      const [one] = (await listBlueprints(organisation.app, await admin())).blueprints;
      return { text: one?.name ?? '', version: one?.rowVersion ?? 0 };
    },
    save: async (name, rowVersion) => {
      const [one] = (await listBlueprints(organisation.app, await admin())).blueprints;
      return saveBlueprint(organisation.app, await admin(), {
        id: one?.id ?? null,
        name,
        folderId: folderId(),
        outline: '{client}',
        lookup: null,
        retired: false,
        rowVersion,
        reason,
      });
    },
  },
  'a stamp': {
    read: async () => {
      const one = (await listStamps(organisation.app)).stamps.find(({ id }) => id === stamp);
      return { text: one?.text ?? '', version: one?.rowVersion ?? 0 };
    },
    save: async (text, rowVersion) =>
      saveStamp(organisation.app, await admin(), stamp, { text, colour: '#0b5563', retired: false, rowVersion }),
  },
};

beforeAll(async () => {
  organisation = await openOrganisation();
  ({ id: documentId, number } = await organisation.register('author'));
});
afterAll(() => organisation.close());

describe.each(Object.entries(THINGS))('%s', (_, { read, save }) => {
  test('who saves over an outdated version is told, and what the first saved is kept', async () => {
    let { version } = await read();
    if (version === 0) {
      await save('Begun', 0);
      ({ version } = await read());
    }
    await save('First 1', version);
    const after = await read();
    expect(after.version).toBeGreaterThan(version);
    expect(await codeOf(save('Second 2', version))).toBe('changed_meanwhile');
    expect(await read()).toEqual(after);
    await save('Third 4', after.version);
    expect((await read()).version).toBeGreaterThan(after.version);
  });

  test('of four in the same moment one is first', async () => {
    const { version } = await read();
    const codes = await Promise.all([1, 2, 3, 4].map((n) => codeOf(save(`Moment ${n + 4}`, version))));
    expect(codes.sort()).toEqual(['changed_meanwhile', 'changed_meanwhile', 'changed_meanwhile', 'done']);
    const { text } = await read();
    expect(text).toBeTruthy();
  });
});
