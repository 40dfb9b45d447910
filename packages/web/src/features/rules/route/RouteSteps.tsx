import type { Route, Step, TypeRule, Unit } from '@kanonos/contract';
import { changeStep, moveStep, removeStep } from '@kanonos/core';
import { useState } from 'react';
import { wording as rules } from '../wording.ts';
import { RouteLine } from './RouteLine.tsx';
import { StepDetail } from './StepDetail.tsx';
import { wording } from './wording.ts';

const KINDS: { value: Step['kind']; text: string }[] = [
  { value: 'review', text: 'review' },
  { value: 'acknowledge', text: rules.takeNote },
  { value: 'task', text: 'task' },
  { value: 'approval', text: rules.approvalSigned },
];
const kindWords = (kind: Step['kind']): string => KINDS.find(({ value }) => value === kind)?.text ?? kind;

const NEW_STEP: Step = {
  name: rules.review,
  kind: 'review',
  assignees: [{ by: 'chosen', minimum: 1 }],
  rule: { kind: 'all' },
  workingDays: 5,
  onReject: 'draft',
};

/** The steps of a route: all of them on a line, and the one that is open below it. */
export const RouteSteps = ({
  route,
  rule,
  onChange,
  nameOf,
  units,
}: {
  route: Route;
  rule: TypeRule;
  onChange: (route: Route) => void;
  nameOf: (id: string) => string;
  units: readonly Unit[];
}) => {
  const [open, setOpen] = useState(0);
  const { steps } = route;
  const set = (next: Step[]) => onChange({ ...route, name: route.name || namedAfter(next), steps: next });
  const at = Math.min(open, steps.length - 1);
  const step = steps[at];
  const named = { nameOf, units, fields: rule.fields };
  const add = () => {
    const isApproval = steps.at(-1)?.kind === 'approval';
    const approval = {
      name: rules.approval,
      kind: 'approval',
      meaning: 'approved',
      assignees: [{ by: 'owner' }],
    } as const;
    set([...steps, isApproval ? { ...NEW_STEP, ...approval, assignees: [...approval.assignees] } : NEW_STEP]);
    setOpen(steps.length);
  };
  return (
    <div className="flex flex-col gap-2">
      {steps.length === 0 ? (
        <p className="text-ink-2">{rules.noStepsDocumentsAreReleasedWithout}</p>
      ) : (
        <>
          <RouteLine
            steps={steps}
            kindWords={kindWords}
            open={at}
            onOpen={setOpen}
            onMove={(from, to) => {
              set(moveStep(steps, from, to));
              setOpen(to);
            }}
            named={named}
          />
          <p className="text-[12px] text-ink-3">{wording.dragOrKeys}</p>
        </>
      )}
      <div>
        <button type="button" className="btn" onClick={add}>
          {rules.addStep}
        </button>
      </div>
      {step && (
        <StepDetail
          // A step that moves or goes takes what is half typed in it along.
          key={`${at} ${steps.length}`}
          step={step}
          index={at}
          steps={steps}
          asksAgain={route.keepsDecisions !== true}
          kinds={KINDS}
          named={named}
          change={(part) => set(changeStep(steps, at, part))}
          move={(by) => {
            set(moveStep(steps, at, at + by));
            setOpen(at + by);
          }}
          remove={() => set(removeStep(steps, at))}
        />
      )}
    </div>
  );
};

const namedAfter = (steps: readonly Step[]): string =>
  steps
    .map((step) => step.name)
    .join(', ')
    .slice(0, 80);
