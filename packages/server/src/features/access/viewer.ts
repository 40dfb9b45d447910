import type { OrganisationRight } from '@kanonos/core';
import type { Actor } from '../../platform/app.ts';

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

export const actorOf = (viewer: Viewer): Actor => ({ id: viewer.id, signInName: viewer.signInName, name: viewer.name });
