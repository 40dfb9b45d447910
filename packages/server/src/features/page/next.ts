import type { NextStep, RoundInfo } from '@kanonos/contract';
import type { Opened } from '../documents/index.ts';

/** The next step of a document: who does what next, since when, until when, what comes then. */
export const nextStepOf = (
  opened: Pick<Opened, 'document' | 'work' | 'inForce' | 'checkout'>,
  rounds: readonly RoundInfo[],
  viewerId: string,
  deputyFor: ReadonlySet<string>,
  blockers: number,
): NextStep | null => {
  const { work, checkout, document } = opened;
  const base = {
    who: [] as string[],
    step: null,
    since: null,
    due: null,
    overdue: false,
    afterCommit: null,
    blockers,
    mine: false,
    assignmentId: null,
  };
  if (!work) return document.withdraw_on ? { ...base, kind: 'withdrawal planned', due: document.withdraw_on } : null;
  const round = rounds.find(({ isAdHoc }) => !isAdHoc);
  switch (work.state) {
    case 'draft':
      if (checkout)
        return {
          ...base,
          kind: 'checked out',
          who: [checkout.person_name],
          since: checkout.at.toISOString(),
          mine: checkout.person_id === viewerId,
        };
      return {
        ...base,
        kind: 'finish',
        who: [round?.startedBy.name ?? work.created_by_name],
        since: round?.endedAt ?? work.created_at.toISOString(),
        step: round?.state === 'rejected' ? lastWords(round) : null,
        mine: work.created_by === viewerId,
      };
    case 'in review':
    case 'in approval': {
      if (!round || round.state === 'held up')
        return { ...base, kind: 'held up', since: round?.startedAt ?? null, blockers: round?.blockers.length ?? 0 };
      const open = round.steps.filter((step) => step.state === 'open');
      const awaited = open.flatMap((step) => step.assignments.filter((a) => a.state === 'open'));
      const mine = awaited.find((a) => a.person.id === viewerId) ?? awaited.find((a) => deputyFor.has(a.person.id));
      const later = round.steps.filter((step) => step.state === 'waiting').map((step) => step.name);
      return {
        ...base,
        kind: 'decide',
        who: awaited.map((a) => a.person.name),
        step: open.length > 0 ? open.map((step) => step.name).join(', ') : null,
        since: awaited[0]?.since ?? null,
        due: open.flatMap((step) => step.dueOn ?? []).sort()[0] ?? null,
        overdue: awaited.some((a) => a.overdue),
        mine: mine !== undefined,
        assignmentId: mine?.id ?? null,
        afterCommit: later[0] ?? 'release',
      };
    }
    case 'approved':
      return { ...base, kind: 'release', since: round?.endedAt ?? null };
    case 'scheduled':
      return {
        ...base,
        kind: work.blocked_since ? 'blocked' : 'scheduled',
        due: work.planned_on,
        since: work.blocked_since?.toISOString() ?? null,
      };
    default:
      return null;
  }
};

const lastWords = (round: RoundInfo): string | null =>
  round.steps.flatMap((s) => s.assignments).find((a) => a.decision === 'reject')?.comment ?? null;
