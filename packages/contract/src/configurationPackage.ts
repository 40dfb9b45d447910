import { z } from 'zod';
import { Day, text } from './common.ts';
import { FieldOption, LookupEntry, LookupField, TypeRule } from './rules.ts';

/** A unit as a package names it: its kind and code, for ids are of one organisation alone. */
const UnitName = z.string().regex(/^(department|role|group|site)\/.{1,16}$/, 'a unit such as role/TA would be right');
/** Ways as they are kept, with units and people (`person/ines.varga`) by name. */
const Ways = z.record(z.string(), z.unknown());

/**
 * The rules of an organisation as one open document: units, lists and types with their routes. What it does not name stays as it is where it
 * is read in, so that an edition of a published classification and an organisation's own additions go together.
 */
export const ConfigurationPackage = z.strictObject({
  $schema: z.string().optional(),
  kanonos: z.literal('organisation'),
  edition: z.literal(1),
  organisation: z.strictObject({ name: text(120), code: text(16), zone: text(60), exportedOn: Day }),
  units: z
    .array(
      z.strictObject({ kind: z.enum(['department', 'role', 'group', 'site']), code: text(16, 1), name: text(80, 1) }),
    )
    .max(2000),
  choices: z
    .array(
      z.strictObject({
        key: text(40, 1),
        name: text(80, 1),
        dependsOn: text(40).nullable(),
        options: z.array(FieldOption).max(2000),
      }),
    )
    .max(500),
  lookups: z
    .array(
      z.strictObject({
        key: text(40, 1),
        name: text(80, 1),
        metadata: z.array(LookupField).max(30),
        entries: z.array(LookupEntry).max(5000),
      }),
    )
    .max(200),
  types: z
    .array(
      z.strictObject({
        rule: TypeRule.omit({
          registerUnitIds: true,
          route: true,
          routes: true,
          furtherRoutes: true,
          reading: true,
          fallbackApproverId: true,
        }).extend({
          registerUnits: z.array(UnitName).max(50),
          route: Ways,
          routes: Ways.default({}),
          furtherRoutes: z.array(z.unknown()).max(20).default([]),
          reading: Ways.nullable(),
          fallbackApprover: z.string().max(80).nullable().default(null),
        }),
      }),
    )
    .max(2000),
});
export type ConfigurationPackage = z.infer<typeof ConfigurationPackage>;
