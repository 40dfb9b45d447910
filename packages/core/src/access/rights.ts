/** Rights on a folder or document. Each includes others; organisation-wide rights are separate. */
export const RIGHTS = [
  'see',
  'read',
  'read past',
  'read work',
  'download',
  'print',
  'comment',
  'author',
  'release',
  'manage',
] as const;
export type Right = (typeof RIGHTS)[number];

export const ORGANISATION_RIGHTS = ['administer', 'people', 'audit', 'security'] as const;
export type OrganisationRight = (typeof ORGANISATION_RIGHTS)[number];

const INCLUDES: Readonly<Record<Right, readonly Right[]>> = {
  see: [],
  read: ['see'],
  'read past': ['read'],
  'read work': ['read'],
  download: ['read'],
  print: ['read'],
  comment: ['read'],
  author: ['read work', 'read past', 'download', 'print', 'comment'],
  release: ['read work', 'read past'],
  manage: ['author'],
};

/** A right with all that it includes, itself among them. */
export const rightsWithin = (right: Right): ReadonlySet<Right> => {
  const all = new Set<Right>([right]);
  for (const included of INCLUDES[right]) for (const further of rightsWithin(included)) all.add(further);
  return all;
};

/** Rights with all that they include. */
export const expandRights = (rights: Iterable<Right>): Set<Right> => {
  const all = new Set<Right>();
  for (const right of rights) for (const within of rightsWithin(right)) all.add(within);
  return all;
};

/**
 * Rights after one was given or taken away, said with as few as possible: given, all that it includes come along; taken away, all
 * that include it go and what those gave besides stays.
 */
export const withRight = (rights: readonly Right[], right: Right, on: boolean): Right[] => {
  const all = expandRights(on ? [...rights, right] : rights);
  const left = RIGHTS.filter((one) => all.has(one) && (on || !rightsWithin(one).has(right)));
  return left.filter((one) => !left.some((other) => other !== one && rightsWithin(other).has(one)));
};

export const hasRight = (rights: ReadonlySet<Right>, right: Right): boolean => {
  for (const given of rights) if (given === right || rightsWithin(given).has(right)) return true;
  return false;
};

/** Who an entry is for: a person, a unit (role, group, department, site), or everyone in the organisation. */
export type Subject = { kind: 'person'; id: string } | { kind: 'unit'; id: string } | { kind: 'all' };

/** One entry on a folder or document: rights granted, or everything withheld from a person. */
export type AccessEntry = { subject: Subject; rights: readonly Right[]; withheld: boolean };

/** The places from the document outwards: its own entries, then each folder's from the nearest up to the area. */
export type AccessPlace = {
  name: string;
  entries: readonly AccessEntry[];
  /** A folder in preparation is seen by *author* and above only, with all that lies in it. */
  inPreparation?: boolean;
};

export type PersonSubjects = { personId: string; unitIds: ReadonlySet<string>; isOutside: boolean };

/** What is known of the person and the document besides the entries. */
export type AccessSituation = {
  isOwner: boolean;
  assignedInStep: boolean;
  assigneeMayCheckIn: boolean;
  assignedToRead: boolean;
};

/** One link in the chain of reasons. */
export type AccessReason = { place: string; subject: string; rights: readonly Right[]; withheld: boolean };

const subjectKey = (subject: Subject) => (subject.kind === 'all' ? 'all' : `${subject.kind}:${subject.id}`);

/**
 * The rights of a person on a document with the reasons. For each subject the nearest place with an entry counts (a
 * document's own entry replaces the folder's for that subject; the nearest folder wins); among the person's subjects
 * rights add up; then an entry that withholds from the person beats every grant to others, ownership and being asked.
 */
export const explainRights = (
  person: PersonSubjects,
  places: readonly AccessPlace[],
  situation: AccessSituation,
): { rights: Set<Right>; reasons: AccessReason[] } => {
  const settled = new Set<string>();
  const reasons: AccessReason[] = [];
  const given: Right[] = [];
  let withheld = false;
  for (const place of places) {
    const atPlace = place.entries.filter(
      (entry) => concerns(entry.subject, person) && !settled.has(subjectKey(entry.subject)),
    );
    for (const entry of atPlace) {
      reasons.push({
        place: place.name,
        subject: subjectKey(entry.subject),
        rights: entry.rights,
        withheld: entry.withheld,
      });
      if (entry.withheld && entry.subject.kind === 'person') withheld = true;
      if (!entry.withheld) given.push(...entry.rights);
    }
    for (const entry of atPlace) settled.add(subjectKey(entry.subject));
  }
  if (withheld) return { rights: new Set(), reasons };
  const add = (when: boolean, why: string, rights: Right[]) => {
    if (!when) return;
    given.push(...rights);
    reasons.push({ place: 'document', subject: why, rights, withheld: false });
  };
  if (places.some((place) => place.inPreparation) && !expandRights(given).has('author')) given.length = 0;
  add(situation.isOwner, 'owner', ['manage']);
  add(situation.assignedInStep, 'assigned in a step', ['read work', 'comment']);
  add(situation.assignedToRead, 'asked to read', ['read']);
  return { rights: expandRights(given), reasons };
};

/** A subject that has a right by an entry, and the place of that entry. */
export type RightHolder = { subject: Subject; place: string };

/** Who has a right by entries, the nearest place first: for each subject the nearest entry counts, as in `explainRights`. */
export const holdersOf = (places: readonly AccessPlace[], right: Right): RightHolder[] => {
  const settled = new Set<string>();
  const holders: RightHolder[] = [];
  for (const { name, entries } of places)
    for (const { subject, rights, withheld } of entries) {
      const key = subjectKey(subject);
      if (settled.has(key)) continue;
      settled.add(key);
      if (!withheld && hasRight(new Set(rights), right)) holders.push({ subject, place: name });
    }
  return holders;
};

/** Whether everything in a place is withheld from a person by name: the nearest entry for the person decides, as in `explainRights`. */
export const isWithheldIn = (personId: string, places: readonly Pick<AccessPlace, 'entries'>[]): boolean => {
  for (const { entries } of places) {
    const own = entries.find((entry) => entry.subject.kind === 'person' && entry.subject.id === personId);
    if (own) return own.withheld;
  }
  return false;
};

const concerns = (subject: Subject, person: PersonSubjects): boolean => {
  switch (subject.kind) {
    case 'all':
      return !person.isOutside;
    case 'person':
      return subject.id === person.personId;
    case 'unit':
      return person.unitIds.has(subject.id);
  }
};

/** A person's rights on every folder, for lists: folders by id with their entries and parent. */
export const folderRights = (
  person: PersonSubjects,
  folders: readonly {
    id: string;
    parentId: string | null;
    name: string;
    entries: readonly AccessEntry[];
    inPreparation?: boolean;
  }[],
): Map<string, Set<Right>> => {
  const byId = new Map(folders.map((folder) => [folder.id, folder]));
  const nobody = { isOwner: false, assignedInStep: false, assigneeMayCheckIn: false, assignedToRead: false };
  return new Map(
    folders.map((folder) => {
      const places: AccessPlace[] = [];
      for (let at: typeof folder | undefined = folder; at; at = at.parentId ? byId.get(at.parentId) : undefined) {
        places.push(at);
      }
      return [folder.id, explainRights(person, places, nobody).rights];
    }),
  );
};
