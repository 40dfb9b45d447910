import type { ComparedPart } from '@kanonos/core';
import type { Piece } from './layOut.ts';
import { boldParts } from './structure.ts';
import { wording } from './wording.ts';

const LOOK: Record<Piece['kind'], string> = {
  equal: '',
  insert: 'bg-petrol-tint underline decoration-petrol decoration-2 underline-offset-[3px]',
  delete: 'bg-vermilion-tint line-through decoration-vermilion',
  moved: 'outline outline-1 outline-dashed outline-ochre bg-ochre-tint',
};

/** What is bold on each side: stretches of a block, and where the block begins in the text. */
type Bold = { start: number; parts: readonly (readonly [number, number])[] };

/** Marked stretches of text: added is underlined, removed is struck through, moved has a dashed edge. */
export const Pieces = ({
  pieces,
  side,
  current,
  bold,
}: {
  pieces: readonly Piece[];
  /** One side alone, or one text of both. */
  side: 'old' | 'new' | 'both';
  current: number | null;
  bold?: { old: Bold; new: Bold };
}) => (
  <>
    {pieces.map((piece, i) => {
      const isFirst = piece.place !== null && pieces[i - 1]?.place !== piece.place;
      const isOld = side === 'old' || (side === 'both' && piece.new === '');
      const words = isOld ? piece.old : piece.new;
      const text = bold ? (
        <BoldText text={words} at={isOld ? piece.oldAt : piece.newAt} bold={isOld ? bold.old : bold.new} />
      ) : (
        words
      );
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

const BoldText = ({ text, at, bold }: { text: string; at: number; bold: Bold }) =>
  bold.parts.length === 0
    ? text
    : boldParts(text, at - bold.start, bold.parts).map((part, i) => {
        const Tag = part.bold ? 'b' : 'span';
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: a part is its place in the text
          <Tag key={i}>{part.text}</Tag>
        );
      });

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
