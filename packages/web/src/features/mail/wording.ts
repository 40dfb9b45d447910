/** What this feature says: one place to review its words, and to translate them one day. */
export const wording = {
  asReceivedByTheStandIn: ' · as received by the stand-in',
  mail: 'Mail',
  mailPreview: 'Mail preview',
  mails: 'Mails',
  mailsAreSentThroughTheConfigured: 'Mails are sent through the configured server.',
  nextTry: (nextTryAt: string) => ` · next try ${nextTryAt}`,
  noMailServerIsConfiguredThe:
    'No mail server is configured. The built-in stand-in keeps every mail, so that its links can be used here.',
  noMailsYet: 'No mails yet',
  outgoingMail: 'outgoing mail',
  outgoingMail2: 'Outgoing mail',
  sendAgain: 'Send again',
  theLinkWasRemovedFromThis: 'The link was removed from this copy: only the recipient can use it.',
  theMail: 'the mail',
  theMailWillBeSentAgain: 'The mail will be sent again.',
  toTo: (to: string) => `to ${to}`,
};
