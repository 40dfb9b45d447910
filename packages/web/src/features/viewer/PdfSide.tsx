import type { PDFDocumentProxy } from 'pdfjs-dist';
import { useEffect, useRef, useState } from 'react';
import { wording } from './wording.ts';

type Entry = { title: string; page: number | null; depth: number };

/** Entries of a PDF's outline in their order, each with the page to which it leads. */
const outlineOf = async (pdf: PDFDocumentProxy): Promise<Entry[]> => {
  type Item = Awaited<ReturnType<PDFDocumentProxy['getOutline']>>[number];
  const entries: Entry[] = [];
  const walk = async (items: readonly Item[], depth: number) => {
    for (const item of items) {
      const dest = typeof item.dest === 'string' ? await pdf.getDestination(item.dest) : item.dest;
      const page = dest?.[0]
        ? await pdf
            .getPageIndex(dest[0])
            .then((index) => index + 1)
            .catch(() => null)
        : null;
      entries.push({ title: item.title, page, depth });
      if (depth < 6) await walk(item.items, depth + 1);
    }
  };
  await walk((await pdf.getOutline()) ?? [], 0);
  return entries;
};

/** The pane beside the pages: their outline, or thumbnails of all. */
export const PdfSide = ({
  pdf,
  kind,
  at,
  go,
}: {
  pdf: PDFDocumentProxy;
  kind: 'pages' | 'outline';
  at: number;
  go: (page: number) => void;
}) => (
  <nav
    aria-label={kind === 'pages' ? wording.pageThumbnails : wording.outline}
    className="w-40 shrink-0 overflow-y-auto border-r border-line bg-film-2 py-2"
  >
    {kind === 'pages' ? (
      Array.from({ length: pdf.numPages }, (_, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: pages keep their place
        <SmallPage key={i} pdf={pdf} number={i + 1} on={at === i + 1} go={go} />
      ))
    ) : (
      <Outline pdf={pdf} go={go} />
    )}
  </nav>
);

const Outline = ({ pdf, go }: { pdf: PDFDocumentProxy; go: (page: number) => void }) => {
  const [entries, setEntries] = useState<Entry[] | null>(null);
  useEffect(() => {
    void outlineOf(pdf).then(setEntries, () => setEntries([]));
  }, [pdf]);
  if (entries?.length === 0) return <p className="px-3 text-[12px] text-ink-3">{wording.thisPdfHasNoOutline}</p>;
  return (
    <ul>
      {entries?.map((entry, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: an outline keeps its order
        <li key={i}>
          <button
            type="button"
            disabled={entry.page === null}
            className="block w-full px-2 py-0.5 text-left text-[12px] hover:bg-petrol-tint"
            style={{ paddingLeft: 8 + entry.depth * 12 }}
            onClick={() => entry.page && go(entry.page)}
          >
            {entry.title}
          </button>
        </li>
      ))}
    </ul>
  );
};

const WIDTH = 104;

const SmallPage = ({
  pdf,
  number,
  on,
  go,
}: {
  pdf: PDFDocumentProxy;
  number: number;
  on: boolean;
  go: (page: number) => void;
}) => {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [near, setNear] = useState(false);
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const observer = new IntersectionObserver(([entry]) => entry?.isIntersecting && setNear(true), {
      rootMargin: '300px',
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  useEffect(() => {
    if (!near) return;
    let cancel = () => {};
    void pdf.getPage(number).then((page) => {
      const element = canvas.current;
      if (!element) return;
      const viewport = page.getViewport({ scale: WIDTH / page.getViewport({ scale: 1 }).width });
      [element.width, element.height] = [viewport.width, viewport.height];
      const task = page.render({ canvas: element, viewport });
      cancel = () => task.cancel();
      task.promise.catch(() => {});
    });
    return () => cancel();
  }, [pdf, number, near]);
  return (
    <button
      type="button"
      aria-label={wording.pageNumber(number)}
      aria-current={on ? 'page' : undefined}
      onClick={() => go(number)}
      className="mx-auto mb-2 block w-fit text-center text-[11px]"
    >
      <canvas
        ref={canvas}
        width={WIDTH}
        height={Math.round(WIDTH * Math.SQRT2)}
        className={`border ${on ? 'border-petrol outline outline-petrol' : 'border-line'}`}
      />
      <span className="num text-ink-3">{number}</span>
    </button>
  );
};
