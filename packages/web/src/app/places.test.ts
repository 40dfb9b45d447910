import type { Me } from '@kanonos/contract';
import { describe, expect, it } from 'vitest';
import { placesFor } from './places.ts';

const person = (changes: Partial<Me>): Me =>
  ({
    department: 'Engineering',
    organisationRights: [],
    mayRegister: false,
    managesFolders: false,
    ...changes,
  }) as Me;
const linksOf = (me: Me) => placesFor(me, undefined).flatMap((group) => group.links.map(({ to }) => to));

describe('where somebody can go', () => {
  it('begins with what everybody works with', () => {
    expect(linksOf(person({})).slice(0, 3)).toEqual(['/', '/register', '/reading']);
  });

  it('is no configuration for an outside party, and people for everybody inside', () => {
    expect(linksOf(person({ outside: true }))).toEqual(['/', '/register', '/reading']);
    expect(linksOf(person({}))).toEqual(expect.arrayContaining(['/people', '/horizon']));
  });

  it('follows from what one may', () => {
    expect(linksOf(person({ mayRegister: true }))).toContain('/intake');
    expect(linksOf(person({ organisationRights: ['audit'] }))).toContain('/trail');
    expect(linksOf(person({ organisationRights: ['audit'] }))).not.toContain('/system');
    expect(linksOf(person({ managesFolders: true }))).toEqual(expect.arrayContaining(['/rules/filing', '/imports']));
    expect(linksOf(person({ managesFolders: true }))).not.toContain('/rules/types');
    expect(linksOf(person({ organisationRights: ['administer'] }))).toEqual(
      expect.arrayContaining(['/rules/organisation', '/rules/types', '/system', '/mail', '/rules/filing']),
    );
  });

  it('has no group without a link, and counts where there is something', () => {
    for (const group of placesFor(person({ outside: true }), undefined)) expect(group.links.length).toBeGreaterThan(0);
    const counts = { desk: 3, overdue: 1, register: 378, reading: 0, incomingFiles: 4 };
    const [first] = placesFor(person({ mayRegister: true }), counts);
    expect(first?.links.map(({ count }) => count)).toEqual([3, 378, 0, undefined, undefined, 4, undefined]);
  });
});
