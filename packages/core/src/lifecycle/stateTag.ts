/** What of a document a command depends on: whatever of it changes, changes the tag. */
export type TaggedState = {
  number: string;
  /** The revision in work with its row version, which every new version, state, day and metadata raises. */
  work?: { id: string; rowVersion: number };
  inForceId?: string;
  withdrawOn?: string;
  holdSince?: string;
  checkoutId?: string;
  removed: boolean;
};

/** Acts on whatever state there is, for programs that saw none (after `If-Match: *` of RFC 9110, 13.1.1). */
export const ANY_STATE = '*';

/** The tag of a state, opaque to the client that sends it back: equal tags, equal state. */
export const stateTag = ({
  number,
  work,
  inForceId,
  withdrawOn,
  holdSince,
  checkoutId,
  removed,
}: TaggedState): string =>
  [
    number,
    work ? `${work.id}.${work.rowVersion}` : '',
    inForceId ?? '',
    withdrawOn ?? '',
    holdSince ?? '',
    checkoutId ?? '',
    removed ? 'removed' : '',
  ].join('/');

/** Whether a command that was decided on one state may go on in another. */
export const sawThisState = (seen: string, now: TaggedState): boolean => seen === ANY_STATE || seen === stateTag(now);
