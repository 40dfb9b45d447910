import { api, type BodyOf, type Task } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { Choice, CommandButton, TextArea } from '../../ui/controls.tsx';
import { FileTabs, OpenFirst } from '../../ui/FilesToOpen.tsx';
import { count, fingerprint, saidWords, showDay, showInstantDay } from '../../ui/format.ts';
import { LeaveGuard } from '../../ui/LeaveGuard.tsx';
import { SignBox } from '../../ui/SignBox.tsx';
import { Failed, Loading, Refusals } from '../../ui/states.tsx';
import { toast } from '../../ui/toast.ts';
import { useFilesToOpen } from '../../ui/useFilesToOpen.ts';
import { Commenting } from '../comments/Commenting.tsx';
import { CommentsPanel } from '../comments/CommentsPanel.tsx';
import { ComparisonView } from '../comparison/ComparisonView.tsx';
import { useComparison } from '../comparison/useComparison.ts';
import { FileViewer } from '../viewer/FileViewer.tsx';
import { Block, TaskHead } from './TaskHead.tsx';
import { wording } from './wording.ts';

type Decision = BodyOf<typeof api.tasks.decide>['decision'];
const ABOUT: Record<Decision, [string, (task: Task) => string]> = {
  'no objection': [wording.noObjection, () => wording.youHaveNoObjection],
  'with comments': [wording.withComments, () => wording.itMayProceedYourCommentGoes],
  done: [wording.done, () => wording.theTaskIsDone],
  approve: [wording.approve, () => wording.signsAllFilesAndFieldsWith],
  reject: [wording.reject, (task) => wording.returnsToWithYourComment(task.askedBy.name)],
};

const PANES = ['changes', 'text', 'comments'] as const;
type Pane = (typeof PANES)[number];
const PANE_WORDS: Record<Pane, string> = { changes: wording.changes, text: wording.text, comments: wording.comments };

const Changes = ({ old, now }: { old: string; now: string }) => (
  <ComparisonView comparison={useComparison({ old, new: now }, { old: undefined, new: undefined })} />
);

/** A review or approval step: the text, the change, what was said so far, and the decision beside it. */
export const DecidePage = () => {
  const { assignment = '' } = useParams();
  const { data, error, isPending, refetch } = useQuery(ask(api.tasks.task, { params: { assignment } }));
  if (isPending) return <Loading what={wording.theTask} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  return <Decide key={data.assignmentId} task={data} askAgain={refetch} />;
};

const Decide = ({ task, askAgain }: { task: Task; askAgain: () => void }) => {
  const me = useMe();
  const navigate = useNavigate();
  const [decision, setDecision] = useState<Decision | null>(null);
  const [comment, setComment] = useState('');
  const [sign, setSign] = useState({ name: '', password: '' });
  const [pane, setPane] = useState<Pane>(task.beforeVersionId ? 'changes' : 'text');
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
  return (
    <Commenting
      subject={{
        documentId: task.document.id,
        number: task.document.number,
        revision: { id: task.revisionId, state: task.signs ? 'in approval' : 'in review' },
        versionId: task.version.id,
        fileSort: Math.max(
          0,
          task.version.files.findIndex((one) => one.id === file?.id),
        ),
        current: true,
      }}
    >
      <LeaveGuard isDirtyNow={() => comment.trim() !== '' && !command.isPending && !command.isSuccess} />
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_344px] max-lg:block max-lg:overflow-y-auto">
        <DecisionSubject file={file} me={me} pane={pane} setPane={setPane} show={show} task={task} />
        <aside
          aria-label={wording.yourDecision}
          className="flex min-h-0 flex-col border-l border-line bg-sheet max-lg:border-t max-lg:border-l-0"
        >
          <div className="min-h-0 flex-1 overflow-y-auto">
            <TaskAbout task={task} me={me} />
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

/** Who asks for what and until when, why it changed, and what others said. */
const TaskAbout = ({ task, me }: { task: Task; me: ReturnType<typeof useMe> }) => {
  const decisions = task.round.steps.flatMap((step) =>
    step.assignments.filter((a) => a.decision).map((a) => ({ ...a, step: step.name })),
  );
  return (
    <>
      <Block caption={task.asDeputyFor ? wording.youAreActingForWhoIs(task.asDeputyFor.name) : wording.youAreAskedTo}>
        <h1 className="!text-[16px]">{task.step}</h1>
        <p className="text-ink-2">
          {wording.stepStepOf(task.stepOf)}
          {task.due && (
            <span className={task.overdue ? 'text-vermilion' : ''}>
              {' '}
              · {task.overdue ? wording.wasDue : 'due'} {showDay(task.due)}
            </span>
          )}{' '}
          {wording.askedBy(task.askedBy.name)}
        </p>
        {task.message && <p className="mt-1">“{task.message}”</p>}
      </Block>
      <Block caption={task.inForceLabel ? wording.reasonForThisChange : wording.summary}>
        {task.reason && <p>{task.reason}.</p>}
        {task.summary && <p className="mt-1">{task.summary}</p>}
        <p className="mt-1 text-ink-2">{task.changeKind}</p>
        {task.changes.map((change) => (
          <p key={change.label} className="text-[12.5px]">
            {change.label}: <del className="text-vermilion">{change.before}</del> →{' '}
            <b className="font-semibold">{change.after}</b>
          </p>
        ))}
      </Block>
      {decisions.length > 0 && (
        <Block caption={wording.decisionsSoFar}>
          {decisions.map((a) => (
            <p key={a.id}>
              <b className="font-semibold">{a.decidedBy?.name}</b> {saidWords(a.decision)},{' '}
              {showInstantDay(a.decidedAt, me.organisation.zone, true)}
              {a.comment && `: “${a.comment}”`}
            </p>
          ))}
        </Block>
      )}
    </>
  );
};

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
  </div>
);

/** What is decided on: the files, the change, the comments. */
const DecisionSubject = ({
  file,
  me,
  pane,
  setPane,
  show,
  task,
}: {
  file: Task['version']['files'][number] | undefined;
  me: ReturnType<typeof useMe>;
  pane: Pane;
  setPane: (pane: Pane) => void;
  show: (id: string) => void;
  task: Task;
}) => (
  <section aria-label={wording.whatYouDecideOn} className="flex min-h-0 min-w-0 flex-col max-lg:h-[68vh]">
    <TaskHead
      task={task}
      about={wording.versionVersionNVersionAt(task.version.n, showInstantDay(task.version.at, me.organisation.zone))}
      more={
        task.inForceLabel ? wording.changedSince(count(task.changes.length, 'field'), task.inForceLabel) : 'first issue'
      }
    >
      <span className="ml-auto flex gap-1">
        {PANES.filter((key) => key !== 'changes' || task.beforeVersionId).map((key) => (
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
      <div role="region" tabIndex={0} aria-label={wording.comments} className="min-h-0 flex-1 overflow-y-auto bg-sheet">
        <CommentsPanel />
      </div>
    ) : pane === 'changes' && task.beforeVersionId ? (
      <Changes old={task.beforeVersionId} now={task.version.id} />
    ) : (
      file && <FileViewer key={file.id} file={file} />
    )}
  </section>
);
