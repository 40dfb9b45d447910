import { readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import ts from 'typescript';
import { sourceFiles } from './sourceFiles.ts';

/** One sentence or label that a person can see, with where it is written and what it is written as. */
export type InterfaceWord = {
  file: string;
  line: number;
  kind: 'text' | 'attribute' | 'string' | 'button';
  text: string;
};

/** Where sentences come from that a person sees: the screens, refusals, events, and mails and names of columns of the server. */
const SOURCES = [
  'packages/web/src',
  'packages/contract/src/problems',
  'packages/server/src/features',
  'packages/core/src',
];

/** Attributes whose strings are no words. */
const SILENT =
  /^(className|d|viewBox|fill|stroke|type|role|key|id|to|href|src|rel|target|method|path|autoComplete|anchor|as|inputMode)$/;

/** Whether a text reads as a word or sentence, and not as a key, a path, a class or a statement of SQL. */
const isWords = (text: string): boolean =>
  /[A-Za-z]{2}/.test(text) &&
  (/^[A-Z][a-z]+/.test(text) || /[a-z’,.:] [A-Za-z{]/.test(text)) &&
  !/^[MmLl][\d ]|^[\w-]+:[\w-]+$|\b(px|flex|grid|rounded|border|absolute|sticky|overflow|items-center)\b|-\[|text-ink/.test(
    text,
  ) &&
  !/\b(select|insert into|update \w+ set|delete from|where|exists|join|order by|coalesce|references|is null|any\()\b/.test(
    text,
  );

/** A template as it reads: its variable parts as `{…}`. */
const templateText = (node: ts.TemplateExpression): string =>
  node.head.text + node.templateSpans.map((span) => `{…}${span.literal.text}`).join('');

const isButton = (node: ts.Node | undefined): boolean => {
  const opening = node && ts.isJsxElement(node) ? node.openingElement : undefined;
  return opening !== undefined && /^(button|CommandButton|Button|SubmitButton)$/.test(opening.tagName.getText());
};

/** Keys that are compared or named, never shown. */
const isKey = (node: ts.Node): boolean => {
  const parent = node.parent;
  return (
    (ts.isBinaryExpression(parent) && /^[=!]==?$/.test(parent.operatorToken.getText())) ||
    ts.isCaseClause(parent) ||
    ts.isLiteralTypeNode(parent) ||
    ts.isElementAccessExpression(parent) ||
    ts.isImportDeclaration(parent) ||
    ts.isExportDeclaration(parent) ||
    (ts.isNewExpression(parent) && parent.expression.getText() === 'Error') ||
    (ts.isCallExpression(parent) &&
      /^(refused|refusal|refuse)$|^(?!toast).*\.(error|warn|info|raw)$/.test(parent.expression.getText()))
  );
};

/** The texts of a catalogue of words (`wording.ts` of a feature) by their names; those that are put together are left out. */
export const wordingOf = (source: string): ReadonlyMap<string, string> => {
  const texts = new Map<string, string>();
  const visit = (node: ts.Node): void => {
    if (ts.isPropertyAssignment(node) && ts.isStringLiteral(node.initializer))
      texts.set(node.name.getText(), node.initializer.text);
    node.forEachChild(visit);
  };
  visit(ts.createSourceFile('wording.ts', source, ts.ScriptTarget.Latest, true));
  return texts;
};

/** The name in a catalogue that an expression between tags reads, such as `checkIn` of `{wording.checkIn}`. */
const wordingName = (node: ts.Node): string | undefined =>
  ts.isJsxExpression(node) && node.expression && ts.isPropertyAccessExpression(node.expression)
    ? /^wording\.(\w+)$/.exec(node.expression.getText())?.[1]
    : undefined;

/** The words of one source text, in the order in which they are written; what its buttons say is looked up in `wording`. */
export const wordsOfSource = (
  file: string,
  source: string,
  wording: ReadonlyMap<string, string> = new Map(),
): InterfaceWord[] => {
  const tree = ts.createSourceFile(
    file,
    source,
    ts.ScriptTarget.Latest,
    true,
    file.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS,
  );
  const found: InterfaceWord[] = [];
  const add = (node: ts.Node, kind: InterfaceWord['kind'], text: string) =>
    found.push({
      file,
      line: tree.getLineAndCharacterOfPosition(node.getStart(tree)).line + 1,
      kind,
      text: text.trim().replace(/\s+/g, ' '),
    });
  const visit = (node: ts.Node): void => {
    if (ts.isJsxAttribute(node) && SILENT.test(node.name.getText(tree))) return;
    const said = isButton(node.parent) && onlyText(node.parent) ? wording.get(wordingName(node) ?? '') : undefined;
    if (said !== undefined) {
      add(node, 'button', said);
    } else if (ts.isJsxText(node) && /[A-Za-z]/.test(node.text)) {
      add(node, isButton(node.parent) && onlyText(node.parent) ? 'button' : 'text', node.text);
    } else if ((ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) && !isKey(node)) {
      if (isWords(node.text)) add(node, ts.isJsxAttribute(node.parent) ? 'attribute' : 'string', node.text);
    } else if (ts.isTemplateExpression(node) && isWords(templateText(node))) {
      add(node, 'string', templateText(node));
    }
    node.forEachChild(visit);
  };
  visit(tree);
  return found;
};

/** Whether an element says nothing but text: a picture beside it is no word. */
const onlyText = (node: ts.Node): boolean =>
  ts.isJsxElement(node) &&
  node.children.filter((child) => isSaid(child)).length === 1 &&
  node.children.every((child) => isSaid(child) || ts.isJsxText(child) || ts.isJsxSelfClosingElement(child));

const isSaid = (child: ts.Node): boolean =>
  (ts.isJsxText(child) && child.text.trim() !== '') || wordingName(child) !== undefined;

/** The catalogue of the feature that a file of the web belongs to, as its path; undefined outside the web. */
const catalogueOf = (file: string): string | undefined =>
  /^packages\/web\/src\/(features\/\w+|app|ui)\//.exec(file)?.[0].concat('wording.ts');

/** All sentences and labels of the product that a person can see. `root` is the folder of the repository. */
export const interfaceWords = (root: string): InterfaceWord[] => {
  const files = SOURCES.flatMap((source) => sourceFiles(join(root, source)))
    .filter((path) => !/\.test\.tsx?$|\/testing\/|PiecesPage/.test(path))
    .map((path) => ({ path: relative(root, path), source: readFileSync(path, 'utf8') }));
  const catalogues = new Map(
    files.filter(({ path }) => path.endsWith('/wording.ts')).map(({ path, source }) => [path, wordingOf(source)]),
  );
  return files.flatMap(({ path, source }) => wordsOfSource(path, source, catalogues.get(catalogueOf(path) ?? '')));
};
