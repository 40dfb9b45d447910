import type { MarkInfo } from '@kanonos/contract';
import { boxOf, cloudPath, type Mark } from '@kanonos/core';

/** A mark as it is drawn over a page of this size, in its own units. */
export const MarkShape = ({
  mark,
  width,
  height,
  chosen,
}: {
  mark: MarkInfo | Mark;
  width: number;
  height: number;
  chosen?: boolean;
}) => {
  const points = mark.points.map(([x, y]) => [x * width, y * height] as const);
  const [[x1, y1] = [0, 0], [x2, y2] = [x1, y1]] = points as [[number, number], [number, number]];
  const box = boxOf(points);
  const stroke = {
    stroke: mark.colour,
    strokeWidth: chosen ? 3.5 : 2,
    fill: 'none',
    vectorEffect: 'non-scaling-stroke',
  } as const;
  switch (mark.tool) {
    case 'box':
      return <rect {...box} {...stroke} />;
    case 'cloud':
      return <path d={cloudPath(box, 16)} {...stroke} />;
    case 'highlight':
      return <rect {...box} fill={mark.colour} fillOpacity={chosen ? 0.45 : 0.28} />;
    case 'line':
      return <line x1={x1} y1={y1} x2={x2} y2={y2} {...stroke} />;
    case 'arrow': {
      const angle = Math.atan2(y2 - y1, x2 - x1);
      const side = (turn: number) => `${x2 - 12 * Math.cos(angle + turn)},${y2 - 12 * Math.sin(angle + turn)}`;
      return (
        <>
          <line x1={x1} y1={y1} x2={x2} y2={y2} {...stroke} />
          <polyline points={`${side(0.45)} ${x2},${y2} ${side(-0.45)}`} {...stroke} />
        </>
      );
    }
    case 'free':
      return (
        <polyline
          points={points.map(([x, y]) => `${x},${y}`).join(' ')}
          strokeLinecap="round"
          strokeLinejoin="round"
          {...stroke}
        />
      );
    default: {
      const lines = (mark.text ?? '').split('\n');
      const wide = Math.max(...lines.map((line) => line.length)) * 7.4 + 12;
      return (
        <g>
          <rect
            x={x1}
            y={y1}
            width={wide}
            height={lines.length * 16 + 8}
            fill="#ffffff"
            fillOpacity={0.85}
            stroke={mark.tool === 'stamp' || chosen ? mark.colour : 'none'}
            strokeWidth={chosen ? 2.5 : 1.5}
          />
          <text x={x1 + 6} y={y1 + 17} fill={mark.colour} fontSize={13} fontWeight={600}>
            {lines.map((line, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: lines keep their place
              <tspan key={i} x={x1 + 6} dy={i ? 16 : 0}>
                {line}
              </tspan>
            ))}
          </text>
        </g>
      );
    }
  }
};
