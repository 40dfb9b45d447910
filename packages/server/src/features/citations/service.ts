import type { AnswerOf, api } from '@kanonos/contract';
import { createRecogniser, dayOf, findCitations, foldNumber, impactOf, judgeCitation } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { refused } from '../../platform/refused.ts';
import { listScope, type Viewer } from '../access/index.ts';
import { ensureDocumentRight, openDocument, rightToRead } from '../documents/index.ts';
import { visibleRevisions } from '../revisions/index.ts';
import { knownRules } from '../rules/index.ts';
import { eachOnItsOwn } from '../system/index.ts';
import * as store from './store.ts';

const AT_ONCE = 20;
const WORK_MS = 5_000;
const LONGEST = 20_000_000;
const AROUND = 60;
const STRETCH = 50_000;

/** Looks through texts that have come for numbers of the organisation; a few seconds at a time. */
export const citeWaiting = async (app: App): Promise<number> => {
  const until = performance.now() + WORK_MS;
  let done = 0;
  let recognise: ReturnType<typeof createRecogniser> | undefined;
  while (performance.now() < until) {
    const waiting = await store.listNotCited(app.db, { limit: AT_ONCE, longest: LONGEST, now: app.clock() });
    recognise ??= createRecogniser(await knownRules(app.db));
    const rule = recognise;
    const cited = await eachOnItsOwn(
      app,
      'citations of a text',
      waiting,
      ({ sha256 }) => ({ subject: sha256, label: `Text ${sha256.slice(0, 8)}` }),
      async ({ sha256, text }) => {
        const found = await citedIn(text, rule);
        await app.db.transaction((trx) => store.keepCitations(trx, sha256, found));
      },
    );
    done += cited;
    if (cited < waiting.length) break;
    if (waiting.length < AT_ONCE) break;
  }
  return done;
};

/**
 * Each number with each label once, how often it is cited, and the words around its first place. A long text is looked through
 * stretch by stretch, each ending with a line: in between whoever waits for an answer gets it.
 */
const citedIn = async (text: string, recognise: ReturnType<typeof createRecogniser>): Promise<store.Found[]> => {
  const found = new Map<string, store.Found>();
  for (let from = 0; from < text.length; ) {
    const lineEnd = text.lastIndexOf('\n', from + STRETCH);
    const to = text.length <= from + STRETCH ? text.length : lineEnd > from ? lineEnd + 1 : from + STRETCH;
    const stretch = text.slice(from, to);
    for (const { number, label, start, end } of findCitations(stretch, recognise)) {
      const folded = foldNumber(number);
      const key = `${folded} ${label ?? ''}`;
      const known = found.get(key);
      if (known) known.times++;
      else
        found.set(key, {
          n: found.size + 1,
          folded,
          number,
          label,
          times: 1,
          excerpt: excerptOf(stretch, start, end),
        });
    }
    from = to;
    await new Promise((resolve) => setImmediate(resolve));
  }
  return [...found.values()];
};

/** The words around a place, none of them cut. */
const excerptOf = (text: string, start: number, end: number): string => {
  const before = text.slice(Math.max(0, start - AROUND), start);
  const behind = text.slice(end, end + AROUND);
  return [
    start > AROUND ? before.replace(/^\S*/, '') : before,
    text.slice(start, end),
    end + AROUND < text.length ? behind.replace(/\S*$/, '') : behind,
  ]
    .join('')
    .replace(/\s+/g, ' ')
    .trim();
};

const MOST_STEPS = 6;
const MOST_REACHED = 500;
const MOST_DRAWN = 1000;

/** The documents that a document cites, those that cite it, and those that a change would reach; invisible ones are left out. */
export const citationsOf = async (
  app: App,
  viewer: Viewer,
  ref: string,
): Promise<AnswerOf<typeof api.citations.ofDocument>> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const opened = await openDocument(app.db, viewer, ref, day);
  const [revision] = opened.rights.has('read work')
    ? opened.revisions
    : [opened.inForce ?? visibleRevisions(opened.revisions, opened.rights)[0]];
  if (!revision) throw refused('not_found');
  ensureDocumentRight(opened, opened.rights.has('read work') ? 'read work' : rightToRead(revision.state));
  const scope = { ...(await listScope(app.db, viewer, day)) };
  const { id } = opened.document;
  const found = await store.listCitationsOf(app.db, revision.id);
  const own = foldNumber(opened.document.number);
  const targets = new Map(
    (await store.listTargets(app.db, [...new Set([own, ...found.map((one) => one.folded)])], scope)).map((target) => [
      target.folded,
      target,
    ]),
  );
  const self = targets.get(own);
  const edges = await edgesTo(app, id, scope);
  const direct = edges.filter((edge) => edge.to_id === id && edge.excerpt !== '');
  const named = new Map(edges.map((edge) => [edge.from_id, edge]));
  const numberOf = (one: string) => named.get(one)?.number ?? opened.document.number;
  const reached = impactOf(
    id,
    edges.map((edge) => ({ from: edge.from_id, to: edge.to_id })),
  );
  return {
    complete: await store.isComplete(app.db, revision.id),
    cites: found.map(({ folded, ...one }) => {
      const target = targets.get(folded);
      const isSelf = target?.id === id;
      return {
        ...one,
        kind: judgeCitation(one, target && toCited(target), isSelf),
        document: target && !isSelf ? toNamed(target) : null,
      };
    }),
    citedBy: direct.map((edge) => ({
      ...toNamed({ ...edge, id: edge.from_id }),
      citedLabel: edge.cited_label,
      kind: judgeCitation({ label: edge.cited_label }, self && toCited(self)),
      excerpt: edge.excerpt,
    })),
    reached: reached.slice(0, MOST_REACHED).flatMap(({ id: from, distance, path }) => {
      const edge = named.get(from);
      return edge ? [{ ...toNamed({ ...edge, id: from }), distance, path: path.map(numberOf) }] : [];
    }),
    edges: edges.slice(0, MOST_DRAWN).map((edge) => ({
      from: edge.number,
      to: numberOf(edge.to_id),
      by: edge.excerpt === '' ? ('link' as const) : ('citation' as const),
    })),
    capped: reached.length > MOST_REACHED || edges.length >= MOST_REACHED * MOST_STEPS,
  };
};

const toNamed = ({
  id,
  number,
  title,
  label,
  state,
  on_hold,
}: {
  id: string;
  number: string;
  title: string;
  label: string;
  state: string;
  on_hold: boolean;
}) => ({
  id,
  number,
  title,
  label,
  state,
  onHold: on_hold,
});
const toCited = ({ scheme, labels, in_force, ever, withdrawn }: store.Target) => ({
  scheme,
  labels,
  inForce: in_force,
  everInForce: ever,
  withdrawn,
});

/** All references that lead to a document, step by step backwards, as far as a viewer may see them. */
const edgesTo = async (app: App, id: string, scope: Record<string, unknown>): Promise<store.Edge[]> => {
  const edges: store.Edge[] = [];
  const seen = new Set([id]);
  let front = [id];
  for (let step = 0; step < MOST_STEPS && front.length > 0 && seen.size <= MOST_REACHED; step++) {
    const most = MOST_REACHED * MOST_STEPS - edges.length;
    const found = [
      ...(await store.listCiting(app.db, front, scope, most)),
      ...(await store.listHanging(app.db, front, scope, most)),
    ];
    edges.push(...found);
    front = [...new Set(found.map((edge) => edge.from_id))].filter((from) => !seen.has(from));
    for (const from of front) seen.add(from);
  }
  return edges;
};
