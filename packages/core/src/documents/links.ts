import { type Refusal, refusal } from '../result.ts';

/** How one document hangs on another (DOMAIN 12): a change of the one reaches the other over each of them. */
export const LINK_KINDS = ['refers to', 'form of', 'translation of', 'attachment of'] as const;
export type LinkKind = (typeof LINK_KINDS)[number];

/** The list of the organisation with the kinds of things outside that documents are about. */
export const ITEM_KINDS = 'itemKind';

export type LinkGoal =
  | { to: 'document'; number: string; pinned: boolean }
  | { to: 'web'; address: string }
  | { to: 'item'; kind: string; code: string; name: string };

/** Why a link cannot be set, by its goal alone. */
export const checkLink = (kind: LinkKind, goal: LinkGoal): Refusal[] => {
  if (goal.to !== 'document' && kind !== 'refers to') return [refusal('link_kind_wrong', { kind })];
  if (goal.to === 'web' && !isWebAddress(goal.address)) return [refusal('link_address_wrong')];
  if (goal.to === 'item' && !goal.code.trim()) return [refusal('link_item_wrong')];
  return [];
};

/** A whole address of the web, without a name or a password in it: with which a browser can do nothing but go there. */
const isWebAddress = (address: string): boolean => /^https?:\/\/[^\s/@:?#]+(:\d{1,5})?([/?#]\S*)?$/i.test(address);
