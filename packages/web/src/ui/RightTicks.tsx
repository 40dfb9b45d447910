import { expandRights, RIGHTS, type Right, withRight } from '@kanonos/core';
import { Tick } from './Tick.tsx';

/** Rights as ticks: one that is given ticks all that it includes. */
export const RightTicks = ({ rights, onChange }: { rights: readonly Right[]; onChange: (rights: Right[]) => void }) => {
  const given = expandRights(rights);
  return (
    <div className="mt-1 flex flex-wrap gap-x-4">
      {RIGHTS.map((right) => (
        <Tick key={right} checked={given.has(right)} onChange={(on) => onChange(withRight(rights, right, on))}>
          {right}
        </Tick>
      ))}
    </div>
  );
};
