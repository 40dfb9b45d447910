import { api, type FileInfo } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useRef } from 'react';
import { addressOf, ask } from '../../app/client.ts';
import { showSize } from '../../ui/format.ts';
import { Failed, Loading } from '../../ui/states.tsx';
import { useQuoteMarks } from '../comments/useQuoteMarks.ts';
import { PictureView } from './PictureView.tsx';
import { Sheet } from './Sheet.tsx';

const PdfPages = lazy(() => import('./PdfPages.tsx').then((module) => ({ default: module.PdfPages })));

/** Shows a filed file in the page: PDF by pages, pictures and text directly, Word and Markdown as clean reading text. `mark` stands across every page of what is no longer in force. */
export const FileViewer = ({ file, mark }: { file: FileInfo; mark?: string | undefined }) => {
  const address = addressOf(api.documents.file, { file: file.id });
  if (file.show === 'pdf')
    return (
      <Suspense fallback={<Loading what="the pages" />}>
        <PdfPages address={address} mark={mark} name={file.name} />
      </Suspense>
    );
  if (file.show === 'picture') return <PictureView address={address} mark={mark} name={file.name} />;
  return (
    <div
      className="min-h-0 flex-1 overflow-auto bg-film-3 px-7 py-3"
      tabIndex={0}
      role="region"
      aria-label={`Text of ${file.name}`}
      data-testid="viewer"
    >
      {file.show === 'text' ? (
        <PlainText address={address} mark={mark} />
      ) : file.show === 'html' || file.show === 'markdown' ? (
        <ReadingText file={file} mark={mark} />
      ) : file.show === 'address' || file.show === 'paper' ? (
        <Elsewhere address={address} kind={file.show} mark={mark} />
      ) : (
        <Sheet>
          <div className="p-6">
            <p className="font-semibold">This file cannot be shown here.</p>
            <p className="mt-1 text-ink-2">
              {file.textState === 'broken'
                ? 'It is kept as it is, and its content could not be read.'
                : 'It can be downloaded as it is.'}{' '}
              {file.name}, {showSize(file.size)}.
            </p>
            <a className="btn mt-3" href={addressOf(api.documents.file, { file: file.id }, { as: 'download' })}>
              Download
            </a>
          </div>
        </Sheet>
      )}
    </div>
  );
};

const ReadingText = ({ file, mark }: { file: FileInfo; mark?: string | undefined }) => {
  const { data, error, isPending } = useQuery({
    ...ask(api.documents.fileHtml, { params: { file: file.id } }),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const article = useRef<HTMLElement>(null);
  useQuoteMarks(article, data);
  if (isPending) return <Loading what="the text" />;
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
  if (isPending) return <Loading what="where it is" />;
  if (error) return <Failed error={error} />;
  const [first = '', ...rest] = data.trim().split(/\r?\n/);
  return (
    <Sheet mark={mark}>
      <div className="px-9 py-7">
        {kind === 'address' ? (
          <>
            <p className="cap">The content is a page or film on the web</p>
            <p className="mt-2 text-[15px] break-all">
              <a className="link" href={first} target="_blank" rel="noreferrer noopener">
                {first}
              </a>
            </p>
            <p className="mt-3 text-ink-2">
              It opens in its own window. The address is what was filed and signed; what stands there can change without
              a trace here.
            </p>
          </>
        ) : (
          <>
            <p className="cap">The original is on paper</p>
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
      if (!response.ok) throw new Error('The text could not be fetched.');
      return (await response.text()).slice(0, 2_000_000);
    },
  });

const PlainText = ({ address, mark }: { address: string; mark?: string | undefined }) => {
  const { data, error, isPending } = useFileText(address);
  const text = useRef<HTMLPreElement>(null);
  useQuoteMarks(text, data);
  if (isPending) return <Loading what="the text" />;
  if (error) return <Failed error={error} />;
  return (
    <Sheet mark={mark}>
      <pre ref={text} className="px-9 py-7 font-mono text-[12px] leading-[1.6] whitespace-pre-wrap">
        {data}
      </pre>
    </Sheet>
  );
};
