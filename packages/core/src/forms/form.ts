import {
  checkMetadata,
  type FieldDefinition,
  isEmptyFieldValue,
  type Metadata,
  type QuestionKind,
  showFieldValue,
} from '../metadata/metadata.ts';
import { type Refusal, refusal } from '../result.ts';
import { type ConditionFacts, meetsCondition, parseCondition } from '../routes/condition.ts';

/** What a form is for: what readers ask to be changed in a document, or any other record such as an incident. */
export const FORM_PURPOSES = ['change request', 'record'] as const;
export type FormPurpose = (typeof FORM_PURPOSES)[number];

export type FormQuestion = {
  key: string;
  label: string;
  kind: QuestionKind;
  mandatory: boolean;
  help?: string;
  unit?: string;
  options?: { code: string; text: string }[];
  /** What a text must look like as a whole, and the sentence for one that does not. */
  pattern?: string;
  patternWords?: string;
  /** The least and the largest number, both included. */
  min?: number;
  max?: number;
  /** It is asked only where this condition on earlier answers holds (`parseCondition`). */
  when?: string;
};
export type FormSection = { title: string; help: string; when?: string; questions: FormQuestion[] };
export type FormDefinition = { name: string; about: string; sections: FormSection[] };

/** What is asked in every change request, before the questions of its form: whoever answers it works by this. */
export const CHANGE_QUESTIONS: FormSection = {
  title: 'The change',
  help: '',
  questions: [
    { key: 'place', label: 'Where in the document', kind: 'text', mandatory: false },
    { key: 'what', label: 'What is wrong or missing', kind: 'long text', mandatory: true },
    { key: 'proposal', label: 'What it should say', kind: 'long text', mandatory: false },
  ],
};

/** The sections of a form as they are filled in. */
export const sectionsOf = (purpose: FormPurpose, { sections }: Pick<FormDefinition, 'sections'>): FormSection[] =>
  purpose === 'change request' ? [CHANGE_QUESTIONS, ...sections] : [...sections];

/** A question as a field of a document, so that both are checked and shown by the same rules. */
export const asField = ({ min: _min, max: _max, when: _when, ...question }: FormQuestion): FieldDefinition => ({
  ...question,
  level: 'document',
});

const wordsOf = (question: FormQuestion, value: Metadata[string] | undefined): string[] =>
  isEmptyFieldValue(value)
    ? []
    : typeof value === 'boolean'
      ? [value ? 'yes' : 'no', String(value)]
      : [value ?? []]
          .flat()
          .map(String)
          .flatMap((code) => [code, question.options?.find((option) => option.code === code)?.text ?? code]);

const holds = (when: string | undefined, questions: readonly FormQuestion[], facts: ConditionFacts): boolean => {
  if (when === undefined) return true;
  const condition = parseCondition(when, questions.map(asField));
  return condition.ok && meetsCondition(condition.value, facts);
};

/**
 * The sections with the questions that are asked after these answers: those whose conditions hold. An answer to a question that is not
 * asked counts for nothing, so that a branch that was left takes its own branches with it.
 */
export const askedSections = (sections: readonly FormSection[], answers: Metadata): FormSection[] => {
  const all = sections.flatMap(({ questions }) => questions);
  const facts: Record<string, readonly string[]> = {};
  return sections.flatMap((section) => {
    if (!holds(section.when, all, facts)) return [];
    const questions = section.questions.filter((question) => {
      if (!holds(question.when, all, facts)) return false;
      facts[question.key] = wordsOf(question, answers[question.key]);
      return true;
    });
    return questions.length > 0 ? [{ ...section, questions }] : [];
  });
};

/** The answers that count: those to questions that are asked. */
export const countedAnswers = (sections: readonly FormSection[], answers: Metadata): Metadata => {
  const asked = new Set(askedSections(sections, answers).flatMap(({ questions }) => questions.map(({ key }) => key)));
  return Object.fromEntries(
    Object.entries(answers).filter(([key, value]) => asked.has(key) && !isEmptyFieldValue(value)),
  );
};

const rangeWords = ({ min, max }: FormQuestion): string =>
  min !== undefined && max !== undefined
    ? `a number from ${min} to ${max}`
    : min !== undefined
      ? `a number of at least ${min}`
      : `a number of at most ${max}`;

const isOutOfRange = ({ min, max }: FormQuestion, value: unknown): boolean =>
  typeof value === 'number' && ((min !== undefined && value < min) || (max !== undefined && value > max));

/** What is wrong with answers: of what is asked, wrong kinds and numbers out of range. A draft may leave gaps. */
export const checkAnswers = (sections: readonly FormSection[], answers: Metadata): Refusal[] => {
  const questions = sections.flatMap((section) => section.questions);
  const counted = countedAnswers(sections, answers);
  const unknown = Object.keys(answers).filter((key) => !questions.some((question) => question.key === key));
  return [
    ...unknown.map((key) => refusal('field_unknown', { field: key })),
    ...checkMetadata(questions.map(asField), counted),
    ...questions
      .filter((question) => isOutOfRange(question, counted[question.key]))
      .map((question) => refusal('field_wrong_kind', { field: question.label, wanted: rangeWords(question) })),
  ];
};

/** Mandatory questions that are asked and have no answer. */
export const missingAnswers = (sections: readonly FormSection[], answers: Metadata): Refusal[] =>
  askedSections(sections, answers).flatMap(({ questions }) =>
    questions
      .filter(({ key, mandatory }) => mandatory && isEmptyFieldValue(answers[key]))
      .map(({ label }) => refusal('field_value_missing', { field: label })),
  );

export type AnswerLine = { key: string; label: string; value: string };
/** Answers in words, section by section; questions without an answer left out. `nameOf` gives people by their ids. */
export const answersInWords = (
  sections: readonly FormSection[],
  answers: Metadata,
  nameOf: (id: string) => string,
): { title: string; lines: AnswerLine[] }[] => {
  const counted = countedAnswers(sections, answers);
  return askedSections(sections, answers).flatMap(({ title, questions }) => {
    const lines = questions
      .filter(({ key }) => counted[key] !== undefined)
      .map((question) => {
        const value = counted[question.key];
        const isPerson = question.kind === 'person' || question.kind === 'people';
        const shown = isPerson
          ? [value ?? []].flat().map(String).map(nameOf).join(', ')
          : showFieldValue(asField(question), value);
        return { key: question.key, label: question.label, value: shown };
      });
    return lines.length > 0 ? [{ title, lines }] : [];
  });
};
