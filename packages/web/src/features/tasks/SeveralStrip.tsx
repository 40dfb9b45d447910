import type { Task } from '@kanonos/contract';
import { Check } from 'lucide-react';
import { Link } from 'react-router';
import { leftToOpen } from '../../ui/FilesToOpen.tsx';
import { keepsApart, togetherFor } from './useSeveralTasks.ts';
import { wording } from './wording.ts';

/** The tasks that are gone through, each with whether it was looked at, and what was refused. */
export const SeveralStrip = ({
  tasks,
  shown,
  show,
  isLookedAt,
  refused,
  leaveOut,
}: {
  tasks: readonly Task[];
  shown: Task;
  show: (id: string) => void;
  isLookedAt: (task: Task) => boolean;
  refused: ReadonlyMap<string, string>;
  leaveOut: (id: string) => void;
}) => (
  <nav
    aria-label={wording.tasksToGoThrough}
    className="flex min-h-0 flex-col overflow-y-auto border-r border-line bg-film-2 max-lg:max-h-[34vh] max-lg:border-r-0 max-lg:border-b"
  >
    <div className="px-3 py-2.5">
      <h1 className="!text-[16px]">{wording.decideSeveral}</h1>
      <p className="text-[12px] text-ink-2">{wording.severalAbout}</p>
    </div>
    <ol>
      {tasks.map((task) => (
        <li
          key={task.assignmentId}
          className={`relative border-t border-line-2 ${task === shown ? 'bg-sheet shadow-[inset_3px_0_0_var(--color-petrol)]' : ''}`}
        >
          <button
            type="button"
            aria-current={task === shown ? 'step' : undefined}
            onClick={() => show(task.assignmentId)}
            className="block w-full px-3 py-2 text-left"
          >
            <span className="num block">
              {task.document.number} {task.label}
            </span>
            <b className="block font-semibold">{task.title}</b>
            <span className="block text-[12px] text-ink-2">
              {task.step}
              {!keepsApart(task) && ` · ${wording.willBe[togetherFor(task)]}`}
            </span>
            <Looked task={task} isLookedAt={isLookedAt(task)} />
            {refused.has(task.assignmentId) && (
              <span className="block text-[12px] text-vermilion">{refused.get(task.assignmentId)}</span>
            )}
          </button>
          <span className="flex gap-3 px-3 pb-2 text-[12px]">
            {keepsApart(task) && (
              <Link className="link" to={`/tasks/${task.assignmentId}`}>
                {wording.goToIt}
              </Link>
            )}
            {tasks.length > 1 && (
              <button
                type="button"
                className="link min-h-6"
                aria-label={wording.leaveOutOf(task.document.number)}
                onClick={() => leaveOut(task.assignmentId)}
              >
                {wording.leaveOut}
              </button>
            )}
          </span>
        </li>
      ))}
    </ol>
  </nav>
);

const Looked = ({ task, isLookedAt }: { task: Task; isLookedAt: boolean }) => {
  if (keepsApart(task))
    return (
      <span className="block text-[12px] text-ochre">
        {wording.cannotTogether}: {task.decidedAlone ? wording.decidedAloneWords : task.refusals[0]?.detail}
      </span>
    );
  if (isLookedAt)
    return (
      <span className="flex items-center gap-1 text-[12px] text-petrol">
        <Check size={12} aria-hidden /> {wording.lookedAt}
      </span>
    );
  const left = leftToOpen(task.files).length;
  return <span className="block text-[12px] text-ochre">{left > 0 ? wording.filesLeft(left) : wording.notYet}</span>;
};
