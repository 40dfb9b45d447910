import type { BulkChange } from '@kanonos/contract';
import { wording } from './wording.ts';

/** What can be changed on many documents. */
export const KINDS = [
  { value: 'field', text: wording.aField },
  { value: 'keywords', text: wording.keywords },
  { value: 'owner', text: wording.owner },
  { value: 'folder', text: wording.folder },
  { value: 'review', text: wording.nextReviewDate },
] as const;
export type Kind = (typeof KINDS)[number]['value'];

/** Several changes as one, so that each document is changed once; null while none has its value yet. */
export const mergeChanges = (changes: readonly (BulkChange | null)[]): BulkChange | null => {
  const chosen = changes.filter((change) => change !== null);
  if (chosen.length === 0) return null;
  const metadata = Object.assign({}, ...chosen.map((change) => change.metadata ?? {}));
  return {
    ...Object.assign({}, ...chosen),
    ...(Object.keys(metadata).length > 0 ? { metadata } : {}),
  };
};
