import { api } from '@kanonos/contract';
import { X } from 'lucide-react';
import { useState } from 'react';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton, TextArea } from '../../ui/controls.tsx';
import { Refusals } from '../../ui/states.tsx';
import { useCommenting } from './Commenting.tsx';
import { wording } from './wording.ts';

/** Writes a comment on the whole, or on the words that are selected in the text. */
export const WriteComment = () => {
  const state = useCommenting();
  const [text, setText] = useState('');
  const [blocking, setBlocking] = useState(false);
  const command = useCommand(api.comments.add, blocking ? wording.blockingCommentAdded : wording.commentAdded, () => {
    setText('');
    setBlocking(false);
    state?.setQuote(null);
  });
  if (!state) return null;
  const { subject, quote } = state;
  const mayBlock = subject.revision.state === 'draft' || subject.revision.state === 'in review';
  return (
    <form
      className="flex flex-col gap-2 border-b border-line bg-film-2 p-3"
      onSubmit={(event) => {
        event.preventDefault();
        command.mutate({
          params: { document: subject.documentId },
          body: { text, blocking, quote, fileSort: subject.fileSort, revisionId: subject.revision.id },
        });
      }}
    >
      {quote && (
        <blockquote className="flex items-start gap-1 border-l-3 border-petrol bg-petrol-tint px-2 py-1 text-[12px]">
          <span className="line-clamp-3 min-w-0 flex-1">{quote.quote}</span>
          <button
            type="button"
            aria-label={wording.commentOnTheWholeDocumentInstead}
            onClick={() => state.setQuote(null)}
          >
            <X size={13} aria-hidden />
          </button>
        </blockquote>
      )}
      <TextArea
        label={quote ? wording.commentOnTheSelectedText : wording.comment}
        rows={2}
        value={text}
        onChange={setText}
        hint={quote ? wording.typeAndASignInName : wording.selectTextToCommentOnIt}
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
            {wording.blocksApprovalUntilResolved}
          </label>
        ) : (
          <span />
        )}
        <CommandButton busy={command.isPending} disabled={!text.trim()}>
          {wording.comment}
        </CommandButton>
      </div>
      <Refusals error={command.error} />
    </form>
  );
};
