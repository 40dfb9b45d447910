import { wording } from './wording.ts';

const MARKS = { 'in force': '', 'on hold': 'rev-hold', open: 'rev-open', old: 'rev-old' } as const;
const MARK_WORDS = {
  'in force': 'in force',
  'on hold': wording.onHold,
  open: wording.notYetInForce,
  old: wording.noLongerInForce,
} as const;

/** The revision label in a box with a cut corner: filled in force, outlined not yet, hatched no longer; red and struck through while it must not be used. */
export const RevisionMark = ({
  label,
  mark,
  size = 'normal',
}: {
  label: string;
  mark: 'in force' | 'on hold' | 'open' | 'old';
  size?: 'normal' | 'big' | 'small';
}) => (
  <span
    role="img"
    className={`rev ${MARKS[mark]} ${size === 'big' ? 'rev-big' : size === 'small' ? 'rev-small' : ''}`}
    aria-label={wording.revisionLabelPart(label || wording.withoutLabel, MARK_WORDS[mark])}
  >
    {mark === 'on hold' && <i aria-hidden className="rev-bar" />}
    <span
      className={`${size === 'small' ? 'max-w-6' : 'max-w-10'} truncate ${label.length > 6 ? 'text-[7.5px]' : label.length > 4 ? 'text-[8.5px]' : ''}`}
    >
      {label || '–'}
    </span>
  </span>
);

/** The red words behind a document in force that must not be used; nothing where it may. */
export const HoldWords = ({ when }: { when: boolean }) =>
  when ? <span className="ml-2 font-semibold text-vermilion">{wording.onHoldDoNotUse}</span> : null;

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
export const NotchBar = ({
  state,
  words,
  isWarning = false,
}: {
  state: string;
  words: string;
  isWarning?: boolean;
}) => (
  <span className="flex min-w-0 flex-col gap-[3px] text-[11.5px] leading-tight font-[550]">
    <span className="notch" aria-hidden>
      {[...(NOTCHES[state] ?? '.....')].map((kind, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: five fixed places
        <i key={i} data-k={kind} />
      ))}
    </span>
    <span className={`truncate ${isWarning ? 'text-vermilion' : ''}`}>{words}</span>
  </span>
);
