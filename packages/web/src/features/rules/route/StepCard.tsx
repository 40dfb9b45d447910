import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import type { Step } from '@kanonos/contract';
import { GripVertical } from 'lucide-react';
import { assigneeWords, conditionWords, escalationWords, type Named, ruleWords } from './stepWords.ts';
import { wording } from './wording.ts';

const DECIDED: Record<Step['kind'], string> = {
  review: 'border-t-ochre',
  acknowledge: 'border-t-ink-3',
  task: 'border-t-ink-3',
  approval: 'border-t-petrol',
};

/** A step as a card on the line: pressed it is edited below, by its handle it is moved. */
export const StepCard = ({
  id,
  n,
  step,
  kind,
  isOpen,
  open,
  named,
}: {
  id: string;
  n: number;
  step: Step;
  kind: string;
  isOpen: boolean;
  open: () => void;
  named: Named;
}) => {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({
    id,
  });
  const name = step.name || wording.noName;
  const dueField = named.fields.find(({ key }) => key === step.dueField);
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), ...(transition ? { transition } : {}) }}
      className={`relative flex w-52 rounded-xs border border-t-3 bg-sheet ${DECIDED[step.kind]} ${isOpen ? 'border-x-petrol border-b-petrol shadow-[0_0_0_1px_var(--color-petrol)]' : 'border-x-line border-b-line'} ${isDragging ? 'z-10 opacity-80' : ''}`}
    >
      <button
        type="button"
        aria-pressed={isOpen}
        aria-label={wording.openStep(n, name)}
        onClick={open}
        className="flex min-w-0 flex-1 flex-col gap-0.5 px-2.5 py-2 text-left"
      >
        <span className="text-[11.5px] text-ink-3">
          <span className="num">{n}</span> · {kind}
        </span>
        <b className="font-semibold break-words">{name}</b>
        <span className="text-[12px] text-ink-2">
          {step.assignees.map((one) => assigneeWords(one, named)).join(', ') || (
            <span className="text-vermilion">{wording.nobodyYet}</span>
          )}
        </span>
        <span className="text-[12px] text-ink-3">
          {ruleWords(step.rule)} · {dueField ? wording.onTheDayIn(dueField.label) : wording.days(step.workingDays)}
        </span>
        {step.when !== undefined && (
          <span className="text-[12px] text-ochre">{wording.onlyWhere(conditionWords(step.when, named.fields))}</span>
        )}
        {step.escalations?.map((line) => (
          <span key={line.action + line.afterDays} className="text-[12px] text-ink-3">
            {escalationWords(line, named.nameOf)}
          </span>
        ))}
      </button>
      <button
        type="button"
        ref={setActivatorNodeRef}
        {...attributes}
        {...listeners}
        aria-label={wording.moveStep(name)}
        title={wording.moveStep(name)}
        className="grid w-6 shrink-0 cursor-grab touch-none place-items-center self-stretch text-ink-3 hover:bg-film-2"
      >
        <GripVertical size={14} aria-hidden />
      </button>
    </li>
  );
};
