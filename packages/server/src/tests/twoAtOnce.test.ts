import { RIGHTS } from '@kanonos/core';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { correctFacts } from '../features/authoring/facts.ts';
import { listBlueprints, saveBlueprint } from '../features/blueprints/service.ts';
import { listStamps, saveStamp } from '../features/comments/stamps.ts';
import { changeFolder, filingPlan, folderGrants, setGrants } from '../features/filing/service.ts';
import { changePerson, personDetail } from '../features/people/service.ts';
import { readers, setRequirement } from '../features/reading/service.ts';
import { listLists, saveChoices, saveLookup } from '../features/rules/lists.ts';
import { changeHouse, houseSettings } from '../features/rules/settings.ts';
import { changeType, typeDetail } from '../features/rules/types.ts';
import { changeProfile, me } from '../features/session/service.ts';
import { newId } from '../platform/db/ids.ts';
import { codeOf, openHouse, type TestHouse } from './house.ts';

// Two people at once: the second is told, and nothing is silently overwritten, whatever it is that both change.

let house: TestHouse;
let number = '';
let documentId = '';
const stamp = newId();
const reason = 'as the test says';

/** Something that two may change: what stands there with the version that goes with it, and a save of other words over a version. */
type Thing = {
  read: () => Promise<{ words: string; version: number }>;
  save: (words: string, version: number) => Promise<unknown>;
};

const folderId = () => house.folders.get('2') ?? '';
const listed = async (kind: 'choices' | 'lookups') => {
  const list = (await listLists(house.app))[kind].find((one) => one.key === 'parts');
  return { words: list?.name ?? '', version: list?.rowVersion ?? 0 };
};
const admin = () => house.as('admin');

const THINGS: Record<string, Thing> = {
  'the facts of a document': {
    read: async () => {
      const page = await house.page('author', number);
      return { words: page.revision.title, version: page.revision.rowVersion };
    },
    save: async (title, rowVersion) => {
      const page = await house.page('author', number);
      return correctFacts(house.app, await house.as('author'), documentId, {
        title,
        summary: '',
        facts: {},
        keywords: [],
        ownerId: page.owner.id,
        reviewOn: null,
        reason: '',
        rowVersion: page.rowVersion,
        revisionRowVersion: rowVersion,
      });
    },
  },
  'who must read a document': {
    read: async () => {
      const [requirement] = (await readers(house.app, await house.as('controller'), number)).requirements;
      return { words: requirement?.instructions ?? '', version: requirement?.rowVersion ?? 0 };
    },
    save: async (instructions, rowVersion) =>
      setRequirement(house.app, await house.as('controller'), number, {
        everyone: true,
        unitIds: [],
        personIds: [],
        exceptPersonIds: [],
        kind: 'read and sign',
        instructions,
        workingDays: 5,
        newcomerDays: 5,
        perChange: {},
        beforeInForce: false,
        reason: '',
        rowVersion: rowVersion || null,
      }),
  },
  'a type': {
    read: async () => {
      const { rule, rowVersion } = await typeDetail(house.app, house.types.get('TWO') ?? '');
      return { words: rule.help, version: rowVersion };
    },
    save: async (help, rowVersion) => {
      const id = house.types.get('TWO') ?? '';
      const { rule } = await typeDetail(house.app, id);
      return changeType(house.app, await admin(), id, {
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
      saveChoices(house.app, await admin(), 'parts', { name, dependsOn: null, options: [], rowVersion, reason }),
  },
  'a look-up list': {
    read: () => listed('lookups'),
    save: async (name, rowVersion) =>
      saveLookup(house.app, await admin(), 'parts', { name, facts: [], entries: [], rowVersion, reason }),
  },
  'the house': {
    read: async () => {
      const { name, rowVersion } = await houseSettings(house.app);
      return { words: name, version: rowVersion };
    },
    save: async (name, rowVersion) => {
      const { week, holidays, signingIdleMinutes } = await houseSettings(house.app);
      return changeHouse(house.app, await admin(), {
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
      const folder = (await filingPlan(house.app, await admin())).folders.find((one) => one.id === folderId());
      return { words: folder?.name ?? '', version: folder?.rowVersion ?? 0 };
    },
    save: async (name, rowVersion) =>
      changeFolder(house.app, await admin(), folderId(), {
        parentId: null,
        name,
        code: '2',
        facts: {},
        departmentId: null,
        state: 'open',
        rowVersion,
        reason,
      }),
  },
  'the rights on a folder': {
    read: async () => {
      const { own, rowVersion } = await folderGrants(house.app, await admin(), folderId());
      const one = own.find((grant) => grant.subject.kind === 'person');
      return { words: one?.rights.join(', ') ?? '', version: rowVersion };
    },
    save: async (words, rowVersion) =>
      setGrants(house.app, await admin(), folderId(), {
        grants: [
          { subject: { kind: 'all', id: null }, rights: ['see', 'read'], withheld: false },
          {
            subject: { kind: 'person', id: house.ids.reader ?? '' },
            // Words as rights: each digit another one.
            rights: ['see', ...RIGHTS.slice(Number(words.at(-1)) + 1, Number(words.at(-1)) + 2)],
            withheld: false,
          },
        ],
        rowVersion,
        reason: `${reason} ${words}`,
      }),
  },
  'a person': {
    read: async () => {
      const { name, rowVersion } = await personDetail(house.app, house.ids.stranger ?? '');
      return { words: name, version: rowVersion };
    },
    save: async (name, rowVersion) =>
      changePerson(house.app, await admin(), house.ids.stranger ?? '', {
        name,
        email: 'stranger@test.example',
        houseRights: [],
        rowVersion,
      }),
  },
  'the own profile': {
    read: async () => {
      const { mailMode, rowVersion } = await me(house.app, (await house.as('reader')).id);
      return { words: mailMode, version: rowVersion };
    },
    save: async (_, rowVersion) =>
      changeProfile(house.app, await house.as('reader'), { mailMode: 'daily', rowVersion }),
  },
  'a blueprint': {
    read: async () => {
      const [one] = (await listBlueprints(house.app, await admin())).blueprints;
      return { words: one?.name ?? '', version: one?.rowVersion ?? 0 };
    },
    save: async (name, rowVersion) => {
      const [one] = (await listBlueprints(house.app, await admin())).blueprints;
      return saveBlueprint(house.app, await admin(), {
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
      const one = (await listStamps(house.app)).stamps.find(({ id }) => id === stamp);
      return { words: one?.words ?? '', version: one?.rowVersion ?? 0 };
    },
    save: async (words, rowVersion) =>
      saveStamp(house.app, await admin(), stamp, { words, colour: '#0b5563', retired: false, rowVersion }),
  },
};

beforeAll(async () => {
  house = await openHouse();
  ({ id: documentId, number } = await house.register('author'));
});
afterAll(() => house.close());

describe.each(Object.entries(THINGS))('%s', (_, { read, save }) => {
  test('who saves over a version that is gone is told, and what the first saved stands', async () => {
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
    const { words } = await read();
    expect(words).toBeTruthy();
  });
});
