/** Words and status of every refusal. The one table for server (status, title, detail) and web (sentence). */

type Params = Record<string, string | number>;
type Words = string | ((p: Params, zone: string | undefined) => string);
type Problem = { status: number; words: Words };

const at = (status: number, words: Words): Problem => ({ status, words });

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
const meant = (p: Params) => (p.near ? `; ${p.near} is near` : '');

const STATES: Record<string, string> = { 'none in work': 'no revision is in work' };

export const PROBLEMS = {
  // What came in.
  body_too_slow: at(
    408,
    'The request came in too slowly and was ended. Send it again; a file is taken as long as it goes on.',
  ),
  body_malformed: at(400, (p) => `The request is not readable: ${p.reason}.`),
  input_invalid: at(422, (p) => `${p.field}: ${p.reason}.`),
  not_found: at(404, 'There is nothing here, or nothing that you may see.'),
  method_unknown: at(405, (p) => `This address does not answer to ${p.method}.`),
  origin_refused: at(403, 'This request came from another site and was refused.'),
  media_type_refused: at(415, (p) => `The body must be ${p.wanted}.`),
  too_large: at(413, (p) => `At most ${p.limit} are taken; this is larger.`),
  saved_elsewhere: at(
    409,
    'This text was saved meanwhile in another window or by a program on the network drive. Take what is there, or keep yours over it.',
  ),
  locked_meanwhile: at(409, 'Somebody else locked this at the same moment. Try again when the lock has ended.'),
  name_taken_meanwhile: at(
    409,
    'Something of that name was put there at the same moment. Choose another name, or try again.',
  ),
  changed_meanwhile: at(409, 'Somebody else changed this meanwhile. Look at what changed and try again.'),
  key_used_otherwise: at(409, 'This idempotency key was used for another request.'),
  internal: at(500, 'Something went wrong on our side. Nothing was changed.'),
  not_ready: at(503, 'Kanonos cannot reach what it needs for this. Try again in a moment.'),

  // Signing in and passwords.
  not_signed_in: at(401, 'Please sign in.'),
  failed_work_gone: at(409, 'This is no longer set aside. Reload the page to see what is.'),
  mail_not_failed: at(409, 'This mail was sent, or is being sent. There is nothing to send again.'),
  sign_in_wrong: at(
    401,
    'Check your sign-in name and password. If you have not set a password yet, use the link in the mail that you got.',
  ),
  sign_in_slowed: at(429, (p) => `Too many wrong tries. Wait ${p.seconds} seconds and try again.`),
  password_weak: at(422, (p) => `Password: ${p.reason}.`),
  password_wrong: at(403, 'The present password is not right.'),
  link_invalid: at(410, 'This link was used, has run out, or never was. Ask an administrator for a new one.'),
  organisation_right_missing: at(403, (p) => `This needs the right to ${p.right}.`),

  // People.
  sign_in_name_taken: at(
    409,
    (p) => `Sign-in name: ${p.name} was given before, and a sign-in name is never given twice.`,
  ),
  sign_in_name_invalid: at(
    422,
    'Sign-in name: 2 to 64 small letters, digits, dots or hyphens; it may not begin with system.',
  ),
  person_inactive: at(409, (p) => `${p.who} is deactivated.`),
  deputy_outside: at(422, (p) => `${p.who} belongs to an outside party. Choose a deputy from your own organisation.`),
  deputy_self: at(422, 'Deputy: somebody else than the absent person.'),
  absence_days: at(422, 'Absence: the last day must not lie before the first.'),
  own_name: at(
    409,
    'Your own name is kept by somebody else who keeps people, because it is printed on your signatures.',
  ),
  own_account: at(409, 'You cannot do this to your own account.'),
  unit_unknown: at(422, (p) => `${p.field}: no such ${p.kind}.`),
  supervisor_circle: at(422, 'Supervisor: nobody can be above themselves.'),
  membership_overlaps: at(409, 'Memberships: a person has one department and one supervisor on any day.'),

  // Registering, numbers, metadata and files.
  right_missing: at(403, (p) => `This needs the right "${p.right}" here.`),
  type_retired: at(409, 'Type: this type is retired.'),
  type_not_yours: at(403, 'Type: you may not register this type.'),
  title_invalid: at(422, (p) => `Title: ${p.reason}.`),
  number_needs_field_value: at(422, (p) => `Number: the rule needs the field "${p.token}", which is missing.`),
  number_too_long: at(422, (p) => `Number: at most ${p.limit} bytes.`),
  number_taken: at(409, (p) => `Number: ${p.number ?? 'this number'} is taken.`),
  external_number_missing: at(422, 'Number: this type takes the number of its maker; please give it.'),
  external_number_pattern: at(422, (p) => `Number: ${p.number} does not fit the pattern of this type.`),
  number_matches_own_rule: at(422, (p) => `Number: ${p.number} reads like a number of the organisation.`),
  number_not_reserved: at(
    422,
    (p) => `Number: ${p.number} is not reserved for you here. This type gets its number by rule; leave it out.`,
  ),
  number_is_external: at(422, 'Type: its numbers come from outside; there is no counter to reserve from.'),
  counter_begun: at(409, (p) => `Counter: ${p.scope} has begun to count; it can no longer be set.`),
  reservation_ended: at(409, 'This reservation has ended.'),
  label_given_by_supplier: at(422, 'Revision label: this type bears the label of its maker; please give it.'),
  label_not_of_scheme: at(422, (p) => `Revision label: ${p.label} does not belong to the scheme of this type.`),
  label_not_after_last: at(422, (p) => `Revision label: ${p.label} does not come after ${p.last}.`),
  label_taken: at(409, (p) => `Revision label: ${p.label ?? 'this label'} is already borne in this document.`),
  scheme_without_stages: at(422, 'Revision scheme: no stages are laid down.'),
  no_such_stage: at(422, 'Stage: no such stage.'),
  stage_never_back: at(422, 'Stage: a label never goes back to an earlier stage.'),
  field_unknown: at(422, (p) => `${p.field}: this type has no such field.`),
  field_wrong_kind: at(422, (p) => `${p.field}: ${p.wanted} would be right.`),
  field_value_missing: at(409, (p) => `${p.field} has no value yet and is mandatory.`),
  incoming_file_gone: at(409, (p) => `${p.name} does not wait any more; somebody has filed it or set it aside.`),
  upload_unknown: at(422, 'File: this upload is not known or was not yours; please drop the file again.'),
  shortcut_at_home: at(409, (p) => `${p.number} is filed in this folder itself.`),
  step_after_approval: at(422, (p) => `Route: ${p.step} stands behind an approval; such steps come before it.`),
  step_asks_nobody: at(422, (p) => `Route: ${p.step} asks nobody.`),
  step_k_too_small: at(422, (p) => `Route: in ${p.step} at least one must agree.`),
  step_days_invalid: at(422, (p) => `Route: the working days of ${p.step} are a whole number.`),
  step_reject_not_earlier: at(422, (p) => `Route: a rejection in ${p.step} leads to the draft or to an earlier step.`),
  number_is_known: at(409, 'Number: a revision has left draft, and others know it by this number.'),
  number_same: at(409, 'Number: it bears this number already.'),
  name_by_rule: at(409, 'File name: it follows the naming rule; change the title, or the rule.'),
  not_watched: at(409, 'Source: this document is not one from outside that is watched.'),
  sharing_unknown: at(422, (p) => `Sharing: ${p.code} is not a code of this type.`),
  replace_itself: at(422, 'Content: a document cannot take its content from itself.'),
  field_remind_wrong: at(
    422,
    (p) => `${p.field}: a reminder needs a day field, and the owner or a person field to go to.`,
  ),
  logo_wrong: at(422, 'Logo: a PNG or JPEG of at most 500 kB would be right.'),
  group_rule_wrong: at(422, 'Groups: a rule names a group and at least one department, site or role.'),
  outline_right_wrong: at(
    422,
    (p) => `Outline, line ${p.line}: “${p.text}” gives no right; * group/AUTH author would be right.`,
  ),
  blueprint_unit_unknown: at(422, (p) => `Outline: there is no unit ${p.unit}.`),
  blueprint_template_unknown: at(422, (p) => `Outline: type ${p.type} has no template ${p.template}.`),
  way_names_unknown: at(422, (p) => `Route: it names a ${p.what} that there is not, or who has left.`),
  step_field_unknown: at(422, (p) => `Route: ${p.what} is not a person field of this type.`),
  sharing_code_twice: at(422, (p) => `Sharing: code ${p.code} is there twice.`),
  office_unreadable: at(422, 'File: it cannot be read as an office file.'),
  template_kind: at(422, (p) => `File: ${p.name} cannot hold metadata; a docx, xlsx, odt or md file would be right.`),
  template_without_file: at(422, 'File: a template needs its file.'),
  template_name_taken: at(409, (p) => `Name: the type has a template ${p.name} in this language.`),
  template_unknown: at(422, 'Template: it is not one of this type, or it is retired.'),
  template_has_no_head: at(422, (p) => `Template: a file of kind ${p.kind} has no head and foot to bring onto others.`),
  template_other_kind: at(409, (p) => `File: only a ${p.kind} file can take head and foot of this template.`),
  address_invalid: at(422, (p) => `Address: “${p.address}” is none; one that begins with https:// would be right.`),
  paper_without_place: at(422, 'Place: say where the paper is kept.'),
  title_language_invalid: at(
    422,
    (p) => `Language: “${p.language}” is no language tag; de, fr or pt-BR would be right.`,
  ),
  sheet_left_out: at(422, (p) => `Sheet: sheet ${p.sheet} is missing; sheets count from 1 to ${p.of}.`),
  parent_unknown: at(422, (p) => `Parent: ${p.number} is not a document that you may see.`),
  parent_in_circle: at(409, (p) => `Parent: ${p.number} stands under this document itself.`),
  parent_in_number: at(
    409,
    (p) => `Parent: the number of this document stands under ${p.number}; renumber it to put it elsewhere.`,
  ),
  content_altered: at(
    410,
    (p) =>
      `The stored bytes of ${p.name ?? 'this file'} are no longer those that were filed (SHA-256 ${p.hash}…). Nothing of it is handed out or signed. The administrator has been told and can restore it from a backup.`,
  ),
  file_too_hard: at(
    422,
    (p) => `This file cannot be read here. ${p.reason} Download it and open it in its own program.`,
  ),
  file_missing: at(422, 'File: none was sent.'),
  file_empty: at(422, 'File: it is empty.'),
  file_too_large: at(413, (p) => `File: at most ${p.limit}; this one is larger.`),
  file_executable: at(422, 'File: programs are not taken.'),
  file_name_invalid: at(422, 'File: the name has no usable character.'),
  disk_full: at(507, 'The disk for files is full. Nothing was stored; tell the administrator.'),
  content_missing: at(410, (p) => `The bytes of ${p.name ?? 'this file'} are not in the store.`),
  cannot_be_shown: at(422, 'This file cannot be shown; it can be downloaded as it is.'),

  // Configuration.
  nothing_changed: at(409, 'Nothing is different from what holds now.'),
  rule_ambiguous: at(
    409,
    (p) => `Numbering rule: ${p.number} could be read in two ways: as ${p.first}, or as ${p.second}.`,
  ),
  rule_planned_already: at(409, (p) => `A change is already planned for ${p.day}; drop it first.`),
  rule_brace_unmatched: at(422, (p) => `Numbering rule: the brace at character ${p.at} has no partner.`),
  rule_token_unknown: at(
    422,
    (p) =>
      `Numbering rule: {${p.token}} is not known; {type}, {area}, {department}, {year}, {month}, {field:…}, {parent} and {counter:4} are.`,
  ),
  rule_without_counter: at(422, 'Numbering rule: a counter is missing, such as {counter:4}.'),
  rule_with_two_counters: at(422, 'Numbering rule: only one counter can stand in it.'),
  rule_token_twice: at(422, (p) => `Numbering rule: {${p.token}} stands in it twice.`),
  rule_per_not_in_rule: at(
    422,
    (p) => `Numbering rule: it counts per ${p.token}, and ${p.token} does not stand in the rule.`,
  ),
  rule_field_unknown: at(422, (p) => `Numbering rule: the type has no field for {${p.token}}.`),
  rule_field_free: at(422, (p) => `Numbering rule: ${p.field} must be one choice; other texts could spell any number.`),
  rule_field_not_mandatory: at(422, (p) => `Numbering rule: ${p.field} must be mandatory, for the number needs it.`),
  type_code_invalid: at(422, 'Code: 1 to 12 letters, digits or hyphens.'),
  type_code_taken: at(409, (p) => `Code: ${p.code ?? 'this code'} is that of another type.`),
  type_without_name: at(422, 'Name: please give one.'),
  type_number_source: at(422, 'Numbers: either a numbering rule or a pattern for numbers from outside, not both.'),
  external_pattern_unreadable: at(422, (p) => `Pattern of outside numbers: ${p.pattern} is no regular expression.`),
  naming_brace_unmatched: at(422, 'Naming rule: a brace has no partner.'),
  naming_token_unknown: at(
    422,
    (p) =>
      `Naming rule: {${p.token}} is not known; {number}, {revision}, {title}, {date}, {version}, {field:…} and {ext} are.`,
  ),
  naming_without_ext: at(422, 'Naming rule: it must end in .{ext}.'),
  naming_says_nothing: at(422, 'Naming rule: {number} or {title} must stand in it.'),
  scheme_width_invalid: at(422, 'Revision scheme: 1 to 4 digits.'),
  scheme_stage_twice: at(422, (p) => `Revision scheme: the stage ${p.stage} stands in it twice.`),
  scheme_stage_invalid: at(
    422,
    'Revision scheme: a stage begins with up to 6 letters or hyphens and has 1 to 4 digits.',
  ),
  scheme_in_use: at(409, (p) => `Revision scheme: ${p.documents} documents bear its labels; it can no longer change.`),
  review_months_invalid: at(422, (p) => `Review: 0 (never) to ${p.limit} months.`),
  fields_too_many: at(422, (p) => `Fields: at most ${p.limit}.`),
  field_without_label: at(422, (p) => `${p.field}: a label is missing.`),
  field_key_invalid: at(
    422,
    (p) => `${p.field}: the key "${p.key}" must begin with a small letter and have letters and digits only.`,
  ),
  field_key_reserved: at(422, (p) => `${p.field}: the key "${p.key}" already means something in search.`),
  field_key_twice: at(422, (p) => `${p.field}: another field has the key "${p.key}".`),
  field_kind_unknown: at(422, (p) => `${p.field}: there is no kind "${p.kind}".`),
  field_kind_in_use: at(
    409,
    (p) => `${p.field}: documents have values of the kind "${p.kind}"; make a new field instead.`,
  ),
  field_without_options: at(422, (p) => `${p.field}: a choice needs options or a list.`),
  field_without_list: at(422, (p) => `${p.field}: an entry needs a look-up list.`),
  field_list_unknown: at(422, (p) => `${p.field}: there is no list "${p.list}".`),
  field_pattern_unreadable: at(422, (p) => `${p.field}: the pattern ${p.pattern} is no regular expression.`),
  field_depends_on_nothing: at(422, (p) => `${p.field}: it can depend on a choice only; ${p.on} is none.`),
  field_depends_in_circle: at(422, (p) => `${p.field}: it depends on ${p.on}, which depends on it.`),
  field_fills_nothing: at(422, (p) => `${p.field}: it would fill "${p.key}", which this type does not have.`),
  field_default_misfits: at(422, (p) => `${p.field}: its first value does not fit; ${p.wanted} would be right.`),
  option_code_invalid: at(422, (p) => `${p.field}: the option in line ${p.line} needs a code of 1 to 60 characters.`),
  option_code_twice: at(422, (p) => `${p.field}: the option ${p.option} stands in it twice.`),
  option_under_unknown: at(422, (p) => `${p.option}: it stands under ${p.under}, which the list above does not have.`),
  option_in_use: at(409, (p) => `${p.option}: documents bear it; retire it instead of taking it away.`),
  list_key_invalid: at(422, 'Key: begins with a small letter and has letters and digits only.'),
  list_key_taken: at(409, 'Key: another list has it.'),
  list_depends_in_circle: at(422, (p) => `Depends on: ${p.list} depends on this list.`),
  list_depends_unknown: at(422, (p) => `Depends on: there is no list "${p.list}".`),
  zone_fixed: at(
    409,
    (p) => `Time zone: documents are registered, and their days were counted in ${p.zone}. It stays as it is.`,
  ),
  holiday_twice: at(422, (p) => `Holidays: ${p.day} stands in the list twice.`),
  field_value_taken: at(409, (p) => `${p.field}: this value is taken, and it must be unique.`),
  entry_unknown: at(422, (p) => `${p.field}: ${p.value} is not in the list.`),

  // Blueprints.
  blueprint_name_taken: at(409, 'Name: another blueprint has it.'),
  blueprint_type_unknown: at(
    422,
    (p) => `Outline: there is no type ${p.type} that could be registered in a folder of choice.`,
  ),
  outline_empty: at(422, 'Outline: it has no folder.'),
  outline_name_missing: at(422, (p) => `Outline: line ${p.line} has no name.`),
  outline_field_value_wrong: at(
    422,
    (p) => `Outline: line ${p.line}: "${p.text}" is no field such as client={client}.`,
  ),
  outline_brace_wrong: at(
    422,
    (p) => `Outline: line ${p.line}: a brace of "${p.text}" has no partner, or holds no word.`,
  ),
  outline_starter_alone: at(422, (p) => `Outline: line ${p.line}: a document stands in a folder.`),
  outline_starter_wrong: at(422, (p) => `Outline: line ${p.line}: a document is a plus, a type and a title.`),
  outline_too_long: at(422, (p) => `Outline: at most ${p.limit} folders.`),
  placeholder_missing: at(422, (p) => `${p.key}: it needs a value.`),

  // Packages of rules.
  package_unreadable: at(422, (p) => `Package: ${p.reason}.`),
  package_unit_unknown: at(
    422,
    (p) => `Package: it names the unit ${p.unit}, which it does not bring and the organisation does not have.`,
  ),

  // Taking over old stock.
  table_kind_refused: at(422, (p) => `File: ${p.kind} is not taken; save it as XLSX or CSV.`),
  table_too_wide: at(422, (p) => `File: ${p.columns} columns; at most ${p.limit} are taken.`),
  table_too_long: at(422, (p) => `File: at most ${p.limit} lines.`),
  table_empty: at(422, 'File: it has no lines below its headings.'),
  table_unreadable: at(422, (p) => `File: it cannot be read: ${p.reason}.`),
  zip_unreadable: at(422, 'File: this zip cannot be read.'),
  zip_path: at(422, 'File: this zip has names that lead out of it; nothing of it was taken.'),
  zip_bomb: at(422, 'File: this zip grows beyond all measure when it is unpacked; nothing of it was taken.'),
  zip_too_many: at(422, (p) => `File: at most ${p.limit} files in a zip.`),
  import_state: at(409, (p) => `The import is ${p.state}.`),
  import_column_twice: at(422, (p) => `Columns: two of them mean ${p.meaning}.`),
  import_nothing_ready: at(409, 'No line is ready to be taken over.'),
  import_no_number: at(422, 'Number: it is empty.'),
  import_number_malformed: at(
    422,
    (p) => `Number: ${p.number} does not fit ${p.rule}; ${p.token} begins at character ${p.at}.`,
  ),
  import_external_number: at(
    422,
    (p) => `Number: ${p.number} fits no rule of the organisation; give it a type with outside numbers.`,
  ),
  import_number_of_type: at(422, (p) => `Number: ${p.number} is one of type ${p.type}.`),
  import_number_given: at(409, (p) => `Number: ${p.number} is ${p.state}.`),
  import_above_counter: at(
    409,
    (p) =>
      `Number: ${p.number} lies above ${p.last}, the last one given; only numbers from before the organisation come in so.`,
  ),
  import_twice: at(422, (p) => `Revision ${p.label} of this number is in line ${p.line} already.`),
  import_other_line: at(409, (p) => `Line ${p.line} of the same document is refused; it comes in whole or not at all.`),
  import_no_type: at(422, 'Type: it is empty, and the number does not say it.'),
  import_type_unknown: at(422, (p) => `Type: there is no ${p.type}${meant(p)}.`),
  import_not_allowed: at(409, (p) => `Type: ${p.type} takes over no old stock; its rule would have to allow it.`),
  import_no_folder: at(422, 'Folder: it is empty; choose one for lines that name none.'),
  import_folder_unknown: at(422, (p) => `Folder: you manage no folder ${p.folder}${meant(p)}.`),
  import_no_owner: at(422, 'Owner: it is empty; choose one for lines that name none.'),
  import_person_unknown: at(422, (p) => `Owner: there is nobody called ${p.name}${meant(p)}.`),
  import_date: at(422, (p) => `Date: ${p.value} is none, or is written in another order than the others.`),
  import_day_ahead: at(422, (p) => `Date: ${p.value} has not come yet.`),
  import_days_order: at(422, (p) => `Dates: it ends on ${p.to} and begins on ${p.from}.`),
  import_days_overlap: at(422, (p) => `Dates: ${p.label} begins before ${p.before} ends on ${p.day}.`),
  import_state_unknown: at(
    422,
    (p) => `State: ${p.state} is not known; draft, in force, superseded and withdrawn are.`,
  ),
  import_state_order: at(422, (p) => `State: ${p.label} is ${p.state}, and ${p.next} comes after it.`),
  import_last_superseded: at(422, (p) => `State: ${p.label} is superseded, and no later revision is there.`),
  import_no_end: at(422, (p) => `Dates: say when ${p.label} was withdrawn.`),
  import_no_from: at(422, 'Dates: say from which day it is in force.'),
  import_no_label: at(422, 'Revision: it is empty, and the number has several.'),
  import_label_taken: at(409, (p) => `Revision: it is empty; ${p.label} is taken.`),
  import_period_unknown: at(409, 'Dates: when it was in force is not said; it is kept without a period.'),
  import_no_title: at(422, 'Title: it is empty.'),
  import_no_file: at(422, 'File: it is empty.'),
  import_file_several: at(
    422,
    (p) => `File: several files are called ${p.name} ("${p.paths}"). Name the one with its folder.`,
  ),
  import_file_missing: at(422, (p) => `File: ${p.name} is not among the files${meant(p)}.`),

  // Filing plan.
  folder_name_invalid: at(422, 'Name: 1 to 80 characters, none of / \\ < > : " | ? *.'),
  folder_name_taken: at(409, (p) => `Name: ${p.name ? `"${p.name}"` : 'this name'} is there already.`),
  folder_in_itself: at(409, 'Folder: it cannot stand in itself.'),
  folder_too_deep: at(422, (p) => `Folder: at most ${p.limit} folders below one another.`),
  folder_state_move: at(409, (p) => `State: from "${p.from}" it cannot become "${p.to}".`),
  folder_has_work: at(
    409,
    (p) => `State: ${p.count} ${Number(p.count) === 1 ? 'document is' : 'documents are'} under way or scheduled in it.`,
  ),
  folder_shut: at(409, (p) => `The folder ${p.folder} is ${p.state}; nothing in it changes until it is reopened.`),
  folder_not_empty: at(409, 'The folder is not empty.'),
  area_code_invalid: at(422, 'Code: 1 to 8 letters or digits; only areas have one.'),
  area_code_taken: at(409, 'Code: another area has it.'),
  filing_brace_unmatched: at(422, 'Filing rule: a brace has no partner.'),
  filing_part_empty: at(422, 'Filing rule: a folder would have no name.'),
  filing_area_fixed: at(422, 'Filing rule: it begins with the name of an area, not with a token.'),
  filing_token_unknown: at(
    422,
    (p) => `Filing rule: {${p.token}} is not known; {type}, {name}, {family}, {group}, {year} and {field:…} are.`,
  ),
  filing_in_circle: at(422, (p) => `Filing rule: ${p.field} comes from the folder and cannot say which folder it is.`),
  filing_needs_field_value: at(422, (p) => `${p.field} says where it is filed; it needs a value.`),
  filing_area_missing: at(409, (p) => `Filing rule: there is no area "${p.name}".`),

  // Many documents at once.
  bulk_nothing: at(422, 'Change: say what is to change.'),
  bulk_too_many: at(422, (p) => `Documents: at most ${p.limit} at once; narrow it down.`),
  field_is_revision_level: at(409, (p) => `${p.field} is signed; it changes with a revision only.`),
  field_is_unique: at(409, (p) => `${p.field} must be unique; it is given document by document.`),
  right_missing_in_folder: at(403, (p) => `Folder: this needs the right "${p.right}" there.`),

  // Authoring.
  document_removed: at(409, 'This document was removed.'),
  not_removed: at(409, 'It is not removed.'),
  was_in_force: at(409, 'It was in force; what was ever in force is withdrawn, never removed.'),
  checked_out: at(409, (p, zone) => `${p.who} has it checked out since ${when(p.since, zone)}.`),
  checked_out_by_you: at(409, (p, zone) => `You have it checked out since ${when(p.since, zone)}.`),
  type_not_said: at(422, 'Of which type it is follows neither from its name nor from its folder; say it.'),
  not_checked_out: at(409, 'It is not checked out.'),
  same_content: at(
    409,
    (p) => `The file is the same as version ${p.n}. Say that you mean it, or give up the check-out.`,
  ),
  note_missing: at(422, 'Note: say in a few words what changed.'),
  wrong_state: at(409, (p) => `Not possible now: ${STATES[String(p.state)] ?? `the revision is ${p.state}`}.`),
  original_missing: at(409, 'There is no original file.'),
  revision_in_work: at(409, (p) => `Revision ${p.label} is already in work (${p.state}).`),
  revision_scheduled: at(409, (p) => `Revision ${p.label} is scheduled for ${p.day}; reopen it or hasten it first.`),
  withdrawal_planned: at(409, (p) => `Its withdrawal is planned for ${p.day}.`),
  no_withdrawal_planned: at(409, 'No withdrawal is planned.'),
  scheme_has_one_revision: at(409, 'A document of this type has one revision only.'),
  nothing_to_revise: at(409, 'There is nothing to revise yet.'),
  nothing_in_force: at(409, 'Nothing is in force.'),
  already_in_force: at(409, (p) => `Revision ${p.label} is in force.`),
  nothing_withdrawn: at(409, 'Its last released revision is not withdrawn.'),
  reason_missing: at(422, 'Reason: please give one.'),
  comment_closed: at(409, 'This comment is resolved already.'),
  link_kind_wrong: at(422, (p) => `Only another document can be what it is ${p.kind}; elsewhere a link refers to it.`),
  link_address_wrong: at(422, 'Address: this is no whole address of the web, as https://standards.example/en-12929.'),
  link_item_wrong: at(422, 'Code: an item is known by its code.'),
  link_self: at(422, 'A document does not link to itself.'),
  link_there: at(409, 'This link is there already.'),
  link_nothing_in_force: at(409, 'Nothing of it has been in force yet, so there is no revision to pin the link to.'),
  version_is_last: at(409, 'The last version of a revision is what the revision says; it cannot be removed.'),
  version_signed: at(409, 'Somebody signed this version; it stays.'),
  comment_open: at(409, 'This comment is open.'),
  comment_answered: at(409, 'Somebody has answered it; resolve it instead.'),
  comment_empty: at(422, 'A comment says something, or marks a place.'),
  mark_wrong: at(422, (p) => `This cannot be drawn: ${p.reason}.`),
  pdf_unreadable: at(422, 'This is no PDF whose annotations can be read.'),

  // Routes, decisions, signatures.
  route_missing: at(409, 'This type has no route yet.'),
  step_unfilled: at(409, (p) => `Nobody can be found for the step "${p.step}".`),
  step_too_few_chosen: at(422, (p) => `${p.step}: choose at least ${p.minimum}.`),
  step_k_greater_than_people: at(409, (p) => `${p.step} needs ${p.k} answers and has ${p.people} people.`),
  round_ended: at(409, 'This round has ended.'),
  not_your_turn: at(409, 'You are not asked yet; somebody is asked before you.'),
  already_decided: at(409, (p) => (p.who ? `${p.who} has already decided here.` : 'This was already decided.')),
  decision_not_needed: at(409, 'This decision is no longer needed.'),
  decision_not_offered: at(422, (p) => `Decision: ${p.decision} is not offered in a step of this kind.`),
  rejection_needs_comment: at(422, 'Words: say why you reject; the author gets your words.'),
  comment_missing: at(422, 'Words: say what your comments are, or write them beside the text.'),
  counts_once_in_step: at(409, 'A person counts once in a step.'),
  signs_one_step_only: at(409, 'You have signed this round already; a person signs at most one approval step.'),
  deputy_has_signed: at(409, 'You have signed this round already and cannot sign as deputy too.'),
  deputy_is_author: at(409, 'An author of the revision cannot sign as deputy.'),
  only_approver_of_own_work: at(
    409,
    'You are an author of this revision and would be its only approver; somebody else must approve too.',
  ),
  signing_wrong: at(403, 'Sign-in name or password is not right. Nothing was signed.'),
  signing_needs_name: at(403, 'Sign-in name: the first signing of a period asks for name and password.'),
  signing_needs_password: at(403, 'This needs your signature. Enter your password and try again.'),
  files_not_opened: at(
    409,
    (p) =>
      `You have not opened ${p.files}. Your signature covers every file; open ${Number(p.count) === 1 ? 'it' : 'them'}, then sign.`,
  ),
  signing_locked: at(429, (p, zone) => `Signing is locked until ${when(p.until, zone)} after five wrong tries.`),
  record_changed: at(409, 'What would be signed is no longer what you saw. Nothing was signed; look again.'),

  // Release.
  day_not_after_today: at(422, (p) => `Day: must lie after today (${p.today}).`),
  signature_altered: at(409, (p) => `The signature of ${p.who} (${p.meaning}) no longer fits what was signed.`),
  signatures_too_few: at(409, (p) => `${p.has} of ${p.needs} signatures are there.`),
  blocking_comment: at(409, (p) => `A blocking comment of ${p.who} is open: "${p.text}".`),
  readers_undefined: at(409, 'Nobody is named who must read it.'),
  preflight_blocked: at(
    409,
    (p) => `The preflight found ${p.count} ${Number(p.count) === 1 ? 'blocker' : 'blockers'}.`,
  ),

  // Reading.
  reading_closed: at(409, (p) => `This reading is ${p.state}.`),
  reading_not_in_force: at(409, 'It cannot be signed before it is in force.'),
  nobody_overdue: at(409, 'Nobody is late.'),

  // Search and lists.
  search_field_unknown: at(422, (p) => `Search: there is no field "${p.field}" (character ${p.at}).`),
  search_value_missing: at(422, (p) => `Search: ${p.field} has no value (character ${p.at}).`),
  search_not_comparable: at(422, (p) => `Search: ${p.field} cannot be compared with >= or <= (character ${p.at}).`),
  search_date_invalid: at(422, (p) => `Search: ${p.value} is no day such as 2026-11-25 (character ${p.at}).`),
  search_number_invalid: at(422, (p) => `Search: ${p.value} is no number (character ${p.at}).`),
  search_quote_open: at(422, (p) => `Search: the quotation mark at character ${p.at} is not closed.`),
  cursor_invalid: at(422, 'Cursor: not one that was given out for this list.'),
} as const satisfies Record<string, Problem>;

export type ProblemCode = keyof typeof PROBLEMS;

/** The status of a code; an unknown code is a bug and answers 500. */
export const statusOf = (code: string): number => (PROBLEMS as Record<string, Problem>)[code]?.status ?? 500;

/** The sentence of a refusal: what is wrong and what would be right, times in the organisation's zone. */
export const sentenceOf = (code: string, params: Params = {}, zone?: string): string => {
  const words = (PROBLEMS as Record<string, Problem>)[code]?.words;
  if (words === undefined) return code;
  return typeof words === 'function' ? words(params, zone) : words;
};
