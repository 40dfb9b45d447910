import { checkMetadata, type FieldDefinition, type FieldValue, type Metadata } from '../metadata/metadata.ts';
import type { Reading } from '../numbering/recognise.ts';
import { cleanOutsideNumber, foldNumber } from '../numbering/rule.ts';
import type { RefusalArguments, RefusalCode } from '../refusalCodes.ts';
import { type Refusal, refusal } from '../result.ts';
import { canFollow, firstLabel, isLabel, type RevisionScheme } from '../revisions/labels.ts';
import { fitsOutside } from '../rules/typeRule.ts';
import type { FoundFile, SentFile } from './findFile.ts';
import { type ImportedState, type ManifestLine, type ManifestMapping, readDay, readState } from './manifest.ts';

/** A type as far as an import needs it. */
export type ImportType = {
  id: string;
  code: string;
  name: string;
  scheme: RevisionScheme;
  fields: readonly FieldDefinition[];
  byRule: boolean;
  externalPattern: string | null;
  takeOver: boolean;
  retired: boolean;
};

/** What an import is judged against. Names are looked up without regard to case. */
export type ImportConfiguration = {
  today: string;
  types: readonly ImportType[];
  /** Folders in which the person may manage, by their whole path. */
  folderId: (path: string) => string | undefined;
  personId: (name: string) => string | undefined;
  /** A number as the organisation reads it, with the scope in which it counts. */
  recognise: (text: string) => { reading: Reading; scope: string };
  /** The last number given in a scope; nothing before its first. */
  lastOf: (scope: string) => number | undefined;
  /** What a number is that was given before. */
  known: (folded: string) => 'taken' | 'void' | 'reserved' | undefined;
  file: (name: string) => FoundFile<SentFile>;
};

export type ImportRevision = {
  line: number;
  label: string;
  state: ImportedState;
  title: string;
  summary: string;
  from: string | null;
  to: string | null;
  signers: string[];
  file: SentFile;
};
export type ImportDocument = {
  number: string;
  folded: string;
  scope: string | null;
  counter: number | null;
  typeId: string;
  folderId: string;
  ownerId: string;
  registered: string | null;
  keywords: string[];
  metadata: Metadata;
  revisions: ImportRevision[];
};
export type ImportVerdict = { line: number; refusals: Refusal[]; warnings: Refusal[] };
export type ImportPlan = {
  verdicts: ImportVerdict[];
  documents: ImportDocument[];
  /** Scopes that have not begun, with the highest imported number: they would begin after it. */
  begins: { scope: string; last: number }[];
};

/**
 * Judges all lines of a manifest together: each gets its refusals and warnings, and lines of one number become one document with
 * its revisions. A document comes in whole or not at all: a line that is right is held back by one of the same number that is not.
 */
export const judgeManifest = (
  lines: readonly ManifestLine[],
  mapping: ManifestMapping,
  organisation: ImportConfiguration,
): ImportPlan => {
  const verdicts: ImportVerdict[] = lines.map(({ line }) => ({ line, refusals: [], warnings: [] }));
  const groups = new Map<string, number[]>();
  lines.forEach((line, i) => {
    const folded = foldNumber(line.number);
    if (folded === '') verdicts[i]?.refusals.push(refusal('import_no_number'));
    else groups.set(folded, [...(groups.get(folded) ?? []), i]);
  });
  const documents: ImportDocument[] = [];
  const begins = new Map<string, number>();
  for (const [folded, at] of groups) {
    const own = at.map((i) => ({ line: lines[i] as ManifestLine, verdict: verdicts[i] as ImportVerdict }));
    const document = judgeDocument(folded, own, mapping, organisation);
    const wrong = own.filter(({ verdict }) => verdict.refusals.length > 0);
    if (document && wrong.length === 0) {
      documents.push(document);
      if (document.scope !== null && document.counter !== null && organisation.lastOf(document.scope) === undefined)
        begins.set(document.scope, Math.max(begins.get(document.scope) ?? 0, document.counter));
      continue;
    }
    for (const { verdict } of own)
      if (verdict.refusals.length === 0)
        verdict.refusals.push(refusal('import_other_line', { line: wrong[0]?.verdict.line ?? 0 }));
  }
  return { verdicts, documents, begins: [...begins].map(([scope, last]) => ({ scope, last })) };
};

type Own = { line: ManifestLine; verdict: ImportVerdict };

const judgeDocument = (
  folded: string,
  own: readonly Own[],
  mapping: ManifestMapping,
  organisation: ImportConfiguration,
): ImportDocument | undefined => {
  const [first] = own;
  if (!first) return undefined;
  const say: Say = (code, ...params) => first.verdict.refusals.push(refusal(code, ...params));
  const given = (key: 'type' | 'folder' | 'owner' | 'registered' | 'keywords') =>
    own.map(({ line }) => line[key]).find(Boolean) ?? '';
  const typeWord = given('type') || mapping.typeCode || '';
  const { number } = cleanOutsideNumber(first.line.number);
  const { reading, scope } = organisation.recognise(number);
  const byNumber = reading.kind === 'read' ? reading.parts.type : undefined;
  const type =
    organisation.types.find((one) => sameWord(one.code, typeWord) || sameWord(one.name, typeWord)) ??
    organisation.types.find((one) => typeWord === '' && one.code === byNumber);
  if (!type) {
    if (typeWord === '') say('import_no_type');
    else say('import_type_unknown', { type: typeWord });
    return undefined;
  }
  if (type.retired) say('type_retired');
  if (!type.takeOver) say('import_not_allowed', { type: type.code });
  const { scope: countsIn, counter } = judgeNumber(number, reading, scope, type, organisation, say);
  const known = organisation.known(folded);
  if (known === 'taken') say('number_taken', { number });
  else if (known) say('import_number_given', { number, state: known });
  const folderWord = given('folder') || mapping.folder || '';
  const folderId = organisation.folderId(folderWord);
  if (!folderId && folderWord) say('import_folder_unknown', { folder: folderWord });
  else if (!folderId) say('import_no_folder');
  const ownerWord = given('owner') || mapping.owner || '';
  const ownerId = organisation.personId(ownerWord);
  if (!ownerId && ownerWord) say('import_person_unknown', { name: ownerWord });
  else if (!ownerId) say('import_no_owner');
  const registeredWord = given('registered');
  const registered = registeredWord ? readDay(registeredWord, mapping.dateOrder) : undefined;
  if (registeredWord && !registered) say('import_date', { value: registeredWord });
  const metadata = readMetadata(type.fields, Object.assign({}, ...own.map(({ line }) => line.metadata)), mapping);
  first.verdict.refusals.push(...checkMetadata(type.fields, metadata));
  const revisions = judgeRevisions(own, type, mapping, organisation);
  if (!folderId || !ownerId || !revisions) return undefined;
  return {
    number,
    folded,
    scope: countsIn,
    counter,
    typeId: type.id,
    folderId,
    ownerId,
    registered: registered ?? null,
    keywords: given('keywords')
      .split(/[,;]/)
      .map((word) => word.trim())
      .filter(Boolean)
      .slice(0, 30),
    metadata,
    revisions,
  };
};

const sameWord = (a: string, b: string) => a.toLocaleLowerCase('en') === b.trim().toLocaleLowerCase('en');

type Say = <C extends RefusalCode>(code: C, ...params: RefusalArguments<C>) => void;

/** A number of the organisation must not lie above what was given; one from outside must not read like one of the organisation. */
const judgeNumber = (
  number: string,
  reading: Reading,
  scope: string,
  type: ImportType,
  organisation: ImportConfiguration,
  say: Say,
): { scope: string | null; counter: number | null } => {
  const none = { scope: null, counter: null };
  if (!type.byRule) {
    if (reading.kind === 'read') say('number_matches_own_rule', { number });
    if (!fitsOutside(type.externalPattern, number)) say('external_number_pattern', { number });
    return none;
  }
  if (reading.kind !== 'read') {
    if (reading.kind === 'malformed')
      say('import_number_malformed', { number, token: reading.token, at: reading.at, rule: reading.rule });
    else say('import_external_number', { number });
    return none;
  }
  if (reading.parts.type !== undefined && reading.parts.type !== type.code)
    say('import_number_of_type', { number, type: reading.parts.type });
  const last = organisation.lastOf(scope);
  if (last !== undefined && reading.parts.counter > last) say('import_above_counter', { number, last });
  return { scope, counter: reading.parts.counter };
};

const readMetadata = (
  fields: readonly FieldDefinition[],
  given: Readonly<Record<string, string>>,
  mapping: ManifestMapping,
): Metadata => {
  const metadata: Record<string, FieldValue> = {};
  for (const [key, text] of Object.entries(given)) {
    const field = fields.find((one) => one.key === key);
    if (!field) continue;
    metadata[key] = readFieldValue(field, text, mapping);
  }
  return metadata;
};

const readFieldValue = (field: FieldDefinition, text: string, { dateOrder }: ManifestMapping): FieldValue => {
  switch (field.kind) {
    case 'number':
      return Number.isFinite(Number(text.replace(',', '.'))) ? Number(text.replace(',', '.')) : text;
    case 'date':
      return readDay(text, dateOrder) ?? text;
    case 'yes/no':
      return /^(yes|true|1|x|y)$/i.test(text) ? true : /^(no|false|0|n)$/i.test(text) ? false : text;
    case 'choice':
      return optionOf(field, text);
    case 'choices':
      return text.split(/[,;]/).map((part) => optionOf(field, part.trim()));
    default:
      return text;
  }
};

const optionOf = (field: FieldDefinition, text: string): string =>
  field.options?.find((option) => sameWord(option.code, text) || sameWord(option.text, text))?.code ?? text;

/** The revisions of a document in the order of their labels, with days that follow one another. */
const judgeRevisions = (
  own: readonly Own[],
  type: ImportType,
  mapping: ManifestMapping,
  organisation: ImportConfiguration,
): ImportRevision[] | undefined => {
  const made = own.map((one) => ({ one, revision: judgeRevision(one, own.length, type, mapping, organisation) }));
  const whole = made.filter((entry): entry is { one: Own; revision: ImportRevision } => entry.revision !== undefined);
  if (whole.length < made.length) return undefined;
  const say = <C extends RefusalCode>(entry: (typeof whole)[number], code: C, ...params: RefusalArguments<C>) =>
    entry.one.verdict.refusals.push(refusal(code, ...params));
  const ordered =
    type.scheme.kind === 'own'
      ? whole
      : [...whole].sort((a, b) => (canFollow(type.scheme, a.revision.label, b.revision.label) ? -1 : 1));
  ordered.forEach((entry, i) => {
    const { revision } = entry;
    const before = ordered[i - 1]?.revision;
    const next = ordered[i + 1]?.revision;
    if (before && before.label === revision.label)
      say(entry, 'import_twice', { line: before.line, label: revision.label });
    if (type.scheme.kind === 'none' && before) say(entry, 'scheme_has_one_revision');
    if (next && next.state !== 'draft' && revision.state !== 'superseded')
      say(entry, 'import_state_order', { state: revision.state, label: revision.label, next: next.label });
    if (next && revision.state === 'draft')
      say(entry, 'import_state_order', { state: revision.state, label: revision.label, next: next.label });
    if (!next && revision.state === 'superseded') say(entry, 'import_last_superseded', { label: revision.label });
    // A revision ends when the next one begins, unless given otherwise.
    if (revision.state === 'superseded' && revision.to === null && next?.from) revision.to = next.from;
    if (revision.state === 'withdrawn' && revision.to === null) say(entry, 'import_no_end', { label: revision.label });
    if (revision.from && revision.to && revision.to <= revision.from)
      say(entry, 'import_days_order', { from: revision.from, to: revision.to });
    if (before?.to && revision.from && revision.from < before.to)
      say(entry, 'import_days_overlap', { label: revision.label, before: before.label, day: before.to });
  });
  return ordered.map((entry) => entry.revision);
};

const judgeRevision = (
  { line, verdict }: Own,
  count: number,
  type: ImportType,
  mapping: ManifestMapping,
  organisation: ImportConfiguration,
): ImportRevision | undefined => {
  const say: Say = (code, ...params) => verdict.refusals.push(refusal(code, ...params));
  const state = line.state ? readState(line.state) : mapping.state;
  if (!state) say('import_state_unknown', { state: line.state });
  let label = line.label.trim();
  if (label === '' && count === 1) {
    const first = firstLabel(type.scheme);
    if (first.ok) {
      label = first.value;
      if (type.scheme.kind !== 'none') verdict.warnings.push(refusal('import_label_taken', { label }));
    }
  }
  if (type.scheme.kind === 'none') label = '';
  else if (label === '') say('import_no_label');
  else if (!isLabel(type.scheme, label)) say('label_not_of_scheme', { label });
  if (!line.title) say('import_no_title');
  const day = (value: string): string | null => {
    if (!value) return null;
    const read = readDay(value, mapping.dateOrder);
    if (!read) say('import_date', { value });
    else if (read > organisation.today) say('import_day_ahead', { value });
    return read ?? null;
  };
  const [from, to] = [day(line.from), day(line.to)];
  if (state === 'in force' && from === null && !line.from) say('import_no_from');
  if (state === 'superseded' && from === null && !line.from) verdict.warnings.push(refusal('import_period_unknown'));
  const found = organisation.file(line.file);
  const file = found.kind === 'one' ? found.file : undefined;
  if (!line.file) say('import_no_file');
  else if (found.kind === 'none') say('import_file_missing', { name: line.file });
  else if (found.kind === 'several') say('import_file_several', { name: line.file, paths: found.paths.join('”, “') });
  if (!state || !file) return undefined;
  return {
    line: line.line,
    label,
    state,
    title: line.title,
    summary: line.summary,
    from,
    to: state === 'in force' || state === 'draft' ? null : to,
    signers: line.signers
      .split(/[,;]/)
      .map((name) => name.trim())
      .filter(Boolean),
    file,
  };
};
