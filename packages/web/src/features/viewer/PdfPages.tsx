import { GlobalWorkerOptions, getDocument, type PDFDocumentProxy } from 'pdfjs-dist';
import workerAddress from 'pdfjs-dist/build/pdf.worker.min.mjs?url';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Failed, Loading } from '../../ui/states.tsx';
import { useWidth } from '../../ui/useWidth.ts';
import { useCommenting } from '../comments/Commenting.tsx';
import { PdfPage } from './PdfPage.tsx';
import { PdfSide } from './PdfSide.tsx';
import { PdfTools } from './PdfTools.tsx';
import { type PdfView, READING_WIDTH } from './pdfView.ts';
import { ScanNote } from './ScanNote.tsx';
import { usePdfSearch } from './usePdfSearch.ts';
import { wording } from './wording.ts';

GlobalWorkerOptions.workerSrc = workerAddress;

/** What the small pages and the margins take of the width, and the least that a page is shown in. */
const [SIDE, MARGIN, LEAST] = [160, 50, 240];

/** A PDF page by page: drawn when near, with its text over it; searched, turned, two pages beside one another, by outline and small pages. */
export const PdfPages = ({
  file,
  address,
  mark,
  name,
}: {
  /** The file that the pages are of. */
  file: string;
  address: string;
  mark?: string | undefined;
  name: string;
}) => {
  const [pdf, setPdf] = useState<PDFDocumentProxy | null>(null);
  const [error, setError] = useState<Error | null>(null);
  const [view, setView] = useState<PdfView>({ zoom: 1, turn: 0, two: false, side: 'none' });
  const [at, setAt] = useState(1);
  const pages = useRef<HTMLDivElement>(null);
  const frame = useRef<HTMLDivElement>(null);
  const search = usePdfSearch(pdf);
  const commenting = useCommenting();
  useEffect(() => {
    const task = getDocument({ url: address, isEvalSupported: false, enableXfa: false });
    task.promise.then(setPdf, (failure: Error) =>
      setError(
        failure.name === 'AbortException' ? null : new Error('This PDF cannot be displayed; you can download it.'),
      ),
    );
    return () => void task.destroy();
  }, [address]);
  const go = useMemo(
    () => (page: number) => {
      pages.current?.querySelector(`[data-page="${page}"]`)?.scrollIntoView({ block: 'start' });
      setAt(page);
    },
    [],
  );
  const found = search.hits[search.index];
  useEffect(() => {
    if (found) go(found.page);
  }, [found, go]);
  // A thread that is chosen beside the pages brings its page here.
  const chosen = commenting?.threads.find((one) => one.id === commenting.chosen);
  const chosenPage = chosen?.place?.state === 'here' ? (chosen.place.page ?? chosen.mark?.page) : undefined;
  useEffect(() => {
    if (chosenPage && pdf) go(chosenPage);
  }, [chosenPage, pdf, go]);
  const room = useWidth(frame) - (view.side === 'none' ? 0 : SIDE) - MARGIN;
  const fit = Math.min(READING_WIDTH, Math.max(LEAST, room));
  if (!pdf)
    return (
      <div ref={frame} className="min-h-0 flex-1">
        {error ? <Failed error={error} /> : <Loading what={wording.thePages} />}
      </div>
    );
  return (
    <div ref={frame} className="flex min-h-0 flex-1 flex-col">
      <PdfTools pages={pdf.numPages} at={at} go={go} view={view} setView={setView} search={search} />
      <ScanNote file={file} className="border-b border-line bg-film px-3 py-1" />
      <div className="flex min-h-0 flex-1">
        {view.side !== 'none' && <PdfSide pdf={pdf} kind={view.side} at={at} go={go} />}
        <div
          ref={pages}
          className="min-h-0 min-w-0 flex-1 overflow-auto bg-film-3 px-4 py-3"
          tabIndex={0}
          role="region"
          aria-label={wording.textOf(name)}
          data-testid="viewer"
        >
          <div className={view.two ? 'mx-auto grid w-fit grid-cols-2 justify-items-center gap-x-2' : ''}>
            {Array.from({ length: pdf.numPages }, (_, i) => (
              <PdfPage
                // biome-ignore lint/suspicious/noArrayIndexKey: pages keep their place
                key={i}
                pdf={pdf}
                number={i + 1}
                view={view}
                width={fit * view.zoom}
                mark={mark}
                name={name}
                words={search.words}
                onSeen={setAt}
              />
            ))}
          </div>
        </div>
      </div>
    </div>
  );
};
