import dagre from '@dagrejs/dagre';
import { toCsv } from '@kanonos/core';
import { useMemo, useRef } from 'react';
import { useNavigate } from 'react-router';
import { saveFile } from '../../ui/saveFile.ts';
import { wording } from './wording.ts';

export type Reach = {
  number: string;
  edges: readonly { from: string; to: string; by: 'citation' | 'link' }[];
  titles: ReadonlyMap<string, string>;
};
const [WIDTH, HEIGHT, MOST] = [128, 24, 120];

const layOut = ({ number, edges }: Reach) => {
  const graph = new dagre.graphlib.Graph();
  graph.setGraph({ rankdir: 'RL', nodesep: 10, ranksep: 60, marginx: 8, marginy: 8 });
  graph.setDefaultEdgeLabel(() => ({}));
  const shown = new Set([number]);
  for (const edge of edges) {
    if (shown.size >= MOST) break;
    shown.add(edge.from).add(edge.to);
  }
  for (const node of shown) graph.setNode(node, { width: WIDTH, height: HEIGHT });
  const drawn = edges.filter((edge) => shown.has(edge.from) && shown.has(edge.to) && edge.from !== edge.to);
  for (const edge of drawn) graph.setEdge(edge.from, edge.to, { by: edge.by });
  dagre.layout(graph);
  return { graph, left: new Set(edges.flatMap((edge) => [edge.from, edge.to])).size - shown.size };
};

/** The graph of what depends on a document: pressing a node continues from there. It can be downloaded as a picture or as lines. */
export const ImpactGraph = (reach: Reach) => {
  const { number, edges, titles } = reach;
  const svg = useRef<SVGSVGElement>(null);
  const navigate = useNavigate();
  // biome-ignore lint/correctness/useExhaustiveDependencies: laid out anew when what hangs on it changes
  const { graph, left } = useMemo(() => layOut(reach), [number, edges]);
  const { width = 0, height = 0 } = graph.graph() as { width?: number; height?: number };
  const save = (text: string, type: string, ending: string) =>
    saveFile(`${number.replace(/[^\w-]+/g, '-')}-impact.${ending}`, text, type);
  return (
    <div>
      <div className="overflow-auto border border-line bg-sheet">
        <svg
          ref={svg}
          width={width}
          height={height}
          role="group"
          aria-label={wording.impactOfAChangeTo(number)}
          xmlns="http://www.w3.org/2000/svg"
        >
          {graph.edges().map((edge) => {
            const { points, by } = graph.edge(edge) as { points: { x: number; y: number }[]; by: string };
            return (
              <polyline
                key={`${edge.v} ${edge.w}`}
                points={points.map(({ x, y }) => `${x},${y}`).join(' ')}
                fill="none"
                stroke="#8fa3ab"
                strokeDasharray={by === 'link' ? '4 3' : undefined}
              />
            );
          })}
          {graph.nodes().map((node) => {
            const { x, y } = graph.node(node);
            const self = node === number;
            return (
              <g
                key={node}
                role="link"
                tabIndex={0}
                aria-label={`${node} ${titles.get(node) ?? ''}`}
                className="cursor-pointer"
                onClick={() => navigate(`/d/${encodeURIComponent(node)}?tab=citations`)}
                onKeyDown={(event) => event.key === 'Enter' && navigate(`/d/${encodeURIComponent(node)}?tab=citations`)}
              >
                <title>{titles.get(node) ?? node}</title>
                <rect
                  x={x - WIDTH / 2}
                  y={y - HEIGHT / 2}
                  width={WIDTH}
                  height={HEIGHT}
                  fill={self ? '#12232b' : '#ffffff'}
                  stroke="#12232b"
                />
                <text
                  x={x}
                  y={y + 4}
                  textAnchor="middle"
                  fontSize={11}
                  fontFamily="monospace"
                  fill={self ? '#ffffff' : '#12232b'}
                >
                  {node.length > 17 ? `${node.slice(0, 16)}…` : node}
                </text>
              </g>
            );
          })}
        </svg>
      </div>
      <div className="mt-1 flex items-center gap-2 text-[12px] text-ink-3">
        <span>{wording.solidLinesAreCitationsDashedLines(left > 0 ? wording.moreAreNotShown(left) : '')}</span>
        <button
          type="button"
          className="btn ml-auto !h-6"
          onClick={() => svg.current && save(svg.current.outerHTML, 'image/svg+xml', 'svg')}
        >
          {wording.exportImage}
        </button>
        <button
          type="button"
          className="btn !h-6"
          onClick={() =>
            save(
              toCsv([
                ['from', 'title', 'by', 'to'],
                ...edges.map((edge) => [edge.from, titles.get(edge.from) ?? '', edge.by, edge.to]),
              ]),
              'text/csv',
              'csv',
            )
          }
        >
          {wording.exportCsv}
        </button>
      </div>
    </div>
  );
};
