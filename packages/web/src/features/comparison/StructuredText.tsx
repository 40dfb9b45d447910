import { Fragment, type ReactNode } from 'react';
import type { Piece, Row } from './layOut.ts';
import { Pieces } from './Pieces.tsx';
import { cellsOf, type Picture, type Placed, type Shape, type Structure, shapesOf } from './structure.ts';
import { wording } from './wording.ts';

/** Both sides of a comparison by their blocks, and the pictures that only one of them has. */
export type Structures = { old: Structure; new: Structure; lost: readonly Picture[]; come: readonly Picture[] };

type Side = 'old' | 'new' | 'both';
type Shown = { side: Side; current: number | null };

const HEADINGS = ['h2', 'h2', 'h3', 'h4', 'h5', 'h6'] as const;

/** Words of a shape, with what is bold on either side. */
const WordsOf = ({ shape, pieces, side, current }: Shown & { shape: Pick<Shape, 'old' | 'new'>; pieces: Piece[] }) => (
  <Pieces
    pieces={pieces}
    side={side}
    current={current}
    bold={{
      old: { start: shape.old?.start ?? 0, parts: shape.old?.block.bold ?? [] },
      new: { start: shape.new?.start ?? 0, parts: shape.new?.block.bold ?? [] },
    }}
  />
);

/** Words in the shape of their block: a heading, an item, a paragraph. Rows of tables are laid out by whoever shows them. */
const Block = ({ shape, ...shown }: Shown & { shape: Shape }) => {
  const block = (shape.new ?? shape.old)?.block;
  const words = <WordsOf shape={shape} pieces={shape.pieces} {...shown} />;
  if (!block) return <p className="whitespace-pre-wrap">{words}</p>;
  if (block.kind === 'heading') {
    const Heading = HEADINGS[Math.min(block.level, 6) - 1] ?? 'h6';
    return <Heading className={block.level === 1 ? '!text-[20px]' : ''}>{words}</Heading>;
  }
  if (block.kind === 'item')
    return (
      <p className="flex gap-2" style={{ paddingLeft: `${(block.level - 1) * 20 + 6}px` }}>
        <span aria-hidden={block.mark === '•' || undefined} className="min-w-5 shrink-0 text-right text-ink-2">
          {block.mark}
        </span>
        <span>{words}</span>
      </p>
    );
  return <p>{words}</p>;
};

const isRow = (shape: Shape) => (shape.new ?? shape.old)?.block.kind === 'row';
const tableOf = ({ old, new: now }: Shape): number => {
  const block = (now ?? old)?.block;
  return block?.kind === 'row' ? block.table : 0;
};

/** The rows of one table, cell by cell. */
const Table = ({ shapes, ...shown }: Shown & { shapes: readonly Shape[] }) => (
  <table>
    <tbody>
      {shapes.map((shape, r) => {
        const block = (shape.new ?? shape.old)?.block;
        const Cell = block?.kind === 'row' && block.isHead ? 'th' : 'td';
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: a row is its place in the table
          <tr key={r}>
            {cellsOf(shape.pieces).map((pieces, c) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a cell is its place in the row
              <Cell key={c}>
                <WordsOf shape={shape} pieces={pieces} {...shown} />
              </Cell>
            ))}
          </tr>
        );
      })}
    </tbody>
  </table>
);

const FRAME = {
  come: 'outline-2 outline-offset-2 outline-petrol',
  lost: 'outline-2 outline-offset-2 outline-vermilion opacity-80',
};

const PictureOf = ({ picture, change }: { picture: Picture; change: 'come' | 'lost' | null }) => (
  <figure className="my-2">
    {change && (
      <figcaption className="cap mb-1">{change === 'come' ? wording.pictureAdded : wording.pictureRemoved}</figcaption>
    )}
    <img src={picture.source} alt={picture.description} className={`max-w-full ${change ? FRAME[change] : ''}`} />
  </figure>
);

/** The pictures behind a block of either side: those of the new text, and those that are gone. */
const picturesBehind = ({ old, new: now, lost, come }: Structures, shape: Shape | null, side: Side): ReactNode[] => {
  const at = (placed: Placed | null | undefined) => (shape === null ? -1 : placed?.n);
  const behind = (structure: Structure, n: number | undefined) =>
    n === undefined ? [] : (structure.pictures.get(n) ?? []);
  const gone =
    side === 'new' ? [] : behind(old, at(shape?.old)).filter((picture) => side === 'old' || lost.includes(picture));
  const present = side === 'old' ? [] : behind(now, at(shape?.new));
  const all = [
    ...gone.map((picture) => ({ picture, change: lost.includes(picture) ? ('lost' as const) : null })),
    ...present.map((picture) => ({ picture, change: come.includes(picture) ? ('come' as const) : null })),
  ];
  return all.map(({ picture, change }, i) => (
    // biome-ignore lint/suspicious/noArrayIndexKey: a picture is its place behind the block
    <PictureOf key={i} picture={picture} change={change} />
  ));
};

/** One text of both sides with its headings, lists, tables and pictures. */
export const StructuredText = ({
  rows,
  structures,
  current,
}: {
  rows: readonly Row[];
  structures: Structures;
  current: number | null;
}) => {
  const shapes = rows.flatMap((row) => shapesOf(row, structures.old, structures.new));
  const groups: Shape[][] = [];
  for (const shape of shapes) {
    const last = groups.at(-1);
    const before = last?.at(-1);
    if (last && before && isRow(before) && isRow(shape) && tableOf(before) === tableOf(shape)) last.push(shape);
    else groups.push([shape]);
  }
  return (
    <>
      {picturesBehind(structures, null, 'both')}
      {groups.map((group, i) => {
        const [shape] = group;
        if (!shape) return null;
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: a block is its place in the text
          <Fragment key={i}>
            {isRow(shape) ? (
              <Table shapes={group} side="both" current={current} />
            ) : (
              <Block shape={shape} side="both" current={current} />
            )}
            {group.map((one) => picturesBehind(structures, one, 'both'))}
          </Fragment>
        );
      })}
    </>
  );
};

/** One side of a row, in the shape of its block. */
export const StructuredSide = ({
  row,
  structures,
  side,
  current,
}: {
  row: Row;
  structures: Structures;
  side: 'old' | 'new';
  current: number | null;
}) => {
  const pieces = row[side];
  if (pieces.length === 0) return null;
  const alone = { old: side === 'old' ? pieces : [], new: side === 'new' ? pieces : [], all: pieces };
  return shapesOf(alone, structures.old, structures.new).map((shape, i) => (
    // biome-ignore lint/suspicious/noArrayIndexKey: a shape is its place in the row
    <Fragment key={i}>
      {isRow(shape) ? (
        <SideRow shape={shape} side={side} current={current} />
      ) : (
        <Block shape={shape} side={side} current={current} />
      )}
      {picturesBehind(structures, shape, side)}
    </Fragment>
  ));
};

/** A row of a table where each side has its own rows: cells of one width, so that the rows below each other make columns. */
const SideRow = ({ shape, ...shown }: Shown & { shape: Shape }) => {
  const cells = cellsOf(shape.pieces);
  const block = (shape.new ?? shape.old)?.block;
  return (
    <div
      className={`-my-1 grid border-x border-b border-line text-[13px] ${block?.kind === 'row' && block.isHead ? 'bg-film-2 font-semibold' : ''}`}
      style={{ gridTemplateColumns: `repeat(${cells.length}, minmax(0, 1fr))` }}
    >
      {cells.map((pieces, c) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a cell is its place in the row
        <span key={c} className="min-w-0 border-line px-1.5 py-0.5 not-first:border-l">
          <WordsOf shape={shape} pieces={pieces} {...shown} />
        </span>
      ))}
    </div>
  );
};
