import { wording } from './wording.ts';
/** The revision label in a box with a cut corner: filled in force, outlined not yet, hatched no longer. */
export const RevisionMark = ({
  label,
  mark,
  size = 'normal',
}: {
  label: string;
  mark: 'in force' | 'open' | 'old';
  size?: 'normal' | 'big' | 'small';
}) => (
  <span
    role="img"
    className={`rev ${mark === 'open' ? 'rev-open' : mark === 'old' ? 'rev-old' : ''} ${size === 'big' ? 'rev-big' : size === 'small' ? 'rev-small' : ''}`}
    aria-label={wording.revisionLabelPart(
      label || wording.withoutLabel,
      mark === 'in force' ? 'in force' : mark === 'open' ? wording.notYetInForce : wording.noLongerInForce,
    )}
  >
    <span
      className={`${size === 'small' ? 'max-w-6' : 'max-w-10'} truncate ${label.length > 6 ? 'text-[7.5px]' : label.length > 4 ? 'text-[8.5px]' : ''}`}
    >
      {label || '–'}
    </span>
  </span>
);

const NOTCHES: Record<string, string> = {
  draft: 'c....',
  'in review': 'dc...',
  'in approval': 'ddc..',
  approved: 'dddc.',
  scheduled: 'dddc.',
  'in force': 'fffff',
  superseded: 'xxxxx',
  withdrawn: 'xxxxx',
  abandoned: 'x....',
};

/** The state of a revision in its life: five slanted notches, always with words. */
export const NotchBar = ({ state, words }: { state: string; words: string }) => (
  <span className="flex min-w-0 flex-col gap-[3px] text-[11.5px] leading-tight font-[550]">
    <span className="notch" aria-hidden>
      {[...(NOTCHES[state] ?? '.....')].map((kind, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: five fixed places
        <i key={i} data-k={kind} />
      ))}
    </span>
    <span className="truncate">{words}</span>
  </span>
);
