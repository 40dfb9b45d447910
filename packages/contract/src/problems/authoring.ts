import { at, type Problems, when } from './problem.ts';

const STATES: Record<string, string> = { 'none in work': 'no revision is in work' };

/** Check-out, check-in, links, comments and the life of a revision. */
export const authoring = {
  // Authoring.
  document_removed: at(409, 'This document was removed.'),
  not_removed: at(409, 'This document is not removed.'),
  was_in_force: at(409, 'This document has been in force. Withdraw it instead of removing it.'),
  checked_out: at(
    409,
    (p, zone) =>
      `${p.who} has had it checked out since ${when(p.since, zone)}. Ask for it to be checked in, or take over the check-out.`,
  ),
  checked_out_by_you: at(
    409,
    (p, zone) => `You have had it checked out since ${when(p.since, zone)}. Check it in, or discard the check-out.`,
  ),
  type_not_said: at(422, 'The type follows neither from the name nor from the folder. Choose a type.', 'Type'),
  not_checked_out: at(409, 'The document is not checked out.'),
  same_content: at(
    409,
    (p) => `The file is identical to version ${p.n}. Confirm that you want to check it in, or discard the check-out.`,
  ),
  note_missing: at(422, 'Enter a note on this version.', 'Note'),
  wrong_state: at(409, (p) => `This is not possible now: ${STATES[String(p.state)] ?? `the revision is ${p.state}`}.`),
  original_missing: at(409, 'There is no original file. Add one.'),
  revision_in_work: at(409, (p) => `Revision ${p.label} is already in work (${p.state}).`),
  revision_scheduled: at(409, (p) => `Revision ${p.label} is scheduled for ${p.day}. Reopen or release it first.`),
  withdrawal_planned: at(409, (p) => `Its withdrawal is planned for ${p.day}. Cancel it first.`),
  change_note_needed: at(409, 'Documents of this type are revised under a change note. Choose one.', 'Change note'),
  change_note_not_used: at(422, 'Documents of this type are not revised under change notes.', 'Change note'),
  change_note_closed: at(409, (p) => `Change note ${p.number} is closed.`, 'Change note'),
  change_note_not_agreed: at(409, (p) => `Change note ${p.number} is not agreed yet: no revision of it is in force.`),
  change_note_tasks_open: at(
    409,
    (p) => `${p.count === 1 ? 'One task' : `${p.count} tasks`} of change note ${p.number} must be done first.`,
  ),
  change_note_document_open: at(409, (p) => `${p.number} is affected and is not in force yet (${p.standing}).`),
  change_note_document_in_work: at(
    409,
    (p) => `A revision of ${p.number} is made under this note. Abandon it before you take the document off.`,
  ),
  not_a_change_note: at(422, (p) => `${p.number} is not a change note.`, 'Change note'),
  not_your_task: at(403, (p) => `This task is for ${p.who}.`),
  task_not_readable: at(
    422,
    (p) => `${p.who} may not read this change note. Give them the right to read it first.`,
    'Assignee',
  ),
  task_ended: at(409, 'This task has ended.'),
  released_alone: at(409, (p) => `${p.number} is signed when it is released. Release it by itself.`),
  already_on_hold: at(409, 'It is on hold already.'),
  not_on_hold: at(409, 'It is not on hold.'),
  no_withdrawal_planned: at(409, 'No withdrawal is planned.'),
  scheme_has_one_revision: at(409, 'Documents of this type have only one revision.'),
  nothing_to_revise: at(409, 'There is no revision to revise yet.'),
  nothing_in_force: at(409, 'No revision is in force.'),
  already_in_force: at(409, (p) => `Revision ${p.label} is in force.`),
  nothing_withdrawn: at(409, 'The last released revision is not withdrawn.'),
  reason_missing: at(422, 'Enter a reason.', 'Reason'),
  comment_closed: at(409, 'This comment is already resolved.'),
  link_kind_wrong: at(422, (p) => `Choose a document; only a document can be linked as ${p.kind}.`, 'Link'),
  link_address_wrong: at(422, 'Enter a complete web address, such as https://standards.example/en-12929.', 'Address'),
  link_item_kind_unknown: at(
    422,
    (p) => `${p.kind} is no kind of item that this organisation uses. Choose one from its list.`,
    'Kind',
  ),
  link_item_wrong: at(422, 'Enter the code of the item.', 'Code'),
  link_self: at(422, 'A document cannot be linked to itself.'),
  link_there: at(409, 'This link already exists.'),
  link_nothing_in_force: at(409, 'No revision of that document has been in force yet, so the link cannot be pinned.'),
  version_is_last: at(409, 'The newest version of a revision cannot be removed.'),
  version_signed: at(409, 'This version has been signed and cannot be removed.'),
  comment_open: at(409, 'This comment is open.'),
  comment_answered: at(409, 'Somebody has replied. Resolve the comment instead.'),
  comment_empty: at(422, 'Enter a comment, or mark a place.', 'Comment'),
  mark_wrong: at(422, (p) => `This mark cannot be drawn: ${p.reason}.`),
  pdf_unreadable: at(422, 'No comments can be read from this PDF.', 'File'),
} satisfies Problems;
