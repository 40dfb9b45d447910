import { expandRights, type Right } from '../access/rights.ts';

/** How far a document may go, from everyone to few. */
export const CONFIDENTIALITIES = ['public', 'internal', 'confidential', 'restricted'] as const;
export type Confidentiality = (typeof CONFIDENTIALITIES)[number];

/** What a level can forbid: taking a copy, printing, and being seen by outside parties. */
export const FORBIDDEN = ['download', 'print', 'share outside'] as const;
export type Forbidden = (typeof FORBIDDEN)[number];

export type ConfidentialityRules = Readonly<Record<Confidentiality, readonly Forbidden[]>>;

export const DEFAULT_CONFIDENTIALITY: ConfidentialityRules = {
  public: [],
  internal: [],
  confidential: ['share outside'],
  restricted: ['share outside', 'download', 'print'],
};

/**
 * What is left of rights at a level. A prohibition beats every grant; a person from outside keeps nothing of what may not be
 * shared outside.
 */
export const withoutForbidden = (
  rights: ReadonlySet<Right>,
  forbids: readonly Forbidden[],
  isOutside: boolean,
): Set<Right> => {
  if (isOutside && forbids.includes('share outside')) return new Set();
  const left = expandRights(rights);
  for (const command of forbids) if (command !== 'share outside') left.delete(command);
  return left;
};
