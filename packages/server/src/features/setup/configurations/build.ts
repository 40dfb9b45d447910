import { type ConfigurationPackage, NEW_TYPE, type TypeRule } from '@kanonos/contract';
import {
  APPROVAL_BY_OWNER,
  approvalByUnit,
  type FieldDefinition,
  type OrganisationRight,
  REVIEW_BY_CHOSEN,
  type Right,
} from '@kanonos/core';

type Package = ConfigurationPackage;
type Rule = Package['types'][number]['rule'];
type UnitName = `${'role' | 'group'}/${string}`;

/** A folder of a starting configuration with the rights that units, or everyone, get on it. */
export type StartingFolder = {
  path: readonly string[];
  code: string | null;
  rights: readonly { to: UnitName | 'everyone'; rights: readonly Right[] }[];
};

/** A configuration to begin with: rules as a configuration package, and the filing plan and rights that a package does not hold. */
export type StartingConfiguration = {
  id: string;
  name: string;
  about: string;
  package: Package;
  folders: readonly StartingFolder[];
  /** Organisation-wide rights of the members of a unit. */
  unitRights: Readonly<Record<UnitName, readonly OrganisationRight[]>>;
};

/** In packages that ship, numbers begin with this code; the organisation's own code takes its place. */
export const CODE_IN_RULES = 'ORG';

export const field = (
  key: string,
  label: string,
  kind: FieldDefinition['kind'],
  more: Partial<FieldDefinition> = {},
): FieldDefinition => ({ key, label, kind, mandatory: false, level: 'revision', ...more });

export const choices = (...texts: string[]) =>
  texts.map((text) => ({ code: text.toLowerCase().replace(/[^a-z0-9]+/g, '-'), text }));

type Step = TypeRule['route']['steps'][number];

export const review = (name = 'Review', workingDays = 5): Step => ({
  ...(REVIEW_BY_CHOSEN as Step),
  name,
  workingDays,
});

/** Approval with a signature by any member of a unit. */
export const approval = (name: string, meaning: string, unit: UnitName, workingDays = 3): Step =>
  approvalByUnit(name, meaning, unit, workingDays);

export const approvalByOwner = APPROVAL_BY_OWNER as Step;

export const route = (name: string, ...steps: Step[]) => ({ name, steps });

/** Who reads a released document, and what a change asks of those who have read it. */
export const readers = (unit: UnitName | 'everyone', workingDays: number) => ({
  unitIds: unit === 'everyone' ? [] : [unit],
  ...(unit === 'everyone' ? { everyone: true } : {}),
  workingDays,
  newJoinerDays: workingDays,
  perChange: {},
  instructions: '',
});

/** A type of a starting configuration: what is left out is as for a new type. */
export const type = (
  code: string,
  name: string,
  help: string,
  more: Partial<Omit<Rule, 'code' | 'name' | 'help'>> = {},
): Package['types'][number] => {
  const { registerUnitIds, fallbackApproverId, ...rule } = NEW_TYPE;
  return {
    rule: {
      ...rule,
      numbering: `${CODE_IN_RULES}-{type}-{counter:4}`,
      registerUnits: [],
      fallbackApprover: null,
      code,
      name,
      help,
      ...more,
    } as Rule,
  };
};

/** The rights of a folder in which everybody reads what is in force, authors write, and document control releases. */
export const openFolder = (path: readonly string[], code: string | null, authors: UnitName = 'group/AUTH') => ({
  path,
  code,
  rights: [
    { to: 'everyone' as const, rights: ['read', 'download', 'print', 'comment'] as const },
    { to: authors, rights: ['author'] as const },
    { to: 'role/CTRL' as const, rights: ['release', 'manage'] as const },
  ],
});

/** A folder below another one, with the rights of that. */
export const subfolder = (...path: string[]): StartingFolder => ({ path, code: null, rights: [] });

export const packageOf = (content: Pick<Package, 'units' | 'types'> & Partial<Package>): Package => ({
  kanonos: 'organisation',
  edition: 1,
  organisation: { name: 'Starting configuration', code: CODE_IN_RULES, zone: 'UTC', exportedOn: '2026-01-01' },
  choices: [],
  lookups: [],
  ...content,
});

/** Units that every starting configuration has: document control and authors. */
export const COMMON_UNITS: Package['units'] = [
  { kind: 'role', code: 'CTRL', name: 'Document controller' },
  { kind: 'group', code: 'AUTH', name: 'Authors' },
];
export const COMMON_RIGHTS: StartingConfiguration['unitRights'] = { 'role/CTRL': ['people', 'audit'] };
