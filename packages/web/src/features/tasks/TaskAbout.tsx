import type { Task } from '@kanonos/contract';
import { useMe } from '../../app/session.tsx';
import { saidWords, showDay, showInstantDay } from '../../ui/format.ts';
import { BesideRound } from '../rounds/adHoc/BesideRound.tsx';
import { wording as adHoc } from '../rounds/adHoc/wording.ts';
import { Block } from './TaskHead.tsx';
import { wording } from './wording.ts';

/** Who asks for what and until when, why it changed, and what others said. */
export const TaskAbout = ({ task }: { task: Task }) => {
  const me = useMe();
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
        {task.round.isAdHoc && (
          <p className="text-ink-2">
            {adHoc.adHoc}: {task.round.name}
          </p>
        )}
        {task.message && <p className="mt-1">“{task.message}”</p>}
        <BesideRound round={task.round} />
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
              {a.onVersion !== null && a.onVersion < task.version.n && (
                <span className="text-ochre"> ({wording.onVersion(a.onVersion)})</span>
              )}
              {a.comment && `: “${a.comment}”`}
            </p>
          ))}
        </Block>
      )}
    </>
  );
};
