import { hasRight, type Right } from '../access/rights.ts';
import { inheritedChanges } from '../filing/filing.ts';
import {
  checkMetadata,
  equalMetadata,
  type FieldDefinition,
  type FieldValue,
  isEmptyFieldValue,
  type Metadata,
} from '../metadata/metadata.ts';
import { ok, type Refusal, type Result, refusal } from '../result.ts';

/** What is changed on many documents at once: document fields, keywords, owner, folder, day of the next review. */
export type BulkChange = {
  metadata?: Metadata;
  addKeywords?: readonly string[];
  removeKeywords?: readonly string[];
  ownerId?: string;
  folderId?: string;
  reviewOn?: string | null;
};

/** What a change looks at and changes of one document. */
export type BulkState = {
  metadata: Metadata;
  keywords: readonly string[];
  ownerId: string;
  folderId: string;
  reviewOn: string | null;
};

export type BulkDocument = BulkState & {
  fields: readonly FieldDefinition[];
  rights: ReadonlySet<Right>;
  isDraft: boolean;
  /** What the person may do where the document would be moved to. */
  rightsInFolder?: ReadonlySet<Right>;
  /** The values of its folder and of the target folder, for metadata that begin with the folder's. */
  folderMetadata?: { before: Readonly<Record<string, string>>; after: Readonly<Record<string, string>> };
};

/**
 * What a document would be after a change, or why it is left alone. Document fields ask for *manage*, or *author* while its only
 * revision is a draft; revision fields never change this way. A document on which nothing differs gives itself.
 */
export const decideBulk = (document: BulkDocument, change: BulkChange): Result<BulkState> => {
  const { rights, fields } = document;
  const refusals: Refusal[] = [];
  const mayManage = hasRight(rights, 'manage') || (document.isDraft && hasRight(rights, 'author'));
  if (!mayManage) refusals.push(refusal('right_missing', { right: 'manage' }));
  const signed = fields.filter((field) => field.level === 'revision' && change.metadata?.[field.key] !== undefined);
  for (const field of signed) refusals.push(refusal('field_is_revision_level', { field: field.label }));
  // A moved document takes over the values of its new folder, where it still had those of the old one.
  const inherited = document.folderMetadata
    ? inheritedChanges(fields, document.metadata, document.folderMetadata.before, document.folderMetadata.after)
    : {};
  const metadata = { ...document.metadata, ...inherited, ...change.metadata };
  refusals.push(
    ...checkMetadata(fields, { ...change.metadata, ...above(fields, change.metadata, metadata) }, document.metadata),
  );
  if (
    change.folderId &&
    change.folderId !== document.folderId &&
    !hasRight(document.rightsInFolder ?? new Set(), 'author')
  )
    refusals.push(refusal('right_missing_in_folder', { right: 'author' }));
  if (refusals.length) return { ok: false, refusals };
  const removed = new Set((change.removeKeywords ?? []).map(folded));
  const kept = document.keywords.filter((word) => !removed.has(folded(word)));
  const added = (change.addKeywords ?? []).filter((word) => !kept.some((one) => folded(one) === folded(word)));
  return ok({
    metadata: Object.fromEntries(Object.entries(metadata).filter(([, value]) => !isEmptyFieldValue(value))),
    keywords: [...kept, ...added],
    ownerId: change.ownerId ?? document.ownerId,
    folderId: change.folderId ?? document.folderId,
    reviewOn: change.reviewOn === undefined ? document.reviewOn : change.reviewOn,
  });
};

const folded = (word: string) => word.toLocaleLowerCase('en');

/** A dependent choice is judged with the one above it, also when only one of the two changes. */
const above = (
  fields: readonly FieldDefinition[],
  change: Metadata | undefined,
  metadata: Metadata,
): Record<string, FieldValue> =>
  Object.fromEntries(
    fields.flatMap((field) => {
      const value = field.dependsOn === undefined ? undefined : metadata[field.dependsOn];
      const concerned = change?.[field.key] !== undefined || change?.[field.dependsOn ?? ''] !== undefined;
      return concerned && field.dependsOn
        ? [
            [field.dependsOn, value ?? null] as const,
            ...(isEmptyFieldValue(metadata[field.key]) ? [] : [[field.key, metadata[field.key] ?? null] as const]),
          ]
        : [];
    }),
  );

/** What differs between two states of a document, by name of the thing. */
export const bulkDifferences = (
  before: BulkState,
  after: BulkState,
): { what: string; before: FieldValue; after: FieldValue }[] => {
  const found: { what: string; before: FieldValue; after: FieldValue }[] = [];
  const add = (what: string, a: FieldValue | undefined, b: FieldValue | undefined) => {
    if (!equalMetadata(a, b)) found.push({ what, before: a ?? null, after: b ?? null });
  };
  for (const key of new Set([...Object.keys(before.metadata), ...Object.keys(after.metadata)]))
    add(`metadata.${key}`, before.metadata[key], after.metadata[key]);
  add('keywords', [...before.keywords], [...after.keywords]);
  add('owner', before.ownerId, after.ownerId);
  add('folder', before.folderId, after.folderId);
  add('reviewOn', before.reviewOn, after.reviewOn);
  return found;
};
