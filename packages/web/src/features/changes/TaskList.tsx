import { api, type ChangeNote, type ChangeTask } from '@kanonos/contract';
import { useState } from 'react';
import { addressOf } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { showDay, showInstantDay } from '../../ui/format.ts';
import { Empty } from '../../ui/states.tsx';
import { DoneTaskDialog, DropTaskDialog, TaskDialog } from './TaskDialogs.tsx';
import { wording } from './wording.ts';

type Asked = { kind: 'add' } | { kind: 'edit' | 'done' | 'drop'; task: ChangeTask };

/** What must be done beside the documents, by whom, until when. */
export const TaskList = ({ number, note }: { number: string; note: ChangeNote }) => {
  const [asked, setAsked] = useState<Asked | null>(null);
  const shut = () => setAsked(null);
  return (
    <section aria-label={wording.tasksTitle}>
      <div className="flex items-center gap-2 pb-1.5">
        <h2 className="mr-auto">{wording.tasksTitle}</h2>
        {note.mayChange && (
          <button type="button" className="btn" onClick={() => setAsked({ kind: 'add' })}>
            {wording.addTask}
          </button>
        )}
      </div>
      {note.tasks.length === 0 ? (
        <Empty title={wording.noTasks}>{wording.tasksAre}</Empty>
      ) : (
        <ul className="border border-line bg-sheet">
          {note.tasks.map((task) => (
            <TaskRow
              key={task.id}
              task={task}
              mayChange={note.mayChange}
              isOpen={note.closed === null}
              ask={(kind) => setAsked({ kind, task })}
            />
          ))}
        </ul>
      )}
      {asked?.kind === 'add' && <TaskDialog number={number} close={shut} />}
      {asked?.kind === 'edit' && <TaskDialog number={number} task={asked.task} close={shut} />}
      {asked?.kind === 'done' && <DoneTaskDialog number={number} task={asked.task} close={shut} />}
      {asked?.kind === 'drop' && <DropTaskDialog number={number} task={asked.task} close={shut} />}
    </section>
  );
};

const TaskRow = ({
  task,
  mayChange,
  isOpen,
  ask,
}: {
  task: ChangeTask;
  mayChange: boolean;
  isOpen: boolean;
  ask: (kind: 'edit' | 'done' | 'drop') => void;
}) => {
  const { zone } = useMe().organisation;
  const ended = task.endedAt ? showInstantDay(task.endedAt, zone) : '';
  return (
    <li className="grid grid-cols-[28px_minmax(0,1fr)_176px_240px] items-start gap-x-3 gap-y-1 border-b border-line-2 px-2.5 py-2 last:border-0 max-md:grid-cols-[28px_minmax(0,1fr)]">
      <span className="num text-ink-3">{task.n}</span>
      <span className={task.state === 'dropped' ? 'text-ink-3 line-through' : ''}>
        {task.what}
        {task.result && <span className="block text-[12.5px] text-ink-2 no-underline">“{task.result}”</span>}
        {task.files.map((file) => (
          <a
            key={file.id}
            className="link mr-3 text-[12.5px]"
            href={addressOf(api.programs.supportingFile, { id: file.id })}
          >
            {file.name}
          </a>
        ))}
      </span>
      <span className="text-[12.5px] max-md:col-start-2">
        <b className="font-semibold">{task.assignee.name}</b>
        <span className={`block ${task.overdue ? 'text-vermilion' : 'text-ink-2'}`}>
          {task.state === 'open'
            ? [
                task.dueOn ? showDay(task.dueOn) : wording.openState,
                task.overdue ? wording.overdue : '',
                task.before === 'release' ? `before ${wording.beforeRelease}` : '',
              ]
                .filter(Boolean)
                .join(', ')
            : task.state === 'done'
              ? wording.doneBy(task.endedBy ?? '', ended)
              : wording.droppedBy(task.endedBy ?? '', ended)}
        </span>
      </span>
      <span className="flex flex-wrap justify-end gap-1.5 max-md:col-start-2 max-md:justify-start">
        {task.state === 'open' && isOpen && (task.mine || mayChange) && (
          <button
            type="button"
            className={`btn !h-6 ${task.mine ? 'btn-pri' : ''}`}
            aria-label={wording.reportTask(task.n)}
            onClick={() => ask('done')}
          >
            {wording.reportDone}
          </button>
        )}
        {task.state === 'open' && mayChange && (
          <>
            <button
              type="button"
              className="btn !h-6"
              aria-label={wording.changeTask(task.n)}
              onClick={() => ask('edit')}
            >
              {wording.edit}
            </button>
            <button
              type="button"
              className="btn btn-quiet !h-6"
              aria-label={wording.dropTask(task.n)}
              onClick={() => ask('drop')}
            >
              {wording.drop}
            </button>
          </>
        )}
      </span>
    </li>
  );
};
