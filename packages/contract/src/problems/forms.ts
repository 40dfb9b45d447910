import { at, type Problems } from './problem.ts';

/** Forms and the records that are made with them. */
export const forms = {
  form_asks_nothing: at(422, 'The form asks nothing. Add a question.', 'Questions'),
  form_section_empty: at(422, (p) => `The section “${p.section}” asks nothing. Add a question, or remove it.`),
  form_key_twice: at(422, (p) => `Two questions have the key “${p.key}” (“${p.question}” is the second). Change one.`),
  form_choice_empty: at(422, (p) => `“${p.question}” offers nothing to choose. Add options.`),
  form_option_twice: at(422, (p) => `“${p.question}” offers one option twice. Remove one.`),
  form_range_empty: at(422, (p) => `No number is allowed for “${p.question}”: the least is greater than the largest.`),
  form_pattern_wrong: at(422, (p) => `The pattern “${p.pattern}” of “${p.question}” cannot be read.`),
  form_condition_unreadable: at(
    422,
    (p) => `The condition “${p.condition}” of “${p.question}” cannot be read. Choose a question and a value.`,
  ),
  form_condition_not_earlier: at(
    422,
    (p) => `The condition of “${p.question}” asks for “${p.field}”, which is not asked before it.`,
  ),
  form_code_taken: at(422, (p) => `There is already a form with the code ${p.code}. Choose another code.`, 'Code'),
  form_not_offered: at(409, (p) => `The form “${p.form}” is not offered here.`),
  form_needs_document: at(422, 'A change request is about a document. Name one.', 'Document'),
  record_sent: at(409, (p) => `${p.number} has been sent and stays as it is.`),
} satisfies Problems;
