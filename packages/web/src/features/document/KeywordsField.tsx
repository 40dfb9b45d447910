import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { ChipPicker } from '../../ui/ChipPicker.tsx';
import { wording } from './wording.ts';

/** Keywords as typed, separated by commas. */
export const keywordsOf = (text: string): string[] =>
  text
    .split(',')
    .map((word) => word.trim())
    .filter(Boolean);

/** Keywords as chips: typed and ended by a comma or Enter, or taken from those that are used most. */
export const KeywordsField = ({
  label = wording.keywords,
  value,
  onChange,
}: {
  label?: string;
  value: readonly string[];
  onChange: (keywords: string[]) => void;
}) => {
  const [text, setText] = useState('');
  const { data } = useQuery({ ...ask(api.documents.keywords, { query: { find: text } }), staleTime: 60_000 });
  const add = (typed: string) => {
    const fresh = keywordsOf(typed).filter((word) => !value.includes(word));
    if (fresh.length) onChange([...value, ...fresh]);
    setText('');
  };
  const used = (data?.keywords ?? []).filter(({ word }) => !value.includes(word));
  const typed = text.trim();
  const lines = [
    ...(typed !== '' && !used.some(({ word }) => word === typed)
      ? [{ word: typed, told: wording.addAsANewKeyword }]
      : []),
    ...used.map(({ word, documents }) => ({ word, told: String(documents) })),
  ];
  return (
    <ChipPicker
      label={label}
      optional
      chips={value.map((word) => ({ key: word, name: word }))}
      onTakeOut={(word) => onChange(value.filter((one) => one !== word))}
      placeholder={wording.typeAKeyword}
      find={text}
      onFind={(next) => (next.includes(',') ? add(next) : setText(next))}
      offers={lines.map(({ word, told }) => ({
        key: word,
        line: (
          <>
            <span>{word}</span>
            <span className="text-[11px] text-ink-3">{told}</span>
          </>
        ),
        pick: () => add(word),
      }))}
      openAtOnce
      width="w-64"
      input={{
        onBlur: () => typed && add(text),
        onKeyDown: (event) => {
          if (event.key === 'Enter' && typed) {
            event.preventDefault();
            // A suggestion is taken with the arrow keys; a word typed in full is taken unchanged.
            if (!event.currentTarget.getAttribute('aria-activedescendant')) add(text);
          }
          if (event.key === 'Backspace' && text === '') onChange(value.slice(0, -1));
        },
      }}
    />
  );
};
