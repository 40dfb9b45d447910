import type { ConfigurationPackage } from '@kanonos/contract';
import { CODE_IN_RULES, type StartingConfiguration } from './configurations/build.ts';

/**
 * The package of a starting configuration with the chosen types alone and the lists that these use, and with numbers that begin with
 * the organisation's own code.
 */
export const trimmedPackage = (
  { package: content }: Pick<StartingConfiguration, 'package'>,
  typeCodes: readonly string[],
  organisationCode: string,
): ConfigurationPackage => {
  const types = content.types
    .filter(({ rule }) => typeCodes.includes(rule.code))
    .map(({ rule }) => ({
      rule: {
        ...rule,
        numbering: rule.numbering?.replace(new RegExp(`^${CODE_IN_RULES}\\b`), organisationCode) ?? null,
      },
    }));
  const used = new Set(types.flatMap(({ rule }) => rule.fields.flatMap(({ list }) => (list ? [list] : []))));
  return {
    ...content,
    types,
    choices: content.choices.filter(({ key }) => used.has(key)),
    lookups: content.lookups.filter(({ key }) => used.has(key)),
  };
};
