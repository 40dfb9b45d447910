import { z } from 'zod';
import { Id, text } from './common.ts';
import { ConfigurationPackage } from './configurationPackage.ts';
import { endpoint } from './endpoint.ts';
import { Difference } from './rules.ts';

const Change = z.object({
  /** What kind of thing: unit, choice list, look-up list, type. */
  kind: z.enum(['unit', 'choices', 'lookup', 'type']),
  name: z.string(),
  isNew: z.boolean(),
  differences: z.array(Difference),
});
export type PackageChange = z.infer<typeof Change>;

/** The rules of an organisation as one file, to be kept, compared and read in elsewhere. */
export const configurationPackages = {
  export: endpoint({
    id: 'exportConfiguration',
    feature: 'rules',
    method: 'GET',
    path: '/api/rules/package',
    access: 'administer',
    summary: 'Units, lists and types with their routes as one JSON package',
    answer: ConfigurationPackage,
  }),
  schema: endpoint({
    id: 'configurationPackageSchema',
    feature: 'rules',
    method: 'GET',
    path: '/api/rules/package.schema.json',
    access: 'public',
    summary: 'What a package looks like, as JSON Schema',
    answer: z.record(z.string(), z.unknown()),
  }),
  try: endpoint({
    id: 'tryConfigurationPackage',
    feature: 'rules',
    method: 'POST',
    path: '/api/rules/package/trial',
    access: 'administer',
    summary: 'What a package would change here; changes nothing',
    body: z.strictObject({ package: ConfigurationPackage }),
    answer: z.object({ changes: z.array(Change), same: z.number().int() }),
    problems: ['input_invalid', 'package_unit_unknown'],
  }),
  classification: endpoint({
    id: 'readClassification',
    feature: 'rules',
    method: 'POST',
    path: '/api/rules/classification',
    access: 'administer',
    summary: 'Read a published classification from CSV or XLSX as a configuration package, to be compared and imported',
    body: z.strictObject({ uploadId: Id }),
    answer: z.object({
      package: ConfigurationPackage,
      wrong: z.array(z.object({ line: z.number().int(), reason: z.string() })),
    }),
    problems: [
      'upload_unknown',
      'content_missing',
      'table_kind_refused',
      'table_unreadable',
      'table_empty',
      'input_invalid',
    ],
  }),
  apply: endpoint({
    id: 'applyConfigurationPackage',
    feature: 'rules',
    method: 'POST',
    path: '/api/rules/package',
    access: 'administer',
    summary: 'Import a configuration package: all of it or nothing; what it does not name stays as it is',
    body: z.strictObject({ package: ConfigurationPackage, reason: text(500, 1) }),
    answer: z.object({ changed: z.number().int() }),
    problems: [
      'input_invalid',
      'package_unit_unknown',
      'nothing_changed',
      'rule_ambiguous',
      'option_in_use',
      'scheme_in_use',
      'field_kind_in_use',
      'field_list_unknown',
      'list_depends_in_circle',
      'list_depends_unknown',
      'changed_meanwhile',
    ],
  }),
};
