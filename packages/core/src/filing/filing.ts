import type { FieldDefinition, FieldValue, Metadata } from '../metadata/metadata.ts';
import { equalMetadata, isEmptyFieldValue } from '../metadata/metadata.ts';
import { ok, type Refusal, type Result, refusal, refuse } from '../result.ts';
import { foldText } from '../text.ts';

/** A folder as far as the filing plan needs it. Metadata of its own are inherited by what is filed in it. */
export type PlanFolder = {
  id: string;
  parentId: string | null;
  name: string;
  metadata: Readonly<Record<string, string>>;
};

/** Project folders begin unseen by most, and end so that nothing in them changes any more. */
export const FOLDER_STATES = ['in preparation', 'open', 'closed', 'kept'] as const;
export type FolderState = (typeof FOLDER_STATES)[number];

const STATE_MOVES: Readonly<Record<FolderState, readonly FolderState[]>> = {
  'in preparation': ['open'],
  open: ['in preparation', 'closed'],
  closed: ['open', 'kept'],
  kept: ['open'],
};

/** Whether commands other than reading, withdrawing and reopening the folder are possible in it. */
export const isFolderShut = (state: FolderState): boolean => state === 'closed' || state === 'kept';

/** Why a folder may not change its state; a run or a scheduled revision in it must end first. */
export const decideFolderState = (from: FolderState, to: FolderState, underWay: number): Refusal[] => {
  if (from === to) return [];
  if (!STATE_MOVES[from].includes(to)) return [refusal('folder_state_move', { from, to })];
  return isFolderShut(to) && !isFolderShut(from) && underWay > 0
    ? [refusal('folder_has_work', { count: underWay })]
    : [];
};

const chainOf = (id: string | null, byId: ReadonlyMap<string, PlanFolder>): PlanFolder[] => {
  const chain: PlanFolder[] = [];
  for (
    let at = id === null ? undefined : byId.get(id);
    at && !chain.includes(at);
    at = at.parentId === null ? undefined : byId.get(at.parentId)
  )
    chain.push(at);
  return chain;
};

/** The metadata that hold in a folder: its own, and those of the folders above where it has none; the nearest one counts. */
export const metadataInFolder = (id: string, folders: readonly PlanFolder[]): Record<string, string> => {
  const byId = new Map(folders.map((folder) => [folder.id, folder]));
  return Object.assign(
    {},
    ...chainOf(id, byId)
      .reverse()
      .map((folder) => folder.metadata),
  );
};

const MOST_DEEP = 12;
const NAME = /^[^\\/<>:"|?*\p{Cc}]{1,80}$/u;

/** Why a folder may not have this name or this place. */
export const decideFolder = (
  folder: { id: string; parentId: string | null; name: string },
  folders: readonly PlanFolder[],
): Refusal[] => {
  const byId = new Map(folders.map((one) => [one.id, one]));
  const refusals: Refusal[] = [];
  const name = folder.name.trim();
  if (!NAME.test(name) || /^\.+$/.test(name)) refusals.push(refusal('folder_name_invalid'));
  const above = chainOf(folder.parentId, byId);
  if (above.some((one) => one.id === folder.id)) refusals.push(refusal('folder_in_itself', { name }));
  if (above.length >= MOST_DEEP) refusals.push(refusal('folder_too_deep', { limit: MOST_DEEP }));
  const twin = folders.find(
    (one) => one.id !== folder.id && one.parentId === folder.parentId && sameName(one.name, name),
  );
  if (twin) refusals.push(refusal('folder_name_taken', { name: twin.name }));
  return refusals;
};

const sameName = (a: string, b: string) => foldText(a) === foldText(b);

/**
 * What a document that moves, or whose folder changes its metadata, takes over: of the fields that begin with the folder's field, those
 * that still bore the old one, or nothing. What somebody gave by hand stays.
 */
export const inheritedChanges = (
  fields: readonly FieldDefinition[],
  metadata: Metadata,
  before: Readonly<Record<string, string>>,
  after: Readonly<Record<string, string>>,
): Record<string, FieldValue> =>
  Object.fromEntries(
    fields.flatMap((field) => {
      if (field.default?.from !== 'folder' || field.level === 'revision') return [];
      const [old, next] = [before[field.key] ?? null, after[field.key] ?? null];
      const value = metadata[field.key];
      const inherited = isEmptyFieldValue(value) || equalMetadata(value, old);
      return inherited && !equalMetadata(old, next) ? [[field.key, next] as const] : [];
    }),
  );

/** Where a rule of filing puts something: names of folders from the area down. */
export type FilingInput = {
  type: { code: string; name: string; family: string; group: string };
  year: string;
  fields: readonly FieldDefinition[];
  metadata: Metadata;
};

const TOKEN = /\{([^{}]+)\}/g;

/** What is wrong with a filing rule: `Projects / {field:client} / {year}`. */
export const checkFilingRule = (rule: string, fields: readonly FieldDefinition[]): Refusal[] => {
  const parts = rule.split('/').map((part) => part.trim());
  if (/[{}]/.test(rule.replace(TOKEN, ''))) return [refusal('filing_brace_unmatched')];
  if (parts.some((part) => part === '') || parts.length > MOST_DEEP) return [refusal('filing_part_empty')];
  if (parts[0]?.includes('{')) return [refusal('filing_area_fixed')];
  return [...rule.matchAll(TOKEN)].flatMap(([, token = '']) => {
    if (['type', 'name', 'family', 'group', 'year'].includes(token)) return [];
    const field = fields.find((one) => `field:${one.key}` === token);
    if (!field) return [refusal('filing_token_unknown', { token })];
    // A field inherited from the folder cannot determine the folder.
    return field.default?.from === 'folder' ? [refusal('filing_in_circle', { field: field.label })] : [];
  });
};

/** The path that a rule gives; refused while a field that it needs has no value. */
export const filingPath = (rule: string, filing: FilingInput): Result<string[]> => {
  const missing: string[] = [];
  const word = (token: string): string => {
    if (token === 'year') return filing.year;
    if (token === 'type') return filing.type.code;
    if (token === 'name' || token === 'family' || token === 'group') return filing.type[token];
    const field = filing.fields.find((one) => `field:${one.key}` === token);
    const value = field && filing.metadata[field.key];
    if (!field || value === undefined || isEmptyFieldValue(value)) {
      missing.push(field?.label ?? token);
      return '';
    }
    const code = Array.isArray(value) ? value.join(', ') : String(value);
    return field.options?.find((option) => option.code === code)?.text ?? code;
  };
  const path = rule.split('/').map((part) =>
    part
      .replace(TOKEN, (_, token: string) => word(token))
      .normalize('NFC')
      .replace(/[\\/<>:"|?*\p{Cc}]/gu, ' ')
      .replace(/\s+/gu, ' ')
      .trim()
      .replace(/^\.+|\.+$/g, '')
      .slice(0, 80)
      .trim(),
  );
  if (missing.length) return refuse('filing_needs_field_value', { field: missing[0] ?? '' });
  return path.some((part) => part === '') ? refuse('filing_part_empty') : ok(path);
};

/** How far a path is there already: the deepest folder found, without regard to case, and the names still to be made. */
export const findPath = (
  path: readonly string[],
  folders: readonly PlanFolder[],
): { found: PlanFolder | undefined; rest: string[] } => {
  let found: PlanFolder | undefined;
  for (const [at, name] of path.entries()) {
    const parentId: string | null = found?.id ?? null;
    const next = folders.find((folder) => folder.parentId === parentId && sameName(folder.name, name));
    if (!next) return { found, rest: path.slice(at) };
    found = next;
  }
  return { found, rest: [] };
};
