import fc from 'fast-check';
import { expect, test } from 'vitest';
import type { PlanFolder } from '../filing/filing.ts';
import { planLayOut } from './layOut.ts';
import { type BlueprintFolder, parseOutline, placeholdersOf, toOutline } from './outline.ts';

const OUTLINE = `{client} | client={client}
  {project} | projectName={project}; lead=Lin
    + MIN First meeting of {project}
    Drawings
    Acceptance
`;
const parsed = (text: string): BlueprintFolder[] => {
  const result = parseOutline(text);
  if (!result.ok) throw new Error(JSON.stringify(result.refusals));
  return result.value;
};
const wrong = (text: string) => {
  const result = parseOutline(text);
  return result.ok ? [] : result.refusals.map((r) => `${r.code} ${r.params?.line ?? ''}`.trim());
};
const folder = (id: string, parentId: string | null, name: string): PlanFolder => ({
  id,
  parentId,
  name,
  metadata: {},
});
const plan = [folder('p', null, 'Projects'), folder('o', 'p', 'Oberlauf Bahnen')];

test('an outline is read by its indentation, with the values and first documents of folders, and written back unchanged', () => {
  const [client] = parsed(OUTLINE);
  expect(client).toMatchObject({
    name: '{client}',
    metadata: { client: '{client}' },
    children: [
      {
        name: '{project}',
        metadata: { projectName: '{project}', lead: 'Lin' },
        starters: [{ type: 'MIN', title: 'First meeting of {project}' }],
        children: [{ name: 'Drawings' }, { name: 'Acceptance' }],
      },
    ],
  });
  expect(placeholdersOf(parsed(OUTLINE))).toEqual(['client', 'project']);
  expect(`${toOutline(parsed(OUTLINE))}\n`).toBe(OUTLINE);
});

test('a line that cannot be read is named', () => {
  expect(wrong('')).toEqual(['outline_empty']);
  expect(wrong('+ MIN alone')).toEqual(['outline_starter_alone 1']);
  expect(wrong('a\n  +MIN')).toEqual(['outline_starter_wrong 2']);
  expect(wrong('a | what is this\n{b')).toEqual(['outline_field_value_wrong 1', 'outline_brace_wrong 2']);
});

test('what is there is used again whatever its case, and only new folders begin with documents', () => {
  const first = planLayOut(parsed(OUTLINE), { client: 'OBERLAUF bahnen', project: 'Lake line' }, 'p', plan);
  expect(first.ok && first.value.map((one) => [one.name, one.folderId, one.above, one.starters.length])).toEqual([
    ['Oberlauf Bahnen', 'o', null, 0],
    ['Lake line', null, 0, 1],
    ['Drawings', null, 1, 0],
    ['Acceptance', null, 1, 0],
  ]);
  const after = [...plan, folder('l', 'o', 'Lake line'), folder('d', 'l', 'Drawings')];
  const again = planLayOut(parsed(OUTLINE), { client: 'Oberlauf Bahnen', project: 'Lake line' }, 'p', after);
  expect(again.ok && again.value.filter((one) => one.folderId === null).map((one) => one.name)).toEqual(['Acceptance']);
});

test('a placeholder without a value, and two folders that would be one, are refused', () => {
  expect(planLayOut(parsed(OUTLINE), { client: ' ' }, 'p', plan)).toEqual({
    ok: false,
    refusals: [
      { code: 'placeholder_missing', params: { key: 'client' } },
      { code: 'placeholder_missing', params: { key: 'project' } },
    ],
  });
  const twice = planLayOut(parsed('{a}\n{b}'), { a: 'Same', b: 'same' }, 'p', plan);
  expect(twice.ok ? [] : twice.refusals.map((r) => r.code)).toEqual(['folder_name_taken']);
});

test('laying out what was just laid out makes nothing more', () => {
  const name = fc.stringMatching(/^[A-Za-z][A-Za-z ]{0,12}[A-Za-z]$/);
  const tree = fc.letrec<{ node: BlueprintFolder }>((tie) => ({
    node: fc.record({
      name,
      metadata: fc.constant({}),
      starters: fc.constant([]),
      grants: fc.constant([]),
      children: fc.oneof(
        { maxDepth: 3 },
        fc.constant([] as BlueprintFolder[]),
        fc.array(tie('node'), { maxLength: 3 }),
      ),
    }),
  })).node;
  fc.assert(
    fc.property(tree, (root) => {
      const made = planLayOut([root], {}, 'p', plan);
      if (!made.ok) return;
      const ids = made.value.map((one, i) => one.folderId ?? `n${i}`);
      const after = [
        ...plan,
        ...made.value.flatMap((one, i) =>
          one.folderId ? [] : [folder(`n${i}`, one.above === null ? 'p' : (ids[one.above] ?? ''), one.name)],
        ),
      ];
      const again = planLayOut([root], {}, 'p', after);
      expect(again.ok && again.value.every((one) => one.folderId !== null)).toBe(true);
    }),
  );
});

test('a folder sets the rights on it and the template of its documents', () => {
  const text = 'Start\n  * group/AUTH author, comment\n  + MIN (Minutes) First meeting\n  + MIN Second';
  const folders = parsed(text);
  expect(folders[0]).toMatchObject({
    grants: [{ unit: 'group/AUTH', rights: ['author', 'comment'] }],
    starters: [
      { type: 'MIN', template: 'Minutes', title: 'First meeting' },
      { type: 'MIN', template: null, title: 'Second' },
    ],
  });
  expect(toOutline(folders)).toBe(text);
  const wrong = parseOutline('Start\n  * group/AUTH write');
  expect(wrong.ok ? [] : wrong.refusals.map((one) => one.code)).toEqual(['outline_right_wrong']);
});
