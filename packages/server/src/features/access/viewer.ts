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
  /** Who sees the application as this person, read only; undefined for who is signed in as oneself. */
  seenBy?: Actor | undefined;
  session: { tokenHash: string; lastSignedAt: Date | null } | undefined;
};

/** Who really looks: what was opened is recorded for this person. */
export const lookerOf = (viewer: Viewer): string => viewer.seenBy?.id ?? viewer.id;

export const actorOf = (viewer: Viewer): Actor => ({ id: viewer.id, signInName: viewer.signInName, name: viewer.name });
