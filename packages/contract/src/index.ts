import { adHocRounds } from './adHocRounds.ts';
import { blueprints } from './blueprints.ts';
import { bulk } from './bulk.ts';
import { changeRequests } from './changeRequests.ts';
import { changes } from './changes.ts';
import { citations } from './citations.ts';
import { comments } from './comments.ts';
import { comparison } from './comparison.ts';
import { configurationPackages } from './configurationPackageEndpoints.ts';
import { documentEndpoints } from './documentEndpoints.ts';
import type { Endpoint } from './endpoint.ts';
import { evidence } from './evidence.ts';
import { favourites } from './favourites.ts';
import { filing } from './filing.ts';
import { find } from './find.ts';
import { forms } from './forms.ts';
import { horizon } from './horizon.ts';
import { imports } from './imports.ts';
import { intake } from './intake.ts';
import { lifeEndpoints } from './lifeEndpoints.ts';
import { links } from './links.ts';
import { numbers } from './numbers.ts';
import { orders } from './orders.ts';
import { people } from './people.ts';
import { programs } from './programs.ts';
import { reading } from './reading.ts';
import { reviews } from './reviews.ts';
import { rights } from './rights.ts';
import { roundRules } from './roundRules.ts';
import { rounds } from './rounds.ts';
import { rules } from './rules.ts';
import { session } from './session.ts';
import { setup } from './setup.ts';
import { signatories } from './signatories.ts';
import { signedOutside } from './signedOutside.ts';
import { system } from './system.ts';
import { tables } from './tables.ts';
import { tasks } from './tasks.ts';
import { templates } from './templates.ts';
import { uploadEndpoints } from './uploadEndpoints.ts';
import { viewing } from './viewing.ts';

export * from './adHocRounds.ts';
export * from './adHocSteps.ts';
export * from './blueprints.ts';
export * from './bulk.ts';
export * from './changeRequests.ts';
export * from './changes.ts';
export * from './citations.ts';
export * from './comments.ts';
export * from './common.ts';
export * from './comparison.ts';
export * from './configurationPackage.ts';
export * from './configurationPackageEndpoints.ts';
export * from './documentEndpoints.ts';
export * from './documents.ts';
export * from './endpoint.ts';
export * from './evidence.ts';
export * from './favourites.ts';
export * from './filing.ts';
export * from './find.ts';
export * from './forms.ts';
export * from './horizon.ts';
export * from './imports.ts';
export * from './intake.ts';
export * from './lifeEndpoints.ts';
export * from './links.ts';
export * from './numbers.ts';
export * from './openapi.ts';
export * from './orders.ts';
export * from './people.ts';
export * from './problems.ts';
export * from './programs.ts';
export * from './reading.ts';
export * from './rights.ts';
export * from './roundRules.ts';
export * from './rounds.ts';
export * from './rules.ts';
export * from './session.ts';
export * from './setup.ts';
export * from './signatories.ts';
export * from './signedOutside.ts';
export * from './system.ts';
export * from './tables.ts';
export * from './tasks.ts';
export * from './templates.ts';
export * from './uploadEndpoints.ts';
export * from './viewing.ts';

const documents = { ...uploadEndpoints, ...documentEndpoints, ...lifeEndpoints };

export const api = {
  session,
  people,
  documents,
  changes,
  changeRequests,
  orders,
  reviews,
  horizon,
  adHocRounds,
  citations,
  comments,
  favourites,
  links,
  comparison,
  tables,
  tasks,
  viewing,
  reading,
  programs,
  find,
  evidence,
  numbers,
  rights,
  rounds,
  rules,
  roundRules,
  signatories,
  signedOutside,
  bulk,
  filing,
  blueprints,
  forms,
  imports,
  intake,
  templates,
  configurationPackages,
  setup,
  system,
};

/** Every endpoint of the organisation: the routes, the description at /api/openapi.json and the tests are made from this list. */
export const ENDPOINTS: readonly Endpoint[] = Object.values(api).flatMap(
  (feature) => Object.values(feature) as Endpoint[],
);
