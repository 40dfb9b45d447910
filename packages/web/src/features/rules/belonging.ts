import type { PersonRow, Unit } from '@kanonos/contract';

type Who = Pick<PersonRow, 'name' | 'department' | 'site' | 'roles' | 'state'>;

/** The names of those who belong to every one of some units today; nobody where no unit is named, and nobody who was deactivated. */
export const belongingTo = (people: readonly Who[], units: readonly Pick<Unit, 'kind' | 'name'>[]): string[] =>
  units.length === 0
    ? []
    : people
        .filter((person) => person.state !== 'deactivated' && units.every((unit) => belongs(person, unit)))
        .map((person) => person.name);

const belongs = (person: Who, unit: Pick<Unit, 'kind' | 'name'>): boolean =>
  unit.kind === 'department'
    ? person.department === unit.name
    : unit.kind === 'site'
      ? person.site === unit.name
      : unit.kind === 'role' && person.roles.includes(unit.name);
