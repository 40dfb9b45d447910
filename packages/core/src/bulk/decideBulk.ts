import { hasRight, type Right } from '../access/rights.ts';
import {
  checkFacts,
  equalFacts,
  type Facts,
  type FactValue,
  type FieldDefinition,
  isEmptyFact,
} from '../facts/facts.ts';
import { inheritedChanges } from '../filing/filing.ts';
import { ok, type Refusal, type Result, refusal } from '../result.ts';

/** What is changed on many documents at once: living facts, keywords, owner, folder, day of the next review. */
export type BulkChange = {
  facts?: Facts;
  addKeywords?: readonly string[];
  removeKeywords?: readonly string[];
  ownerId?: string;
  folderId?: string;
  reviewOn?: string | null;
};

/** What a change looks at and changes of one document. */
export type BulkState = {
  facts: Facts;
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
  /** What its folder and the one it would be moved to say, for facts that begin with the folder's. */
  folderFacts?: { before: Readonly<Record<string, string>>; after: Readonly<Record<string, string>> };
};

/**
 * What a document would be after a change, or why it is left alone. Living facts ask for *manage*, or *author* while its only
 * revision is a draft; signed facts never change this way. A document on which nothing differs gives itself.
 */
export const decideBulk = (document: BulkDocument, change: BulkChange): Result<BulkState> => {
  const { rights, fields } = document;
  const refusals: Refusal[] = [];
  const mayManage = hasRight(rights, 'manage') || (document.isDraft && hasRight(rights, 'author'));
  if (!mayManage) refusals.push(refusal('right_missing', { right: 'manage' }));
  const signed = fields.filter((field) => field.signed && change.facts?.[field.key] !== undefined);
  for (const field of signed) refusals.push(refusal('fact_is_signed', { field: field.label }));
  // A document that moves takes over what its new folder says, where it still bore what the old one said.
  const inherited = document.folderFacts
    ? inheritedChanges(fields, document.facts, document.folderFacts.before, document.folderFacts.after)
    : {};
  const facts = { ...document.facts, ...inherited, ...change.facts };
  refusals.push(...checkFacts(fields, { ...change.facts, ...above(fields, change.facts, facts) }, document.facts));
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
    facts: Object.fromEntries(Object.entries(facts).filter(([, value]) => !isEmptyFact(value))),
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
  change: Facts | undefined,
  facts: Facts,
): Record<string, FactValue> =>
  Object.fromEntries(
    fields.flatMap((field) => {
      const value = field.dependsOn === undefined ? undefined : facts[field.dependsOn];
      const concerned = change?.[field.key] !== undefined || change?.[field.dependsOn ?? ''] !== undefined;
      return concerned && field.dependsOn
        ? [
            [field.dependsOn, value ?? null] as const,
            ...(isEmptyFact(facts[field.key]) ? [] : [[field.key, facts[field.key] ?? null] as const]),
          ]
        : [];
    }),
  );

/** What differs between two states of a document, by name of the thing. */
export const bulkDifferences = (
  before: BulkState,
  after: BulkState,
): { what: string; before: FactValue; after: FactValue }[] => {
  const found: { what: string; before: FactValue; after: FactValue }[] = [];
  const add = (what: string, a: FactValue | undefined, b: FactValue | undefined) => {
    if (!equalFacts(a, b)) found.push({ what, before: a ?? null, after: b ?? null });
  };
  for (const key of new Set([...Object.keys(before.facts), ...Object.keys(after.facts)]))
    add(`facts.${key}`, before.facts[key], after.facts[key]);
  add('keywords', [...before.keywords], [...after.keywords]);
  add('owner', before.ownerId, after.ownerId);
  add('folder', before.folderId, after.folderId);
  add('reviewOn', before.reviewOn, after.reviewOn);
  return found;
};
