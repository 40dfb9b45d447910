/**
 * Prints the shape of the code: sizes of files and functions by package, how deep features import each other, and blocks
 * of lines that occur in two places. Figures to compare before and after a change, not a gate.
 */
import { readFileSync } from 'node:fs';
import { cruise, type ICruiseResult } from 'dependency-cruiser';
import ts from 'typescript';
import { repeatedBlocks } from './lib/repeatedBlocks.ts';
import { sourceFiles } from './lib/sourceFiles.ts';

const LONG_FILE = 400;
const LONG_FUNCTION = 80;
const LONG_COMPONENT = 150;
const REPEATED_LINES = 8;

type Sized = { file: string; name: string; lines: number };

const files = ['packages', 'tools', 'e2e', 'bench'].flatMap(sourceFiles);
const sources = new Map(files.map((file) => [file, readFileSync(file, 'utf8')]));
const isTest = (file: string) => /\.(test|spec)\.tsx?$|\/tests\//.test(file);
const packageOf = (file: string) =>
  file.startsWith('packages/') ? file.split('/').slice(0, 2).join('/') : (file.split('/')[0] ?? '');
const linesOf = (text: string) => text.split('\n').length;

/** Functions of a file with the lines that each takes, outermost first. */
const functionsOf = (file: string, text: string): Sized[] => {
  const tree = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  const found: Sized[] = [];
  const visit = (node: ts.Node): void => {
    if (ts.isFunctionLike(node) && 'body' in node && node.body) {
      const named =
        node.parent && ts.isVariableDeclaration(node.parent)
          ? node.parent.name.getText(tree)
          : node.name?.getText(tree);
      if (named) found.push({ file, name: named, lines: linesOf(node.getText(tree)) });
    }
    node.forEachChild(visit);
  };
  visit(tree);
  return found;
};

const print = (title: string, rows: readonly (readonly (string | number)[])[]) => {
  process.stdout.write(`\n${title}\n`);
  for (const row of rows)
    process.stdout.write(
      `  ${row.map((cell, i) => (i === 0 ? String(cell).padEnd(34) : String(cell).padStart(10))).join(' ')}\n`,
    );
};

const all = [...sources].flatMap(([file, text]) => functionsOf(file, text));
const packages = [...new Set(files.map(packageOf))].sort();
print('Size by package', [
  ['', 'files', 'lines', 'test lines', `> ${LONG_FILE}`, `fn > ${LONG_FUNCTION}`],
  ...packages.map((name) => {
    const own = files.filter((file) => packageOf(file) === name);
    const lines = (list: string[]) => list.reduce((sum, file) => sum + linesOf(sources.get(file) ?? ''), 0);
    return [
      name,
      own.length,
      lines(own),
      lines(own.filter(isTest)),
      own.filter((file) => !isTest(file) && linesOf(sources.get(file) ?? '') > LONG_FILE).length,
      all.filter((one) => packageOf(one.file) === name && !isTest(one.file) && one.lines > LONG_FUNCTION).length,
    ];
  }),
]);

const isComponent = ({ file, name }: Sized) => file.endsWith('.tsx') && /^[A-Z]/.test(name);
print(
  `Components over ${LONG_COMPONENT} lines, and functions over ${LONG_FUNCTION} in the server`,
  all
    .filter((one) => !isTest(one.file) && one.lines > (isComponent(one) ? LONG_COMPONENT : LONG_FUNCTION))
    .filter((one) => isComponent(one) || one.file.startsWith('packages/server/'))
    .sort((a, b) => b.lines - a.lines)
    .slice(0, 25)
    .map((one) => [one.name, one.lines, one.file]),
);

/** How features of the server import each other: edges, and the longest chain without a circle. */
const { output } = await cruise(['packages/server/src/features'], {
  doNotFollow: { path: 'node_modules' },
  tsPreCompilationDeps: true,
});
const featureOf = (path: string) => /packages\/server\/src\/features\/([^/]+)\//.exec(path)?.[1];
const edges = new Map<string, Set<string>>();
for (const { source, dependencies } of (output as ICruiseResult).modules)
  for (const { resolved } of dependencies) {
    const [from, to] = [featureOf(source), featureOf(resolved)];
    if (from && to && from !== to) edges.set(from, (edges.get(from) ?? new Set()).add(to));
  }
const depth = (name: string, path: ReadonlySet<string>): number =>
  1 +
  Math.max(0, ...[...(edges.get(name) ?? [])].filter((next) => !path.has(next)).map((next) => depthOnce(next, path)));
const known = new Map<string, number>();
const depthOnce = (name: string, path: ReadonlySet<string>): number => {
  const before = known.get(name);
  if (before !== undefined) return before;
  const found = depth(name, new Set([...path, name]));
  known.set(name, found);
  return found;
};
print('Imports among features of the server', [
  ['edges', [...edges.values()].reduce((sum, to) => sum + to.size, 0)],
  ['longest chain', Math.max(0, ...[...edges.keys()].map((name) => depthOnce(name, new Set([name]))))],
]);

const repeated = repeatedBlocks(new Map([...sources].filter(([file]) => !isTest(file))), REPEATED_LINES);
print(
  `Pairs of places with ${REPEATED_LINES} or more equal lines: ${repeated.length}`,
  repeated.slice(0, 40).map((one) => [`${one.lines} lines`, one.a, one.b]),
);
