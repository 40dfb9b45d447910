import { parseAst } from 'vite';
import { describe, expect, it } from 'vitest';
import { contractForBrowser } from './contractForBrowser.ts';

const CONTRACT = new URL('../../contract/src/tasks.ts', import.meta.url).pathname;
const transformed = (source: string, id = CONTRACT): string => {
  const { transform } = contractForBrowser() as unknown as {
    transform: (this: { parse: typeof parseAst }, source: string, id: string) => { code: string } | null;
  };
  return transform.call({ parse: parseAst }, source, id)?.code ?? source;
};

describe('the contract in the browser', () => {
  it('keeps of an endpoint what it is called by', () => {
    const code = transformed(
      "export const tasks = { desk: endpoint({ id: 'desk', feature: 'tasks', method: 'GET', path: '/api/desk', summary: 'x', answer: Desk }) };",
    );
    expect(code).toContain("desk: { id: 'desk', feature: 'tasks', method: 'GET', path: '/api/desk' }");
    expect(code).not.toContain('Desk');
  });

  it('knows how a command on a document is sent', () => {
    const code = transformed("const life = { hold: documentCommand({ id: 'hold', path: '/api/x', body: Hold }) };");
    expect(code).toContain("hold: { id: 'hold', path: '/api/x', method: 'POST' }");
  });

  it('marks schemas so that those nobody reads are left out, and keeps their values', () => {
    const code = transformed(
      'export const KINDS = ["a", "b"]; const Line = z.object({ kind: z.enum(KINDS) }); export const twice = (n) => n * 2;',
    );
    expect(code).toContain('export const KINDS = /* @__PURE__ */ (() => (["a", "b"]))();');
    expect(code).toContain('const Line = /* @__PURE__ */ (() => (z.object({ kind: z.enum(KINDS) })))();');
    expect(code).toContain('twice = (n) => n * 2');
  });

  it('leaves every other module alone', () => {
    const source = 'const Line = z.object({});';
    expect(transformed(source, '/elsewhere/core/src/index.ts')).toBe(source);
  });
});
