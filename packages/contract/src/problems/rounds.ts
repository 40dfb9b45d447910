import { at, type Problems, when } from './problem.ts';

/** Routes, decisions, signatures, release and readings. */
export const rounds = {
  // Routes, decisions, signatures.
  route_missing: at(409, 'This type has no route yet.'),
  route_asks_nobody: at(409, 'No step of the route applies to this document: none of their conditions is met.'),
  step_unfilled: at(409, (p) => `Nobody can be found for the step “${p.step}”.`),
  step_too_few_chosen: at(422, (p) => `Choose at least ${p.minimum} for “${p.step}”.`),
  step_k_greater_than_people: at(409, (p) => `“${p.step}” needs ${p.k} decisions but has only ${p.people} assignees.`),
  signs_what_can_change: at(
    409,
    (p) => `It is ${p.state} and can still change. Sign it when it is approved, scheduled or in force.`,
  ),
  last_day_past: at(422, (p) => `${p.day} is past. Choose today or a later day.`, 'Last day'),
  asked_cannot_read: at(
    422,
    (p) => `${p.who} may not read this revision. Give them the right to read it first, or ask somebody else.`,
    'Assignees',
  ),
  already_signed_so: at(
    409,
    (p) => `You have signed this revision with the meaning “${p.meaning}” already.`,
    'Meaning',
  ),
  further_route_named: at(
    422,
    (p) => (p.name ? `Two further routes are called “${p.name}”.` : 'Give each further route a name.'),
    'Route',
  ),
  no_own_state: at(409, (p) => `There is no state of the organisation that you may set while it is ${p.state}.`),
  own_state_unknown: at(
    422,
    (p) => `“${p.name}” is not a state that you may set here. Choose one of the list.`,
    'State',
  ),
  own_state_twice: at(422, (p) => `“${p.name}” is there twice within the same state. Remove one.`, 'Name'),
  pdf_not_signed: at(
    422,
    (p) => `${p.name} is no PDF with a signature inside. Choose the file that came back.`,
    'File',
  ),
  no_signing_service: at(409, 'No signing service is set up. Send the PDF yourself, and bring it back signed.'),
  no_pdf_to_sign: at(
    409,
    'Its original is neither a PDF nor an office file that pages are made of. Check in a PDF, or have it signed and bring it back.',
  ),
  outside_signing_ended: at(409, (p) => `It is ${p.state} already.`),
  rule_name_taken: at(422, (p) => `There is already a rule named “${p.name}”. Give it another name.`, 'Name'),
  rule_round_running: at(409, 'A round that the same rule started on this document still runs.'),
  occasion_field_unknown: at(
    422,
    (p) => `The type has no field “${p.field}” that this can happen to. Choose one of its fields.`,
    'Field',
  ),
  route_not_offered: at(422, (p) => `The route “${p.route}” is not offered here.`, 'Route'),
  meaning_unknown: at(422, (p) => `“${p.meaning}” is not in the organisation’s list of meanings.`, 'Meaning'),
  round_ended: at(409, 'This round has ended.'),
  not_your_turn: at(409, 'It is not your turn yet; somebody else decides before you.'),
  already_decided: at(409, (p) => (p.who ? `${p.who} has already decided.` : 'This has already been decided.')),
  decision_not_needed: at(409, 'This decision is no longer needed.'),
  decision_not_offered: at(422, (p) => `The decision “${p.decision}” is not available in this step.`, 'Decision'),
  rejection_needs_comment: at(422, 'Enter a comment that tells the author why you reject it.', 'Comment'),
  comment_missing: at(422, 'Enter your comments, or write them beside the text.', 'Comment'),
  counts_once_in_step: at(409, 'A person counts only once in a step.'),
  decided_alone: at(409, 'Documents of this type are decided on one by one. Open the task itself.'),
  signs_one_step_only: at(409, 'You have already signed in this round; a person signs at most one approval step.'),
  deputy_has_signed: at(409, 'You have already signed in this round and cannot also sign as a deputy.'),
  deputy_is_author: at(409, 'An author of the revision cannot sign as a deputy.'),
  only_approver_of_own_work: at(
    409,
    'You are an author of this revision and would be its only approver. Somebody else must approve it too.',
  ),
  no_step_open: at(409, 'No step of this round is open. It continues when its blockers are removed.'),
  skips_last_approval: at(
    409,
    (p) =>
      `“${p.step}” is the only approval of this round. Reassign it instead; a document is not released without an approval.`,
  ),
  already_in_step: at(409, (p) => `${p.who} is already assigned to “${p.step}”.`, 'Person'),
  outside_approver: at(422, (p) => `${p.who} belongs to an outside party and cannot approve.`, 'Person'),
  not_awaited: at(409, (p) => `${p.who} has no open assignment in this round.`, 'Person'),
  round_change_forbidden: at(403, (p) => `You may not ${p.change} in this round.`),
  author_only_approver: at(
    409,
    (p) => `${p.who} is an author of this revision and would be its only approver.`,
    'Person',
  ),
  signing_wrong: at(403, 'Check your sign-in name and password. Nothing was signed.', 'Password'),
  signing_needs_name: at(
    403,
    'Enter your sign-in name; the first signature of a period needs name and password.',
    'Sign-in name',
  ),
  signing_needs_password: at(403, 'This needs your signature. Enter your password and try again.', 'Password'),
  files_not_opened: at(
    409,
    (p) =>
      `You have not opened ${p.files}. Your signature covers every file; open ${Number(p.count) === 1 ? 'it' : 'them'}, then sign.`,
  ),
  signing_locked: at(429, (p, zone) => `Signing is locked until ${when(p.until, zone)} after five failed attempts.`),
  record_changed: at(
    409,
    'The content has changed since you opened it. Nothing was signed; check it again, then sign.',
  ),

  // Release.
  day_not_after_today: at(422, (p) => `Enter a date after today (${p.today}).`, 'Date'),
  signature_altered: at(409, (p) => `The signature of ${p.who} (${p.meaning}) no longer matches what was signed.`),
  signatures_too_few: at(409, (p) => `Only ${p.has} of ${p.needs} signatures are present.`),
  blocking_comment: at(409, (p) => `A blocking comment by ${p.who} is open: “${p.text}”.`),
  readers_undefined: at(409, 'No readers are defined.'),
  preflight_blocked: at(
    409,
    (p) => `Release blocked: the preflight found ${p.count} ${Number(p.count) === 1 ? 'blocker' : 'blockers'}.`,
  ),

  // Reading.
  reading_closed: at(409, (p) => `This reading is ${p.state ?? 'already signed'}.`),
  reading_not_in_force: at(409, 'It cannot be signed before it comes into force.'),
  nobody_overdue: at(409, 'No readings are overdue.'),
} satisfies Problems;
