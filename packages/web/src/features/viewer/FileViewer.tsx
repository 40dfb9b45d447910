import { api, type FileInfo } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useRef, useState } from 'react';
import { addressOf, ask } from '../../app/client.ts';
import { showSize } from '../../ui/format.ts';
import { Failed, Loading } from '../../ui/states.tsx';
import { useQuoteMarks } from '../comments/useQuoteMarks.ts';
import { EntriesView, MailView, MediaView } from './InsideViews.tsx';
import { PictureView } from './PictureView.tsx';
import { Sheet } from './Sheet.tsx';
import { SheetsView } from './SheetsView.tsx';
import { wording } from './wording.ts';

const PdfPages = lazy(() => import('./PdfPages.tsx').then((module) => ({ default: module.PdfPages })));
const OfficePages = lazy(() => import('./OfficePages.tsx').then((module) => ({ default: module.OfficePages })));
const ModelView = lazy(() => import('./ModelView.tsx').then((module) => ({ default: module.ModelView })));

/** The ways in which a file can be looked at, the first one at first. */
const WAYS: Partial<Record<FileInfo['show'], readonly Way[]>> = {
  html: ['text', 'pages'],
  sheets: ['sheets', 'pages'],
  pages: ['pages'],
};
type Way = 'text' | 'sheets' | 'pages';
const WAY_WORDS: Record<Way, string> = { text: wording.readingText, sheets: wording.sheets, pages: wording.pages };

/** Shows a filed file in the page. `mark` is drawn across every page of what is no longer in force. */
export const FileViewer = ({ file, mark }: { file: FileInfo; mark?: string | undefined }) => {
  const ways = WAYS[file.show] ?? [];
  const [way, setWay] = useState<Way | undefined>(ways[0]);
  return (
    <>
      {ways.length > 1 && (
        <div className="flex gap-1 border-b border-line-2 bg-film-2 px-2 py-1">
          {ways.map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={one === way}
              onClick={() => setWay(one)}
              className={`btn !h-6 ${one === way ? '!border-ink !bg-ink !text-white' : ''}`}
            >
              {WAY_WORDS[one]}
            </button>
          ))}
        </div>
      )}
      <Suspense fallback={<Loading what={wording.theFile} />}>
        <Shown file={file} mark={mark} way={way} />
      </Suspense>
    </>
  );
};

const Shown = ({ file, mark, way }: { file: FileInfo; mark: string | undefined; way: Way | undefined }) => {
  const address = addressOf(api.documents.file, { file: file.id });
  if (way === 'pages') return <OfficePages file={file.id} name={file.name} mark={mark} />;
  switch (file.show) {
    case 'pdf':
      return <PdfPages file={file.id} address={address} mark={mark} name={file.name} />;
    case 'picture':
      return <PictureView file={file.id} address={address} mark={mark} name={file.name} />;
    case 'drawing':
      return <PictureView address={addressOf(api.viewing.drawing, { file: file.id })} mark={mark} name={file.name} />;
    case 'sheets':
      return <SheetsView file={file.id} />;
    default:
      return (
        <div
          className="min-h-0 flex-1 overflow-auto bg-film-3 px-7 py-3"
          tabIndex={0}
          role="region"
          aria-label={wording.textOf2(file.name)}
          data-testid="viewer"
        >
          <Inside file={file} mark={mark} address={address} />
        </div>
      );
  }
};

const Inside = ({ file, mark, address }: { file: FileInfo; mark: string | undefined; address: string }) => {
  switch (file.show) {
    case 'text':
      return <PlainText address={address} mark={mark} />;
    case 'html':
    case 'markdown':
      return <ReadingText file={file} mark={mark} />;
    case 'address':
    case 'paper':
      return <Elsewhere address={address} kind={file.show} mark={mark} />;
    case 'mail':
      return <MailView file={file.id} mark={mark} />;
    case 'entries':
      return <EntriesView file={file.id} />;
    case 'film':
    case 'sound':
      return <MediaView address={address} kind={file.show} name={file.name} />;
    case 'model':
      return <ModelView address={address} isStl={file.mediaType === 'model/stl'} name={file.name} />;
    default:
      return <NotShown file={file} />;
  }
};

const NotShown = ({ file }: { file: FileInfo }) => (
  <Sheet>
    <div className="p-6">
      <p className="font-semibold">{wording.thisFileCannotBeShownHere}</p>
      <p className="mt-1 text-ink-2">
        {file.textState === 'broken' ? wording.theFileIsStoredButIts : wording.filesOfThisKindAreNot}
      </p>
      <p className="mt-1 text-ink-2">
        {file.name}, {showSize(file.size)}
      </p>
      <a className="btn mt-3" href={addressOf(api.documents.file, { file: file.id }, { as: 'download' })}>
        {wording.download}
      </a>
    </div>
  </Sheet>
);

const ReadingText = ({ file, mark }: { file: FileInfo; mark?: string | undefined }) => {
  const { data, error, isPending } = useQuery({
    ...ask(api.documents.fileHtml, { params: { file: file.id } }),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const article = useRef<HTMLElement>(null);
  useQuoteMarks(article, data);
  if (isPending) return <Loading what={wording.theText} />;
  if (error) return <Failed error={error} />;
  return (
    <Sheet mark={mark}>
      {/* biome-ignore lint/security/noDangerouslySetInnerHtml: cleaned by the server, and nothing may run under the page's policy */}
      <article ref={article} className="reading px-9 py-7" dangerouslySetInnerHTML={{ __html: data.html }} />
    </Sheet>
  );
};

/** What is not filed as bytes: a page or film on the web, a paper at its place. */
const Elsewhere = ({
  address,
  kind,
  mark,
}: {
  address: string;
  kind: 'address' | 'paper';
  mark?: string | undefined;
}) => {
  const { data, error, isPending } = useFileText(address);
  if (isPending) return <Loading what={wording.location} />;
  if (error) return <Failed error={error} />;
  const [first = '', ...rest] = data.trim().split(/\r?\n/);
  return (
    <Sheet mark={mark}>
      <div className="px-9 py-7">
        {kind === 'address' ? (
          <>
            <p className="cap">{wording.theContentIsAWebPage}</p>
            <p className="mt-2 text-[15px] break-all">
              <a className="link" href={first} target="_blank" rel="noreferrer noopener">
                {first}
              </a>
            </p>
            <p className="mt-3 text-ink-2">{wording.itOpensInASeparateWindow}</p>
          </>
        ) : (
          <>
            <p className="cap">{wording.theOriginalIsOnPaper}</p>
            <p className="mt-2 text-[15px] font-semibold">{first.replace(/^Kept on paper at: /, '')}</p>
            {rest.map((line) => (
              <p key={line} className="mt-1">
                {line}
              </p>
            ))}
          </>
        )}
      </div>
    </Sheet>
  );
};

const useFileText = (address: string) =>
  useQuery({
    queryKey: ['text', address],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () => {
      const response = await fetch(address);
      if (!response.ok) throw new Error('The text could not be loaded.');
      return (await response.text()).slice(0, 2_000_000);
    },
  });

const PlainText = ({ address, mark }: { address: string; mark?: string | undefined }) => {
  const { data, error, isPending } = useFileText(address);
  const text = useRef<HTMLPreElement>(null);
  useQuoteMarks(text, data);
  if (isPending) return <Loading what={wording.theText} />;
  if (error) return <Failed error={error} />;
  return (
    <Sheet mark={mark}>
      <pre ref={text} className="px-9 py-7 font-mono text-[12px] leading-[1.6] whitespace-pre-wrap">
        {data}
      </pre>
    </Sheet>
  );
};
