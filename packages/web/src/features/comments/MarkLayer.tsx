import type { Mark } from '@kanonos/core';
import { type PointerEvent, useRef, useState } from 'react';
import { useMe } from '../../app/session.tsx';
import { showDay } from '../../ui/format.ts';
import { useCommenting } from './Commenting.tsx';
import { MarkShape } from './MarkShape.tsx';
import { wording } from './wording.ts';

const CLOSE = 0.004;

/**
 * The marks of a page over it, and, with a tool in hand, a place to draw: by the pointer, or with Enter in the middle of the page.
 * `under` gives the words below a part of the page, by which the mark follows them to the next version.
 */
export const MarkLayer = ({
  page,
  width,
  height,
  under,
}: {
  page: number;
  width: number;
  height: number;
  under?: (box: DOMRect) => string;
}) => {
  const me = useMe();
  const state = useCommenting();
  const svg = useRef<SVGSVGElement>(null);
  const [points, setPoints] = useState<[number, number][]>([]);
  if (!state) return null;
  const { pen, threads, subject } = state;
  const marks = threads.flatMap((one) =>
    one.mark &&
    one.fileSort === subject.fileSort &&
    one.place?.state === 'here' &&
    (one.place.page ?? one.mark.page) === page
      ? [{ id: one.id, mark: one.mark, person: one.person.name, text: one.text, done: one.resolvedAt !== null }]
      : [],
  );
  const at = (event: PointerEvent): [number, number] => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return [0, 0];
    const held = (n: number) => Math.min(1, Math.max(0, n));
    return [held((event.clientX - box.left) / box.width), held((event.clientY - box.top) / box.height)];
  };
  const text =
    pen.tool === 'stamp'
      ? `${pen.text}\n${me.name}, ${showDay(me.organisation.today)}`
      : pen.tool === 'text'
        ? pen.text
        : undefined;
  const markOf = (drawn: [number, number][]): Mark | undefined => {
    const [first, last] = [drawn[0], drawn.at(-1)];
    if (!pen.tool || !first || !last) return undefined;
    const common = { tool: pen.tool, page, colour: pen.colour, ...(text ? { text } : {}) };
    if (pen.tool === 'text' || pen.tool === 'stamp') return text?.trim() ? { ...common, points: [first] } : undefined;
    if (pen.tool === 'free') return drawn.length > 1 ? { ...common, points: drawn.slice(0, 2000) } : undefined;
    const near = Math.abs(first[0] - last[0]) + Math.abs(first[1] - last[1]) < CLOSE;
    return near ? undefined : { ...common, points: [first, last] };
  };
  const finish = (drawn: [number, number][]) => {
    setPoints([]);
    const mark = markOf(drawn);
    const box = svg.current?.getBoundingClientRect();
    if (!mark || !box) return;
    const xs = mark.points.map(([x]) => box.left + x * box.width);
    const ys = mark.points.map(([, y]) => box.top + y * box.height);
    const around = new DOMRect(
      Math.min(...xs),
      Math.min(...ys),
      Math.max(...xs) - Math.min(...xs),
      Math.max(...ys) - Math.min(...ys),
    );
    state.draw({ ...mark, points: mark.points.map(([x, y]) => [x, y]) }, under?.(around) ?? '');
  };
  const drawing = markOf(points);
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${width} ${height}`}
      className={`absolute inset-0 h-full w-full ${pen.tool ? 'cursor-crosshair touch-none' : 'pointer-events-none'}`}
      role={pen.tool ? 'application' : 'group'}
      aria-label={pen.tool ? wording.drawOnPage(page) : wording.marksOnPage(page)}
      tabIndex={pen.tool ? 0 : -1}
      onKeyDown={(event) => {
        if (pen.tool && event.key === 'Enter')
          finish([
            [0.35, 0.4],
            [0.65, 0.6],
          ]);
        if (event.key === 'Escape') state.setPen({ ...pen, tool: null });
      }}
      onPointerDown={(event) => {
        if (!pen.tool || event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        setPoints([at(event)]);
      }}
      onPointerMove={(event) => {
        if (points.length === 0) return;
        const point = at(event);
        setPoints((before) => (pen.tool === 'free' ? [...before, point] : [before[0] ?? point, point]));
      }}
      onPointerUp={(event) => finish([...points, at(event)])}
      onPointerCancel={() => setPoints([])}
    >
      {marks.map((one) => (
        <g
          key={one.id}
          role="button"
          tabIndex={pen.tool ? -1 : 0}
          aria-label={wording.toolOfPersonPart(one.mark.tool, one.person, one.text ? `: ${one.text}` : '')}
          className={`${pen.tool ? '' : 'pointer-events-auto cursor-pointer'} ${one.done ? 'opacity-40' : ''}`}
          onClick={() => state.choose(one.id)}
          onKeyDown={(event) => event.key === 'Enter' && state.choose(one.id)}
        >
          <title>{`${one.person}${one.text ? `: ${one.text}` : ''}`}</title>
          <MarkShape mark={one.mark} width={width} height={height} chosen={state.chosen === one.id} />
        </g>
      ))}
      {drawing && <MarkShape mark={drawing} width={width} height={height} />}
    </svg>
  );
};
