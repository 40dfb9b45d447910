import type { NextStep } from '@kanonos/contract';
import type { EventKind, Forbidden } from '@kanonos/core';
import { showDay, showInstantDay } from '../../ui/format.ts';
import { wording } from './wording.ts';

const people = (names: readonly string[]): string =>
  names.length <= 1 ? (names[0] ?? 'somebody') : wording.namesOrPart(names.slice(0, -1).join(', '), names.at(-1));
const lower = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);

/** The state of a document as a sentence: who, what, since when, until when, what comes then. */
export const nextSentence = (next: NextStep, zone: string): { lead: string; rest: string } => {
  const since = next.since ? wording.sinceSince(showInstantDay(next.since, zone, true)) : '';
  const due = next.due ? ` ${next.overdue ? wording.wasDue : wording.due} ${showDay(next.due, true)}.` : '';
  switch (next.kind) {
    case 'decide':
      return {
        lead: next.mine ? wording.waitingForYou : wording.waitingFor(people(next.who)),
        rest: wording.toStepSinceDuePart(
          lower(next.step ?? 'decide'),
          since,
          due,
          next.afterCommit ? wording.thenAfterCommit(lower(next.afterCommit)) : '',
        ),
      };
    case 'finish':
      return {
        lead: next.mine ? wording.waitingForYou : wording.waitingFor(people(next.who)),
        rest: next.step ? wording.toReply(next.step) : wording.toFinishTheDraftAndSubmit(since),
      };
    case 'checked out':
      return {
        lead: next.mine ? wording.youHaveItCheckedOut : wording.hasItCheckedOut(people(next.who)),
        rest: wording.checkItInToContinue(since.trim()),
      };
    case 'held up':
      return {
        lead: wording.theRoundIsBlocked,
        rest: wording.byItContinuesWhenTheLast(next.blockers === 1 ? wording.oneBlocker : `${next.blockers} blockers`),
      };
    case 'release':
      return { lead: wording.waitingForDocumentControl, rest: wording.toReleaseItApproved(since) };
    case 'scheduled':
      return { lead: wording.comesIntoForceOn(showDay(next.due)), rest: wording.automaticallyAtTheStartOfThat };
    case 'blocked':
      return {
        lead: wording.blocked,
        rest: wording.sinceThePreflightFoundABlocker(showDay(next.due)),
      };
    case 'withdrawal planned':
      return { lead: wording.willBeWithdrawnOn(showDay(next.due)), rest: 'automatically.' };
  }
};

const FORBIDS: Record<Forbidden, string> = {
  download: wording.noDownloads,
  print: wording.noPrinting,
  'share outside': wording.noSharingOutsideTheOrganisation,
};
/** What a level of confidentiality forbids, in words. */
export const forbidsWords = (forbids: readonly Forbidden[]): string => {
  const words = forbids.map((one) => FORBIDS[one]).join(', ');
  return words ? words.charAt(0).toUpperCase() + words.slice(1) : wording.noRestrictionsBeyondTheRights;
};

const ALIKE: Partial<Record<EventKind, (n: number) => string>> = {
  'reading.signed': wording.alikeReadingSigned,
  'reading.asked': wording.alikeReadingAsked,
  'reading.reminded': wording.alikeReadingReminded,
  'assignment.reminded': wording.alikeAssignmentReminded,
  'comment.written': wording.alikeCommentsWritten,
  'comment.replied': wording.alikeCommentsReplied,
  'comment.resolved': wording.alikeCommentsResolved,
  'comment.assigned': wording.alikeCommentsAssigned,
  'comment.withdrawn': wording.alikeCommentsDeleted,
  'metadata.corrected': wording.alikeMetadataCorrected,
  'link.added': wording.alikeLinksAdded,
  'link.removed': wording.alikeLinksRemoved,
  'shortcut.added': wording.alikeShortcutsAdded,
  'shortcut.removed': wording.alikeShortcutsRemoved,
  'signing.refused': wording.alikeSigningRefused,
};

/** Several alike events of a day as one line: “18 read and signed”. */
export const alikeWords = (kind: string, n: number): string => (ALIKE[kind as EventKind] ?? wording.alikeEvents)(n);
