import { type DocumentPage, sentenceOf } from '@kanonos/contract';
import { type Command, decideSignable, type Right } from '@kanonos/core';
import { matches } from '../../../ui/matching.ts';
import { wording } from '../wording.ts';

/** Where an action leads: a dialog of the page by the command in the address, or another page. */
export type Action = {
  key: string;
  name: string;
  to: { command: string } | { address: string };
  /** Why it is not possible now; nothing when it is. */
  reason: string | null;
  /** The right that is missing, where that is why. */
  lacks?: Right;
};
export type ActionGroup = { name: string; actions: Action[] };

type Offer = { command: Command; name: string };

/** Commands by what they are for, each group with the most frequent first. */
const WORK: readonly Offer[] = [
  { command: 'check in', name: wording.checkIn2 },
  { command: 'check out', name: wording.checkOut2 },
  { command: 'submit', name: wording.submitForReview2 },
  { command: 'recall', name: wording.recall },
  { command: 'set state', name: wording.setState },
  { command: 'discard check-out', name: wording.discardCheckOut },
  { command: 'take over check-out', name: wording.takeOverCheckOut },
  { command: 'replace content', name: wording.useContentOfAnotherDocument },
  { command: 'rename file', name: wording.renameFile },
];
const LIFE: readonly Offer[] = [
  { command: 'release', name: wording.release },
  { command: 'revise', name: wording.revise },
  { command: 'review', name: wording.reviewDocument },
  { command: 'reopen', name: wording.returnToDraft2 },
  { command: 'put on hold', name: wording.putOnHold },
  { command: 'lift hold', name: wording.liftHold },
  { command: 'withdraw', name: wording.withdraw },
  { command: 'cancel withdrawal', name: wording.cancelPlannedWithdrawal },
  { command: 'reinstate', name: wording.reinstate },
  { command: 'abandon', name: wording.abandonDraft },
];
const DOCUMENT: readonly Offer[] = [
  { command: 'check source', name: wording.recordASourceCheck },
  { command: 'renumber', name: wording.renumber },
  { command: 'remove', name: wording.remove },
  { command: 'restore', name: wording.restore },
];

/** Reasons for which an action is left out altogether: it is for another kind of document, or its opposite is offered. */
const OF_NO_CONCERN = new Set([
  'not_checked_out',
  'no_own_state',
  'number_is_known',
  'name_by_rule',
  'not_watched',
  'not_removed',
  'not_on_hold',
  'already_on_hold',
  'document_removed',
  'was_in_force',
  'review_never',
]);

const named = (page: DocumentPage, { command, name }: Offer, zone: string): Action[] => {
  const known = page.commands.find((one) => one.command === command);
  const first = known?.refusals[0];
  if (!known || (first && OF_NO_CONCERN.has(first.code))) return [];
  // Reviewers are chosen in its dialog, so a step without them does not prevent opening it.
  const isOpen =
    !first ||
    (command === 'submit' &&
      page.canChooseReviewers !== null &&
      known.refusals.every(({ code }) => code === 'step_unfilled' || code === 'step_too_few_chosen'));
  return [
    {
      key: command,
      name,
      to:
        command === 'release' || command === 'review'
          ? { address: `/d/${encodeURIComponent(page.number)}/${command}` }
          : { command },
      reason: isOpen ? null : sentenceOf(first.code, first.params, zone),
      ...(first?.code === 'right_missing' ? { lacks: first.params?.right as Right } : {}),
    },
  ];
};

const besides = (key: string, name: string, to: Action['to'], isOffered: boolean): Action[] =>
  isOffered ? [{ key, name, to, reason: null }] : [];

/**
 * What can be done with a document, in groups, and apart from it what is not possible now, each with its reason. `zone` is that of the
 * organisation, for times in reasons.
 */
export const actionsOf = (page: DocumentPage, zone: string): { groups: ActionGroup[]; impossible: Action[] } => {
  const may = (right: string) => page.rights.includes(right);
  const drive = (may('download') || page.checkout?.mine === true) && page.versions.length > 0;
  const mayRead = may('read') || may('read work');
  const all: ActionGroup[] = [
    {
      name: wording.actionsWork,
      actions: [
        ...WORK.flatMap((offer) => named(page, offer, zone)),
        ...besides('drive', wording.openInDesktopApplication2, { command: 'on the network drive' }, drive),
        ...besides('metadata', wording.insertMetadataIntoTheFile, { command: 'metadata in the file' }, may('author')),
        ...besides(
          'supporting',
          wording.addSupportingFile2,
          { command: 'add supporting file' },
          may('author') && page.work !== null,
        ),
      ],
    },
    { name: wording.actionsLife, actions: LIFE.flatMap((offer) => named(page, offer, zone)) },
    {
      name: wording.actionsDocument,
      actions: [
        ...besides(
          'similar',
          wording.registerASimilarDocument,
          { address: `/new?like=${encodeURIComponent(page.number)}` },
          may('author'),
        ),
        ...besides(
          'suggest',
          wording.suggestAChange,
          { command: 'suggest a change' },
          page.view === null && page.removedAt === null && mayRead,
        ),
        ...besides(
          'order',
          wording.orderARevision,
          { command: 'order a revision' },
          page.view === null && page.removedAt === null && (may('release') || may('manage')),
        ),
        ...besides(
          'round',
          wording.startAnAdHocRound,
          { command: 'start a round' },
          page.view === null && page.removedAt === null && mayRead,
        ),
        ...besides(
          'sign',
          wording.signOutsideARound,
          { command: 'sign outside a round' },
          page.view === null && page.removedAt === null && mayRead && decideSignable(page.revision.state).length === 0,
        ),
        ...besides(
          'send to sign',
          wording.sendToBeSignedOutside,
          { command: 'send to be signed outside' },
          page.view === null &&
            page.removedAt === null &&
            may('author') &&
            decideSignable(page.revision.state).length === 0,
        ),
        ...besides(
          'bring signed',
          wording.addAPdfSignedOutside,
          { command: 'add a PDF signed outside' },
          page.view === null &&
            page.removedAt === null &&
            may('author') &&
            decideSignable(page.revision.state).length === 0,
        ),
        ...besides('addresses', wording.copyPermanentAddress, { command: 'addresses' }, true),
        ...DOCUMENT.flatMap((offer) => named(page, offer, zone)),
      ],
    },
  ];
  return {
    groups: all
      .map(({ name, actions }) => ({ name, actions: actions.filter((action) => action.reason === null) }))
      .filter(({ actions }) => actions.length > 0),
    impossible: all.flatMap(({ actions }) => actions.filter((action) => action.reason !== null)),
  };
};

/** Those whose names contain every word that was typed. */
export const matching = <A extends { name: string }>(actions: readonly A[], typed: string): A[] =>
  actions.filter(({ name }) => matches(name, typed));
