import type { FieldDefinition, FieldValue, Metadata } from '../metadata/metadata.ts';
import { readFieldValue } from '../metadata/readFieldValue.ts';
import { isMeaningless } from '../naming/fileTitle.ts';
import type { NameReading } from '../naming/readName.ts';
import { foldText } from '../text.ts';

/** What is known of the organisation when something arrives: types with what they ask, and folders. */
export type IntakeOrganisation = {
  types: readonly { id: string; code: string; name: string; fields: readonly FieldDefinition[] }[];
  folders: readonly { id: string; name: string; path: readonly string[] }[];
  /** What the organisation's rules read from a number: the code of its type. */
  typeOfNumber: (number: string) => string | undefined;
};

/** An incoming file: its place in the intake folder, the reading of its name, and the beginning of its text if known. */
export type IncomingFile = { folders: readonly string[]; name: NameReading; text: string };

/** Where a proposed value comes from. */
export type IntakeOrigin = 'the folder' | 'the file name' | 'the text';
export type Proposal = {
  typeId: string | null;
  folderId: string | null;
  number: string | null;
  label: string | null;
  title: string;
  metadata: Metadata;
  /** What was proposed from what: `type`, `folder`, `title`, `number`, and keys of metadata. */
  origins: Record<string, IntakeOrigin>;
};

const TEXT_LOOKED_AT = 4000;
const LONGEST_TITLE = 120;

/**
 * A proposal for an incoming file: its number determines the type before the folder does, and the folder before the text; what a
 * name does not give is read from lines such as `Supplier: Brennhof`. Nothing is guessed that is not written somewhere.
 */
export const proposeFiling = (incomingFile: IncomingFile, organisation: IntakeOrganisation): Proposal => {
  const origins: Proposal['origins'] = {};
  const text = incomingFile.text.slice(0, TEXT_LOOKED_AT);
  const lines = text
    .split(/\r?\n/)
    .map((line) => line.replace(/\s+/gu, ' ').trim())
    .filter(Boolean);
  const take = <T>(key: string, origin: IntakeOrigin, value: T | undefined): T | undefined => {
    if (value !== undefined) origins[key] = origin;
    return value;
  };
  const { number, label } = incomingFile.name;
  if (number) origins.number = 'the file name';
  const byNumber = number
    ? organisation.types.find((type) => type.code === organisation.typeOfNumber(number))
    : undefined;
  const named = (word: string) =>
    organisation.types.find((type) => foldText(type.code) === foldText(word) || foldText(type.name) === foldText(word));
  const type =
    take('type', 'the file name', byNumber) ??
    take(
      'type',
      'the folder',
      incomingFile.folders.map(named).findLast((found) => found !== undefined),
    ) ??
    take('type', 'the text', typeInText(lines, organisation));
  const folder = take('folder', 'the folder', folderOf(incomingFile.folders, organisation));
  const title =
    (isMeaningless(incomingFile.name.title)
      ? take('title', 'the text', titleIn(lines, organisation))
      : take('title', 'the file name', incomingFile.name.title)) ?? incomingFile.name.title;
  const metadata: Record<string, FieldValue> = {};
  for (const field of type?.fields ?? []) {
    const value = fieldIn(field, lines);
    if (value === undefined) continue;
    metadata[field.key] = value;
    origins[field.key] = 'the text';
  }
  return { typeId: type?.id ?? null, folderId: folder?.id ?? null, number, label, title, metadata, origins };
};

/** A type whose full name is in one of the first lines; the longest name wins, and of two equally long ones none. */
const typeInText = (lines: readonly string[], organisation: IntakeOrganisation) => {
  for (const line of lines.slice(0, 6)) {
    const folded = ` ${foldText(line).replace(/[^\p{L}\p{N}]+/gu, ' ')} `;
    const found = organisation.types
      .filter((type) => folded.includes(` ${foldText(type.name)} `))
      .sort((a, b) => b.name.length - a.name.length);
    if (found[0] && found[0].name.length !== found[1]?.name.length) return found[0];
  }
  return undefined;
};

/** The folder of the plan that the intake folder's path names: the deepest unique name. */
const folderOf = (names: readonly string[], organisation: IntakeOrganisation) => {
  for (const name of [...names].reverse()) {
    const found = organisation.folders.filter((folder) => foldText(folder.name) === foldText(name));
    const below = found.filter((folder) =>
      names.every(
        (one) =>
          !organisation.folders.some((f) => foldText(f.name) === foldText(one)) ||
          folder.path.some((p) => foldText(p) === foldText(one)),
      ),
    );
    const [only, other] = below.length ? below : found;
    if (only && !other) return only;
  }
  return undefined;
};

/** The first meaningful line; a leading kind, such as `Report: …`, is removed; other lines `Label: value` are metadata. */
const titleIn = (lines: readonly string[], organisation: IntakeOrganisation): string | undefined => {
  for (const line of lines) {
    const [, label = '', rest = line] = /^#*\s*([^:]{1,30}):\s+(.*)$/u.exec(line) ?? [];
    if (label && !organisation.types.some((type) => foldText(type.name) === foldText(label))) continue;
    if ((rest.match(/\p{L}/gu)?.length ?? 0) < 8) continue;
    const title = rest
      .replace(/^#+\s*/, '')
      .slice(0, LONGEST_TITLE)
      .trim();
    return title.charAt(0).toLocaleUpperCase('en') + title.slice(1);
  }
  return undefined;
};

/** A field from a line `Label: value`, in the form that its kind wants; what does not fit is left out. */
const fieldIn = (field: FieldDefinition, lines: readonly string[]): FieldValue | undefined => {
  const wanted = foldText(field.label);
  for (const line of lines) {
    const [, label = '', value = ''] = /^[\s*#-]*([^:]{1,60}?)\**\s*:\s*\**\s*(.+?)\s*$/u.exec(line) ?? [];
    if (foldText(label) !== wanted || !value) continue;
    return readFieldValue(field, value);
  }
  return undefined;
};
