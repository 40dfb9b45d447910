/** States in the order of a revision's life, as lists and filters word them. */
export const STATE_WORDS: Record<string, string> = {
  draft: 'Draft',
  'in review': 'In review',
  'in approval': 'In approval',
  approved: 'Approved',
  scheduled: 'Scheduled',
  'in force': 'In force',
  superseded: 'Superseded',
  withdrawn: 'Withdrawn',
  abandoned: 'Abandoned',
};
