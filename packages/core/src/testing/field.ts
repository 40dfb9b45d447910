import type { FieldDefinition } from '../metadata/metadata.ts';

/** A field of a type for a test: optional text of the document, but for what is given. */
export const field = (key: string, more: Partial<FieldDefinition> = {}): FieldDefinition => ({
  key,
  label: key,
  kind: 'text',
  mandatory: false,
  level: 'document',
  ...more,
});
