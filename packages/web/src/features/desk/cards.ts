import { ALWAYS_SHOWN_CARDS, DESK_KINDS, type DeskCard } from '@kanonos/contract';
import { wording } from './wording.ts';

/** The names of the cards of the Desk. */
export const CARD_NAMES: Record<DeskCard, string> = {
  stuck: wording.stuck,
  decide: wording.decide,
  task: wording.tasks,
  order: wording.orders,
  request: wording.changeRequests,
  returned: wording.returned,
  coming: wording.comesIntoForceThisWeek,
  release: wording.release,
  arrived: wording.arrived,
  read: wording.readAndSign,
  check: wording.followUp,
  overdue: wording.overdueCheckOuts,
  writing: wording.writing,
  review: wording.reviewsDue,
  waiting: wording.waitingForOthers,
  attention: wording.needsAttention,
  organisation: wording.theOrganisationToday,
  favourites: wording.favourites,
  'checked out': wording.checkedOutByOthers,
  'newly in force': wording.newlyInForce,
  'recently opened': wording.recentlyOpened,
};

/** Whether a card tells of tasks; the others are beside them. */
export const isTaskCard = (card: DeskCard): boolean => (DESK_KINDS as readonly string[]).includes(card);

/** What needs attention is shown whatever a person has arranged. */
export const canBeHidden = (card: DeskCard): boolean => !ALWAYS_SHOWN_CARDS.includes(card);

/** The list with one of its members moved before or behind its neighbour. */
export const moved = <T>(list: readonly T[], from: number, by: -1 | 1): T[] => {
  const to = from + by;
  if (to < 0 || to >= list.length) return [...list];
  const next = [...list];
  [next[from], next[to]] = [next[to] as T, next[from] as T];
  return next;
};
