import {
  type Announcements,
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  type UniqueIdentifier,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { horizontalListSortingStrategy, SortableContext, sortableKeyboardCoordinates } from '@dnd-kit/sortable';
import type { Step } from '@kanonos/contract';
import { inStages } from '@kanonos/core';
import { Fragment } from 'react';
import { StepCard } from './StepCard.tsx';
import type { Named } from './stepWords.ts';
import { wording } from './wording.ts';

const placeOf = (id: UniqueIdentifier): number => Number(String(id).slice('step '.length));

/**
 * The steps in their order on one line, those that run at the same time below each other; moved by drag or by keys. A step is known by
 * its place: that is all that makes one of two like steps the first.
 */
export const RouteLine = ({
  steps,
  kindWords,
  open,
  onOpen,
  onMove,
  named,
}: {
  steps: readonly Step[];
  kindWords: (kind: Step['kind']) => string;
  open: number | undefined;
  onOpen: (index: number) => void;
  onMove: (from: number, to: number) => void;
  named: Named;
}) => {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const ids = steps.map((_, index) => `step ${index}`);
  const nameOf = (id: UniqueIdentifier) => steps[placeOf(id)]?.name || wording.noName;
  const announcements: Announcements = {
    onDragStart: ({ active }) => wording.pickedUp(nameOf(active.id)),
    onDragOver: ({ active, over }) =>
      over ? wording.nowAt(nameOf(active.id), placeOf(over.id) + 1, steps.length) : undefined,
    onDragEnd: ({ active }) => wording.putDown(nameOf(active.id)),
    onDragCancel: ({ active }) => wording.putBack(nameOf(active.id)),
  };
  let n = 0;
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      accessibility={{ announcements, screenReaderInstructions: { draggable: wording.howToMove } }}
      onDragEnd={({ active, over }) => over && onMove(placeOf(active.id), placeOf(over.id))}
    >
      <SortableContext items={ids} strategy={horizontalListSortingStrategy}>
        <section
          aria-label={wording.stepsInOrder}
          tabIndex={0}
          className="overflow-x-auto border border-line bg-film-2"
        >
          <ol className="flex min-w-max items-center gap-0 p-3">
            <Terminus text={wording.draft} />
            {inStages(steps).map((stage) => (
              <Fragment key={stage.map((step) => steps.indexOf(step)).join()}>
                <Track />
                <li className="contents">
                  <ul
                    aria-label={stage.length > 1 ? wording.stepsOfOneColumn : undefined}
                    className={`flex flex-col gap-2 ${stage.length > 1 ? 'border-x-2 border-ink-3 px-2' : ''}`}
                  >
                    {stage.map((step) => {
                      const index = n++;
                      return (
                        <StepCard
                          key={ids[index]}
                          id={ids[index] ?? ''}
                          n={index + 1}
                          step={step}
                          kind={kindWords(step.kind)}
                          isOpen={open === index}
                          open={() => onOpen(index)}
                          named={named}
                        />
                      );
                    })}
                  </ul>
                </li>
              </Fragment>
            ))}
            <Track />
            <Terminus text={wording.released} />
          </ol>
        </section>
      </SortableContext>
    </DndContext>
  );
};

const Track = () => <li aria-hidden className="h-px w-5 shrink-0 bg-ink-3" />;

const Terminus = ({ text }: { text: string }) => (
  <li className="cap shrink-0 rounded-xs border border-line bg-sheet px-2 py-1">{text}</li>
);
