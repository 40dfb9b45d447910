import { api, type CommentInfo } from '@kanonos/contract';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton, TextArea } from '../../ui/controls.tsx';
import { showInstant } from '../../ui/format.ts';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { Refusals } from '../../ui/states.tsx';
import { useCommenting } from './Commenting.tsx';
import { wording } from './wording.ts';

const TOOL_WORDS: Record<string, string> = {
  box: wording.aBox,
  cloud: wording.aCloud,
  arrow: wording.anArrow,
  line: wording.aLine,
  free: wording.aFreeLine,
  highlight: wording.aHighlight,
  words: 'words',
  stamp: wording.aStamp,
};

/** Where a comment is, in words. */
const placeWords = ({ mark, place, quote }: CommentInfo): string =>
  mark
    ? wording.onPage(TOOL_WORDS[mark.tool], place?.page ?? mark.page)
    : quote && place?.page && place.page > 1
      ? wording.pagePage(place.page)
      : '';

type Open = 'reply' | 'resolve' | 'reopen' | 'assign' | null;

/** One thread: the comment with its place, its answers, and what may be done with it. */
export const Thread = ({ comment }: { comment: CommentInfo }) => {
  const me = useMe();
  const state = useCommenting();
  const mute = comment.text === '' && comment.person.id === me.id;
  const [open, setOpen] = useState<Open>(null);
  const item = useRef<HTMLLIElement>(null);
  const chosen = state?.chosen === comment.id;
  const answerCount = state?.comments.filter((one) => one.parentId === comment.id).length ?? 0;
  useEffect(() => {
    if (chosen) item.current?.scrollIntoView({ block: 'nearest' });
    // A mark that was just drawn waits for its words.
    if (chosen && mute && answerCount === 0) setOpen('reply');
  }, [chosen, mute, answerCount]);
  const withdraw = useCommand(api.comments.withdraw, wording.markRemoved);
  if (!state) return null;
  const params = { document: state.subject.documentId, comment: comment.id };
  const answers = state.comments.filter((one) => one.parentId === comment.id).toReversed();
  const where = placeWords(comment);
  const shut = () => setOpen(null);
  const isFirstAnswer = mute && answers.length === 0;
  const asked = {
    reply: {
      endpoint: api.comments.reply,
      field: 'text',
      label: isFirstAnswer ? wording.commentOnThisMark : wording.reply,
      button: isFirstAnswer ? wording.addComment : wording.reply,
    },
    resolve: {
      endpoint: api.comments.resolve,
      field: 'resolution',
      label: wording.howItWasResolved,
      button: wording.resolve,
      optional: true,
    },
    reopen: {
      endpoint: api.comments.reopen,
      field: 'reason',
      label: wording.reasonForReopening,
      button: wording.reopen,
    },
  } as const;
  return (
    <li
      ref={item}
      className={`border-b border-line-2 px-3 py-2.5 text-[12.5px] ${chosen ? 'bg-petrol-tint' : ''} ${comment.resolvedAt ? 'text-ink-2' : ''}`}
    >
      <p>
        <b className="font-semibold">{comment.person.name}</b>{' '}
        <span className="text-ink-3">
          {wording.onVersion(comment.label || 'it', comment.version, showInstant(comment.at, me.organisation.zone))}
        </span>
      </p>
      <p className="flex flex-wrap gap-x-2">
        {comment.kind !== 'comment' && (
          <span className={`cap ${comment.kind === 'blocking' && !comment.resolvedAt ? '!text-vermilion' : ''}`}>
            {comment.kind === 'blocking' ? wording.blocking : wording.readersComment}
          </span>
        )}
        {comment.assignee && <span className="cap !text-petrol">{wording.assignedTo(comment.assignee.name)}</span>}
      </p>
      {(comment.quote || comment.mark) && comment.place?.state !== 'lost' ? (
        <button
          type="button"
          className="my-1 block w-full border-l-3 border-line pl-2 text-left text-ink-2 hover:border-petrol"
          onClick={() => state.choose(chosen ? null : comment.id)}
        >
          {comment.mark && <span style={{ color: comment.mark.colour }}>■ </span>}
          {where && <span className="text-ink-3">{where} </span>}
          {comment.quote && <span className="line-clamp-3">{comment.quote}</span>}
        </button>
      ) : (
        (comment.quote || where) && (
          <blockquote className="my-1 border-l-3 border-line pl-2 text-ink-3">{comment.quote ?? where}</blockquote>
        )
      )}
      <p className="whitespace-pre-line">{comment.text}</p>
      {answers.length > 0 && (
        <ul className="mt-1.5 flex flex-col gap-1.5 border-l border-line pl-2.5">
          {answers.map((answer) => (
            <li key={answer.id}>
              <b className="font-semibold">{answer.person.name}</b>{' '}
              <span className="text-ink-3">{showInstant(answer.at, me.organisation.zone)}</span>
              <span className="block whitespace-pre-line">{answer.text}</span>
            </li>
          ))}
        </ul>
      )}
      {comment.resolvedAt && (
        <p className="mt-1">
          {wording.resolvedBy} {comment.resolvedBy?.name}
          {comment.resolution && `: “${comment.resolution}”`}
        </p>
      )}
      {!open && (
        <span className="mt-0.5 flex flex-wrap gap-2.5">
          {!comment.resolvedAt && (state.mayComment || comment.person.id === me.id) && (
            <Small onClick={() => setOpen('reply')}>{wording.reply}</Small>
          )}
          {comment.mayResolve && <Small onClick={() => setOpen('resolve')}>{wording.resolve}</Small>}
          {comment.mayResolve && <Small onClick={() => setOpen('assign')}>{wording.assign}</Small>}
          {comment.mayReopen && <Small onClick={() => setOpen('reopen')}>{wording.reopen}</Small>}
          {comment.mayWithdraw && <Small onClick={() => withdraw.mutate({ params, body: {} })}>{wording.delete}</Small>}
        </span>
      )}
      {open && open !== 'assign' && <Words {...asked[open]} params={params} shut={shut} />}
      {open === 'assign' && <Assign comment={comment} params={params} shut={shut} />}
      <Refusals error={withdraw.error} />
    </li>
  );
};

const Small = ({ onClick, children }: { onClick: () => void; children: ReactNode }) => (
  <button type="button" className="btn btn-quiet !h-6 !px-0" onClick={onClick}>
    {children}
  </button>
);

type Params = { document: string; comment: string };
type WithWords = typeof api.comments.reply | typeof api.comments.resolve | typeof api.comments.reopen;

/** What a command on a thread asks for, below the thread, with its button and a way back. */
const SmallForm = ({
  command,
  button,
  shut,
  onSubmit,
  children,
}: {
  command: { isPending: boolean; error: Error | null };
  button: string;
  shut: () => void;
  onSubmit: () => void;
  children: ReactNode;
}) => (
  <form
    className="mt-1.5 flex flex-col gap-1.5"
    onSubmit={(event) => {
      event.preventDefault();
      onSubmit();
    }}
  >
    {children}
    <div className="flex gap-1.5">
      <CommandButton busy={command.isPending}>{button}</CommandButton>
      <button type="button" className="btn" onClick={shut}>
        {wording.cancel}
      </button>
    </div>
    <Refusals error={command.error} />
  </form>
);

/** A command on a thread that asks for a few words. */
const Words = ({
  endpoint,
  field,
  label,
  button,
  optional,
  params,
  shut,
}: {
  endpoint: WithWords;
  field: 'text' | 'resolution' | 'reason';
  label: string;
  button: string;
  optional?: boolean;
  params: Params;
  shut: () => void;
}) => {
  const [words, setWords] = useState('');
  const command = useCommand(endpoint as typeof api.comments.reply, wording.saved, shut);
  return (
    <SmallForm
      command={command}
      button={button}
      shut={shut}
      onSubmit={() => command.mutate({ params, body: { [field]: words } as { text: string } })}
    >
      <TextArea
        label={label}
        optional={optional ?? false}
        required={!optional}
        rows={2}
        value={words}
        onChange={setWords}
      />
    </SmallForm>
  );
};

const Assign = ({ comment, params, shut }: { comment: CommentInfo; params: Params; shut: () => void }) => {
  const [people, setPeople] = useState(comment.assignee ? [comment.assignee] : []);
  const command = useCommand(api.comments.assign, wording.sent, shut);
  return (
    <SmallForm
      command={command}
      button={people.length ? wording.assign : wording.nobody}
      shut={shut}
      onSubmit={() => command.mutate({ params, body: { personId: people[0]?.id ?? null } })}
    >
      <PeoplePicker label={wording.assignTo} single value={people} onChange={setPeople} />
    </SmallForm>
  );
};
