import type { FormQuestionBody, FormSectionBody } from '@kanonos/contract';
import { questionKey } from '@kanonos/core';
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { TextArea, TextField } from '../../ui/controls.tsx';
import { IconButton } from '../../ui/IconButton.tsx';
import { QuestionEditor, WhenAsked } from './QuestionEditor.tsx';
import { wording } from './wording.ts';

type Sections = readonly FormSectionBody[];

const moved = <T,>(list: readonly T[], from: number, to: number): T[] => {
  const next = [...list];
  const [one] = next.splice(from, 1);
  if (one !== undefined) next.splice(to, 0, one);
  return next;
};

/** The sections of a form with their questions, in order. */
export const SectionsEditor = ({
  sections,
  before,
  onChange,
}: {
  sections: Sections;
  /** Questions that are asked before them. */
  before: readonly FormQuestionBody[];
  onChange: (sections: FormSectionBody[]) => void;
}) => {
  const change = (at: number, part: Partial<FormSectionBody>) =>
    onChange(sections.map((one, i) => (i === at ? { ...one, ...part } : one)));
  const earlierThan = (at: number) => [...before, ...sections.slice(0, at).flatMap(({ questions }) => questions)];
  return (
    <div className="flex flex-col gap-4">
      {sections.map((section, at) => (
        <fieldset
          // biome-ignore lint/suspicious/noArrayIndexKey: a section is identified by its place
          key={at}
          className="border border-line bg-film-2 px-3 pt-1 pb-3"
        >
          <legend className="cap px-1">{wording.section(at + 1)}</legend>
          <div className="flex flex-col gap-2">
            <div className="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-2">
              <TextField
                label={wording.sectionTitle}
                required
                maxLength={120}
                value={section.title}
                onChange={(title) => change(at, { title })}
              />
              <Places
                name={section.title || wording.section(at + 1)}
                at={at}
                of={sections.length}
                move={(to) => onChange(moved(sections, at, to))}
                remove={() => onChange(sections.filter((_, i) => i !== at))}
              />
            </div>
            <TextArea
              label={wording.sectionHelp}
              optional
              rows={1}
              value={section.help}
              onChange={(help) => change(at, { help })}
            />
            <WhenAsked
              when={section.when}
              earlier={earlierThan(at)}
              onChange={(when) =>
                onChange(
                  sections.map((one, i) => {
                    if (i !== at) return one;
                    const { when: _before, ...others } = one;
                    return when === undefined ? others : { ...others, when };
                  }),
                )
              }
            />
            <Questions
              questions={section.questions}
              earlier={earlierThan(at)}
              taken={[...before, ...sections.flatMap(({ questions }) => questions)].map(({ key }) => key)}
              onChange={(questions) => change(at, { questions })}
            />
          </div>
        </fieldset>
      ))}
      <div>
        <button
          type="button"
          className="btn"
          onClick={() => onChange([...sections, { title: '', help: '', questions: [] }])}
        >
          {wording.addSection}
        </button>
      </div>
    </div>
  );
};

const Questions = ({
  questions,
  earlier,
  taken,
  onChange,
}: {
  questions: readonly FormQuestionBody[];
  earlier: readonly FormQuestionBody[];
  taken: readonly string[];
  onChange: (questions: FormQuestionBody[]) => void;
}) => {
  const [open, setOpen] = useState<string>();
  const change = (at: number, question: FormQuestionBody) =>
    onChange(questions.map((one, i) => (i === at ? question : one)));
  return (
    <ul className="flex flex-col gap-1.5">
      {questions.map((question, at) => {
        const label = question.label || wording.unnamed;
        const isOpen = open === question.key;
        return (
          <li key={question.key} className="border border-line bg-sheet px-2.5 py-1.5">
            <div className="flex flex-wrap items-center justify-between gap-2">
              <button
                type="button"
                className="link min-w-0 text-left"
                aria-expanded={isOpen}
                aria-label={isOpen ? wording.closeQuestion(label) : wording.editQuestion(label)}
                onClick={() => setOpen(isOpen ? undefined : question.key)}
              >
                {label}
              </button>
              <span className="flex items-center gap-2">
                <span className="text-[12px] text-ink-2">
                  {wording.kinds[question.kind]}
                  {question.mandatory ? ` · ${wording.mandatory}` : ''}
                  {question.when ? ` · ${question.when}` : ''}
                </span>
                <Places
                  name={label}
                  at={at}
                  of={questions.length}
                  move={(to) => onChange(moved(questions, at, to))}
                  remove={() => onChange(questions.filter((_, i) => i !== at))}
                />
              </span>
            </div>
            {isOpen && (
              <QuestionEditor
                question={question}
                earlier={[...earlier, ...questions.slice(0, at)]}
                onChange={(next) => change(at, next)}
              />
            )}
          </li>
        );
      })}
      <li>
        <button
          type="button"
          className="btn !h-6"
          onClick={() => {
            const key = questionKey('question', taken);
            onChange([...questions, { key, label: '', kind: 'text', mandatory: false }]);
            setOpen(key);
          }}
        >
          {wording.addQuestion}
        </button>
      </li>
    </ul>
  );
};

const Places = ({
  name,
  at,
  of,
  move,
  remove,
}: {
  name: string;
  at: number;
  of: number;
  move: (to: number) => void;
  remove: () => void;
}) => (
  <span className="flex">
    <IconButton label={wording.moveUp(name)} disabled={at === 0} onClick={() => move(at - 1)}>
      <ArrowUp size={14} aria-hidden />
    </IconButton>
    <IconButton label={wording.moveDown(name)} disabled={at === of - 1} onClick={() => move(at + 1)}>
      <ArrowDown size={14} aria-hidden />
    </IconButton>
    <IconButton label={wording.removeQuestion(name)} onClick={remove}>
      <Trash2 size={14} aria-hidden />
    </IconButton>
  </span>
);
