import { type PDFDocumentProxy, TextLayer } from 'pdfjs-dist';
import { useEffect, useRef, useState } from 'react';
import { MarkLayer } from '../comments/MarkLayer.tsx';
import { paint, rangesOfWords } from '../comments/textRanges.ts';
import { useQuoteMarks } from '../comments/useQuoteMarks.ts';
import type { PdfView } from './pdfView.ts';
import { wording } from './wording.ts';

const MOST_UNDER = 300;

/** The words of a page's text layer below a part of the screen. */
const wordsUnder = (layer: HTMLElement | null, box: DOMRect): string => {
  const spans = [...(layer?.querySelectorAll('span') ?? [])].filter((span) => {
    const own = span.getBoundingClientRect();
    return (
      own.width > 0 && own.left < box.right && own.right > box.left && own.top < box.bottom && own.bottom > box.top
    );
  });
  return spans
    .map((span) => span.textContent)
    .join(' ')
    .replace(/\s+/g, ' ')
    .trim()
    .slice(0, MOST_UNDER);
};

/** One page: drawn when it comes near the window, with its text over it to select, and the marks over both. */
export const PdfPage = ({
  pdf,
  number,
  view,
  width,
  mark,
  name,
  words,
  onSeen,
}: {
  pdf: PDFDocumentProxy;
  number: number;
  view: PdfView;
  /** In pixels, not turned. */
  width: number;
  mark?: string | undefined;
  name: string;
  words: string;
  onSeen: (page: number) => void;
}) => {
  const holder = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const text = useRef<HTMLDivElement>(null);
  const [near, setNear] = useState(number <= 2);
  const [height, setHeight] = useState(width * Math.SQRT2);
  const [drawn, setDrawn] = useState(0);
  const { turn } = view;
  useQuoteMarks(text, drawn, number);
  useEffect(() => {
    const element = holder.current;
    if (!element) return;
    const observer = new IntersectionObserver(([entry]) => entry?.isIntersecting && setNear(true), {
      rootMargin: '900px',
    });
    const seen = new IntersectionObserver(([entry]) => entry?.isIntersecting && onSeen(number), { threshold: 0.5 });
    observer.observe(element);
    seen.observe(element);
    return () => {
      observer.disconnect();
      seen.disconnect();
    };
  }, [number, onSeen]);
  useEffect(() => {
    if (!near) return;
    let cancel = () => {};
    let gone = false;
    void pdf.getPage(number).then((page) => {
      const element = canvas.current;
      if (gone || !element || !text.current) return;
      const viewport = page.getViewport({ scale: width / page.getViewport({ scale: 1 }).width });
      const density = window.devicePixelRatio || 1;
      element.width = viewport.width * density;
      element.height = viewport.height * density;
      setHeight(viewport.height);
      const task = page.render({ canvas: element, viewport, transform: [density, 0, 0, density, 0, 0] });
      cancel = () => task.cancel();
      task.promise.catch(() => {});
      text.current.replaceChildren();
      text.current.style.setProperty('--scale-factor', String(viewport.scale));
      text.current.style.setProperty('--total-scale-factor', String(viewport.scale));
      new TextLayer({ textContentSource: page.streamTextContent(), container: text.current, viewport })
        .render()
        .then(() => !gone && setDrawn((before) => before + 1))
        .catch(() => {});
    });
    return () => {
      gone = true;
      cancel();
    };
  }, [pdf, number, width, near]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the text is there once it is drawn
  useEffect(() => {
    const layer = text.current;
    if (!layer) return;
    paint('found', layer, words ? rangesOfWords(layer, words) : []);
    return () => paint('found', layer, []);
  }, [words, drawn, number]);
  const turned = turn % 180 !== 0;
  return (
    <div
      ref={holder}
      data-page={number}
      className="mx-auto mb-3"
      style={{ width: turned ? height : width, height: turned ? width : height }}
    >
      <div
        role="img"
        aria-label={wording.namePageNumber(name, number)}
        className={`sheet relative ${mark ? 'marked' : ''}`}
        data-mark={mark}
        style={{
          width,
          height,
          ...(turn
            ? {
                transform: `translate(${turned ? (height - width) / 2 : 0}px, ${turned ? (width - height) / 2 : 0}px) rotate(${turn}deg)`,
              }
            : {}),
        }}
      >
        <canvas ref={canvas} style={{ width: '100%', height: '100%' }} />
        <div ref={text} className="textLayer" />
        {turn === 0 && (
          <MarkLayer page={number} width={width} height={height} under={(box) => wordsUnder(text.current, box)} />
        )}
      </div>
    </div>
  );
};
