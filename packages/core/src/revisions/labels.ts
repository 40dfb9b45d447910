import { ok, type Result, refuse } from '../result.ts';
import { utf8Length } from '../text.ts';

export type ChangeKind = 'first issue' | 'minor' | 'major' | 'editorial';

/** One stage of a staged scheme: a prefix with digits of a width, or letters. */
export type Stage = { prefix: string; width: number } | { letters: true };

/** How versions are shown before the first release: as 0.1, 0.2 …, or as their number. */
export const DRAFT_NUMBERS = ['0.n', 'n'] as const;
export type DraftNumbers = (typeof DRAFT_NUMBERS)[number];

/** How a type labels its revisions. */
export type RevisionScheme = (
  | { kind: 'letters' }
  | { kind: 'integers'; first: 0 | 1; width?: number | undefined }
  | { kind: 'major.minor' }
  | { kind: 'none' }
  | { kind: 'own' }
  | { kind: 'staged'; stages: readonly Stage[] }
) & { drafts?: DraftNumbers | undefined };

/** As a scheme says; where it does not, 0.n goes with major.minor alone. */
export const draftNumbersOf = ({ kind, drafts }: RevisionScheme): DraftNumbers =>
  drafts ?? (kind === 'major.minor' ? '0.n' : 'n');

/** ASME Y14.35: the letters that may be used; I O Q S X Z are left out. */
const LETTERS = 'ABCDEFGHJKLMNPRTUVWY';

/** The n-th letter label, n from 1: bijective base 20. */
export const toLetters = (n: number): string => {
  let label = '';
  for (let rest = n; rest > 0; rest = Math.floor((rest - 1) / 20)) label = LETTERS[(rest - 1) % 20] + label;
  return label;
};

/** The position of a letter label, from 1; undefined when a character is not allowed in one. */
export const fromLetters = (label: string): number | undefined => {
  if (label.length === 0 || label.length > 8) return undefined;
  let n = 0;
  for (const letter of label) {
    const digit = LETTERS.indexOf(letter);
    if (digit < 0) return undefined;
    n = n * 20 + digit + 1;
  }
  return n;
};

const padded = (n: number, width = 1) => String(n).padStart(width, '0');

/** A label as numbers that compare in order; undefined when the label does not belong to the scheme. */
const positionOf = (scheme: RevisionScheme, label: string): readonly number[] | undefined => {
  switch (scheme.kind) {
    case 'letters': {
      const n = fromLetters(label);
      return n === undefined ? undefined : [n];
    }
    case 'integers': {
      if (!/^\d{1,9}$/.test(label)) return undefined;
      const n = Number(label);
      return label === padded(n, scheme.width) && n >= scheme.first ? [n] : undefined;
    }
    case 'major.minor': {
      const match = /^([1-9]\d{0,8})\.(0|[1-9]\d{0,8})$/.exec(label);
      return match ? [Number(match[1]), Number(match[2])] : undefined;
    }
    case 'none':
      return label === '' ? [0] : undefined;
    case 'own':
      return undefined;
    case 'staged': {
      for (const [index, stage] of scheme.stages.entries()) {
        if ('letters' in stage) {
          const n = fromLetters(label);
          if (n !== undefined) return [index, n];
        } else if (label.startsWith(stage.prefix)) {
          const digits = label.slice(stage.prefix.length);
          if (/^\d{1,9}$/.test(digits) && digits === padded(Number(digits), stage.width) && Number(digits) > 0) {
            return [index, Number(digits)];
          }
        }
      }
      return undefined;
    }
  }
};

const stageLabel = (stage: Stage, n: number) =>
  'letters' in stage ? toLetters(n) : `${stage.prefix}${padded(n, stage.width)}`;

/** Whether a label belongs to a scheme. Labels of the maker's own are any text of up to 16 bytes without blanks at its ends. */
export const isLabel = (scheme: RevisionScheme, label: string): boolean =>
  scheme.kind === 'own'
    ? label.trim() === label && label !== '' && utf8Length(label) <= 16
    : positionOf(scheme, label) !== undefined;

/** The label of the first revision. For the maker's own scheme there is none to compute. */
export const firstLabel = (scheme: RevisionScheme): Result<string> => {
  switch (scheme.kind) {
    case 'letters':
      return ok('A');
    case 'integers':
      return ok(padded(scheme.first, scheme.width));
    case 'major.minor':
      return ok('1.0');
    case 'none':
      return ok('');
    case 'own':
      return refuse('label_given_by_supplier');
    case 'staged': {
      const [stage] = scheme.stages;
      return stage ? ok(stageLabel(stage, 1)) : refuse('scheme_without_stages');
    }
  }
};

/**
 * The label after `last` for a change kind. In major.minor, *minor* and *editorial* raise the second part, *major* the
 * first. `toStage` (index) begins a later stage of a staged scheme anew; going back is refused.
 */
export const nextLabel = (
  scheme: RevisionScheme,
  last: string,
  changeKind: ChangeKind,
  toStage?: number,
): Result<string> => {
  if (scheme.kind === 'none') return refuse('scheme_has_one_revision');
  if (scheme.kind === 'own') return refuse('label_given_by_supplier');
  const position = positionOf(scheme, last);
  if (!position) return refuse('label_not_of_scheme', { label: last });
  const [a = 0, b = 0] = position;
  switch (scheme.kind) {
    case 'letters':
      return ok(toLetters(a + 1));
    case 'integers':
      return ok(padded(a + 1, scheme.width));
    case 'major.minor':
      return ok(changeKind === 'major' ? `${a + 1}.0` : `${a}.${b + 1}`);
    case 'staged': {
      const target = toStage ?? a;
      const stage = scheme.stages[target];
      if (!stage) return refuse('no_such_stage', { stage: target });
      if (target < a) return refuse('stage_never_back');
      return ok(stageLabel(stage, target === a ? b + 1 : 1));
    }
  }
};

/** The labels allowed for the next revision: one per change kind, or one per stage that can be stepped to, or the maker's own. */
export type LabelsAhead =
  | { by: 'change kind'; labels: Record<Exclude<ChangeKind, 'first issue'>, string> }
  | { by: 'stage'; stages: { stage: number; label: string }[] }
  | { by: 'maker' }
  | { by: 'none' };

/** The labels that may follow `last`, to be shown before a revision is begun. */
export const labelsAhead = (scheme: RevisionScheme, last: string): LabelsAhead => {
  if (scheme.kind === 'own') return { by: 'maker' };
  if (scheme.kind === 'staged') {
    const stages = scheme.stages.flatMap((_, stage) => {
      const next = nextLabel(scheme, last, 'major', stage);
      return next.ok ? [{ stage, label: next.value }] : [];
    });
    return { by: 'stage', stages };
  }
  const label = (kind: ChangeKind) => {
    const next = nextLabel(scheme, last, kind);
    return next.ok ? next.value : undefined;
  };
  const [minor, major, editorial] = [label('minor'), label('major'), label('editorial')];
  if (minor === undefined || major === undefined || editorial === undefined) return { by: 'none' };
  return { by: 'change kind', labels: { minor, major, editorial } };
};

/** Orders two labels of a scheme (negative, zero, positive). The maker's own labels have no order but the ordinal's. */
export const compareLabels = (scheme: RevisionScheme, left: string, right: string): Result<number> => {
  const a = positionOf(scheme, left);
  const b = positionOf(scheme, right);
  if (!a) return refuse('label_not_of_scheme', { label: left });
  if (!b) return refuse('label_not_of_scheme', { label: right });
  for (let i = 0; i < Math.max(a.length, b.length); i++) {
    const difference = (a[i] ?? 0) - (b[i] ?? 0);
    if (difference !== 0) return ok(difference);
  }
  return ok(0);
};

/** Whether a label set by hand may follow the last one: it must belong to the scheme and come after it. */
export const canFollow = (scheme: RevisionScheme, last: string | undefined, label: string): boolean => {
  if (!isLabel(scheme, label)) return false;
  if (last === undefined || scheme.kind === 'own') return label !== last;
  const order = compareLabels(scheme, last, label);
  return order.ok && order.value < 0;
};

/** How a version of a revision is shown: before the first release as its scheme says, afterwards as its number. */
export const versionLabel = (scheme: RevisionScheme, everReleased: boolean, version: number): string =>
  draftNumbersOf(scheme) === '0.n' && !everReleased ? `0.${version}` : String(version);
