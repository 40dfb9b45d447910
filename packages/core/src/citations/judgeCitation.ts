import { isLabel, type RevisionScheme } from '../revisions/labels.ts';

/** What is known of a cited document for the day on which its citations are judged. */
export type CitedDocument = {
  scheme: RevisionScheme;
  /** All its revisions from the first to the newest. */
  labels: readonly string[];
  /** The label in force on that day. */
  inForce: string | null;
  /** It was in force before that day at some time, or is on it. */
  everInForce: boolean;
  /** It was withdrawn by that day. */
  withdrawn: boolean;
};

export const CITATION_KINDS = [
  'self',
  'unknown number',
  'no such revision',
  'current',
  'withdrawn',
  'never in force',
  'ahead',
  'outdated',
] as const;
export type CitationKind = (typeof CITATION_KINDS)[number];

/**
 * What a citation is on a day; the first kind that fits counts. What follows a number as a label and is none of the document's
 * scheme was not meant as one.
 */
export const judgeCitation = (
  cited: { label: string | null },
  document: CitedDocument | undefined,
  isSelf = false,
): CitationKind => {
  if (isSelf) return 'self';
  if (!document) return 'unknown number';
  const { labels, inForce } = document;
  const label = cited.label !== null && isLabel(document.scheme, cited.label) ? cited.label : null;
  if (label !== null && !labels.includes(label)) return 'no such revision';
  if (inForce !== null && (label === null || label === inForce)) return 'current';
  if (document.withdrawn) return 'withdrawn';
  if (!document.everInForce || inForce === null || label === null) return 'never in force';
  return labels.indexOf(label) > labels.indexOf(inForce) ? 'ahead' : 'outdated';
};
