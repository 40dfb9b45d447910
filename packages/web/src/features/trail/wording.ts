/** What this feature says: one place to review its words, and to translate them one day. */
export const wording = {
  person: 'Person',
  document: 'Document',
  actingFor: (person: string) => `acting for ${person}`,
  signInsOf: (n: number, people: string, more: boolean) =>
    `${n} sign-ins and sign-outs: ${people}${more ? ' and others' : ''}`,
  allKinds: 'All kinds',
  auditTrail: 'Audit trail',
  eventsEachLinkedToThePrevious: 'events, each linked to the previous one.',
  exportForVerification: 'Export for verification',
  from: 'From',
  kind: 'Kind',
  lastSignedHeadCoversEvents: (size: string) => `Last signed head covers ${size} events:`,
  loading: 'Loading …',
  noMatchingEvents: 'No matching events',
  showEventInFull: (seq: number) => `Show event ${seq} in full`,
  showOlderEvents: 'Show older events',
  theAuditTrail: 'the audit trail',
  theFirstHeadIsSignedAt: 'The first head is signed at the end of today.',
  to: 'To',
};
