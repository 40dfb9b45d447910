import { at, type Problems } from './problem.ts';

/** The filing plan, and changing many documents at once. */
export const filing = {
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
} satisfies Problems;
