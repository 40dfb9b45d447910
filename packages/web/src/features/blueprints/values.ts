import { wording } from './wording.ts';
/** Values of many projects, pasted as a table: the first line names the placeholders, each further one is a project. */
export const readProjects = (
  text: string,
  placeholders: readonly string[],
): { projects: Record<string, string>[]; wrong: string | null } => {
  const lines = text
    .replace(/\r\n?/g, '\n')
    .split('\n')
    .filter((line) => line.trim() !== '')
    .map((line) => (line.includes('\t') ? line.split('\t') : line.split(';')).map((cell) => cell.trim()));
  const [head = [], ...rest] = lines;
  const missing = placeholders.find((key) => !head.includes(key));
  if (lines.length === 0) return { projects: [], wrong: null };
  if (missing)
    return {
      projects: [],
      wrong: wording.theFirstLineMustContainIs(placeholders.join(', '), missing),
    };
  return {
    projects: rest.map((cells) => Object.fromEntries(placeholders.map((key) => [key, cells[head.indexOf(key)] ?? '']))),
    wrong: null,
  };
};

/** The values of placeholders from a look-up entry: metadata by their key, else its code or name. */
export const valuesFrom = (
  entry: { code: string; name: string; metadata: Readonly<Record<string, string>> },
  placeholders: readonly string[],
): Record<string, string> =>
  Object.fromEntries(
    placeholders.flatMap((key) => {
      const value =
        entry.metadata[key] ?? (key === 'code' ? entry.code : /^(name|project)$/.test(key) ? entry.name : '');
      return value ? [[key, value] as const] : [];
    }),
  );
