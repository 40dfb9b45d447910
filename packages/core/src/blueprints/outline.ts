import { RIGHTS, type Right } from '../access/rights.ts';
import { ok, type Refusal, type Result, refusal } from '../result.ts';

/** A folder of a blueprint: its name with placeholders in braces, its fields, what it begins with, and its subfolders. */
export type BlueprintFolder = {
  name: string;
  metadata: Record<string, string>;
  starters: Starter[];
  /** Rights of units on it, by kind and code: `group/AUTH`. */
  grants: { unit: string; rights: Right[] }[];
  children: BlueprintFolder[];
};

/** A document that a folder begins with; without a named template it takes the first of its type, or an empty text. */
export type Starter = { type: string; template: string | null; title: string };

const MOST_FOLDERS = 300;

/**
 * Reads an outline: a folder a line, deeper ones indented; its values after a bar (`Drawings | client={client}`); a document
 * that it begins with on a line with a plus (`+ MIN First meeting of {project}`, or `+ MIN (Short) …` from a template);
 * who has which rights on it on a line with a star (`* group/AUTH author, comment`). Refused with the line that is wrong.
 */
export const parseOutline = (text: string): Result<BlueprintFolder[]> => {
  const roots: BlueprintFolder[] = [];
  const refusals: Refusal[] = [];
  const open: { indent: number; folder: BlueprintFolder }[] = [];
  let count = 0;
  text
    .replace(/\r\n?/g, '\n')
    .split('\n')
    .forEach((raw, i) => {
      const line = raw.replace(/\t/g, '  ');
      const content = line.trim();
      if (content === '') return;
      const at = { line: i + 1 };
      const indent = line.length - line.trimStart().length;
      while (open.length && (open.at(-1)?.indent ?? 0) >= indent) open.pop();
      const above = open.at(-1)?.folder;
      if (content.startsWith('*')) {
        const [, unit = '', given = ''] = /^\*\s*((?:department|role|group|site)\/\S+)\s+(.+)$/.exec(content) ?? [];
        const rights = given.split(',').map((right) => right.trim());
        const unknown = rights.find((right) => !(RIGHTS as readonly string[]).includes(right));
        if (!unit || unknown !== undefined)
          refusals.push(refusal('outline_right_wrong', { ...at, text: unknown || content }));
        else if (!above) refusals.push(refusal('outline_starter_alone', at));
        else above.grants.push({ unit, rights: rights as Right[] });
        return;
      }
      if (content.startsWith('+')) {
        const starter = /^\+\s*(\S+)\s+(?:\(([^()]+)\)\s*)?(.+)$/.exec(content);
        if (!starter) refusals.push(refusal('outline_starter_wrong', at));
        else if (!above) refusals.push(refusal('outline_starter_alone', at));
        else
          above.starters.push({
            type: starter[1] ?? '',
            template: starter[2]?.trim() ?? null,
            title: starter[3] ?? '',
          });
        return;
      }
      const [name = '', ...parts] = content.split('|').map((part) => part.trim());
      const metadata: Record<string, string> = {};
      for (const part of parts
        .join('|')
        .split(';')
        .map((one) => one.trim())
        .filter(Boolean)) {
        const fieldValue = /^([A-Za-z][A-Za-z0-9]*)\s*=\s*(.+)$/.exec(part);
        if (fieldValue) metadata[fieldValue[1] ?? ''] = fieldValue[2] ?? '';
        else refusals.push(refusal('outline_field_value_wrong', { ...at, text: part }));
      }
      if (name === '') refusals.push(refusal('outline_name_missing', at));
      if (/[{}]/.test(name.replace(/\{[A-Za-z][A-Za-z0-9]*\}/g, '')))
        refusals.push(refusal('outline_brace_wrong', { ...at, text: name }));
      const folder: BlueprintFolder = { name, metadata, starters: [], grants: [], children: [] };
      (above?.children ?? roots).push(folder);
      open.push({ indent, folder });
      if (++count === MOST_FOLDERS + 1) refusals.push(refusal('outline_too_long', { ...at, limit: MOST_FOLDERS }));
    });
  if (roots.length === 0 && refusals.length === 0) refusals.push(refusal('outline_empty'));
  return refusals.length ? { ok: false, refusals } : ok(roots);
};

/** A blueprint's folders as an outline again. */
export const toOutline = (folders: readonly BlueprintFolder[], depth = 0): string =>
  folders
    .flatMap(({ name, metadata, starters, grants, children }) => {
      const pad = '  '.repeat(depth);
      const parts = Object.entries(metadata).map(([key, value]) => `${key}=${value}`);
      return [
        `${pad}${name}${parts.length ? ` | ${parts.join('; ')}` : ''}`,
        ...grants.map(({ unit, rights }) => `${pad}  * ${unit} ${rights.join(', ')}`),
        ...starters.map(({ type, template, title }) => `${pad}  + ${type} ${template ? `(${template}) ` : ''}${title}`),
        ...(children.length ? [toOutline(children, depth + 1)] : []),
      ];
    })
    .join('\n');

/** The placeholders of a blueprint, in order of first use. */
export const placeholdersOf = (folders: readonly BlueprintFolder[]): string[] => {
  const found = new Set<string>();
  const look = (text: string) => {
    for (const match of text.matchAll(/\{([A-Za-z][A-Za-z0-9]*)\}/g)) found.add(match[1] ?? '');
  };
  const walk = ({ name, metadata, starters, children }: BlueprintFolder) => {
    look(name);
    Object.values(metadata).forEach(look);
    for (const starter of starters) look(starter.title);
    children.forEach(walk);
  };
  folders.forEach(walk);
  return [...found];
};
