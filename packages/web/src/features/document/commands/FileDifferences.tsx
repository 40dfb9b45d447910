import { Tick } from '../../../ui/Tick.tsx';
import type { Otherwise } from '../fileDifferences.ts';
import { wording } from '../wording.ts';

/** Metadata that the changed file states otherwise, each to be taken over or left. */
export const FileDifferences = ({
  found,
  left,
  onLeft,
}: {
  found: readonly Otherwise[];
  /** Keys of those that are not taken over. */
  left: ReadonlySet<string>;
  onLeft: (left: ReadonlySet<string>) => void;
}) =>
  found.length > 0 && (
    <fieldset className="border-l-3 border-ochre bg-ochre-tint px-3 py-2">
      <legend className="sr-only">{wording.differencesFoundInTheFile}</legend>
      <p className="text-ochre">{wording.theFileContainsOtherValuesThan}</p>
      {found.map(({ key, label, before, after }) => (
        <Tick
          key={key}
          checked={!left.has(key)}
          onChange={(on) => onLeft(new Set([...left].filter((one) => one !== key).concat(on ? [] : [key])))}
        >
          {label}: <del>{before}</del> → <b className="font-semibold">{after}</b>
        </Tick>
      ))}
    </fieldset>
  );
