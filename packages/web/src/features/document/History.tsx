import { api, type HistoryEntry, type RevisionInfo } from '@kanonos/contract';
import {
  dayOf,
  HISTORY_TOPICS,
  type HistoryCommand,
  type HistoryLine,
  type HistoryTopic,
  historyLines,
} from '@kanonos/core';
import { useInfiniteQuery } from '@tanstack/react-query';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { call } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { Segments } from '../../ui/controls.tsx';
import { showDay, showInstant } from '../../ui/format.ts';
import { RevisionMark } from '../../ui/marks.tsx';
import { Failed, Loading } from '../../ui/states.tsx';
import { alikeWords } from './sentences.ts';
import { wording } from './wording.ts';

type Line = HistoryLine<HistoryEntry>;
type Command = HistoryCommand<HistoryEntry>;
type Shown = HistoryTopic | 'all';

/** Lines that follow each other under one revision label; what belongs to no revision stays with the one before. */
const sectionsOf = (lines: readonly Line[]): { label: string; lines: Line[] }[] => {
  const sections: { label: string; lines: Line[] }[] = [];
  for (const line of lines) {
    const { label } = line.commands[0].lead;
    const last = sections.at(-1);
    if (last && (label === null || label === last.label)) last.lines.push(line);
    else sections.push({ label: label ?? '', lines: [line] });
  }
  return sections;
};

/**
 * The history of a document on one thread, newest on top. The mark of a revision stays in sight while one reads what happened to it;
 * older events are fetched as one scrolls to them.
 */
export const History = ({ number, revisions }: { number: string; revisions: readonly RevisionInfo[] }) => {
  const { zone } = useMe().organisation;
  const [params, setParams] = useSearchParams();
  const topic = HISTORY_TOPICS.find((one) => one === params.get('history'));
  const list = useInfiniteQuery({
    queryKey: ['documents', 'history', number, topic ?? 'all'],
    queryFn: ({ pageParam, signal }) =>
      call(api.documents.history, { params: { document: number }, query: { topic, before: pageParam }, signal }),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (page) => page.next ?? undefined,
  });
  const choose = (next: Shown) =>
    setParams(
      (before) => {
        const after = new URLSearchParams(before);
        if (next === 'all') after.delete('history');
        else after.set('history', next);
        return after;
      },
      { replace: true },
    );
  const lines = historyLines(list.data?.pages.flatMap((page) => page.entries) ?? [], (at) => dayOf(new Date(at), zone));
  return (
    <>
      <div className="border-b border-line bg-sheet px-2.5 py-1.5">
        <Segments<Shown>
          label={wording.filterHistory}
          value={topic ?? 'all'}
          onChange={choose}
          options={[
            { value: 'all', text: wording.historyAll },
            { value: 'decisions', text: wording.historyDecisions },
            { value: 'content', text: wording.historyContent },
            { value: 'readings', text: wording.historyReadings },
          ]}
        />
      </div>
      {list.isPending ? (
        <Loading what={wording.theHistory} />
      ) : list.error ? (
        <Failed error={list.error} again={() => void list.refetch()} />
      ) : lines.length === 0 ? (
        <p className="px-3 py-4 text-ink-2">{wording.nothingOfThisKindHasHappened}</p>
      ) : (
        sectionsOf(lines).map((section) => (
          <section
            key={section.lines[0]?.commands[0].lead.at}
            aria-label={section.label ? wording.historyOfRevision(section.label) : wording.history}
            className="relative grid grid-cols-[46px_minmax(0,1fr)] before:absolute before:top-0 before:bottom-0 before:left-[24px] before:w-px before:bg-line"
          >
            <span className="sticky top-2 z-[1] mt-2 ml-[10px] self-start justify-self-start bg-sheet">
              {section.label && (
                <RevisionMark
                  label={section.label}
                  mark={revisions.find((revision) => revision.label === section.label)?.mark ?? 'old'}
                  size="small"
                />
              )}
            </span>
            <ol>
              {section.lines.map((line) => (
                <HistoryItem
                  key={`${line.commands[0].lead.at} ${line.commands[0].lead.actor} ${line.commands[0].lead.text}`}
                  line={line}
                  zone={zone}
                />
              ))}
            </ol>
          </section>
        ))
      )}
      {list.hasNextPage && <Older loading={list.isFetchingNextPage} fetch={() => void list.fetchNextPage()} />}
    </>
  );
};

/** One line: what one command did with what followed from it, or several alike of a day that open. */
const HistoryItem = ({ line, zone }: { line: Line; zone: string }) => {
  const [open, setOpen] = useState(false);
  const [first, ...others] = line.commands;
  if (others.length === 0)
    return (
      <li className="border-b border-line-2 py-2 pr-3 text-[12.5px]">
        <One command={first} zone={zone} />
      </li>
    );
  const Chevron = open ? ChevronDown : ChevronRight;
  const names = [...new Set(line.commands.map(({ lead }) => lead.actor))];
  return (
    <li className="border-b border-line-2 py-2 pr-3 text-[12.5px]">
      <button
        type="button"
        aria-expanded={open}
        className="flex w-full items-start gap-1 text-left hover:text-petrol"
        onClick={() => setOpen(!open)}
      >
        <Chevron size={14} aria-hidden className="mt-[2px] -ml-1 shrink-0 text-ink-3" />
        <span className="min-w-0">
          <b className="font-semibold">{alikeWords(first.lead.kind, line.commands.length)}</b>
          <span className="block truncate text-ink-2">{names.join(', ')}</span>
          <span className="block text-[11.5px] text-ink-3">{showDay(dayOf(new Date(first.lead.at), zone))}</span>
        </span>
      </button>
      {open && (
        <ol className="mt-1 border-l border-line pl-2.5">
          {line.commands.map((command) => (
            <li key={`${command.lead.at} ${command.lead.actor}`} className="py-1">
              <One command={command} zone={zone} />
            </li>
          ))}
        </ol>
      )}
    </li>
  );
};

const One = ({ command: { lead, followed }, zone }: { command: Command; zone: string }) => (
  <>
    <b className="font-semibold">{lead.actor}</b> {lead.forPerson && wording.forForPerson(lead.forPerson)}
    {lead.text}
    {lead.comment && <span className="block text-ink-2">“{lead.comment}”</span>}
    {followed.map((entry) => (
      <span key={entry.kind} className="block text-[12px] text-ink-2">
        {entry.text}
      </span>
    ))}
    <span className="block text-[11.5px] text-ink-3">
      {showInstant(lead.at, zone)}
      {lead.seq !== null && wording.eventSeq(lead.seq.toLocaleString('en-GB'))}
    </span>
  </>
);

/** Fetches what is older when it comes into sight, or by a press. */
const Older = ({ loading, fetch }: { loading: boolean; fetch: () => void }) => {
  const end = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (!end.current || loading || typeof IntersectionObserver === 'undefined') return;
    const watch = new IntersectionObserver(([entry]) => entry?.isIntersecting && fetch(), { rootMargin: '200px' });
    watch.observe(end.current);
    return () => watch.disconnect();
  });
  return (
    <button ref={end} type="button" className="btn btn-quiet m-2" disabled={loading} onClick={fetch}>
      {loading ? wording.loadingOlderEvents : wording.showOlderEvents}
    </button>
  );
};
