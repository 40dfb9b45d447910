import { api, type BodyOf, type Task } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { useCommand } from '../../app/useCommand.ts';
import { workAddress } from '../../ui/addresses.ts';
import { Choice, CommandButton, TextArea } from '../../ui/controls.tsx';
import { OpenFirst } from '../../ui/FilesToOpen.tsx';
import { fingerprint } from '../../ui/format.ts';
import { LeaveGuard } from '../../ui/LeaveGuard.tsx';
import { SignBox } from '../../ui/SignBox.tsx';
import { Failed, Loading, Refusals } from '../../ui/states.tsx';
import { toast } from '../../ui/toast.ts';
import { useFilesToOpen } from '../../ui/useFilesToOpen.ts';
import { Commenting } from '../comments/Commenting.tsx';
import { CoveredList } from './CoveredList.tsx';
import { commentedOn, DecisionSubject, firstPane, type Pane } from './DecisionSubject.tsx';
import { TaskAbout } from './TaskAbout.tsx';
import { Block } from './TaskHead.tsx';
import { TaskKeys, useTaskKeys } from './TaskKeys.tsx';
import { wording } from './wording.ts';

type Decision = BodyOf<typeof api.tasks.decide>['decision'];
const ABOUT: Record<Decision, [string, (task: Task) => string]> = {
  'no objection': [wording.noObjection, () => wording.youHaveNoObjection],
  'with comments': [wording.withComments, () => wording.itMayProceedYourCommentGoes],
  done: [wording.done, () => wording.theTaskIsDone],
  approve: [wording.approve, () => wording.signsAllFilesAndFieldsWith],
  reject: [wording.reject, (task) => wording.returnsToWithYourComment(task.askedBy.name)],
};

/** A review or approval step: the text, the change, what was said so far, and the decision beside it. */
export const DecidePage = () => {
  const { assignment = '' } = useParams();
  const { data, error, isPending, refetch } = useQuery(ask(api.tasks.task, { params: { assignment } }));
  if (isPending) return <Loading what={wording.theTask} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  return <Decide key={data.assignmentId} task={data} askAgain={refetch} />;
};

const Decide = ({ task, askAgain }: { task: Task; askAgain: () => void }) => {
  const navigate = useNavigate();
  const [decision, setDecision] = useState<Decision | null>(null);
  const [comment, setComment] = useState('');
  const [sign, setSign] = useState({ name: '', password: '' });
  const [pane, setPane] = useState<Pane>(firstPane(task));
  const command = useCommand(api.tasks.decide, undefined, ({ runState, documentState }) => {
    toast.success(
      runState === 'done'
        ? wording.savedIs(task.document.number, task.label, documentState)
        : runState === 'rejected'
          ? wording.rejectedItIsBackWithIts
          : wording.decisionSaved,
    );
    navigate('/');
  });
  const signs = task.signs && decision === 'approve';
  const { chosen, choose, isAllOpened } = useFilesToOpen(task.files, askAgain);
  const file = task.version.files.find((one) => one.id === chosen) ?? task.version.files[0];
  const show = (id: string) => {
    choose(id);
    setPane('text');
  };
  const closed = task.refusals.some((r) =>
    ['already_decided', 'round_ended', 'decision_not_needed', 'not_your_turn'].includes(r.code),
  );
  const submit = () => {
    if (!decision) return;
    command.mutate({
      params: { assignment: task.assignmentId },
      body: {
        decision,
        comment,
        name: signs && task.asksForName ? sign.name : null,
        password: signs ? sign.password : null,
        digest: task.digest,
        version: task.version.n,
      },
    });
  };
  useTaskKeys({
    decisions: closed ? [] : task.decisions,
    decide: setDecision,
    save: () => !closed && (!signs || isAllOpened) && !command.isPending && submit(),
    next: task.nextTask,
  });
  return (
    <Commenting subject={commentedOn(task, file?.id)}>
      <LeaveGuard isDirtyNow={() => comment.trim() !== '' && !command.isPending && !command.isSuccess} />
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_344px] max-lg:block max-lg:overflow-y-auto">
        <DecisionSubject file={file} pane={pane} setPane={setPane} show={show} task={task} />
        <aside
          aria-label={wording.yourDecision}
          className="flex min-h-0 flex-col border-l border-line bg-sheet max-lg:border-t max-lg:border-l-0"
        >
          <div className="min-h-0 flex-1 overflow-y-auto">
            <TaskAbout task={task} />
            <TaskKeys task={task} />
            {task.mayEdit && <MayEdit task={task} />}
            {closed ? (
              <Block caption={wording.yourDecision}>
                {task.refusals.map((r) => (
                  <p key={r.code}>{r.detail}</p>
                ))}
              </Block>
            ) : (
              <Block caption={wording.yourDecision}>
                <fieldset>
                  <legend className="sr-only">{wording.decision}</legend>
                  {task.decisions.map((value) => (
                    <Choice
                      key={value}
                      name="decision"
                      title={ABOUT[value][0]}
                      about={ABOUT[value][1](task)}
                      checked={decision === value}
                      onChange={() => setDecision(value)}
                    />
                  ))}
                </fieldset>
                <div className="mt-3 flex flex-col gap-3">
                  <TextArea
                    label={wording.comment}
                    optional={decision !== 'reject' && decision !== 'with comments'}
                    rows={2}
                    placeholder={wording.comment}
                    value={comment}
                    onChange={setComment}
                  />
                  {signs && (
                    <SignBox asksForName={task.asksForName} value={sign} onChange={setSign} error={command.error} />
                  )}
                </div>
              </Block>
            )}
          </div>
          {!closed && (
            <DecisionFoot
              command={command}
              decision={decision}
              isAllOpened={isAllOpened}
              show={show}
              signs={signs}
              submit={submit}
              task={task}
            />
          )}
        </aside>
      </div>
    </Commenting>
  );
};

/** Where a step lets its assignees edit: the ways to do it, and what happens to decisions on the older text. */
const MayEdit = ({ task }: { task: Task }) => (
  <Block caption={wording.youMayEdit}>
    <p className="text-ink-2">{wording.whatEditingDoes}</p>
    <p className="mt-1.5 flex flex-wrap gap-1.5">
      <Link className="btn" to={workAddress(task.document.number)}>
        {wording.checkOutOrOpen}
      </Link>
      <Link className="btn" to={`/d/${task.document.number}/edit`}>
        {wording.editInBrowser}
      </Link>
    </p>
  </Block>
);

/** The command that decides, in sight at any height, with what prevents it. */
const DecisionFoot = ({
  command,
  decision,
  isAllOpened,
  show,
  signs,
  submit,
  task,
}: {
  command: { error: Error | null; isPending: boolean };
  decision: Decision | null;
  isAllOpened: boolean;
  show: (id: string) => void;
  signs: boolean;
  submit: () => void;
  task: Task;
}) => (
  <div className="border-t border-line bg-sheet px-3.5 py-2.5 max-lg:sticky max-lg:bottom-0">
    {signs && <OpenFirst files={task.files} onChoose={show} />}
    <Refusals error={command.error} />
    {decision &&
      decision !== 'reject' &&
      task.refusals.map((r) => (
        <p key={r.code} className="mb-1 text-[12px] text-vermilion">
          {r.detail}
        </p>
      ))}
    <CommandButton
      type="button"
      busy={command.isPending}
      disabled={!decision || (signs && !isAllOpened)}
      tone={decision === 'reject' ? 'danger' : 'pri'}
      className="!h-9 w-full"
      onClick={submit}
    >
      {signs ? wording.signApprovalOf(task.label) : decision ? ABOUT[decision][0] : wording.chooseADecision}
    </CommandButton>
    {task.digest && (
      <p className="mt-1.5 text-[11.5px] text-ink-3">
        {wording.sha256} <span className="num">{fingerprint(task.digest)}</span>
        <span className="block">
          {wording.meaning} {task.meaning}. {task.zone}
        </span>
      </p>
    )}
    {task.covers && <CoveredList covers={task.covers} />}
  </div>
);
