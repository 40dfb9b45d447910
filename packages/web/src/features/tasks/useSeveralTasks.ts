import { api, type Task } from '@kanonos/contract';
import { decisionsFor, type StepKind } from '@kanonos/core';
import { useQueries } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';

/** The one decision that several tasks are given together: the positive one of their kind. */
export type Together = 'no objection' | 'done' | 'approve';
export const togetherFor = (task: Task): Together => {
  const [first] = decisionsFor(task.stepKind as StepKind);
  return first === 'approve' || first === 'done' ? first : 'no objection';
};

/** Why a task cannot be decided with others: its type forbids it, or the person cannot decide in it now. */
export const keepsApart = (task: Task): boolean => task.decidedAlone || task.refusals.length > 0;

/** A task counts as looked at when it was shown and all its files were opened. */
export const isLookedAt = (task: Task, seen: ReadonlySet<string>): boolean =>
  seen.has(task.assignmentId) && task.files.every((file) => file.opened);

/** The tasks of an address, in its order, with which of them is shown and which were. */
export const useSeveralTasks = (ids: readonly string[]) => {
  const found = useQueries({
    queries: ids.map((assignment) => ask(api.tasks.task, { params: { assignment } })),
  });
  const tasks = found.flatMap(({ data }) => data ?? []);
  const [shownId, setShownId] = useState(ids[0]);
  const [seen, setSeen] = useState<ReadonlySet<string>>(new Set(ids.slice(0, 1)));
  const show = (id: string) => {
    setShownId(id);
    setSeen((before) => new Set([...before, id]));
  };
  return {
    tasks,
    isPending: found.some((one) => one.isPending),
    failed: found.find((one) => one.error && !one.data)?.error ?? null,
    /** Asks for all of them again, or for one. */
    askAgain: (id?: string) => {
      for (const one of found) if (id === undefined || one.data?.assignmentId === id) void one.refetch();
    },
    shown: tasks.find((task) => task.assignmentId === shownId) ?? tasks[0],
    show,
    seen,
  };
};
