import { type AnswerOf, type api, type ConfigurationPackage, NEW_TYPE } from '@kanonos/contract';
import { type ClassifiedType, type FieldDefinition, listKey, readClassification } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { parse } from '../../platform/parsing/index.ts';
import type { Viewer } from '../access/index.ts';
import { getStored } from '../content/index.ts';
import { exportConfiguration } from './package.ts';

type PackageType = ConfigurationPackage['types'][number]['rule'];

const { registerUnitIds: _units, fallbackApproverId: _approver, reading: _reading, ...PLAIN } = NEW_TYPE;
const NEW: Omit<PackageType, 'code' | 'name'> = {
  ...PLAIN,
  // A classification gives a type its place; its numbering is configured afterwards.
  numbering: null,
  registerUnits: [],
  fallbackApprover: null,
  reading: null,
};

/**
 * Reads a published classification from a table as a package of rules, to be compared and read in like any other. A type that is
 * there keeps its rules and the organisation's additions; its place, name and help become those of the classification.
 */
export const classificationPackage = async (
  app: App,
  viewer: Viewer,
  uploadId: string,
): Promise<AnswerOf<typeof api.configurationPackages.classification>> => {
  const upload = await getStored(app, app.db, viewer, uploadId);
  const { headings, rows } = await parse('table', await app.content.intactPath(upload.sha256), upload.name);
  const { types, lists, wrong } = readClassification(headings, rows);
  const now = await exportConfiguration(app);
  const choices = [...now.choices, ...lists.filter((list) => !now.choices.some((one) => one.key === list.key))];
  const fieldsOf = (type: ClassifiedType): PackageType['fields'] =>
    type.lists.flatMap((name): PackageType['fields'] => {
      const list = choices.find((one) => one.key === listKey(name) || one.name === name);
      if (!list) {
        wrong.push({ line: type.line, reason: `type ${type.code}: there is no list ${name}` });
        return [];
      }
      const above = type.lists.map(listKey).includes(list.dependsOn ?? '') ? list.dependsOn : null;
      const field: FieldDefinition = {
        key: list.key,
        label: list.name,
        kind: 'choice',
        mandatory: false,
        level: 'document',
        list: list.key,
        ...(above ? { dependsOn: above } : {}),
      };
      return [field as PackageType['fields'][number]];
    });
  const built = types.map((type) => {
    const before = now.types.find((one) => one.rule.code === type.code)?.rule;
    const model = type.like ? now.types.find((one) => one.rule.code === type.like)?.rule : undefined;
    if (type.like && !model)
      wrong.push({ line: type.line, reason: `type ${type.code}: there is no type ${type.like}` });
    const base = before ?? model ?? NEW;
    const own = base.fields.map((field) => ({ ...field }));
    const added = fieldsOf(type).filter((field) => !own.some((one) => one.key === field.key));
    const numbering =
      type.numbering ?? before?.numbering ?? (model?.numbering?.includes('{type}') ? model.numbering : null);
    return {
      rule: {
        ...base,
        code: type.code,
        name: type.name,
        family: type.family || base.family,
        group: type.group || base.group,
        help: type.help || base.help,
        example: type.example || base.example,
        numbering: numbering ?? (base.externalPattern === null ? `${now.organisation.code}-{type}-{counter:4}` : null),
        fields: [...own, ...added],
        retired: before?.retired ?? false,
      },
    };
  });
  return {
    package: {
      kanonos: 'organisation',
      edition: 1,
      organisation: { ...now.organisation, name: upload.name.slice(0, 120) },
      units: [],
      // Options that the organisation added to a list come after those of the classification.
      choices: lists.map((list) => {
        const before = now.choices.find((one) => one.key === list.key);
        const own = before?.options.filter((option) => !list.options.some((one) => one.code === option.code)) ?? [];
        return {
          key: list.key,
          name: before?.name ?? list.name,
          dependsOn: list.dependsOn,
          options: [...list.options, ...own],
        };
      }),
      lookups: [],
      types: built,
    },
    wrong: wrong.sort((a, b) => a.line - b.line),
  };
};
