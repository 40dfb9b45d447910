import { ok, type Refusal, type Result, refusal } from '../result.ts';

/** A folder of a blueprint: its name with placeholders in braces, what it says, what it begins with, and what stands in it. */
export type BlueprintFolder = {
  name: string;
  facts: Record<string, string>;
  starters: { type: string; title: string }[];
  children: BlueprintFolder[];
};

const MOST_FOLDERS = 300;

/**
 * Reads an outline: a folder a line, deeper ones indented; what a folder says behind a bar (`Drawings | client={client}`); a document
 * that it begins with on a line with a plus (`+ MIN First meeting of {project}`). Refused with the line that is wrong.
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
      const wrong = (code: string, params: Refusal['params'] = {}) =>
        refusals.push(refusal(code, { line: i + 1, ...params }));
      const indent = line.length - line.trimStart().length;
      while (open.length && (open.at(-1)?.indent ?? 0) >= indent) open.pop();
      const above = open.at(-1)?.folder;
      if (content.startsWith('+')) {
        const starter = /^\+\s*(\S+)\s+(.+)$/.exec(content);
        if (!starter) wrong('outline_starter_wrong');
        else if (!above) wrong('outline_starter_alone');
        else above.starters.push({ type: starter[1] ?? '', title: starter[2] ?? '' });
        return;
      }
      const [name = '', ...told] = content.split('|').map((part) => part.trim());
      const facts: Record<string, string> = {};
      for (const part of told
        .join('|')
        .split(';')
        .map((one) => one.trim())
        .filter(Boolean)) {
        const fact = /^([A-Za-z][A-Za-z0-9]*)\s*=\s*(.+)$/.exec(part);
        if (fact) facts[fact[1] ?? ''] = fact[2] ?? '';
        else wrong('outline_fact_wrong', { text: part });
      }
      if (name === '') wrong('outline_name_missing');
      if (/[{}]/.test(name.replace(/\{[A-Za-z][A-Za-z0-9]*\}/g, ''))) wrong('outline_brace_wrong', { text: name });
      const folder: BlueprintFolder = { name, facts, starters: [], children: [] };
      (above?.children ?? roots).push(folder);
      open.push({ indent, folder });
      if (++count === MOST_FOLDERS + 1) wrong('outline_too_long', { limit: MOST_FOLDERS });
    });
  if (roots.length === 0 && refusals.length === 0) refusals.push(refusal('outline_empty'));
  return refusals.length ? { ok: false, refusals } : ok(roots);
};

/** A blueprint's folders as an outline again. */
export const toOutline = (folders: readonly BlueprintFolder[], depth = 0): string =>
  folders
    .flatMap(({ name, facts, starters, children }) => {
      const pad = '  '.repeat(depth);
      const told = Object.entries(facts).map(([key, value]) => `${key}=${value}`);
      return [
        `${pad}${name}${told.length ? ` | ${told.join('; ')}` : ''}`,
        ...starters.map((starter) => `${pad}  + ${starter.type} ${starter.title}`),
        ...(children.length ? [toOutline(children, depth + 1)] : []),
      ];
    })
    .join('\n');

/** The placeholders of a blueprint, in the order in which they first stand. */
export const placeholdersOf = (folders: readonly BlueprintFolder[]): string[] => {
  const found = new Set<string>();
  const look = (text: string) => {
    for (const match of text.matchAll(/\{([A-Za-z][A-Za-z0-9]*)\}/g)) found.add(match[1] ?? '');
  };
  const walk = ({ name, facts, starters, children }: BlueprintFolder) => {
    look(name);
    Object.values(facts).forEach(look);
    for (const starter of starters) look(starter.title);
    children.forEach(walk);
  };
  folders.forEach(walk);
  return [...found];
};
