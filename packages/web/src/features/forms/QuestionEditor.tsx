import type { FormQuestionBody } from '@kanonos/contract';
import { type ConditionOperator, type ConditionRow, QUESTION_KINDS, type QuestionKind } from '@kanonos/core';
import { useState } from 'react';
import { Select, TextArea, TextField } from '../../ui/controls.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { fromLines, toLines } from '../rules/optionLines.ts';
import { OPERATOR_WORDS, operatorsFor, rowOf, whenOf } from './conditionOf.ts';
import { wording } from './wording.ts';

type Question = FormQuestionBody;

/** A question without the parts that its kind has no use for. */
const ofKind = (question: Question, kind: QuestionKind): Question => {
  const { options, unit, min, max, pattern, patternWords, ...plain } = question;
  return {
    ...plain,
    kind,
    ...(kind === 'choice' || kind === 'choices' ? { options: options ?? [] } : {}),
    ...(kind === 'number' ? { ...(unit ? { unit } : {}) } : {}),
  };
};

/** What a question asks, how it is answered, and when it is asked. */
export const QuestionEditor = ({
  question,
  earlier,
  onChange,
}: {
  question: Question;
  earlier: readonly Question[];
  onChange: (question: Question) => void;
}) => {
  const [options, setOptions] = useState(() => toLines(question.options ?? []));
  const change = (part: Partial<Question>) => onChange({ ...question, ...part });
  /** Without a value the part is left out. */
  const set = (part: 'help' | 'unit' | 'pattern' | 'patternWords') => (value: string) => {
    const { [part]: _before, ...others } = question;
    onChange(value === '' ? others : { ...others, [part]: value });
  };
  const number = (part: 'min' | 'max') => (value: string) => {
    const { [part]: _before, ...others } = question;
    onChange(value === '' ? others : { ...others, [part]: Number(value) });
  };
  return (
    <div className="flex flex-col gap-2 border-l-2 border-petrol py-1 pl-3">
      <TextField
        label={wording.question}
        required
        maxLength={200}
        value={question.label}
        onChange={(label) => change({ label })}
      />
      <div className="grid grid-cols-2 items-end gap-2 max-md:grid-cols-1">
        <Select
          label={wording.answerKind}
          value={question.kind}
          options={QUESTION_KINDS.map((value) => ({ value, text: wording.kinds[value] }))}
          onChange={(kind) => onChange(ofKind(question, kind as QuestionKind))}
        />
        <Tick checked={question.mandatory} onChange={(mandatory) => change({ mandatory })}>
          {wording.mandatory}
        </Tick>
      </div>
      {(question.kind === 'choice' || question.kind === 'choices') && (
        <TextArea
          label={wording.options}
          hint={wording.optionsHint}
          rows={4}
          value={options}
          onChange={(text) => {
            setOptions(text);
            change({ options: fromLines(text).map(({ code, text: words }) => ({ code, text: words || code })) });
          }}
        />
      )}
      {question.kind === 'number' && (
        <div className="grid grid-cols-3 gap-2">
          <TextField label={wording.unit} optional maxLength={20} value={question.unit ?? ''} onChange={set('unit')} />
          <TextField
            label={wording.least}
            optional
            type="number"
            step="any"
            value={String(question.min ?? '')}
            onChange={number('min')}
          />
          <TextField
            label={wording.largest}
            optional
            type="number"
            step="any"
            value={String(question.max ?? '')}
            onChange={number('max')}
          />
        </div>
      )}
      {question.kind === 'text' && (
        <div className="grid grid-cols-2 gap-2 max-md:grid-cols-1">
          <TextField
            label={wording.pattern}
            hint={wording.patternHint}
            optional
            maxLength={300}
            value={question.pattern ?? ''}
            onChange={set('pattern')}
          />
          {question.pattern && (
            <TextField
              label={wording.patternWords}
              optional
              maxLength={200}
              value={question.patternWords ?? ''}
              onChange={set('patternWords')}
            />
          )}
        </div>
      )}
      <TextField label={wording.help} optional maxLength={500} value={question.help ?? ''} onChange={set('help')} />
      <WhenAsked
        when={question.when}
        earlier={earlier}
        onChange={(when) => {
          const { when: _before, ...others } = question;
          onChange(when === undefined ? others : { ...others, when });
        }}
      />
    </div>
  );
};

/** When a question or a section is asked: always, or after an earlier answer. */
export const WhenAsked = ({
  when,
  earlier,
  onChange,
}: {
  when: string | undefined;
  earlier: readonly Question[];
  onChange: (when: string | undefined) => void;
}) => {
  // A row without a value yet says nothing: it is kept here until it does.
  const [draft, setDraft] = useState<ConditionRow>();
  const row = draft ?? rowOf(when, earlier);
  const asked = earlier.find(({ key }) => key === row?.field);
  const set = (next: ConditionRow | undefined) => {
    setDraft(next);
    onChange(next && whenOf(next));
  };
  if (earlier.length === 0 && when === undefined) return null;
  return (
    <div className="flex flex-wrap items-end gap-2 [&>*]:min-w-32">
      <Select
        label={wording.askedWhen}
        value={row?.field ?? ''}
        options={[
          { value: '', text: when === undefined || row ? wording.always : when },
          ...earlier.map(({ key, label }) => ({ value: key, text: `${wording.where} “${label}”` })),
        ]}
        onChange={(field) => set(field ? { field, operator: 'is', values: [''] } : undefined)}
      />
      {row && (
        <Select
          label={wording.comparison}
          value={row.operator}
          options={operatorsFor(asked).map((value) => ({ value, text: OPERATOR_WORDS[value] }))}
          onChange={(operator) => set({ ...row, operator: operator as ConditionOperator })}
        />
      )}
      {row && row.operator !== 'is given' && row.operator !== 'is not given' && (
        <Compared question={asked} value={row.values[0] ?? ''} onChange={(value) => set({ ...row, values: [value] })} />
      )}
    </div>
  );
};

const Compared = ({
  question,
  value,
  onChange,
}: {
  question: Question | undefined;
  value: string;
  onChange: (value: string) => void;
}) => {
  const options =
    question?.kind === 'yes/no'
      ? [
          { value: 'yes', text: wording.yes },
          { value: 'no', text: wording.no },
        ]
      : question?.options?.map(({ code, text }) => ({ value: code, text }));
  return options ? (
    <Select label={wording.value} value={value} options={[{ value: '', text: '–' }, ...options]} onChange={onChange} />
  ) : (
    <TextField label={wording.value} value={value} onChange={onChange} />
  );
};
