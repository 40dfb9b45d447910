import { decideFolder, type PlanFolder } from '../filing/filing.ts';
import { ok, type Refusal, type Result, refusal } from '../result.ts';
import { type BlueprintFolder, placeholdersOf, type Starter } from './outline.ts';

/** One folder of a project as it would be laid out: the one that is there, or a new one below `parent` (a place in the list). */
export type LaidFolder = {
  depth: number;
  name: string;
  /** The folder that is used again; null when it is made. */
  folderId: string | null;
  /** The index of the parent folder in the list; null directly in the target folder. */
  above: number | null;
  metadata: Record<string, string>;
  /** Only a new folder begins with documents: laid out again, nothing is doubled. */
  starters: Starter[];
  /** Only a new folder gets rights of its own; one that is there keeps those that it has. */
  grants: BlueprintFolder['grants'];
};

const filled = (text: string, values: Readonly<Record<string, string>>): string =>
  text
    .replace(/\{([A-Za-z][A-Za-z0-9]*)\}/g, (_, key: string) => values[key]?.trim() ?? '')
    .normalize('NFC')
    .replace(/\s+/gu, ' ')
    .trim();

const asName = (text: string) =>
  text
    .replace(/[\\/<>:"|?*\p{Cc}]/gu, ' ')
    .replace(/\s+/gu, ' ')
    .trim()
    .slice(0, 80)
    .trim();
const sameName = (a: string, b: string) => a.toLocaleLowerCase('en') === b.toLocaleLowerCase('en');

/**
 * What laying out a blueprint in a folder would make and what it finds there already. Names are compared without regard to case, so
 * that a client's folder is reused and never doubled. Refused while a placeholder has no value or a name is not allowed.
 */
export const planLayOut = (
  blueprint: readonly BlueprintFolder[],
  values: Readonly<Record<string, string>>,
  inFolder: string,
  folders: readonly PlanFolder[],
): Result<LaidFolder[]> => {
  const missing = placeholdersOf(blueprint).filter((key) => !values[key]?.trim());
  if (missing.length) return { ok: false, refusals: missing.map((key) => refusal('placeholder_missing', { key })) };
  const plan: LaidFolder[] = [];
  const refusals: Refusal[] = [];
  const walk = (nodes: readonly BlueprintFolder[], depth: number, parentId: string | null, above: number | null) => {
    for (const node of nodes) {
      const name = asName(filled(node.name, values));
      const found =
        parentId === null ? undefined : folders.find((one) => one.parentId === parentId && sameName(one.name, name));
      const twin = plan.find((one) => one.above === above && one.depth === depth && sameName(one.name, name));
      if (twin) refusals.push(refusal('folder_name_taken', { name }));
      if (!found) refusals.push(...decideFolder({ id: 'new', parentId, name }, parentId === null ? [] : folders));
      const at = plan.length;
      plan.push({
        depth,
        name: found?.name ?? name,
        folderId: found?.id ?? null,
        above,
        metadata: Object.fromEntries(Object.entries(node.metadata).map(([key, text]) => [key, filled(text, values)])),
        starters: found ? [] : node.starters.map((starter) => ({ ...starter, title: filled(starter.title, values) })),
        grants: found ? [] : node.grants,
      });
      walk(node.children, depth + 1, found?.id ?? null, at);
    }
  };
  walk(blueprint, 0, inFolder, null);
  return refusals.length ? { ok: false, refusals } : ok(plan);
};
