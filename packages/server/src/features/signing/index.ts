// What other features may use of this one.
export {
  type CheckedSigning,
  type Credentials,
  checkSigning,
  digestToSign,
  filesToOpen,
  freezeRecord,
  getRecord,
  latestRecord,
  nameAssignees,
  readingSignature,
  recordTextOf,
  type Signed,
  sign,
  signaturesOf,
  toSignatureInfo,
  voidSignatures,
} from './service.ts';
