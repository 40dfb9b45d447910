import type { OrganisationRight } from '@kanonos/core';

/** Somebody who is signed in, with the memberships of today. */
export type Viewer = {
  id: string;
  signInName: string;
  name: string;
  email: string;
  outside: boolean;
  organisationRights: ReadonlySet<OrganisationRight>;
  unitIds: ReadonlySet<string>;
  session: { tokenHash: string; lastSignedAt: Date | null } | undefined;
};
