import { api, type ChangeRequest } from '@kanonos/contract';
import type { RequestAnswer } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { useCommand } from '../../app/useCommand.ts';
import { Choice, Select, TextArea } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { wording } from './wording.ts';

const ANSWERS: readonly { answer: RequestAnswer; title: string; about: string }[] = [
  { answer: 'note', title: wording.onANote, about: wording.onANoteAbout },
  { answer: 'merge', title: wording.mergeIntoAnother, about: wording.mergeAbout },
  { answer: 'reject', title: wording.reject, about: wording.rejectAbout },
];

/** Answers a request: on a note, into another request of the same document, or no, with a reason. */
export const AnswerDialog = ({
  request,
  all,
  close,
}: {
  request: ChangeRequest;
  all: readonly ChangeRequest[];
  close: () => void;
}) => {
  const [answer, setAnswer] = useState<RequestAnswer>('note');
  const [into, setInto] = useState('');
  const [words, setWords] = useState('');
  const { data } = useQuery(ask(api.changes.list));
  const command = useCommand(api.changeRequests.answer, wording.answered, close);
  const others = all.filter(
    (one) =>
      one.id !== request.id &&
      one.document.id === request.document.id &&
      (one.state === 'open' || one.state === 'noted'),
  );
  const choose = (next: RequestAnswer) => {
    setAnswer(next);
    setInto('');
  };
  return (
    <FormDialog
      title={wording.answerNumber(request.number)}
      wide
      about={<p>{request.what}</p>}
      command={command}
      button={wording.sendAnswer}
      onSubmit={() => command.mutate({ params: { id: request.id }, body: { answer, words, into: into || null } })}
      onClose={close}
    >
      <div className="grid grid-cols-3 gap-2 max-md:grid-cols-1">
        {ANSWERS.map((one) => (
          <Choice
            key={one.answer}
            name="answer"
            title={one.title}
            about={one.about}
            checked={answer === one.answer}
            onChange={() => choose(one.answer)}
          />
        ))}
      </div>
      {answer === 'note' && (
        <Select
          label={wording.note}
          required
          value={into}
          onChange={setInto}
          empty={wording.chooseNote}
          options={(data?.notes ?? [])
            .filter((note) => !note.isClosed)
            .map((note) => ({ value: note.number, text: `${note.number} ${note.title}` }))}
        />
      )}
      {answer === 'merge' && (
        <Select
          label={wording.request}
          required
          value={into}
          onChange={setInto}
          empty={wording.chooseARequest}
          options={others.map((one) => ({ value: one.number, text: `${one.number} ${one.what.slice(0, 80)}` }))}
        />
      )}
      <TextArea
        label={answer === 'reject' ? wording.reasonToSender : wording.words}
        required={answer === 'reject'}
        optional={answer !== 'reject'}
        rows={2}
        value={words}
        onChange={setWords}
      />
    </FormDialog>
  );
};
