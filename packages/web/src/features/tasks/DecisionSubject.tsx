import type { Task } from '@kanonos/contract';
import { useState } from 'react';
import { useMe } from '../../app/session.tsx';
import { FileTabs } from '../../ui/FilesToOpen.tsx';
import { count, showInstantDay } from '../../ui/format.ts';
import { ChangeNotePanel } from '../changes/ChangeNotePanel.tsx';
import { CitationsPanel } from '../citations/CitationsPanel.tsx';
import { CommentsPanel } from '../comments/CommentsPanel.tsx';
import { ComparisonView } from '../comparison/ComparisonView.tsx';
import { useComparison } from '../comparison/useComparison.ts';
import { FileViewer } from '../viewer/FileViewer.tsx';
import { TaskHead } from './TaskHead.tsx';
import { wording } from './wording.ts';

const PANES = ['changes', 'text', 'affected', 'citations', 'comments'] as const;
export type Pane = (typeof PANES)[number];
const PANE_WORDS: Record<Pane, string> = {
  changes: wording.changes,
  text: wording.text,
  affected: wording.affected,
  citations: wording.citations,
  comments: wording.comments,
};

/** Whether a task has something to show there. */
const isOffered = (task: Task, pane: Pane): boolean =>
  pane === 'changes' ? task.comparedWith.length > 0 : pane === 'affected' ? task.isChangeNote : true;

/** What the present version is compared with, in words. */
const baseWords = ({ kind, label, n }: Task['comparedWith'][number]): string => {
  if (kind === 'last seen') return wording.lastSeen(label, n);
  return kind === 'submitted' ? wording.asSubmitted(label, n) : wording.revisionBefore(label);
};

const Changes = ({ task }: { task: Task }) => {
  const [old, setOld] = useState(task.comparedWith[0]?.versionId);
  const comparison = useComparison({ old, new: task.version.id }, { old: undefined, new: undefined });
  return (
    <>
      {task.comparedWith.length > 1 && (
        <div className="flex flex-wrap items-center gap-2 border-b border-line-2 bg-film-2 px-3.5 py-1">
          <label className="flex min-w-0 items-center gap-2">
            <span className="cap shrink-0">{wording.comparedWith}</span>
            <select className="inp !w-auto min-w-0" value={old} onChange={(event) => setOld(event.target.value)}>
              {task.comparedWith.map((one) => (
                <option key={one.versionId} value={one.versionId}>
                  {baseWords(one)}
                </option>
              ))}
            </select>
          </label>
        </div>
      )}
      <ComparisonView key={old} comparison={comparison} />
    </>
  );
};

/** What comments of a task are on: the version that is decided on, and the file of it that is shown. */
export const commentedOn = (task: Task, fileId: string | undefined) => ({
  documentId: task.document.id,
  number: task.document.number,
  revision: { id: task.revisionId, state: task.signs ? ('in approval' as const) : ('in review' as const) },
  versionId: task.version.id,
  fileSort: Math.max(
    0,
    task.version.files.findIndex((one) => one.id === fileId),
  ),
  current: true,
});

/** What is shown of a task at first: what changed, where there is something before it. */
export const firstPane = (task: Task): Pane => (task.comparedWith.length > 0 ? 'changes' : 'text');

/** What is decided on: the files, the change, what it cites and what cites it, the comments. */
export const DecisionSubject = ({
  file,
  pane,
  setPane,
  show,
  task,
}: {
  file: Task['version']['files'][number] | undefined;
  pane: Pane;
  setPane: (pane: Pane) => void;
  show: (id: string) => void;
  task: Task;
}) => {
  const me = useMe();
  return (
    <section aria-label={wording.whatYouDecideOn} className="flex min-h-0 min-w-0 flex-col max-lg:h-[68vh]">
      <TaskHead
        task={task}
        about={wording.versionVersionNVersionAt(task.version.n, showInstantDay(task.version.at, me.organisation.zone))}
        more={
          task.inForceLabel
            ? wording.changedSince(count(task.changes.length, 'field'), task.inForceLabel)
            : 'first issue'
        }
      >
        <span className="ml-auto flex flex-wrap gap-1">
          {PANES.filter((key) => isOffered(task, key)).map((key) => (
            <button
              key={key}
              type="button"
              aria-pressed={pane === key}
              onClick={() => setPane(key)}
              className={`btn ${pane === key ? '!border-ink !bg-ink !text-white' : ''}`}
            >
              {PANE_WORDS[key]}
            </button>
          ))}
        </span>
      </TaskHead>
      <FileTabs files={task.files} chosen={file?.id} onChoose={show} />
      {pane === 'comments' ? (
        <div
          role="region"
          tabIndex={0}
          aria-label={wording.comments}
          className="min-h-0 flex-1 overflow-y-auto bg-sheet"
        >
          <CommentsPanel />
        </div>
      ) : pane === 'affected' ? (
        <div className="min-h-0 flex-1 overflow-y-auto bg-sheet">
          <ChangeNotePanel number={task.document.number} />
        </div>
      ) : pane === 'citations' ? (
        <div className="min-h-0 flex-1 overflow-y-auto bg-sheet">
          <CitationsPanel number={task.document.number} />
        </div>
      ) : pane === 'changes' && task.comparedWith.length > 0 ? (
        <Changes task={task} />
      ) : (
        file && <FileViewer key={file.id} file={file} />
      )}
    </section>
  );
};
