import { ConfigurationPackage } from '@kanonos/contract';
import { checkTypeRule, findCollision } from '@kanonos/core';
import { describe, expect, it } from 'vitest';
import { rulesOfTypes } from '../../rules/index.ts';
import { STARTING_CONFIGURATIONS } from './index.ts';

const names = ({ units }: ConfigurationPackage) => new Set(units.map(({ kind, code }) => `${kind}/${code}`));

describe.each(STARTING_CONFIGURATIONS.map((one) => [one.name, one] as const))('%s', (_, configuration) => {
  const { package: content, folders, unitRights } = configuration;

  it('is a valid configuration package', () => {
    expect(ConfigurationPackage.parse(JSON.parse(JSON.stringify(content)))).toMatchObject({ edition: 1 });
  });

  it('names only units that it has', () => {
    const known = names(content);
    const used = [...JSON.stringify(content.types).matchAll(/"((?:role|group|department|site)\/[^"]+)"/g)].map(
      (m) => m[1],
    );
    const granted = folders.flatMap(({ rights }) => rights.flatMap(({ to }) => (to === 'everyone' ? [] : [to])));
    for (const name of [...used, ...granted, ...Object.keys(unitRights)]) expect(known).toContain(name);
  });

  it('has types without faults, whose numbers stay apart', () => {
    const options = new Map(content.choices.map((list) => [list.key, list.options]));
    for (const { rule } of content.types) {
      const fields = rule.fields.map((field) =>
        field.list && options.has(field.list) ? { ...field, options: options.get(field.list) } : field,
      );
      expect([rule.code, checkTypeRule({ ...rule, fields } as never)]).toEqual([rule.code, []]);
    }
    const rules = rulesOfTypes(
      content.types.map(({ rule }) => ({ ...rule, numbering_rule: rule.numbering }) as never),
      folders.flatMap(({ code }) => (code ? [code] : [])),
      [],
    );
    expect(rules.length).toBeGreaterThan(0);
    expect(findCollision(rules)).toBeUndefined();
  });

  it('files below areas that it makes first, each with a code and somebody who releases', () => {
    const made = new Set<string>();
    for (const { path, code, rights } of folders) {
      if (path.length > 1) expect(made).toContain(path.slice(0, -1).join('/'));
      else {
        expect(code).toMatch(/^\d$/);
        expect(rights.some((grant) => grant.rights.includes('release'))).toBe(true);
      }
      made.add(path.join('/'));
    }
  });

  it('asks for a signature with a meaning in every approval', () => {
    for (const { rule } of content.types)
      for (const step of (rule.route as { steps: { kind: string; meaning?: string }[] }).steps)
        if (step.kind === 'approval') expect(step.meaning, rule.code).toBeTruthy();
  });

  it('lets a type without a route be released without one', () => {
    for (const { rule } of content.types)
      if ((rule.route as { steps: unknown[] }).steps.length === 0)
        expect(rule.releaseWithoutRoute, rule.code).toBe(true);
  });
});
