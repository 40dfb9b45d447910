import { api, type Task } from '@kanonos/contract';
import { useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton, TextField } from '../../ui/controls.tsx';
import { OpenFirst } from '../../ui/FilesToOpen.tsx';
import { LeaveGuard } from '../../ui/LeaveGuard.tsx';
import { SignBox } from '../../ui/SignBox.tsx';
import { Empty, Failed, Loading, Refusals } from '../../ui/states.tsx';
import { toast } from '../../ui/toast.ts';
import { useFilesToOpen } from '../../ui/useFilesToOpen.ts';
import { useInAddress } from '../../ui/useInAddress.ts';
import { Commenting } from '../comments/Commenting.tsx';
import { commentedOn, DecisionSubject, firstPane, type Pane } from './DecisionSubject.tsx';
import { SeveralStrip } from './SeveralStrip.tsx';
import { TaskAbout } from './TaskAbout.tsx';
import { Block } from './TaskHead.tsx';
import { isLookedAt, keepsApart, togetherFor, useSeveralTasks } from './useSeveralTasks.ts';
import { wording } from './wording.ts';

/** Several tasks, gone through one by one and decided with one password. The address names them. */
export const SeveralPage = () => {
  const [of, setOf] = useInAddress('of');
  const ids = of.split(',').filter((id) => id !== '');
  if (ids.length === 0)
    return (
      <Empty title={wording.noneChosen}>
        {wording.chooseOnDesk}{' '}
        <Link className="link" to="/">
          {wording.openDesk}
        </Link>
      </Empty>
    );
  return <Several ids={ids} keep={(kept) => setOf(kept.join(','))} />;
};

const Several = ({ ids, keep }: { ids: readonly string[]; keep: (ids: readonly string[]) => void }) => {
  const navigate = useNavigate();
  const { tasks, isPending, failed, askAgain, shown, show, seen } = useSeveralTasks(ids);
  const [comments, setComments] = useState<Readonly<Record<string, string>>>({});
  const [sign, setSign] = useState({ name: '', password: '' });
  const isDone = useRef(false);
  const command = useCommand(api.tasks.decideSeveral, undefined, ({ decided, refused }) => {
    if (decided > 0) toast.success(wording.decidedSeveral(decided));
    isDone.current = refused.length === 0;
    if (isDone.current) navigate('/');
    else keep(refused.map((one) => one.assignment));
  });
  if (isPending) return <Loading what={wording.theseTasks} />;
  if (failed) return <Failed error={failed} again={() => askAgain()} />;
  if (!shown) return <Empty title={wording.noneChosen}>{wording.chooseOnDesk}</Empty>;
  const together = tasks.filter((task) => !keepsApart(task));
  const left = together.filter((task) => !isLookedAt(task, seen));
  const signed = together.filter((task) => togetherFor(task) === 'approve');
  const decide = () =>
    command.mutate({
      body: {
        decisions: together.map((task) => ({
          assignment: task.assignmentId,
          decision: togetherFor(task),
          comment: comments[task.assignmentId] ?? '',
          digest: task.digest,
          version: task.version.n,
        })),
        name: signed.some((task) => task.asksForName) ? sign.name : null,
        password: signed.length > 0 ? sign.password : null,
      },
    });
  const refused = new Map(command.data?.refused.map((one) => [one.assignment, one.reasons.join(' ')]));
  const next = tasks[(tasks.indexOf(shown) + 1) % tasks.length];
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[208px_minmax(0,1fr)_286px] max-lg:block max-lg:overflow-y-auto">
      <LeaveGuard isDirtyNow={() => !isDone.current && Object.values(comments).some((one) => one.trim() !== '')} />
      <SeveralStrip
        tasks={tasks}
        shown={shown}
        show={show}
        isLookedAt={(task) => isLookedAt(task, seen)}
        refused={refused}
        leaveOut={(id) => keep(ids.filter((other) => other !== id))}
      />
      <ShownTask key={shown.assignmentId} task={shown} askAgain={() => askAgain(shown.assignmentId)} />
      <aside aria-label={wording.yourDecision} className="flex min-h-0 flex-col border-l border-line bg-sheet">
        <div className="min-h-0 flex-1 overflow-y-auto">
          <TaskAbout task={shown} />
          {!keepsApart(shown) && (
            <Block caption={wording.yourDecision}>
              <p className="mb-2 font-semibold">{wording.willBe[togetherFor(shown)]}</p>
              <TextField
                label={wording.commentOn(shown.document.number)}
                optional
                value={comments[shown.assignmentId] ?? ''}
                onChange={(comment) => setComments({ ...comments, [shown.assignmentId]: comment })}
              />
            </Block>
          )}
        </div>
        <div className="flex flex-col gap-2 border-t border-line px-3.5 py-2.5 max-lg:sticky max-lg:bottom-0 max-lg:bg-sheet">
          {next && next !== shown && (
            <button type="button" className="btn" onClick={() => show(next.assignmentId)}>
              {wording.nextTask}
            </button>
          )}
          <p role="status" className={`text-[12px] ${left.length > 0 ? 'text-ochre' : 'text-petrol'}`}>
            {left.length > 0 ? wording.leftToLookAt(left.length) : wording.allLookedAt}
          </p>
          {signed.length > 0 && left.length === 0 && (
            <SignBox
              asksForName={signed.some((task) => task.asksForName)}
              value={sign}
              onChange={setSign}
              error={command.error}
            />
          )}
          <Refusals error={command.error} />
          <CommandButton
            type="button"
            busy={command.isPending}
            disabled={together.length === 0 || left.length > 0 || (signed.length > 0 && sign.password === '')}
            className="!h-9 w-full"
            onClick={decide}
          >
            {signed.length === 0
              ? wording.decideTogether(together.length)
              : signed.length === together.length
                ? wording.signTogether(signed.length)
                : wording.signAndDecide(signed.length, together.length - signed.length)}
          </CommandButton>
        </div>
      </aside>
    </div>
  );
};

/** The files of the task that is shown, what changed in them, and the comments. */
const ShownTask = ({ task, askAgain }: { task: Task; askAgain: () => void }) => {
  const { chosen, choose } = useFilesToOpen(task.files, askAgain);
  const [pane, setPane] = useState<Pane>(firstPane(task));
  const file = task.version.files.find((one) => one.id === chosen) ?? task.version.files[0];
  const show = (id: string) => {
    choose(id);
    setPane('text');
  };
  return (
    <Commenting subject={commentedOn(task, file?.id)}>
      <div className="flex min-h-0 min-w-0 flex-col">
        <DecisionSubject file={file} pane={pane} setPane={setPane} show={show} task={task} />
        <div className="px-3.5 empty:hidden">
          <OpenFirst files={task.files} onChoose={show} />
        </div>
      </div>
    </Commenting>
  );
};
