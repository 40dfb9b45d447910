import { z } from 'zod';
import { DocumentParam, Id, Instant, PersonRef, text } from './common.ts';
import { documentCommand } from './documentCommand.ts';
import { endpoint } from './endpoint.ts';

/** A signature that was found inside a PDF. */
export const FoundSignature = z.object({
  by: z.string(),
  issuedBy: z.string(),
  /** As the signer's program says; nobody vouches for it. */
  at: Instant.nullable(),
  /** The bytes that it covers are those that were signed. */
  intact: z.boolean(),
  /** Nothing was added after it. */
  coversAll: z.boolean(),
  trusted: z.boolean(),
});
export type FoundSignature = z.infer<typeof FoundSignature>;

export const SignedOutside = z.object({
  id: Id,
  /** Of which revision. */
  label: z.string(),
  how: z.enum(['sent', 'brought']),
  state: z.enum(['waiting', 'signed', 'declined', 'cancelled']),
  signers: z.array(z.object({ name: z.string(), signedAt: z.string().nullable(), address: z.string().nullable() })),
  note: z.string(),
  by: PersonRef,
  at: Instant,
  /** The service has it. */
  isSent: z.boolean(),
  file: z.string().nullable(),
  signatures: z.array(FoundSignature),
  endedAt: Instant.nullable(),
  why: z.string(),
  mayCancel: z.boolean(),
});
export type SignedOutside = z.infer<typeof SignedOutside>;

const OutsideParam = z.strictObject({ id: Id });
const COMMON = ['right_missing', 'signs_what_can_change', 'content_missing', 'content_altered'] as const;

/** PDFs that people outside sign: through a signing service, or sent and brought back by hand. */
export const signedOutside = {
  list: endpoint({
    id: 'signedOutside',
    feature: 'signedOutside',
    method: 'GET',
    path: '/api/documents/:document/signed-outside',
    summary: 'What of a document was signed outside or waits there, with what was found in it',
    params: DocumentParam,
    answer: z.object({ items: z.array(SignedOutside), mayBring: z.boolean(), hasService: z.boolean() }),
    problems: ['not_found'],
  }),
  bring: documentCommand({
    id: 'bringSignedOutside',
    feature: 'signedOutside',
    path: '/api/documents/:document/signed-outside',
    summary: 'Keep a PDF that came back with signatures: they are verified, and kept with the revision',
    body: z.strictObject({ revisionId: Id.optional(), uploadId: Id, note: text(500).default('') }),
    answer: z.object({ id: Id, signatures: z.array(FoundSignature) }),
    problems: [...COMMON, 'upload_unknown', 'pdf_not_signed', 'file_too_hard'],
  }),
  send: documentCommand({
    id: 'sendToBeSignedOutside',
    feature: 'signedOutside',
    path: '/api/documents/:document/signed-outside/send',
    summary: 'Ask people outside to sign the PDF of a revision through the signing service',
    body: z.strictObject({
      revisionId: Id.optional(),
      message: text(1000).default(''),
      signers: z
        .array(z.strictObject({ name: text(120, 1), mail: z.email('a mail address would be right').max(200) }))
        .min(1, 'at least one person')
        .max(20),
    }),
    answer: z.object({ id: Id }),
    problems: [...COMMON, 'no_signing_service', 'no_pdf_to_sign'],
  }),
  cancel: endpoint({
    id: 'cancelSigningOutside',
    feature: 'signedOutside',
    method: 'POST',
    path: '/api/signed-outside/:id/cancel',
    summary: 'Take back what waits at the signing service',
    params: OutsideParam,
    body: z.strictObject({ reason: text(500, 1) }),
    problems: ['not_found', 'input_invalid', 'outside_signing_ended'],
  }),
  file: endpoint({
    id: 'signedOutsideFile',
    feature: 'signedOutside',
    method: 'GET',
    path: '/api/signed-outside/:id/file',
    summary: 'A PDF that came back signed, for whoever may read the revision',
    params: OutsideParam,
    stream: 'bytes',
    problems: ['not_found', 'right_missing', 'content_missing'],
  }),
};
