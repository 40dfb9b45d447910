import { type Refusal, refusal } from '../result.ts';
import { parseCondition } from '../routes/condition.ts';
import { asField, type FormPurpose, type FormQuestion, type FormSection, sectionsOf } from './form.ts';

const fieldsIn = (when: string, questions: readonly FormQuestion[]): string[] | undefined => {
  const parsed = parseCondition(when, questions.map(asField));
  if (!parsed.ok) return undefined;
  return parsed.value.terms
    .flatMap((term) => (term.kind === 'either' ? term.of : [term]))
    .flatMap((one) => (one.kind === 'field' ? [one.field === 'missing' ? one.value : one.field] : []));
};

const checkCondition = (
  what: string,
  when: string | undefined,
  questions: readonly FormQuestion[],
  earlier: ReadonlySet<string>,
): Refusal[] => {
  if (when === undefined) return [];
  const named = fieldsIn(when, questions);
  if (!named || named.length === 0) return [refusal('form_condition_unreadable', { question: what, condition: when })];
  return named
    .filter((key) => !earlier.has(key))
    .map((key) => refusal('form_condition_not_earlier', { question: what, field: key }));
};

const isPattern = (pattern: string): boolean => {
  try {
    return Boolean(new RegExp(pattern, 'u'));
  } catch {
    return false;
  }
};

const checkQuestion = (question: FormQuestion): Refusal[] => {
  const { label, kind, options = [], min, max, pattern } = question;
  const codes = options.map(({ code }) => code);
  return [
    ...((kind === 'choice' || kind === 'choices') && options.length === 0
      ? [refusal('form_choice_empty', { question: label })]
      : []),
    ...(new Set(codes).size < codes.length ? [refusal('form_option_twice', { question: label })] : []),
    ...(min !== undefined && max !== undefined && min > max ? [refusal('form_range_empty', { question: label })] : []),
    ...(pattern && !isPattern(pattern) ? [refusal('form_pattern_wrong', { question: label, pattern })] : []),
  ];
};

/**
 * What is wrong with a form: nothing is asked, a key is there twice, a choice offers nothing, a range holds no number, or a condition is
 * unreadable or asks for what comes later. What it refuses could not be filled in.
 */
export const judgeForm = (purpose: FormPurpose, own: readonly FormSection[]): Refusal[] => {
  const sections = sectionsOf(purpose, { sections: [...own] });
  const questions = sections.flatMap((section) => section.questions);
  const earlier = new Set<string>();
  const found: Refusal[] = questions.length === 0 ? [refusal('form_asks_nothing')] : [];
  for (const section of sections) {
    found.push(...checkCondition(section.title, section.when, questions, earlier));
    if (section.questions.length === 0) found.push(refusal('form_section_empty', { section: section.title }));
    for (const question of section.questions) {
      found.push(...checkQuestion(question), ...checkCondition(question.label, question.when, questions, earlier));
      if (earlier.has(question.key))
        found.push(refusal('form_key_twice', { question: question.label, key: question.key }));
      earlier.add(question.key);
    }
  }
  return found;
};

/** A key for a question by its label, such as `lost_time`, that none of the others has. */
export const questionKey = (label: string, taken: readonly string[]): string => {
  const plain =
    label
      .normalize('NFD')
      .replace(/\p{M}/gu, '')
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '_')
      .replace(/^_+|_+$/g, '')
      .slice(0, 40) || 'question';
  let key = plain;
  for (let n = 2; taken.includes(key); n++) key = `${plain}_${n}`;
  return key;
};

/** The number of the n-th record of a form in a year, such as `INC-2026-0007`. */
export const recordNumber = (code: string, year: number, n: number): string =>
  `${code}-${year}-${String(n).padStart(4, '0')}`;
