import { afterAll, beforeAll } from 'vitest';
import { openOrganisation, type TestOrganisation } from './organisation.ts';

/** An organisation for all tests of a file: opened before the first of them, closed after the last. */
export const withOrganisation = (options?: Parameters<typeof openOrganisation>[0]): TestOrganisation => {
  const organisation = {} as TestOrganisation;
  beforeAll(async () => {
    Object.assign(organisation, await openOrganisation(options));
  });
  afterAll(() => organisation.close());
  return organisation;
};
