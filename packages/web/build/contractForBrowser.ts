import { fileURLToPath } from 'node:url';
import MagicString from 'magic-string';
import type { Plugin } from 'vite';

const CONTRACT = fileURLToPath(new URL('../../contract/src/', import.meta.url));
/** What the browser calls an endpoint by. Schemas, refusals and the description are for the server and its clients. */
const SENT_BY = new Set(['id', 'feature', 'method', 'path']);

type Node = { type: string; start: number; end: number; [key: string]: unknown };
type Call = Node & { callee: Node & { name?: string }; arguments: Node[] };

const isNode = (value: unknown): value is Node => typeof (value as Node | null)?.type === 'string';

const endpointsIn = (node: Node): Call[] => {
  const call = node as Call;
  if (node.type === 'CallExpression' && ['endpoint', 'documentCommand'].includes(call.callee.name ?? '')) return [call];
  return Object.values(node).flat().filter(isNode).flatMap(endpointsIn);
};

/** Keeps of a described endpoint only what it is called by. */
const shorten = (code: MagicString, call: Call) => {
  const described = call.arguments[0];
  const properties = (described?.properties ?? []) as (Node & { key: { name: string } })[];
  const kept = properties
    .filter((one) => one.type === 'Property' && SENT_BY.has(one.key.name))
    .map((one) => code.original.slice(one.start, one.end));
  if (call.callee.name === 'documentCommand') kept.push("method: 'POST'");
  code.overwrite(call.start, call.end, `{ ${kept.join(', ')} }`);
};

const VALUES = ['CallExpression', 'ObjectExpression', 'ArrayExpression', 'NewExpression'];

/** What the constants at the top of a module are made of, functions left out: schemas and endpoints, in the contract. */
const constantsIn = (program: Node): Node[] =>
  (program.body as Node[])
    .map((statement) =>
      statement.type === 'ExportNamedDeclaration' ? (statement.declaration as Node | null) : statement,
    )
    .filter((statement) => statement?.type === 'VariableDeclaration')
    .flatMap((statement) => (statement as Node).declarations as Node[])
    .map((declarator) => declarator.init)
    .filter(isNode)
    .filter((init) => VALUES.includes(init.type));

/**
 * Makes the contract light for the browser, which calls endpoints and leaves judging what is sent to the server:
 * an endpoint keeps its address, and a schema that no module reads is left out, and with the last one its library.
 */
export const contractForBrowser = (): Plugin => ({
  name: 'contract-for-browser',
  apply: 'build',
  transform(source, id) {
    if (!id.startsWith(CONTRACT)) return null;
    const program = this.parse(source) as unknown as Node;
    const code = new MagicString(source);
    for (const init of constantsIn(program)) {
      code.appendLeft(init.start, '/* @__PURE__ */ (() => (');
      code.appendRight(init.end, '))()');
    }
    for (const call of endpointsIn(program)) shorten(code, call);
    return { code: code.toString(), map: code.generateMap({ hires: true }) };
  },
});
