import { END_EVENT_KINDS, type EventKind, ROUND_EVENT_KINDS } from './eventKinds.ts';

/** What a reader of a history looks for: who decided what, what became of the content, who has read it. */
export const HISTORY_TOPICS = ['decisions', 'content', 'readings'] as const;
export type HistoryTopic = (typeof HISTORY_TOPICS)[number];

/** The kinds of events that tell of a topic; what is in none is shown where everything is. */
export const KINDS_OF_TOPIC: { readonly [T in HistoryTopic]: readonly EventKind[] } = {
  decisions: [
    ...ROUND_EVENT_KINDS,
    'revision.recalled',
    'revision.released',
    'revision.in-force',
    'revision.superseded',
    'revision.release-blocked',
    'revision.scheduled',
    'revision.day-moved',
    'revision.day-cancelled',
    'revision.reopened',
    'revision.abandoned',
    ...END_EVENT_KINDS,
    'revision.sent-to-be-signed',
    'revision.signed-outside',
    'revision.signing-outside-ended',
    'signing.refused',
  ],
  content: [
    'document.registered',
    'document.imported',
    'document.verified',
    'revision.revised',
    'revision.checked-out',
    'version.checked-in',
    'check-out.discarded',
    'check-out.taken-over',
    'version.made-newest',
    'version.removed',
    'version.supporting-file-added',
    'metadata.corrected',
    'metadata.changed-in-bulk',
    'bulk-change.undone',
    'template.applied',
    'file.renamed',
    'content.replaced',
    'content.given',
    'content.check-failed',
  ],
  readings: ['readers.defined', 'reading.asked', 'reading.signed', 'reading.reminded'],
};

/** What may be one line when it happened more than once on a day: a decision never is. */
const ALIKE: ReadonlySet<string> = new Set<EventKind>([
  'reading.signed',
  'reading.asked',
  'reading.reminded',
  'assignment.reminded',
  'comment.written',
  'comment.replied',
  'comment.resolved',
  'comment.assigned',
  'comment.withdrawn',
  'metadata.corrected',
  'link.added',
  'link.removed',
  'shortcut.added',
  'shortcut.removed',
  'signing.refused',
]);

export type HistoryEvent = { at: string; actor: string; kind: string; label: string | null };

/** What one command did: its own event, and what followed from it in the same moment. */
export type HistoryCommand<T> = { lead: T; followed: readonly T[] };
/** One line of a history: one command, or several alike of one day, newest first. */
export type HistoryLine<T> = { commands: readonly [HistoryCommand<T>, ...HistoryCommand<T>[]] };

/**
 * Events as the lines of a history. All that one command recorded has the same instant and person, and the command's own event was
 * recorded first; so a release, what came into force by it and what it superseded are one line. Similar ones of a day are one line, at the place of
 * the newest.
 *
 * @param events newest first
 * @param dayOf the day of an instant in the organisation's zone
 */
export const historyLines = <T extends HistoryEvent>(
  events: readonly T[],
  dayOf: (at: string) => string,
): HistoryLine<T>[] => {
  const commands: { lead: T; followed: T[] }[] = [];
  for (const event of events) {
    const last = commands.at(-1);
    const isOfLast =
      last?.lead.at === event.at &&
      last.lead.actor === event.actor &&
      [last.lead, ...last.followed].every(({ kind }) => kind !== event.kind);
    if (last && isOfLast) {
      last.followed.unshift(last.lead);
      last.lead = event;
    } else commands.push({ lead: event, followed: [] });
  }
  const lines: { commands: [HistoryCommand<T>, ...HistoryCommand<T>[]] }[] = [];
  const open = new Map<string, (typeof lines)[number]>();
  for (const command of commands) {
    const { at, kind, label } = command.lead;
    const key = `${dayOf(at)} ${kind} ${label}`;
    const before = command.followed.length === 0 && ALIKE.has(kind) ? open.get(key) : undefined;
    if (before) before.commands.push(command);
    else {
      const line: (typeof lines)[number] = { commands: [command] };
      lines.push(line);
      if (command.followed.length === 0) open.set(key, line);
    }
  }
  return lines;
};
