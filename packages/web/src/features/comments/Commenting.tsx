import { api, type CommentInfo, type MarkInfo } from '@kanonos/contract';
import type { MarkTool, Quote } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { createContext, type ReactNode, useContext, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { wording } from './wording.ts';

/** What is commented on: a version of a revision, and which of its originals is in view. */
export type Subject = {
  documentId: string;
  number: string;
  revision: { id: string; state: string };
  versionId: string;
  fileSort: number;
  /** Whether this version is the one that is worked on: older ones and released ones show their comments and take none. */
  current: boolean;
};

type Pen = { tool: MarkTool | null; colour: string; text: string };

export type CommentingState = {
  subject: Subject;
  comments: readonly CommentInfo[];
  /** What is shown by the filters, threads only. */
  threads: readonly CommentInfo[];
  isPending: boolean;
  error: Error | null;
  refetch: () => void;
  mayComment: boolean;
  filter: { open: boolean; person: string };
  setFilter: (filter: { open: boolean; person: string }) => void;
  chosen: string | null;
  choose: (id: string | null) => void;
  quote: Quote | null;
  setQuote: (quote: Quote | null) => void;
  pen: Pen;
  setPen: (pen: Pen) => void;
  draw: (mark: MarkInfo, under: string) => void;
  undo: () => void;
  canUndo: boolean;
};

const Context = createContext<CommentingState | undefined>(undefined);
/** The comments around what is shown; undefined where a file is shown without them. */
export const useCommenting = () => useContext(Context);

export const COLOURS = ['#a52c15', '#0b5563', '#8a5a00', '#5b3a8c', '#1f6b2c'] as const;
/** Each person begins with a colour of their own, so that the marks of several people differ. */
const colourOf = (id: string): string =>
  COLOURS[[...id].reduce((sum, letter) => (sum * 31 + letter.charCodeAt(0)) >>> 0, 7) % COLOURS.length] ?? COLOURS[0];

/** Holds the comments on what is shown, for the text, its pages and the list beside them. */
export const Commenting = ({ subject, children }: { subject: Subject; children: ReactNode }) => {
  const me = useMe();
  const [params, setParams] = useSearchParams();
  const { data, error, isPending, refetch } = useQuery(
    ask(api.comments.list, {
      params: { document: subject.documentId },
      query: { version: subject.versionId || undefined },
    }),
  );
  const [open, person] = [params.get('comments') === 'open', params.get('commentsBy') ?? ''];
  const filter = useMemo(() => ({ open, person }), [open, person]);
  const setFilter = (next: { open: boolean; person: string }) =>
    setParams(
      (before) => {
        const after = new URLSearchParams(before);
        if (next.open) after.set('comments', 'open');
        else after.delete('comments');
        if (next.person) after.set('commentsBy', next.person);
        else after.delete('commentsBy');
        return after;
      },
      { replace: true },
    );
  const [quote, setQuote] = useState<Quote | null>(null);
  const [pen, setPen] = useState<Pen>({ tool: null, colour: colourOf(me.id), text: '' });
  const [drawn, setDrawn] = useState<string[]>([]);
  const chosen = params.get('comment');
  const choose = (id: string | null) =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        if (id) next.set('comment', id);
        else next.delete('comment');
        if (id) next.set('side', 'comments');
        return next;
      },
      { replace: true },
    );
  const add = useCommand(api.comments.add, undefined, ({ id }) => {
    setDrawn((before) => [...before, id]);
    choose(id);
  });
  const withdraw = useCommand(api.comments.withdraw, wording.markRemoved);
  const comments = data?.comments ?? [];
  const threads = useMemo(
    () =>
      comments.filter(
        (one) =>
          one.parentId === null &&
          (!filter.open || one.resolvedAt === null) &&
          (filter.person === '' || one.person.id === filter.person),
      ),
    [comments, filter],
  );
  const canDraw = subject.current && (data?.mayComment ?? false);
  return (
    <Context.Provider
      value={{
        subject,
        comments,
        threads,
        isPending,
        error,
        refetch: () => void refetch(),
        mayComment: canDraw,
        filter,
        setFilter,
        chosen,
        choose,
        quote,
        setQuote,
        pen: canDraw ? pen : { ...pen, tool: null },
        setPen,
        draw: (mark, under) =>
          add.mutate({
            params: { document: subject.documentId },
            body: {
              text: '',
              revisionId: subject.revision.id,
              mark,
              fileSort: subject.fileSort,
              quote: under ? { quote: under, before: '', after: '' } : null,
            },
          }),
        undo: () => {
          const last = drawn.at(-1);
          if (!last) return;
          setDrawn((before) => before.slice(0, -1));
          withdraw.mutate({ params: { document: subject.documentId, comment: last }, body: {} });
        },
        canUndo: drawn.length > 0,
      }}
    >
      {children}
    </Context.Provider>
  );
};
