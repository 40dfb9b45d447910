import { at, type Problems } from './problem.ts';

/** Requests as such. */
export const requests = {
  // Requests.
  body_too_slow: at(408, 'The request arrived too slowly and was ended. Send it again.'),
  body_malformed: at(400, (p) => `The request cannot be read: ${p.reason}.`),
  input_invalid: at(422, (p) => `${p.field}: ${p.reason}.`),
  not_found: at(404, 'Nothing was found at this address, or you may not see it.'),
  method_unknown: at(405, (p) => `This address does not accept ${p.method}.`),
  origin_refused: at(403, 'This request came from another site and was refused.'),
  media_type_refused: at(415, (p) => `The body must be ${p.wanted}.`),
  too_large: at(413, (p) => `The request is too large; the limit is ${p.limit}.`),
  saved_elsewhere: at(
    409,
    'This text was saved in another window, or by a program on the network drive. Use the saved text, or keep yours.',
  ),
  locked_meanwhile: at(409, 'Somebody else locked this at the same moment. Try again when the lock has ended.'),
  name_taken_meanwhile: at(
    409,
    'Somebody else used this name at the same moment. Choose another name, or try again.',
    'Name',
  ),
  changed_meanwhile: at(409, 'Somebody else changed this in the meantime. Check what changed and try again.'),
  key_used_otherwise: at(409, 'This idempotency key was used for a different request.'),
  internal: at(500, 'Something went wrong in Kanonos. Nothing was changed.'),
  not_ready: at(503, 'Kanonos cannot reach its database or files at the moment. Try again shortly.'),
} satisfies Problems;
