import type { RefusalCode } from '@kanonos/core';

/** Words and status of every refusal. The one table for server (status, title, detail) and web (sentence). */

type Params = Record<string, string | number>;
type Words = string | ((p: Params, zone: string | undefined) => string);
type Problem = { status: number; words: Words; field?: string };

/** `field` is the label of the control beside which a form shows the sentence. */
const at = (status: number, words: Words, field?: string): Problem => ({ status, words, ...(field ? { field } : {}) });

/** An instant among the parameters, as local time of the organisation. */
const when = (value: string | number | undefined, zone: string | undefined) => {
  const text = String(value ?? '');
  const date = new Date(text);
  if (!/T/.test(text) || Number.isNaN(date.getTime())) return text;
  return date.toLocaleString('en-GB', {
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
    ...(zone ? { timeZone: zone } : {}),
  });
};

/** What was most likely meant, where something near is there. */
const meant = (p: Params) => (p.near ? ` (did you mean ${p.near}?)` : '');

const STATES: Record<string, string> = { 'none in work': 'no revision is in work' };

export const PROBLEMS = {
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

  // Signing in and passwords.
  not_signed_in: at(401, 'Please sign in.'),
  failed_work_gone: at(409, 'This work is no longer listed as failed. Reload the page.'),
  mail_not_failed: at(409, 'This mail has been sent or is being sent. There is nothing to send again.'),
  sign_in_wrong: at(
    401,
    'Check your sign-in name and password. If you have not set a password yet, use the link in the mail you received.',
  ),
  sign_in_slowed: at(429, (p) => `Too many failed attempts. Wait ${p.seconds} seconds and try again.`),
  password_weak: at(422, (p) => `Choose a stronger password: ${p.reason}.`, 'New password'),
  password_wrong: at(403, 'Check your current password.', 'Current password'),
  link_invalid: at(410, 'This link was already used or has expired. Ask an administrator for a new one.'),
  organisation_right_missing: at(403, (p) => `You need the right to ${p.right}.`),

  // People.
  sign_in_name_taken: at(
    409,
    (p) => `The sign-in name ${p.name} was already given. Sign-in names are never given twice; choose another one.`,
    'Sign-in name',
  ),
  sign_in_name_invalid: at(
    422,
    'Use 2 to 64 lower-case letters, digits, dots or hyphens. The name cannot start with system.',
    'Sign-in name',
  ),
  person_inactive: at(409, (p) => `${p.who} is deactivated.`),
  deputy_outside: at(
    422,
    (p) => `${p.who} belongs to an outside party. Choose a deputy from your own organisation.`,
    'Deputy',
  ),
  deputy_self: at(422, 'Choose somebody other than the absent person.', 'Deputy'),
  absence_days: at(422, 'The last day must not be before the first day.', 'Last day'),
  own_name: at(409, 'Your name is printed on your signatures, so another people administrator must change it.', 'Name'),
  own_account: at(409, 'You cannot do this to your own account.'),
  unit_unknown: at(422, (p) => `Choose an existing ${p.kind}.`),
  supervisor_circle: at(422, 'A person cannot be their own supervisor, directly or indirectly.', 'Supervisor'),
  membership_overlaps: at(
    409,
    'A person has one department and one supervisor on any day. End the present membership first.',
    'Memberships',
  ),

  // Registering, numbers, metadata and files.
  right_missing: at(403, (p) => `You need the right “${p.right}” here.`),
  type_retired: at(409, 'This type is retired. Choose another one.', 'Type'),
  type_not_yours: at(403, 'You may not register documents of this type.', 'Type'),
  title_invalid: at(422, (p) => `Enter another title: ${p.reason}.`, 'Title'),
  number_needs_field_value: at(422, (p) => `The numbering rule needs a value for “${p.token}”.`, 'Number'),
  number_too_long: at(422, (p) => `Numbers have at most ${p.limit} bytes.`, 'Number'),
  number_taken: at(409, (p) => `${p.number ?? 'This number'} is already taken.`, 'Number'),
  external_number_missing: at(422, 'Enter the external number; this type has no numbering rule.', 'Number'),
  external_number_pattern: at(422, (p) => `${p.number} does not match the pattern of this type.`, 'Number'),
  number_matches_own_rule: at(422, (p) => `${p.number} matches a numbering rule of the organisation.`, 'Number'),
  number_not_reserved: at(
    422,
    (p) => `${p.number} is not reserved for you. Leave the number empty; this type takes the next one by rule.`,
    'Number',
  ),
  number_is_external: at(422, 'This type has external numbers; there is no counter to reserve from.', 'Type'),
  counter_begun: at(409, (p) => `The counter of ${p.scope} has started and can no longer be set.`, 'Counter'),
  reservation_ended: at(409, 'This reservation has ended.'),
  label_given_by_supplier: at(422, 'Enter the supplier’s revision label.', 'Revision label'),
  label_not_of_scheme: at(
    422,
    (p) => `${p.label} does not belong to the revision scheme of this type.`,
    'Revision label',
  ),
  label_not_after_last: at(422, (p) => `${p.label} does not come after ${p.last}.`, 'Revision label'),
  label_taken: at(
    409,
    (p) => `${p.label ? `Revision ${p.label}` : 'This revision'} exists already in this document.`,
    'Revision label',
  ),
  scheme_without_stages: at(422, 'Enter at least one stage.', 'Revision scheme'),
  no_such_stage: at(422, 'Choose a stage of the revision scheme.', 'Stage'),
  stage_never_back: at(422, 'A revision cannot go back to an earlier stage.', 'Stage'),
  field_unknown: at(422, (p) => `This type has no field “${p.field}”.`),
  field_wrong_kind: at(422, (p) => `“${p.field}” must be ${p.wanted}.`),
  field_value_missing: at(409, (p) => `Enter a value for “${p.field}”.`),
  incoming_file_gone: at(409, (p) => `${p.name} is no longer waiting: somebody has registered it or set it aside.`),
  upload_unknown: at(422, 'This upload has expired or belongs to somebody else. Add the file again.', 'File'),
  shortcut_at_home: at(409, (p) => `${p.number} is filed in this folder already.`),
  step_after_approval: at(422, (p) => `Move “${p.step}” before the approval steps.`, 'Route'),
  step_asks_nobody: at(422, (p) => `Add at least one assignee to “${p.step}”.`, 'Route'),
  step_k_too_small: at(422, (p) => `At least one person must agree in “${p.step}”.`, 'Route'),
  step_days_invalid: at(422, (p) => `Enter whole working days for “${p.step}”.`, 'Route'),
  step_reject_not_earlier: at(
    422,
    (p) => `When “${p.step}” is rejected, it must go to the draft or to an earlier step.`,
    'Route',
  ),
  number_is_known: at(
    409,
    'A revision has left draft, so others know the document by this number. It can no longer be renumbered.',
    'Number',
  ),
  number_same: at(409, 'The document has this number already.', 'Number'),
  name_by_rule: at(409, 'The file is named by rule. Change the title, or the naming rule.', 'File name'),
  not_watched: at(409, 'The source of this document is not watched.', 'Source'),
  sharing_unknown: at(422, (p) => `${p.code} is not a status code of this type.`, 'Sharing'),
  replace_itself: at(422, 'Choose another document; a document cannot take its own content.', 'Content'),
  field_remind_wrong: at(
    422,
    (p) => `A reminder needs a date field, and the owner or a person field to notify (field “${p.field}”).`,
  ),
  logo_wrong: at(422, 'Choose a PNG or JPEG of at most 500 kB.', 'Logo'),
  group_rule_wrong: at(422, 'Choose a group and at least one department, site or role.', 'Groups'),
  outline_right_wrong: at(
    422,
    (p) => `Line ${p.line}: “${p.text}” does not grant rights. Write for example * group/AUTH author.`,
    'Outline',
  ),
  blueprint_unit_unknown: at(422, (p) => `There is no unit ${p.unit}.`, 'Outline'),
  blueprint_template_unknown: at(422, (p) => `Type ${p.type} has no template ${p.template}.`, 'Outline'),
  way_names_unknown: at(422, (p) => `The route names a ${p.what} that no longer exists. Choose another one.`, 'Route'),
  step_field_unknown: at(422, (p) => `${p.what} is not a person field of this type.`, 'Route'),
  sharing_code_twice: at(422, (p) => `The status code ${p.code} occurs twice.`, 'Sharing'),
  office_unreadable: at(422, 'This file cannot be read as an office file.', 'File'),
  template_kind: at(422, (p) => `${p.name} cannot hold metadata. Choose a docx, xlsx, odt or md file.`, 'File'),
  template_without_file: at(422, 'Add a file.', 'File'),
  template_name_taken: at(409, (p) => `This type already has a template ${p.name} in this language.`, 'Name'),
  template_unknown: at(422, 'Choose a template of this type that is not retired.', 'Template'),
  template_has_no_head: at(
    422,
    (p) => `A ${p.kind} file has no header and footer that could be applied to drafts.`,
    'Template',
  ),
  template_other_kind: at(409, (p) => `The header and footer of this template fit only ${p.kind} files.`, 'File'),
  address_invalid: at(422, (p) => `“${p.address}” is not a web address. Start it with https://.`, 'Address'),
  paper_without_place: at(422, 'Enter where the paper is kept.', 'Location'),
  title_language_invalid: at(
    422,
    (p) => `“${p.language}” is not a language code. Enter one such as de, fr or pt-BR.`,
    'Language',
  ),
  sheet_left_out: at(422, (p) => `Sheet ${p.sheet} is missing; number the sheets from 1 to ${p.of}.`, 'Sheet'),
  parent_unknown: at(422, (p) => `There is no document ${p.number} that you may see.`, 'Parent'),
  parent_in_circle: at(409, (p) => `${p.number} is a child of this document and cannot be its parent.`, 'Parent'),
  parent_in_number: at(
    409,
    (p) => `The number of this document is derived from ${p.number}. Renumber it to give it another parent.`,
    'Parent',
  ),
  content_altered: at(
    410,
    (p) =>
      `The stored content of ${p.name ?? 'this file'} has changed since it was filed (SHA-256 ${p.hash}…). It can be neither downloaded nor signed. The administrator has been notified and can restore it from a backup.`,
  ),
  file_too_hard: at(
    422,
    (p) => `This file cannot be displayed here. ${p.reason} Download it and open it in its own program.`,
  ),
  file_missing: at(422, 'Add a file.', 'File'),
  file_empty: at(422, 'The file is empty.', 'File'),
  file_too_large: at(413, (p) => `The file is too large; the limit is ${p.limit}.`, 'File'),
  file_executable: at(422, 'Programs cannot be filed.', 'File'),
  file_name_invalid: at(422, 'Rename the file; its name has no usable characters.', 'File'),
  disk_full: at(507, 'The disk for files is full. Nothing was stored; notify the administrator.'),
  content_missing: at(410, (p) => `The content of ${p.name ?? 'this file'} is missing from the store.`),
  cannot_be_shown: at(422, 'This file cannot be displayed; you can download it.'),

  // Configuration.
  nothing_changed: at(409, 'There are no changes to save.'),
  rule_ambiguous: at(
    409,
    (p) => `${p.number} could be read in two ways: as ${p.first}, or as ${p.second}.`,
    'Numbering rule',
  ),
  rule_planned_already: at(409, (p) => `A change is already planned for ${p.day}. Cancel it first.`),
  rule_brace_unmatched: at(422, (p) => `The brace at character ${p.at} is not closed.`, 'Numbering rule'),
  rule_token_unknown: at(
    422,
    (p) =>
      `{${p.token}} is not known. Use {type}, {area}, {department}, {year}, {month}, {field:…}, {parent} or {counter:4}.`,
    'Numbering rule',
  ),
  rule_without_counter: at(422, 'Add a counter, such as {counter:4}.', 'Numbering rule'),
  rule_with_two_counters: at(422, 'Use only one counter.', 'Numbering rule'),
  rule_token_twice: at(422, (p) => `{${p.token}} occurs twice.`, 'Numbering rule'),
  rule_per_not_in_rule: at(
    422,
    (p) => `The counter counts per ${p.token}, but the rule does not contain {${p.token}}.`,
    'Numbering rule',
  ),
  rule_field_unknown: at(422, (p) => `The type has no field for {${p.token}}.`, 'Numbering rule'),
  rule_field_free: at(422, (p) => `“${p.field}” must be a choice; free text could spell any number.`, 'Numbering rule'),
  rule_field_not_mandatory: at(
    422,
    (p) => `“${p.field}” must be required, because the number contains it.`,
    'Numbering rule',
  ),
  type_code_invalid: at(422, 'Use 1 to 12 letters, digits or hyphens.', 'Code'),
  type_code_taken: at(409, (p) => `Another type has ${p.code ? `the code ${p.code}` : 'this code'}.`, 'Code'),
  type_without_name: at(422, 'Enter a name.', 'Name'),
  type_number_source: at(422, 'Enter either a numbering rule or a pattern for external numbers, not both.', 'Numbers'),
  external_pattern_unreadable: at(
    422,
    (p) => `${p.pattern} is not a regular expression.`,
    'Pattern of external numbers',
  ),
  naming_brace_unmatched: at(422, 'A brace is not closed.', 'Naming rule'),
  naming_token_unknown: at(
    422,
    (p) => `{${p.token}} is not known. Use {number}, {revision}, {title}, {date}, {version}, {field:…} or {ext}.`,
    'Naming rule',
  ),
  naming_without_ext: at(422, 'End the rule with .{ext}.', 'Naming rule'),
  naming_says_nothing: at(422, 'Add {number} or {title}.', 'Naming rule'),
  scheme_width_invalid: at(422, 'Use 1 to 4 digits.', 'Revision scheme'),
  scheme_stage_twice: at(422, (p) => `The stage ${p.stage} occurs twice.`, 'Revision scheme'),
  scheme_stage_invalid: at(
    422,
    'Start a stage with up to 6 letters or hyphens, followed by 1 to 4 digits.',
    'Revision scheme',
  ),
  scheme_in_use: at(
    409,
    (p) => `${p.documents} documents have labels of this scheme; it can no longer change.`,
    'Revision scheme',
  ),
  review_months_invalid: at(422, (p) => `Enter 0 (never) to ${p.limit} months.`, 'Review'),
  fields_too_many: at(422, (p) => `A type has at most ${p.limit} fields.`, 'Fields'),
  field_without_label: at(422, (p) => `Enter a label for ${p.field}.`),
  field_key_invalid: at(
    422,
    (p) => `The key “${p.key}” must start with a lower-case letter and contain only letters and digits.`,
  ),
  field_key_reserved: at(422, (p) => `The key “${p.key}” is reserved for search. Choose another one.`),
  field_key_twice: at(422, (p) => `Another field has the key “${p.key}”.`),
  field_kind_unknown: at(422, (p) => `There is no field kind “${p.kind}”.`),
  field_kind_in_use: at(
    409,
    (p) => `Documents have values in “${p.field}”, so its kind “${p.kind}” cannot change. Add a new field instead.`,
  ),
  field_without_options: at(422, (p) => `Add options or a list to “${p.field}”.`),
  field_without_list: at(422, (p) => `Choose a look-up list for “${p.field}”.`),
  field_list_unknown: at(422, (p) => `There is no list “${p.list}”.`),
  field_pattern_unreadable: at(422, (p) => `The pattern ${p.pattern} is not a regular expression.`),
  field_depends_on_nothing: at(422, (p) => `“${p.field}” can depend only on a choice; ${p.on} is not one.`),
  field_depends_in_circle: at(422, (p) => `“${p.field}” depends on ${p.on}, which depends on “${p.field}”.`),
  field_fills_nothing: at(422, (p) => `“${p.field}” would fill “${p.key}”, which this type does not have.`),
  field_default_misfits: at(422, (p) => `The default value of “${p.field}” must be ${p.wanted}.`),
  option_code_invalid: at(422, (p) => `The option in line ${p.line} needs a code of 1 to 60 characters.`),
  option_code_twice: at(422, (p) => `The option ${p.option} occurs twice.`),
  option_under_unknown: at(422, (p) => `${p.option} refers to ${p.under}, which the parent list does not contain.`),
  option_in_use: at(409, (p) => `Documents use ${p.option}. Retire it instead of removing it.`),
  list_key_invalid: at(422, 'Start with a lower-case letter and use only letters and digits.', 'Key'),
  list_key_taken: at(409, 'Another list has this key.', 'Key'),
  list_depends_in_circle: at(422, (p) => `${p.list} depends on this list.`, 'Depends on'),
  list_depends_unknown: at(422, (p) => `There is no list “${p.list}”.`, 'Depends on'),
  zone_fixed: at(
    409,
    (p) => `Documents are registered and their dates were counted in ${p.zone}, so the time zone cannot change.`,
    'Time zone',
  ),
  holiday_twice: at(422, (p) => `${p.day} occurs twice.`, 'Holidays'),
  field_value_taken: at(409, (p) => `Another document has this value in “${p.field}”, which must be unique.`),
  entry_unknown: at(422, (p) => `${p.value} is not in the list of “${p.field}”.`),

  // Blueprints.
  blueprint_name_taken: at(409, 'Another blueprint has this name.', 'Name'),
  blueprint_type_unknown: at(422, (p) => `There is no type ${p.type} that can be registered in any folder.`, 'Outline'),
  outline_empty: at(422, 'Add at least one folder.', 'Outline'),
  outline_name_missing: at(422, (p) => `Line ${p.line} has no name.`, 'Outline'),
  outline_field_value_wrong: at(
    422,
    (p) => `Line ${p.line}: “${p.text}” is not a value such as client={client}.`,
    'Outline',
  ),
  outline_brace_wrong: at(422, (p) => `Line ${p.line}: a brace in “${p.text}” is not closed, or is empty.`, 'Outline'),
  outline_starter_alone: at(422, (p) => `Line ${p.line}: put the document inside a folder.`, 'Outline'),
  outline_starter_wrong: at(422, (p) => `Line ${p.line}: write a document as a plus, a type and a title.`, 'Outline'),
  outline_too_long: at(422, (p) => `A blueprint has at most ${p.limit} folders.`, 'Outline'),
  placeholder_missing: at(422, (p) => `Enter a value for ${p.key}.`),

  // Configuration packages.
  package_unreadable: at(422, (p) => `The configuration cannot be read: ${p.reason}.`, 'File'),
  package_unit_unknown: at(
    422,
    (p) => `The configuration names the unit ${p.unit}, which neither it nor the organisation has.`,
    'File',
  ),

  // Legacy import.
  table_kind_refused: at(422, (p) => `${p.kind} files cannot be read. Save the table as XLSX or CSV.`, 'File'),
  table_too_wide: at(422, (p) => `The table has ${p.columns} columns; the limit is ${p.limit}.`, 'File'),
  table_too_long: at(422, (p) => `The table has more than ${p.limit} lines.`, 'File'),
  table_empty: at(422, 'The table has no lines below its headings.', 'File'),
  table_unreadable: at(422, (p) => `The table cannot be read: ${p.reason}.`, 'File'),
  zip_unreadable: at(422, 'This zip cannot be read.', 'File'),
  zip_path: at(422, 'This zip contains names that lead outside it. Nothing was read.', 'File'),
  zip_bomb: at(422, 'This zip is far too large when unpacked. Nothing was read.', 'File'),
  zip_too_many: at(422, (p) => `A zip may contain at most ${p.limit} files.`, 'File'),
  import_state: at(409, (p) => `The import is ${p.state}.`),
  import_column_twice: at(422, (p) => `Two columns mean ${p.meaning}.`, 'Columns'),
  import_nothing_ready: at(409, 'No line is ready to be imported.'),
  import_no_number: at(422, 'The number is missing.', 'Number'),
  import_number_malformed: at(
    422,
    (p) => `The number ${p.number} does not match ${p.rule}; ${p.token} starts at character ${p.at}.`,
    'Number',
  ),
  import_external_number: at(
    422,
    (p) => `The number ${p.number} matches no numbering rule. Give the line a type with external numbers.`,
    'Number',
  ),
  import_number_of_type: at(422, (p) => `The number ${p.number} belongs to type ${p.type}.`, 'Number'),
  import_number_given: at(409, (p) => `The number ${p.number} is ${p.state}.`, 'Number'),
  import_above_counter: at(
    409,
    (p) => `The number ${p.number} is above ${p.last}, the last one given; only earlier numbers can be imported.`,
    'Number',
  ),
  import_twice: at(422, (p) => `Revision ${p.label} of this number occurs already in line ${p.line}.`),
  import_other_line: at(
    409,
    (p) => `Line ${p.line} of the same document is refused; a document is imported as a whole.`,
  ),
  import_no_type: at(422, 'The type is missing and does not follow from the number.', 'Type'),
  import_type_unknown: at(422, (p) => `There is no type ${p.type}${meant(p)}.`, 'Type'),
  import_not_allowed: at(
    409,
    (p) => `Type ${p.type} does not allow legacy import. Allow it in the type first.`,
    'Type',
  ),
  import_no_folder: at(422, 'The folder is missing. Choose one for lines without a folder.', 'Folder'),
  import_folder_unknown: at(422, (p) => `You do not manage a folder ${p.folder}${meant(p)}.`, 'Folder'),
  import_no_owner: at(422, 'The owner is missing. Choose one for lines without an owner.', 'Owner'),
  import_person_unknown: at(422, (p) => `There is no person called ${p.name}${meant(p)}.`, 'Owner'),
  import_date: at(422, (p) => `${p.value} is not a date, or is written in another order than the others.`, 'Date'),
  import_day_ahead: at(422, (p) => `${p.value} is in the future.`, 'Date'),
  import_days_order: at(422, (p) => `The revision ends on ${p.to}, before it starts on ${p.from}.`, 'Dates'),
  import_days_overlap: at(422, (p) => `Revision ${p.label} starts before ${p.before} ends on ${p.day}.`, 'Dates'),
  import_state_unknown: at(
    422,
    (p) => `The state ${p.state} is not known. Use draft, in force, superseded or withdrawn.`,
    'State',
  ),
  import_state_order: at(422, (p) => `Revision ${p.label} is ${p.state}, but ${p.next} comes after it.`, 'State'),
  import_last_superseded: at(422, (p) => `Revision ${p.label} is superseded, but there is no later revision.`, 'State'),
  import_no_end: at(422, (p) => `Enter when ${p.label} was withdrawn.`, 'Dates'),
  import_no_from: at(422, 'Enter the date from which it is in force.', 'Dates'),
  import_no_label: at(422, 'The revision is missing, and the number has several.', 'Revision'),
  import_label_taken: at(409, (p) => `The revision is missing, and ${p.label} is taken.`, 'Revision'),
  import_period_unknown: at(409, 'The period in force is unknown; the revision is imported without one.', 'Dates'),
  import_no_title: at(422, 'The title is missing.', 'Title'),
  import_no_file: at(422, 'The file is missing.', 'File'),
  import_file_several: at(
    422,
    (p) => `Several files are called ${p.name} (“${p.paths}”). Enter the name with its folder.`,
    'File',
  ),
  import_file_missing: at(422, (p) => `${p.name} is not among the uploaded files${meant(p)}.`, 'File'),

  // Filing plan.
  folder_name_invalid: at(422, 'Use 1 to 80 characters without / \\ < > : " | ? *.', 'Name'),
  folder_name_taken: at(
    409,
    (p) => `There is already a folder ${p.name ? `“${p.name}”` : 'with this name'} here.`,
    'Name',
  ),
  folder_in_itself: at(409, 'A folder cannot be moved into itself.', 'Folder'),
  folder_too_deep: at(422, (p) => `The filing plan has at most ${p.limit} levels.`, 'Folder'),
  folder_state_move: at(409, (p) => `A folder that is ${p.from} cannot become ${p.to}.`, 'State'),
  folder_has_work: at(
    409,
    (p) =>
      `${p.count} ${Number(p.count) === 1 ? 'document' : 'documents'} in this folder ${Number(p.count) === 1 ? 'is' : 'are'} in work or scheduled. Complete or move ${Number(p.count) === 1 ? 'it' : 'them'} first.`,
    'State',
  ),
  folder_shut: at(409, (p) => `The folder ${p.folder} is ${p.state}. Reopen it to change anything in it.`),
  folder_not_empty: at(409, 'The folder is not empty.'),
  area_code_invalid: at(422, 'Use 1 to 8 letters or digits. Only areas have a code.', 'Code'),
  area_code_taken: at(409, 'Another area has this code.', 'Code'),
  filing_brace_unmatched: at(422, 'A brace is not closed.', 'Filing rule'),
  filing_part_empty: at(422, 'A folder in the rule has no name.', 'Filing rule'),
  filing_area_fixed: at(422, 'Start the rule with the name of an area, not with a token.', 'Filing rule'),
  filing_token_unknown: at(
    422,
    (p) => `{${p.token}} is not known. Use {type}, {name}, {family}, {group}, {year} or {field:…}.`,
    'Filing rule',
  ),
  filing_in_circle: at(
    422,
    (p) => `“${p.field}” takes its value from the folder, so it cannot decide which folder that is.`,
    'Filing rule',
  ),
  filing_needs_field_value: at(422, (p) => `Enter a value for “${p.field}”; it decides the folder.`),
  filing_area_missing: at(409, (p) => `There is no area “${p.name}”.`, 'Filing rule'),

  // Many documents at once.
  bulk_nothing: at(422, 'Choose what to change.', 'What to change'),
  bulk_too_many: at(422, (p) => `At most ${p.limit} documents can be changed at once. Narrow the selection.`),
  field_is_revision_level: at(409, (p) => `“${p.field}” is a revision field; it changes only with a new revision.`),
  field_is_unique: at(409, (p) => `“${p.field}” must be unique; enter it for each document.`),
  right_missing_in_folder: at(403, (p) => `You need the right “${p.right}” in that folder.`, 'Folder'),

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
  note_missing: at(422, 'Enter a change note.', 'Note'),
  wrong_state: at(409, (p) => `This is not possible now: ${STATES[String(p.state)] ?? `the revision is ${p.state}`}.`),
  original_missing: at(409, 'There is no original file. Add one.'),
  revision_in_work: at(409, (p) => `Revision ${p.label} is already in work (${p.state}).`),
  revision_scheduled: at(409, (p) => `Revision ${p.label} is scheduled for ${p.day}. Reopen or release it first.`),
  withdrawal_planned: at(409, (p) => `Its withdrawal is planned for ${p.day}. Cancel it first.`),
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

  // Routes, decisions, signatures.
  route_missing: at(409, 'This type has no route yet.'),
  step_unfilled: at(409, (p) => `Nobody can be found for the step “${p.step}”.`),
  step_too_few_chosen: at(422, (p) => `Choose at least ${p.minimum} for “${p.step}”.`),
  step_k_greater_than_people: at(409, (p) => `“${p.step}” needs ${p.k} decisions but has only ${p.people} assignees.`),
  round_ended: at(409, 'This round has ended.'),
  not_your_turn: at(409, 'It is not your turn yet; somebody else decides before you.'),
  already_decided: at(409, (p) => (p.who ? `${p.who} has already decided.` : 'This has already been decided.')),
  decision_not_needed: at(409, 'This decision is no longer needed.'),
  decision_not_offered: at(422, (p) => `The decision “${p.decision}” is not available in this step.`, 'Decision'),
  rejection_needs_comment: at(422, 'Enter a comment that tells the author why you reject it.', 'Comment'),
  comment_missing: at(422, 'Enter your comments, or write them beside the text.', 'Comment'),
  counts_once_in_step: at(409, 'A person counts only once in a step.'),
  signs_one_step_only: at(409, 'You have already signed in this round; a person signs at most one approval step.'),
  deputy_has_signed: at(409, 'You have already signed in this round and cannot also sign as a deputy.'),
  deputy_is_author: at(409, 'An author of the revision cannot sign as a deputy.'),
  only_approver_of_own_work: at(
    409,
    'You are an author of this revision and would be its only approver. Somebody else must approve it too.',
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
  reading_closed: at(409, (p) => `This reading is ${p.state}.`),
  reading_not_in_force: at(409, 'It cannot be signed before it comes into force.'),
  nobody_overdue: at(409, 'No readings are overdue.'),

  // Search and lists.
  search_field_unknown: at(422, (p) => `There is no search field “${p.field}” (character ${p.at}).`, 'Search'),
  search_value_missing: at(422, (p) => `Enter a value after ${p.field} (character ${p.at}).`, 'Search'),
  search_not_comparable: at(422, (p) => `${p.field} cannot be compared with >= or <= (character ${p.at}).`, 'Search'),
  search_date_invalid: at(422, (p) => `${p.value} is not a date such as 2026-11-25 (character ${p.at}).`, 'Search'),
  search_number_invalid: at(422, (p) => `${p.value} is not a number (character ${p.at}).`, 'Search'),
  search_quote_open: at(422, (p) => `The quotation mark at character ${p.at} is not closed.`, 'Search'),
  cursor_invalid: at(422, 'This cursor does not belong to this list.', 'Cursor'),
} as const satisfies Record<RefusalCode, Problem>;

export type ProblemCode = RefusalCode;

/** The status of a code; an unknown code is a bug and answers 500. */
export const statusOf = (code: string): number => (PROBLEMS as Record<string, Problem>)[code]?.status ?? 500;

/** The field that a refusal is about, by its label on the form: named by the refusal itself, or always the same. */
export const fieldOf = (code: string, params: Params = {}): string | undefined =>
  typeof params.field === 'string' ? params.field : (PROBLEMS as Record<string, Problem>)[code]?.field;

/** The sentence of a refusal: what is wrong and what would be right, times in the organisation's zone. */
export const sentenceOf = (code: string, params: Params = {}, zone?: string): string => {
  const words = (PROBLEMS as Record<string, Problem>)[code]?.words;
  if (words === undefined) return code;
  return typeof words === 'function' ? words(params, zone) : words;
};
