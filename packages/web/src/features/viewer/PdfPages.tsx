import { GlobalWorkerOptions, getDocument, type PDFDocumentProxy, TextLayer } from 'pdfjs-dist';
import workerAddress from 'pdfjs-dist/build/pdf.worker.min.mjs?url';
import { useEffect, useRef, useState } from 'react';
import { Failed, Loading } from '../../ui/states.tsx';

GlobalWorkerOptions.workerSrc = workerAddress;

/** A PDF page by page; a page is drawn when it comes near the window, with its text over it to select and search. */
export const PdfPages = ({ address, mark, name }: { address: string; mark?: string | undefined; name: string }) => {
  const [pdf, setPdf] = useState<PDFDocumentProxy | null>(null);
  const [error, setError] = useState<Error | null>(null);
  const [zoom, setZoom] = useState(1);
  useEffect(() => {
    const task = getDocument({ url: address, isEvalSupported: false });
    task.promise.then(setPdf, (failure: Error) =>
      setError(
        failure.name === 'AbortException'
          ? null
          : new Error('This PDF cannot be shown; it can be downloaded as it is.'),
      ),
    );
    return () => void task.destroy();
  }, [address]);
  if (error) return <Failed error={error} />;
  if (!pdf) return <Loading what="the pages" />;
  return (
    <div>
      <div className="sticky top-0 z-10 mx-auto mb-2 flex w-fit items-center gap-1 border border-line bg-sheet px-1.5 py-0.5 text-[12px]">
        <button
          type="button"
          className="btn btn-quiet !h-6"
          aria-label="Smaller"
          onClick={() => setZoom((z) => Math.max(0.5, z - 0.25))}
        >
          −
        </button>
        <span className="num">{Math.round(zoom * 100)} %</span>
        <button
          type="button"
          className="btn btn-quiet !h-6"
          aria-label="Larger"
          onClick={() => setZoom((z) => Math.min(3, z + 0.25))}
        >
          +
        </button>
        <span className="px-1 text-ink-2">
          {pdf.numPages} {pdf.numPages === 1 ? 'page' : 'pages'}
        </span>
      </div>
      {Array.from({ length: pdf.numPages }, (_, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: pages keep their place
        <Page key={i} pdf={pdf} number={i + 1} zoom={zoom} mark={mark} name={name} />
      ))}
    </div>
  );
};

const WIDTH = 720;

const Page = ({
  pdf,
  number,
  zoom,
  mark,
  name,
}: {
  pdf: PDFDocumentProxy;
  number: number;
  zoom: number;
  mark?: string | undefined;
  name: string;
}) => {
  const holder = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const text = useRef<HTMLDivElement>(null);
  const [near, setNear] = useState(number <= 2);
  const [height, setHeight] = useState(WIDTH * Math.SQRT2);
  useEffect(() => {
    const element = holder.current;
    if (!element) return;
    const observer = new IntersectionObserver(([entry]) => entry?.isIntersecting && setNear(true), {
      rootMargin: '900px',
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  useEffect(() => {
    if (!near) return;
    let cancel = () => {};
    let gone = false;
    void pdf.getPage(number).then((page) => {
      const element = canvas.current;
      if (gone || !element || !text.current) return;
      const viewport = page.getViewport({ scale: (WIDTH * zoom) / page.getViewport({ scale: 1 }).width });
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
      void new TextLayer({ textContentSource: page.streamTextContent(), container: text.current, viewport })
        .render()
        .catch(() => {});
    });
    return () => {
      gone = true;
      cancel();
    };
  }, [pdf, number, zoom, near]);
  return (
    <div
      ref={holder}
      role="img"
      aria-label={`${name}, page ${number}`}
      className={`sheet mx-auto mb-3 ${mark ? 'marked' : ''}`}
      data-mark={mark}
      style={{ width: WIDTH * zoom, height }}
    >
      <canvas ref={canvas} style={{ width: '100%', height: '100%' }} />
      <div ref={text} className="textLayer" />
    </div>
  );
};
