import type { DocumentPage } from '@kanonos/contract';
import { equalMetadata, type FieldValue, metadataFromNamed, showFieldValue } from '@kanonos/core';
import { wording } from './wording.ts';

/** A field that a file states otherwise than the document does. */
export type Otherwise = { key: string; label: string; before: string; after: string; value: FieldValue };

const TITLE = 'title';

/**
 * The title and metadata of a changed file that differ from the document: somebody changed a property or a content control in it.
 * Values unchanged since the copy was handed out are not listed.
 */
export const fileDifferences = (
  page: Pick<DocumentPage, 'fields' | 'metadata' | 'titles' | 'revision'>,
  named: Readonly<Record<string, string>>,
): Otherwise[] => {
  const title = named[TITLE]?.trim() ?? '';
  const knownTitles = [page.revision.title, ...Object.values(page.titles)];
  const read = metadataFromNamed(page.fields, named);
  return [
    ...(title !== '' && !knownTitles.includes(title)
      ? [{ key: TITLE, label: wording.title, before: page.revision.title, after: title, value: title }]
      : []),
    ...page.fields.flatMap((field): Otherwise[] => {
      const [value, now] = [read[field.key], page.metadata[field.key]];
      if (value === undefined || equalMetadata(value, now ?? null)) return [];
      return [
        {
          key: field.key,
          label: field.label,
          before: showFieldValue(field, now),
          after: showFieldValue(field, value),
          value,
        },
      ];
    }),
  ];
};
