import { hasRight, type Right } from '../access/rights.ts';
import { type Refusal, refusal } from '../result.ts';
import { MOVES, type RevisionState } from './states.ts';

/** What a person may ask of a document. Each is answered and done by the same rule. */
export const COMMANDS = [
  'check out',
  'check in',
  'discard check-out',
  'take over check-out',
  'correct metadata',
  'submit',
  'recall',
  'release',
  'move day',
  'cancel day',
  'reopen',
  'revise',
  'withdraw',
  'cancel withdrawal',
  'put on hold',
  'lift hold',
  'reinstate',
  'abandon',
  'remove',
  'restore',
  'renumber',
  'rename file',
  'replace content',
  'check source',
  'set state',
  'review',
  'postpone review',
] as const;
export type Command = (typeof COMMANDS)[number];

/** All that the rules of the life of a revision need to know, read under the document's lock. */
export type Situation = {
  person: { id: string; rights: ReadonlySet<Right>; isAuthor: boolean; isOwner?: boolean; mayCheckInByStep: boolean };
  work?: {
    state: RevisionState;
    label: string;
    hasOriginal: boolean;
    missingFields: readonly string[];
    hasOpenRound: boolean;
    /** Own states that the person may set, or an own state that can be taken away. */
    offersOwnState?: boolean;
    plannedOn?: string;
  };
  /** `reviewOn`: the day on which it is due for its periodic review. */
  inForce?: { label: string; withdrawOn?: string; isOnHold?: boolean; reviewOn?: string };
  lastReleased?: { label: string; state: RevisionState };
  hasAbandoned: boolean;
  /** A revision was submitted at some time: others have decided on content with its number. */
  wasSubmitted: boolean;
  /** Its stored names follow the naming rule. */
  followsNamingRule: boolean;
  /** It comes from outside and is watched. */
  isWatched: boolean;
  checkout?: { personId: string; personName: string; since: string };
  route: { steps: number; unfilled: readonly string[] };
  releaseWithoutRoute: boolean;
  oneRevisionOnly: boolean;
  removed: boolean;
  /** The folder that it lies in, where nothing changes any more. */
  shutFolder?: { folder: string; state: string };
};

const RIGHT_FOR: Readonly<Record<Command, Right>> = {
  'check out': 'author',
  'check in': 'author',
  'discard check-out': 'author',
  'take over check-out': 'manage',
  'correct metadata': 'author',
  submit: 'author',
  recall: 'author',
  release: 'release',
  'move day': 'release',
  'cancel day': 'release',
  reopen: 'release',
  revise: 'author',
  withdraw: 'release',
  'cancel withdrawal': 'release',
  'put on hold': 'release',
  'lift hold': 'release',
  reinstate: 'release',
  abandon: 'author',
  remove: 'manage',
  restore: 'manage',
  renumber: 'manage',
  'rename file': 'author',
  'replace content': 'author',
  'check source': 'author',
  'set state': 'read work',
  review: 'release',
  'postpone review': 'release',
};

/** In a closed folder one reads, withdraws and warns, and gives up what was begun. */
const ALLOWED_WHEN_SHUT: ReadonlySet<Command> = new Set([
  'withdraw',
  'cancel withdrawal',
  'put on hold',
  'lift hold',
  'discard check-out',
  'abandon',
]);

/**
 * Why a command is not possible for a person now; nothing when it is. The interface greys its buttons with these reasons and
 * the services refuse with the same ones (life of a revision; right, state and blocker in this order).
 */
export const decideCommand = (command: Command, situation: Situation): Refusal[] => {
  const { person, work, inForce, checkout, route } = situation;
  if (situation.removed && command !== 'restore') return [refusal('document_removed')];
  if (!mayRun(command, situation)) return [refusal('right_missing', { right: RIGHT_FOR[command], command })];
  if (situation.shutFolder && !ALLOWED_WHEN_SHUT.has(command)) return [refusal('folder_shut', situation.shutFolder)];
  const state = work?.state;
  const mineOut = checkout?.personId === person.id;
  const outToOther =
    checkout && !mineOut ? [refusal('checked_out', { who: checkout.personName, since: checkout.since })] : [];
  const inState = (...states: RevisionState[]) =>
    state && states.includes(state) ? [] : [refusal('wrong_state', { command, state: state ?? 'none in work' })];
  switch (command) {
    case 'check out':
      if (checkout) return mineOut ? [refusal('checked_out_by_you', { since: checkout.since })] : outToOther;
      return mayEdit(situation) ? [] : inState('draft');
    case 'check in':
      if (!mineOut) return checkout ? outToOther : [refusal('not_checked_out')];
      return mayEdit(situation) ? [] : inState('draft');
    case 'discard check-out':
      return mineOut ? [] : checkout ? outToOther : [refusal('not_checked_out')];
    case 'take over check-out':
      if (!checkout) return [refusal('not_checked_out')];
      return mineOut ? [refusal('checked_out_by_you', { since: checkout.since })] : [];
    case 'correct metadata':
      return [...inState('draft'), ...outToOther];
    case 'submit': {
      const refusals = inState('draft');
      if (refusals.length) return refusals;
      if (checkout) refusals.push(refusal('checked_out', { who: checkout.personName, since: checkout.since }));
      if (!work?.hasOriginal) refusals.push(refusal('original_missing'));
      for (const field of work?.missingFields ?? []) refusals.push(refusal('field_value_missing', { field }));
      if (route.steps === 0) refusals.push(refusal('route_missing'));
      for (const step of route.unfilled) refusals.push(refusal('step_unfilled', { step }));
      return refusals;
    }
    case 'recall':
      return inState(...MOVES.recall.from);
    case 'release':
      if (state === 'draft' && situation.releaseWithoutRoute) {
        return [...outToOther, ...(mineOut ? [refusal('checked_out_by_you', { since: checkout.since })] : [])];
      }
      return inState('approved', 'scheduled');
    case 'move day':
    case 'cancel day':
      return inState('scheduled');
    case 'reopen':
      return inState(...MOVES.reopen.from);
    case 'revise':
      if (work) {
        return state === 'scheduled'
          ? [refusal('revision_scheduled', { label: work.label, day: work.plannedOn ?? '' })]
          : [refusal('revision_in_work', { label: work.label, state: work.state })];
      }
      if (situation.oneRevisionOnly) return [refusal('scheme_has_one_revision')];
      if (inForce?.withdrawOn) return [refusal('withdrawal_planned', { day: inForce.withdrawOn })];
      return inForce || situation.lastReleased || situation.hasAbandoned ? [] : [refusal('nothing_to_revise')];
    case 'withdraw':
      if (!inForce) return [refusal('nothing_in_force')];
      return work ? [refusal('revision_in_work', { label: work.label, state: work.state })] : [];
    case 'cancel withdrawal':
      return inForce?.withdrawOn ? [] : [refusal('no_withdrawal_planned')];
    case 'put on hold':
      if (!inForce) return [refusal('nothing_in_force')];
      return inForce.isOnHold ? [refusal('already_on_hold')] : [];
    case 'lift hold':
      return inForce?.isOnHold ? [] : [refusal('not_on_hold')];
    case 'reinstate':
      if (inForce) return [refusal('already_in_force', { label: inForce.label })];
      if (work) return [refusal('revision_in_work', { label: work.label, state: work.state })];
      return situation.lastReleased?.state === 'withdrawn' ? [] : [refusal('nothing_withdrawn')];
    case 'renumber':
      // While no revision has left draft: afterwards the number is what others have read and decided on.
      if (inForce || situation.lastReleased || situation.wasSubmitted || (work && work.state !== 'draft'))
        return [refusal('number_is_known')];
      return outToOther;
    case 'rename file':
      if (situation.followsNamingRule) return [refusal('name_by_rule')];
      return [...inState('draft'), ...outToOther];
    case 'replace content':
      return [...inState('draft'), ...outToOther];
    case 'check source':
      return situation.isWatched ? [] : [refusal('not_watched')];
    case 'set state':
      return work?.offersOwnState ? [] : [refusal('no_own_state', { state: state ?? 'none in work' })];
    case 'review':
    case 'postpone review':
      if (!inForce) return [refusal('nothing_in_force')];
      return inForce.reviewOn ? [] : [refusal('review_never')];
    case 'abandon':
      return [...inState('draft'), ...outToOther];
    case 'remove':
      // What was ever in force is withdrawn, never removed.
      if (inForce || situation.lastReleased) return [refusal('was_in_force')];
      if (work && work.state !== 'draft') return [refusal('wrong_state', { command, state: work.state })];
      return checkout ? [refusal('checked_out', { who: checkout.personName, since: checkout.since })] : [];
    case 'restore':
      return situation.removed ? [] : [refusal('not_removed')];
  }
};

const mayRun = (command: Command, { person, work }: Situation): boolean => {
  if (hasRight(person.rights, RIGHT_FOR[command])) return true;
  switch (command) {
    case 'recall': // author of the revision, or controller
      return person.isAuthor || hasRight(person.rights, 'release');
    case 'review':
    case 'postpone review': // the owner answers for it, the controller for all
      return person.isOwner === true;
    case 'check out':
    case 'check in':
    case 'discard check-out':
      return person.mayCheckInByStep && work?.state === 'in review';
    default:
      return false;
  }
};

/** Check-out is possible in draft, and in review where the open step allows it, nowhere else. */
const mayEdit = ({ person, work }: Situation): boolean =>
  work?.state === 'draft' || (work?.state === 'in review' && person.mayCheckInByStep);

/** Every command with why it is not possible, in the fixed order of commands. */
export const allowedCommands = (situation: Situation): { command: Command; refusals: Refusal[] }[] =>
  COMMANDS.map((command) => ({ command, refusals: decideCommand(command, situation) }));

/** A planned day lies after today when it is set. */
export const decidePlannedDay = (day: string, today: string): Refusal[] =>
  day > today ? [] : [refusal('day_not_after_today', { day, today })];

/** What the preflight of a release looks at. */
export type PreflightSituation = {
  signatures: readonly { who: string; meaning: string; intact: boolean }[];
  needsApprovers: number;
  checkout?: { personName: string; since: string };
  missingFields: readonly string[];
  hasOriginal: boolean;
  contentMissing: readonly string[];
  /** Files whose stored bytes are no longer those of their hash. */
  contentAltered: readonly { name: string; hash: string }[];
  blockingComments: readonly { who: string; text: string }[];
  readersNeeded: boolean;
  readersDefined: boolean;
  recordUnchanged: boolean;
  /** What of its change note is open, by `changeNoteBlockers`. */
  changeNote: readonly Refusal[];
};

/** A line of the preflight: what was checked, whether it prevents the release, and the way to clear it. */
export type PreflightLine = { check: string; blocks: boolean; refusal?: Refusal; way?: string };

/** Every blocker of a release, computed and named, with the way to clear it; what is clear is listed too. */
export const preflight = (situation: PreflightSituation): PreflightLine[] => {
  const lines: PreflightLine[] = [];
  const add = (check: string, refusals: Refusal[], way: string) => {
    if (refusals.length === 0) lines.push({ check, blocks: false });
    for (const blocker of refusals) lines.push({ check, blocks: true, refusal: blocker, way });
  };
  add(
    'signatures',
    [
      ...situation.signatures
        .filter((s) => !s.intact)
        .map((s) => refusal('signature_altered', { who: s.who, meaning: s.meaning })),
      ...(situation.signatures.length < situation.needsApprovers
        ? [refusal('signatures_too_few', { has: situation.signatures.length, needs: situation.needsApprovers })]
        : []),
    ],
    'reopen',
  );
  add('record', situation.recordUnchanged ? [] : [refusal('record_changed')], 'reopen');
  add(
    'content',
    [
      ...(situation.hasOriginal ? [] : [refusal('original_missing')]),
      ...situation.contentMissing.map((name) => refusal('content_missing', { name })),
      ...situation.contentAltered.map((file) => refusal('content_altered', file)),
    ],
    'reopen',
  );
  add(
    'check-out',
    situation.checkout
      ? [refusal('checked_out', { who: situation.checkout.personName, since: situation.checkout.since })]
      : [],
    'discard check-out',
  );
  add(
    'metadata',
    situation.missingFields.map((field) => refusal('field_value_missing', { field })),
    'reopen',
  );
  add(
    'comments',
    situation.blockingComments.map((comment) => refusal('blocking_comment', { who: comment.who, text: comment.text })),
    'resolve comment',
  );
  add(
    'readers',
    situation.readersNeeded && !situation.readersDefined ? [refusal('readers_undefined')] : [],
    'define readers',
  );
  add('change note', [...situation.changeNote], 'change note');
  return lines;
};
