/** What this feature says: one place to review its words, and to translate them one day. */
export const wording = {
  theText: 'the text',
  checkIn: 'Check in',
  comments: 'Comments',
  keepMyText: 'Keep my text',
  leave: 'Leave',
  notSaved: 'Not saved',
  notSavedTryingAgain: (why: string) => `Not saved: ${why} Trying again.`,
  preview: 'Preview',
  readingText: 'reading text',
  sameAsTheCurrentVersion: 'Same as the current version',
  savedVisibleToNobodyElse: (stateAt: string) => `Saved ${stateAt}, visible to nobody else`,
  saving: 'Saving …',
  sidePanel: 'Side panel',
  textOf: (number: string) => `Text of ${number}`,
  thePreview: 'the preview',
  thisTextWasSavedInAnother:
    'This text was saved in another window, or by a program on the network drive. What you type here is not saved until you choose which one to keep.',
  useTheSavedText: 'Use the saved text',
};
