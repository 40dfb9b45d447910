import { type AnswerOf, api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { ask, call, queryClient } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { workAddress } from '../../ui/addresses.ts';
import { Segments } from '../../ui/controls.tsx';
import { showInstant } from '../../ui/format.ts';
import { LeaveGuard } from '../../ui/LeaveGuard.tsx';
import { Failed, Loading } from '../../ui/states.tsx';
import { toast } from '../../ui/toast.ts';
import { Commenting } from '../comments/Commenting.tsx';
import { CommentsPanel } from '../comments/CommentsPanel.tsx';
import { TextEditor } from './TextEditor.tsx';
import { useWorkingText } from './useWorkingText.ts';
import { wording } from './wording.ts';

const tell = (error: Error) => toast.error(error.message);

type Text = AnswerOf<typeof api.programs.workingText>;

/** A checked-out text edited in the browser: kept every moment under the check-out, checked in as every file is. */
export const EditPage = () => {
  const { number = '' } = useParams();
  // The written text stays whatever is refetched; only accepting the saved text replaces it.
  const [round, setRound] = useState(0);
  const wanted = ask(api.programs.workingText, { params: { document: number } });
  const { data, error, isPending } = useQuery({
    ...wanted,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
    refetchOnWindowFocus: false,
  });
  const document = useQuery(ask(api.documents.page, { params: { document: number }, query: { rev: 'work' } }));
  if (isPending || document.isPending) return <Loading what={wording.theText} />;
  const failure = error ?? document.error;
  if (failure || !data || !document.data) return <Failed error={failure ?? new Error()} />;
  const page = document.data;
  return (
    <Commenting
      subject={{
        documentId: page.id,
        number: page.number,
        revision: { id: page.revision.id, state: page.revision.state },
        versionId: page.versions[0]?.id ?? '',
        fileSort: 0,
        current: true,
      }}
    >
      <Editing
        key={round}
        number={number}
        label={page.revision.label}
        title={page.revision.title}
        text={data}
        again={async () => {
          // Asked for by itself: what is known here is just what is to be replaced.
          const there = await call(api.programs.workingText, { params: { document: number } });
          queryClient.setQueryData(wanted.queryKey, there);
          setRound(round + 1);
        }}
      />
    </Commenting>
  );
};

const Editing = ({
  number,
  label,
  title,
  text,
  again,
}: {
  number: string;
  label: string;
  title: string;
  text: Text;
  again: () => Promise<void>;
}) => {
  const { zone } = useMe().organisation;
  const navigate = useNavigate();
  const [now, setNow] = useState(text.text);
  const [side, setSide] = useState<'preview' | 'comments'>(text.markdown ? 'preview' : 'comments');
  const { state, change, save, keepMine, isUnsaved } = useWorkingText(number, text.text, text.savedAt);
  const address = workAddress(number);
  const leave = async (to: string) => {
    if (await save()) navigate(to);
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <LeaveGuard isDirtyNow={isUnsaved} keep={save} />
      <div className="flex items-center gap-3 border-b border-line bg-film-2 px-4 py-2">
        <h1 className="min-w-0 truncate !text-[15px]">
          <Link to={address} className="num hover:underline">
            {number} {label}
          </Link>{' '}
          {title}
        </h1>
        <span role="status" className={`text-[12px] ${state.kind === 'failed' ? 'text-vermilion' : 'text-ink-3'}`}>
          {state.kind === 'failed'
            ? wording.notSavedTryingAgain(state.why)
            : state.kind === 'elsewhere'
              ? wording.notSaved
              : state.kind === 'waiting'
                ? wording.saving
                : state.at
                  ? wording.savedVisibleToNobodyElse(showInstant(state.at, zone))
                  : wording.sameAsTheCurrentVersion}
        </span>
        <span className="ml-auto flex gap-2">
          <Segments
            label={wording.sidePanel}
            value={side}
            onChange={setSide}
            options={[
              ...(text.markdown ? [{ value: 'preview' as const, text: wording.preview }] : []),
              { value: 'comments' as const, text: wording.comments },
            ]}
          />
          <button type="button" className="btn" onClick={() => void leave(address)}>
            {wording.leave}
          </button>
          <button
            type="button"
            className="btn btn-pri"
            onClick={() => void leave(workAddress(number, 'command=check+in'))}
          >
            {wording.checkIn}
          </button>
        </span>
      </div>
      {state.kind === 'elsewhere' && (
        <div role="alert" className="flex items-center gap-3 border-b border-ochre-line bg-ochre-tint px-4 py-2">
          <p className="min-w-0 flex-1">{wording.thisTextWasSavedInAnother}</p>
          <button type="button" className="btn" onClick={() => again().catch(tell)}>
            {wording.useTheSavedText}
          </button>
          <button type="button" className="btn btn-pri" onClick={() => keepMine().catch(tell)}>
            {wording.keepMyText}
          </button>
        </div>
      )}
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)]">
        <TextEditor
          label={wording.textOf(number)}
          start={text.text}
          isMarkdown={text.markdown}
          onChange={(next) => {
            setNow(next);
            change(next);
          }}
        />
        <div
          className="min-h-0 overflow-y-auto border-l border-line bg-film-3"
          tabIndex={0}
          role="region"
          aria-label={side}
        >
          {side === 'preview' ? (
            <Preview text={now} />
          ) : (
            <div className="bg-sheet">
              <CommentsPanel />
            </div>
          )}
        </div>
      </div>
    </div>
  );
};

const WAIT_MS = 300;

/** How a text reads, by the same rules by which it is shown when it is filed. */
const Preview = ({ text }: { text: string }) => {
  const [requested, setRequested] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setRequested(text), WAIT_MS);
    return () => clearTimeout(timer);
  }, [text]);
  const { data } = useQuery({
    queryKey: [wording.readingText, requested],
    queryFn: ({ signal }) => call(api.programs.readAsText, { body: { text: requested }, signal }),
    placeholderData: (before) => before,
    // Each pause asks anew, and nobody comes back to what was read a moment ago: nothing of it is kept.
    gcTime: 0,
  });
  if (!data) return <Loading what={wording.thePreview} />;
  return (
    <div className="sheet m-4">
      {/* biome-ignore lint/security/noDangerouslySetInnerHtml: cleaned by the server, and nothing may run under the page's policy */}
      <article className="reading px-8 py-6" dangerouslySetInnerHTML={{ __html: data.html }} />
    </div>
  );
};
