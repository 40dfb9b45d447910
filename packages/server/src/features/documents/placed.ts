import { type FieldDefinition, type Metadata, showFieldValue, titlesOf } from '@kanonos/core';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { namesInMetadata } from '../rules/index.ts';

/** What every file can place, beside the metadata of its type. */
export const COMMON_PLACES: readonly { name: string; label: string }[] = [
  { name: 'number', label: 'Number' },
  { name: 'title', label: 'Title' },
  { name: 'revision', label: 'Revision label' },
  { name: 'version', label: 'Version' },
  { name: 'date', label: 'Start date of the revision' },
  { name: 'registered', label: 'Registration date' },
  { name: 'effective', label: 'Effective from' },
  { name: 'review', label: 'Next review' },
  { name: 'type', label: 'Type' },
  { name: 'owner', label: 'Owner' },
  { name: 'folder', label: 'Folder' },
  { name: 'confidentiality', label: 'Confidentiality' },
  { name: 'organisation', label: 'Name of the organisation' },
];

/** Days that a field of a type may take the name of. */
const DAYS = ['registered', 'effective', 'review'];

/** Values of a file's placeholders: common ones, metadata as shown, and the title in the template's language. */
export const placedValues = async (
  db: Db | Trx,
  fields: readonly FieldDefinition[],
  metadata: Metadata,
  common: Record<string, string>,
  language: string,
): Promise<Record<string, string>> => {
  const names = await namesInMetadata(db, fields, metadata);
  const own = Object.fromEntries(
    fields.map((field) => {
      const shown = names[field.key] ?? showFieldValue(field, metadata[field.key]);
      return [field.key, shown === '–' ? '' : shown];
    }),
  );
  const title = titlesOf(metadata)[language] ?? common.title ?? '';
  const free = Object.fromEntries(Object.entries(common).filter(([name]) => !(DAYS.includes(name) && name in own)));
  return { ...own, ...free, title };
};
