import type { ComparedPart } from '@kanonos/core';
import type { Piece } from './layOut.ts';
import { wording } from './wording.ts';

const LOOK: Record<Piece['kind'], string> = {
  equal: '',
  insert: 'bg-petrol-tint underline decoration-petrol decoration-2 underline-offset-[3px]',
  delete: 'bg-vermilion-tint line-through decoration-vermilion',
  moved: 'outline outline-1 outline-dashed outline-ochre bg-ochre-tint',
};

/** Marked stretches of text: added is underlined, removed is struck through, moved has a dashed edge. */
export const Pieces = ({
  pieces,
  side,
  current,
}: {
  pieces: readonly Piece[];
  /** One side alone, or one text of both. */
  side: 'old' | 'new' | 'both';
  current: number | null;
}) => (
  <>
    {pieces.map((piece, i) => {
      const isFirst = piece.place !== null && pieces[i - 1]?.place !== piece.place;
      const text = side === 'old' ? piece.old : side === 'new' ? piece.new : piece.new || piece.old;
      const props = {
        ...(isFirst ? { 'data-place': piece.place } : {}),
        className: `${LOOK[piece.kind]} ${piece.place !== null && piece.place === current ? 'ring-2 ring-ink' : ''}`,
      };
      // biome-ignore lint/suspicious/noArrayIndexKey: a piece is its place in the text
      if (piece.kind === 'equal') return <span key={i}>{text}</span>;
      const Tag = piece.kind === 'insert' ? 'ins' : piece.kind === 'delete' ? 'del' : 'span';
      return (
        // biome-ignore lint/suspicious/noArrayIndexKey: a piece is its place in the text
        <Tag key={i} {...props}>
          {piece.kind === 'moved' && (
            <span className="cap mr-1 select-none !text-ochre">
              {piece.new ? wording.movedHere(piece.move) : wording.movedFromHere(piece.move)}
            </span>
          )}
          {piece.inner && side !== 'old' ? <Inner parts={piece.inner} /> : text}
        </Tag>
      );
    })}
  </>
);

/** What changed inside a paragraph that moved. */
const Inner = ({ parts }: { parts: readonly ComparedPart[] }) => (
  <>
    {parts.map((part, i) => {
      const Tag = part.kind === 'insert' ? 'ins' : part.kind === 'delete' ? 'del' : 'span';
      return (
        // biome-ignore lint/suspicious/noArrayIndexKey: a part is its place in the text
        <Tag key={i} className={LOOK[part.kind]}>
          {part.new || part.old}
        </Tag>
      );
    })}
  </>
);
