import type { RevisionState } from '../lifecycle/states.ts';
import { type Refusal, refusal } from '../result.ts';

/** Whether the revisions of a type are made under a change note; a first issue changes nothing and never needs one. */
export const CHANGE_NOTE_USES = ['never', 'may', 'must'] as const;
export type ChangeNoteUse = (typeof CHANGE_NOTE_USES)[number];

/** What must be closed of its note before a revision under it is released. */
export const CHANGE_NOTE_DEMANDS = ['nothing', 'agreed', 'tasks'] as const;
export type ChangeNoteDemand = (typeof CHANGE_NOTE_DEMANDS)[number];

/** What a task of a change note must be done before. */
export const TASK_LIMITS = ['release', 'closure'] as const;
export type TaskLimit = (typeof TASK_LIMITS)[number];
export const TASK_STATES = ['open', 'done', 'dropped'] as const;
export type TaskState = (typeof TASK_STATES)[number];

/** How a document came onto a change note, or why it is proposed for it. */
export const AFFECTED_WAYS = ['picked', 'cites', 'cited', 'linked', 'below', 'above', 'revised'] as const;
export type AffectedWay = (typeof AFFECTED_WAYS)[number];

/** Where an affected document stands. */
export const AFFECTED_STANDINGS = ['not begun', 'in work', 'approved', 'in force', 'no change needed'] as const;
export type AffectedStanding = (typeof AFFECTED_STANDINGS)[number];

/** A change note as the rules see it: agreed once a revision of it came into force. */
export type ChangeNoteFacts = {
  number: string;
  isAgreed: boolean;
  isClosed: boolean;
  tasks: readonly { before: TaskLimit; state: TaskState }[];
};

/** Where a document stands: by the newest revision under the note that was not abandoned, else by what was said of it. */
export const standingOf = ({
  revisionState,
  noChangeReason,
}: {
  revisionState: RevisionState | null;
  noChangeReason: string | null;
}): AffectedStanding => {
  if (revisionState === 'in force' || revisionState === 'superseded' || revisionState === 'withdrawn')
    return 'in force';
  if (revisionState === 'approved' || revisionState === 'scheduled') return 'approved';
  if (revisionState === 'draft' || revisionState === 'in review') return 'in work';
  return noChangeReason === null ? 'not begun' : 'no change needed';
};

/** Why a revision may not begin under a note, or without one. */
export const decideRevisingUnder = (
  use: ChangeNoteUse,
  note: Pick<ChangeNoteFacts, 'number' | 'isClosed'> | undefined,
): Refusal[] => {
  if (!note) return use === 'must' ? [refusal('change_note_needed')] : [];
  if (use === 'never') return [refusal('change_note_not_used')];
  return note.isClosed ? [refusal('change_note_closed', { number: note.number })] : [];
};

const openTasks = (note: ChangeNoteFacts, before: readonly TaskLimit[]) =>
  note.tasks.filter((task) => task.state === 'open' && before.includes(task.before)).length;

/** What of its change note prevents the release of a revision. */
export const changeNoteBlockers = (
  demand: ChangeNoteDemand,
  note: ChangeNoteFacts | undefined,
  needsNote: boolean,
): Refusal[] => {
  if (!note) return needsNote ? [refusal('change_note_needed')] : [];
  if (demand === 'nothing') return [];
  const count = openTasks(note, ['release']);
  return [
    ...(note.isAgreed ? [] : [refusal('change_note_not_agreed', { number: note.number })]),
    ...(demand === 'tasks' && count > 0 ? [refusal('change_note_tasks_open', { number: note.number, count })] : []),
  ];
};

/** Why a change note cannot be closed yet; nothing when it can. */
export const decideClosing = (
  note: ChangeNoteFacts,
  affected: readonly { number: string; standing: AffectedStanding }[],
): Refusal[] => {
  if (note.isClosed) return [refusal('change_note_closed', { number: note.number })];
  const count = openTasks(note, TASK_LIMITS);
  const open = affected.filter(({ standing }) => standing !== 'in force' && standing !== 'no change needed');
  return [
    ...(note.isAgreed ? [] : [refusal('change_note_not_agreed', { number: note.number })]),
    ...(count > 0 ? [refusal('change_note_tasks_open', { number: note.number, count })] : []),
    ...open.map(({ number, standing }) => refusal('change_note_document_open', { number, standing })),
  ];
};

/** A document that a change could reach, and how: through which document, by which tie, how many steps away. */
export type ReachedByChange = {
  id: string;
  way: Exclude<AffectedWay, 'picked' | 'revised'>;
  via: string;
  distance: number;
};

/**
 * What to propose for a change note: each document once, by its shortest way, without those that are on it already; nearest first, in
 * the order found.
 */
export const proposeAffected = <T extends ReachedByChange>(found: readonly T[], present: ReadonlySet<string>): T[] => {
  const best = new Map<string, T>();
  for (const one of found) {
    const known = best.get(one.id);
    if (!present.has(one.id) && (!known || one.distance < known.distance)) best.set(one.id, one);
  }
  return [...best.values()].sort((a, b) => a.distance - b.distance);
};
