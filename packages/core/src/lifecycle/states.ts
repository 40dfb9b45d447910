/** States of a revision. Keys stay; the organisation may reword what is shown. */
export const REVISION_STATES = [
  'draft',
  'in review',
  'in approval',
  'approved',
  'scheduled',
  'in force',
  'superseded',
  'withdrawn',
  'abandoned',
] as const;
export type RevisionState = (typeof REVISION_STATES)[number];

/** *In work*: a revision that is on its way to release. At most one per document. */
export const IN_WORK: readonly RevisionState[] = ['draft', 'in review', 'in approval', 'approved', 'scheduled'];
/** *Released*: a revision that is or was in force. It changes no more, its state and end of period apart. */
export const RELEASED: readonly RevisionState[] = ['in force', 'superseded', 'withdrawn'];

export const isInWork = (state: RevisionState) => IN_WORK.includes(state);
export const isReleased = (state: RevisionState) => RELEASED.includes(state);

/** What moves a revision from one state to another. */
export type Move =
  | 'submit for review'
  | 'submit for approval'
  | 'enter approval'
  | 'review done'
  | 'approve without approval step'
  | 'return to draft'
  | 'return to review'
  | 'recall'
  | 'route done'
  | 'release'
  | 'schedule'
  | 'cancel day'
  | 'reopen'
  | 'come into force'
  | 'supersede'
  | 'withdraw'
  | 'reinstate'
  | 'abandon'
  | 'reopen abandoned';

/** From which states a move leads where: the one table that the code and the database's trigger are tested against. */
export const MOVES: Readonly<Record<Move, { from: readonly RevisionState[]; to: RevisionState }>> = {
  'submit for review': { from: ['draft'], to: 'in review' },
  'submit for approval': { from: ['draft'], to: 'in approval' },
  'enter approval': { from: ['in review'], to: 'in approval' },
  'review done': { from: ['in review'], to: 'draft' },
  'approve without approval step': { from: ['in review'], to: 'approved' },
  'return to draft': { from: ['in review', 'in approval'], to: 'draft' },
  'return to review': { from: ['in approval'], to: 'in review' },
  recall: { from: ['in review', 'in approval'], to: 'draft' },
  'route done': { from: ['in approval'], to: 'approved' },
  release: { from: ['approved', 'scheduled', 'draft'], to: 'in force' },
  schedule: { from: ['approved', 'draft'], to: 'scheduled' },
  'cancel day': { from: ['scheduled'], to: 'approved' },
  reopen: { from: ['approved', 'scheduled'], to: 'draft' },
  'come into force': { from: ['scheduled'], to: 'in force' },
  supersede: { from: ['in force'], to: 'superseded' },
  withdraw: { from: ['in force'], to: 'withdrawn' },
  reinstate: { from: ['withdrawn'], to: 'in force' },
  abandon: { from: ['draft'], to: 'abandoned' },
  'reopen abandoned': { from: ['abandoned'], to: 'draft' },
};

/** Whether some move leads directly from one state to another. */
export const canMove = (from: RevisionState, to: RevisionState): boolean =>
  Object.values(MOVES).some((move) => move.to === to && move.from.includes(from));
