import { api } from '@kanonos/contract';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { createPortal } from 'react-dom';
import { addressOf } from '../../app/client.ts';
import { SmallPicture } from './SmallPicture.tsx';

const [REST_MS, SIDE, GAP] = [350, 276, 10];

/** Where a small picture of a revision's first page is; of the one in force where none is named. */
export const smallAddress = (document: string, revision?: string): string =>
  addressOf(api.viewing.smallOfRevision, { document }, revision ? { revision } : {});

/** Shows how a document looks while the pointer rests on its name; by key and touch the preview does that. */
export const HoverPicture = ({
  document: of,
  revision,
  name,
  children,
}: {
  document: string;
  revision?: string | undefined;
  name: string;
  children: ReactNode;
}) => {
  const anchor = useRef<HTMLSpanElement>(null);
  const timer = useRef(0);
  const [at, setAt] = useState<{ left: number; top: number } | null>(null);
  useEffect(() => () => clearTimeout(timer.current), []);
  const enter = () => {
    timer.current = window.setTimeout(() => {
      const box = anchor.current?.getBoundingClientRect();
      if (!box) return;
      const below = box.bottom + GAP + SIDE < window.innerHeight;
      setAt({
        left: Math.max(GAP, Math.min(box.left, window.innerWidth - SIDE - GAP)),
        top: below ? box.bottom + GAP / 2 : Math.max(GAP, box.top - SIDE - GAP / 2),
      });
    }, REST_MS);
  };
  const leave = () => {
    clearTimeout(timer.current);
    setAt(null);
  };
  return (
    <span
      ref={anchor}
      className="min-w-0"
      onPointerEnter={(event) => event.pointerType === 'mouse' && enter()}
      onPointerLeave={leave}
      onPointerDown={leave}
    >
      {children}
      {at &&
        createPortal(
          <div className="pointer-events-none fixed z-50" style={{ ...at, width: SIDE }} aria-hidden>
            <SmallPicture
              address={smallAddress(of, revision)}
              name={name}
              className="max-h-[260px] max-w-full !border-ink"
            />
          </div>,
          document.body,
        )}
    </span>
  );
};
