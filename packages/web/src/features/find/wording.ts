/** What this feature says: one place to review its words, and to translate them one day. */
export const wording = {
  searchResults: 'Search results',
  allWordsMustOccurPutExact:
    'All words must occur. Put exact phrases in quotation marks; filter with owner:me, state:overdue or type:procedure.',
  documentsWithAsked: (documents: string, asked: string) => `${documents} with ${asked}`,
  filterInTheRegister: 'Filter in the register',
  inWhere: (where: string) => `in ${where}`,
  nothingToSearchForYet: 'Nothing to search for yet',
  nothingWith: (asked: string) => `Nothing with ${asked}`,
  oneDocumentHasThisNumber: 'One document has this number',
  onlyTheBestMatchesAreShown: 'Only the best matches are shown; add words to narrow the search.',
  openGoTo: (goTo: string) => `Open ${goTo}`,
  searchedInNumbersTitlesMetadataAnd: 'Searched in numbers, titles, metadata and file texts.',
  theSearchResults: 'the search results',
  tryFewerOrOtherWords: 'Try fewer or other words',
  typeANumberOrWordsInto: 'Type a number or words into the search box.',
};
