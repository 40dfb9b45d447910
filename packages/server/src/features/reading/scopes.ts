import type { App } from '../../platform/app.ts';
import type { Viewer } from '../access/index.ts';
import { everyone, listUnits, membersOf, namesOf, teamOf } from '../people/index.ts';

export type Scope = { key: string; name: string };

/** The scope of everybody who works in the organisation. */
const EVERYONE = 'organisation';

export const isEveryone = (key: string): boolean => key === EVERYONE;

/** Whose reading a person may look at: the own team, and with the audit right the whole organisation and every department. */
export const scopesOf = async (app: App, viewer: Viewer, day: string): Promise<Scope[]> => {
  const team = await teamOf(app.db, viewer.id, day);
  const scopes: Scope[] = team.length ? [{ key: 'team', name: `Team of ${viewer.name}` }] : [];
  if (viewer.organisationRights.has('audit')) {
    scopes.push({ key: EVERYONE, name: 'The whole organisation' });
    for (const unit of await listUnits(app))
      if (unit.kind === 'department') scopes.push({ key: unit.id, name: unit.name });
  }
  // The key of one's own team names the viewer, so that a shared link means the same team for everyone who may see it.
  return scopes.map((scope) => (scope.key === 'team' ? { ...scope, key: `team-${viewer.id}` } : scope));
};

/** The people of a scope, by name. */
export const teamMembers = async (app: App, key: string, day: string): Promise<{ id: string; name: string }[]> => {
  if (key === EVERYONE) return everyone(app.db, day);
  if (key.startsWith('team-')) return teamOf(app.db, key.slice(5), day);
  const ids = (await membersOf(app.db, [key], day))[key] ?? [];
  const names = await namesOf(app.db, ids);
  return ids.map((id) => ({ id, name: names.get(id)?.name ?? '' })).sort((a, b) => a.name.localeCompare(b.name));
};
