import type { Field, FormInfo, FormSectionBody } from '@kanonos/contract';
import { answersInWords, asField, askedSections, type FormSection, missingAnswers } from '@kanonos/core';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { MetadataFields } from '../document/MetadataFields.tsx';
import { type MetadataValues, toMetadata } from '../document/metadataValues.ts';
import { AnswersInWords } from './AnswersInWords.tsx';
import { wording } from './wording.ts';

/** The questions of sections as fields. */
export const fieldsOf = (sections: readonly FormSectionBody[]): Field[] =>
  sections.flatMap(({ questions }) => questions.map((question) => asField(question as never) as Field));

/** Typed values as answers. */
export const answersOf = (sections: readonly FormSectionBody[], values: MetadataValues) =>
  toMetadata(fieldsOf(sections), values);

/** A form, a section at a time; only what its answers ask for is shown, and at the end everything once more. */
export const FillForm = ({
  form,
  values,
  onChange,
  names = {},
  files,
  actions,
}: {
  form: FormInfo;
  values: MetadataValues;
  onChange: (values: MetadataValues) => void;
  /** The names of people in kept answers. */
  names?: Record<string, string>;
  /** Shown where all is checked. */
  files?: ReactNode;
  /** What can be done at the end, and whether it is whole. */
  actions: (isWhole: boolean) => ReactNode;
}) => {
  const [step, setStep] = useState(0);
  const all = form.sections as readonly FormSection[];
  const answers = answersOf(form.sections, values);
  const sections = askedSections(all, answers);
  const at = Math.min(step, sections.length);
  const section = sections[at];
  const missing = missingAnswers(all, answers).map(({ params }) => String(params?.field));
  const heading = useRef<HTMLHeadingElement>(null);
  const isFirst = useRef(true);
  // biome-ignore lint/correctness/useExhaustiveDependencies: whoever turns a page reads on at its head
  useEffect(() => {
    if (isFirst.current) isFirst.current = false;
    else heading.current?.focus();
  }, [at]);
  return (
    <div className="grid grid-cols-[220px_minmax(0,1fr)] gap-5 max-md:grid-cols-1">
      <nav aria-label={wording.sections}>
        <ol className="border border-line bg-sheet">
          {[...sections.map(({ title }) => title), wording.review].map((title, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a section is identified by its place
            <li key={i} className="border-b border-line-2 last:border-0">
              <button
                type="button"
                aria-current={i === at ? 'step' : undefined}
                className={`block w-full border-l-3 px-2.5 py-1.5 text-left ${i === at ? 'border-petrol bg-petrol-tint font-semibold' : 'border-transparent hover:bg-film'}`}
                onClick={() => setStep(i)}
              >
                {title}
              </button>
            </li>
          ))}
        </ol>
      </nav>
      <div className="flex max-w-2xl flex-col gap-3">
        <h2 ref={heading} tabIndex={-1} className="outline-none">
          {section?.title ?? wording.review}
        </h2>
        {section ? (
          <>
            <p className="text-[12px] text-ink-2">{wording.step(at + 1, sections.length)}</p>
            {section.help && <p className="text-ink-2">{section.help}</p>}
            <MetadataFields fields={fieldsOf([section])} values={values} onChange={onChange} names={names} />
            <div className="flex gap-2">
              {at > 0 && (
                <button type="button" className="btn" onClick={() => setStep(at - 1)}>
                  {wording.back}
                </button>
              )}
              <button type="button" className="btn btn-pri" onClick={() => setStep(at + 1)}>
                {wording.next}
              </button>
            </div>
          </>
        ) : (
          <>
            <p className="text-ink-2">{wording.reviewAbout}</p>
            <AnswersInWords sections={answersInWords(all, answers, (id) => namesOf(names, values, id))} />
            {missing.length > 0 && (
              <p role="status" className="text-vermilion">
                {wording.stillMissing(missing.join(', '))}
              </p>
            )}
            {files}
            <div className="flex flex-wrap gap-2">
              {at > 0 && (
                <button type="button" className="btn" onClick={() => setStep(at - 1)}>
                  {wording.back}
                </button>
              )}
              {actions(missing.length === 0)}
            </div>
          </>
        )}
      </div>
    </div>
  );
};

/** A person that is chosen is known by the name of their field; one that was just picked has none yet and is counted. */
const namesOf = (names: Record<string, string>, values: MetadataValues, id: string): string => {
  const [key] = Object.entries(values).find(([, value]) => value === id) ?? [];
  return (key && names[key]) || '✓';
};
