/** What this feature says: one place to review its words, and to translate them one day. */
export const wording = {
  by: 'By',
  noRemovedDocuments: 'No removed documents',
  numberAndTitle: 'Number and title',
  on: 'On',
  reason: 'Reason',
  removedDocuments: 'Removed documents',
  theRemovedDocuments: 'the removed documents',
  theyAppearInNoListAnd: 'They appear in no list and keep their numbers. Open one to restore it.',
};
