import { api, type CommentInfo, type DocumentPage } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useAct } from '../../app/useAct.ts';
import { ActButton, TextArea } from '../../ui/controls.tsx';
import { showInstant } from '../../ui/format.ts';
import { Empty, Failed, Loading, Refusals } from '../../ui/states.tsx';

/** Comments of reviewers and remarks of readers: written, answered, resolved. */
export const CommentsPanel = ({
  page,
}: {
  page: Pick<DocumentPage, 'id' | 'number'> & { revision: { id: string; state: string } };
}) => {
  const { data, error, isPending, refetch } = useQuery(ask(api.documents.comments, { params: { document: page.id } }));
  if (isPending) return <Loading what="the comments" />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  return (
    <div>
      {data.mayComment && page.revision.state !== 'in force' && <Write page={page} />}
      {data.comments.length === 0 && <Empty title="No comments" />}
      <ul>
        {data.comments.map((comment) => (
          <Comment key={comment.id} comment={comment} documentId={page.id} />
        ))}
      </ul>
    </div>
  );
};

const Write = ({ page }: { page: Pick<DocumentPage, 'id'> & { revision: { id: string; state: string } } }) => {
  const [text, setText] = useState('');
  const [blocking, setBlocking] = useState(false);
  const act = useAct(
    api.documents.addComment,
    blocking ? 'Your blocking comment stands.' : 'Your comment stands.',
    () => {
      setText('');
      setBlocking(false);
    },
  );
  const quote = () => window.getSelection()?.toString().trim().slice(0, 500) || null;
  const mayBlock = page.revision.state === 'draft' || page.revision.state === 'in review';
  return (
    <form
      className="flex flex-col gap-2 border-b border-line bg-film-2 p-3"
      onSubmit={(event) => {
        event.preventDefault();
        act.mutate({
          params: { document: page.id },
          body: { text, blocking, quote: quote(), revisionId: page.revision.id },
        });
      }}
    >
      <TextArea
        label="Comment"
        rows={2}
        value={text}
        onChange={(event) => setText(event.target.value)}
        hint="Words selected in the text are quoted."
      />
      <div className="flex items-center justify-between">
        {mayBlock ? (
          <label className="flex items-center gap-1.5 text-[12px]">
            <input
              type="checkbox"
              className="accent-petrol"
              checked={blocking}
              onChange={(event) => setBlocking(event.target.checked)}
            />
            blocks approval until resolved
          </label>
        ) : (
          <span />
        )}
        <ActButton busy={act.isPending} disabled={!text.trim()}>
          Comment
        </ActButton>
      </div>
      <Refusals error={act.error} />
    </form>
  );
};

const Comment = ({ comment, documentId }: { comment: CommentInfo; documentId: string }) => {
  const me = useMe();
  const [answering, setAnswering] = useState(false);
  const [resolution, setResolution] = useState('');
  const act = useAct(api.documents.resolveComment, 'Resolved.', () => setAnswering(false));
  return (
    <li className="border-b border-line-2 px-3 py-2.5 text-[12.5px]">
      <p>
        <b className="font-semibold">{comment.person.name}</b>{' '}
        <span className="text-ink-3">
          on {comment.label || 'it'}, version {comment.version} · {showInstant(comment.at, me.house.zone)}
        </span>
      </p>
      {comment.kind !== 'comment' && (
        <span className={`cap ${comment.kind === 'blocking' && !comment.resolvedAt ? '!text-vermilion' : ''}`}>
          {comment.kind === 'blocking' ? 'Blocking' : 'Remark of a reader'}
        </span>
      )}
      {comment.quote && (
        <blockquote className="my-1 border-l-3 border-line pl-2 text-ink-2">{comment.quote}</blockquote>
      )}
      <p className="whitespace-pre-line">{comment.text}</p>
      {comment.resolvedAt && (
        <p className="mt-1 text-ink-2">
          Resolved by {comment.resolvedBy?.name}
          {comment.resolution && `: “${comment.resolution}”`}
        </p>
      )}
      {comment.mayResolve && !answering && (
        <button type="button" className="btn btn-quiet !h-6 !px-0" onClick={() => setAnswering(true)}>
          Resolve
        </button>
      )}
      {answering && (
        <form
          className="mt-1.5 flex flex-col gap-1.5"
          onSubmit={(event) => {
            event.preventDefault();
            act.mutate({ params: { document: documentId, comment: comment.id }, body: { resolution } });
          }}
        >
          <TextArea
            label="How it was resolved"
            optional
            rows={2}
            value={resolution}
            onChange={(event) => setResolution(event.target.value)}
          />
          <div className="flex gap-1.5">
            <ActButton busy={act.isPending}>Resolve</ActButton>
            <button type="button" className="btn" onClick={() => setAnswering(false)}>
              Cancel
            </button>
          </div>
          <Refusals error={act.error} />
        </form>
      )}
    </li>
  );
};
