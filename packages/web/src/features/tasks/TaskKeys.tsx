import type { Task } from '@kanonos/contract';
import { useEffect } from 'react';
import { Link, useNavigate } from 'react-router';
import { tinykeys } from 'tinykeys';
import { Key } from '../../ui/controls.tsx';
import { isTyping } from '../../ui/typing.ts';
import { wording } from './wording.ts';

type Decision = Task['decisions'][number];

/**
 * Keys of the task: a figure chooses a decision, Ctrl and Enter saves it (also while a comment or the password is typed), *n* goes on to
 * the next task. The comparison has its own for the next and the previous change.
 */
export const useTaskKeys = ({
  decisions,
  decide,
  save,
  next,
}: {
  decisions: readonly Decision[];
  decide: (decision: Decision) => void;
  save: () => void;
  next: Task['nextTask'];
}): void => {
  const navigate = useNavigate();
  useEffect(() =>
    tinykeys(window, {
      ...Object.fromEntries(
        decisions.map((decision, at) => [
          String(at + 1),
          (event: KeyboardEvent) => !isTyping(event) && decide(decision),
        ]),
      ),
      '$mod+Enter': (event) => {
        event.preventDefault();
        save();
      },
      n: (event) => !isTyping(event) && next && navigate(`/tasks/${next.assignmentId}`),
    }),
  );
};

/** The keys in words, and the way to the next task. */
export const TaskKeys = ({ task: { decisions, nextTask } }: { task: Task }) => (
  <p className="flex flex-wrap gap-x-3 gap-y-0.5 border-b border-line-2 px-3.5 py-1.5 text-[11.5px] text-ink-2 max-lg:hidden">
    <span className="sr-only">{wording.keys}</span>
    <span>
      <Key>.</Key> <Key>,</Key> {wording.keyChange}
    </span>
    <span>
      <Key>1</Key>–<Key>{decisions.length}</Key> {wording.keyDecide}
    </span>
    <span>
      <Key>{wording.ctrlEnter}</Key> {wording.keySave}
    </span>
    {nextTask && (
      <Link className="link" to={`/tasks/${nextTask.assignmentId}`} aria-label={wording.nextTaskIs(nextTask.number)}>
        <Key>n</Key> {wording.keyNext}
      </Link>
    )}
  </p>
);
