import type { Metadata } from '../metadata/metadata.ts';
import type { Refusal } from '../result.ts';
import type { Escalation } from '../routes/route.ts';
import type { RuleDifference } from '../rules/difference.ts';

type Nothing = Record<never, never>;

/** What an event of a signature binds: the signature, the digest of the signed record, the digest of its own row, its meaning. */
type Signed = { signature: string; digest: string; seal: string; meaning: string };

/** What a correction of metadata can change, as it was and as it is. */
type CorrectedValues = {
  title: string;
  summary: string;
  metadata: Metadata;
  keywords: string[];
  owner: string;
  reviewOn: string | null;
};

/** An edition of a template as it was saved. */
type TemplateEdition = {
  type: string;
  name: string;
  language: string;
  edition: number;
  file: string;
  sha256: string;
  retired?: boolean;
  reason: string;
};

/**
 * The payload of each kind of event besides who, when and about what: people by their sign-in names, days as `YYYY-MM-DD`, files by name
 * and SHA-256. A name is never changed and never given another meaning, for old events are read by it.
 */
export type EventPayloads = {
  'organisation.seeded': { name: string; types: string[]; counters: { scope: string; last: number; reason: string }[] };
  'document.registered': {
    confidentiality?: string;
    template?: string;
    templateEdition?: number;
    arrived?: string;
    parent?: string;
    type: string;
    title: string;
    folder: string;
    owner: string;
    metadata: Metadata;
    files: { name: string; sha256: string; size: number }[];
  };
  'revision.checked-out': { expectedBack: string | null; note: string };
  'version.checked-in': {
    arrived?: string;
    title: string;
    metadata?: Metadata;
    /** The fields that have another value than before, by their keys. */
    changed?: string[];
    version: number;
    note: string;
    files: { role: string; name: string; sha256: string }[];
  };
  'check-out.discarded': Nothing;
  'check-out.taken-over': { from: string; reason: string };
  'version.made-newest': { from: number; version: number; note: string };
  'metadata.corrected': { before: CorrectedValues; after: CorrectedValues; reason: string };
  'metadata.changed-in-bulk': { before: Metadata; after: Metadata; bulk: string; reason: string };
  'bulk-change.undone': { before: Metadata; after: Metadata; bulk: string; reason: string };
  'revision.submitted': { round: number; message: string; version: number; steps: string[] };
  'decision.given': Partial<Signed> & {
    round: number;
    step: string;
    decision: string;
    comment: string;
    version: number;
  };
  'revision.entered-approval': { round: number; record: string };
  'revision.approved': { round: number };
  'round.approved': { round: number };
  'round.rejected': { round: number; step: string };
  'round.asked-again': { round: number; version: number; step: string; people: string[] };
  'round.returned-to-step': { round: number; step: string };
  'step.added': { round: number; step: string; people: string[]; reason: string };
  'round.started': {
    round: number;
    name: string;
    message: string;
    steps: string[];
    lastDay: string | null;
    documents: string[];
    files: { name: string; sha256: string }[];
    /** The rule that started it. */
    rule?: string;
  };
  'round.planned': { name: string; on: string };
  'round.plan-ended': { name: string; on: string; why: string };
  'round-rule.saved': {
    name: string;
    type: string;
    on: string;
    field: string | null;
    days: number | null;
    condition: string | null;
    route: string;
    responsible: string;
    active: boolean;
    reason: string;
  };
  'round-rule.removed': { name: string; reason: string };
  'round.completed': { round: number; name: string };
  'round.cancelled': { round: number; name: string; reason: string };
  'revision.signed': Signed & { comment: string };
  'assignment.reassigned': { round: number; steps: string[]; from: string; to: string; reason: string };
  'assignment.added': { round: number; step: string; person: string; reason: string };
  'step.extended': { round: number; step: string; before: string | null; after: string; reason: string };
  'step.skipped': { round: number; step: string; reason: string };
  'step.escalated': {
    round: number;
    step: string;
    person: string;
    days: number;
    action: Escalation['action'];
    to: string | null;
    /** Why the other person could not be asked. */
    refused: string | null;
  };
  'assignment.reminded': { people: number };
  'revision.sent-to-be-signed': { sha256: string; signers: string[]; message: string };
  'revision.signed-outside': {
    file: string;
    sha256: string;
    signatures: { by: string; at: string | null; intact: boolean; coversAll: boolean; trusted: boolean }[];
    note: string;
  };
  'revision.signing-outside-ended': { state: string; why: string };
  'revision.own-state-set': { before: string | null; after: string | null; note: string };
  'revision.recalled': { round: number; reason: string };
  'revision.released': Partial<Signed> & { now: boolean };
  'revision.scheduled': Partial<Signed> & { on: string };
  'revision.day-moved': { before: string | null; after: string; reason: string };
  'revision.day-cancelled': { before: string | null; reason: string };
  'revision.in-force': { from: string; supersedes: string | null };
  'revision.superseded': { at: string; by: string };
  'revision.release-blocked': { planned: string; blockers: Refusal[] };
  'revision.reopened': { from: string; reason: string };
  'revision.revised': {
    from: string;
    changeKind: string;
    reason: string;
    outsideFile: boolean;
    /** The number of the change note that it is made under. */
    changeNote?: string;
  };
  'revision.abandoned': { reason: string };
  'revision.withdrawn': { at: string; reason: string };
  'revision.reinstated': Signed & { reason: string };
  /** It stays as it is; `next` is the day of its next review. */
  'review.confirmed': Signed & { due: string; next: string | null; comment: string };
  /** Something is to be done: what, and why. */
  'review.answered': { outcome: 'minor change' | 'major change' | 'withdrawal'; due: string; comment: string };
  'review.postponed': { from: string; to: string; reason: string };
  'review.brought-forward': { from: string; to: string; reason: string };
  'withdrawal.planned': { on: string; reason: string };
  'withdrawal.cancelled': { reason: string };
  'form.saved': { code: string; name: string; purpose: string; version: number; active: boolean; reason: string };
  'form-record.sent': {
    number: string;
    form: string;
    version: number;
    /** Fingerprint of the answers as they were sent. */
    answers: string;
    files: { name: string; sha256: string }[];
    request?: string;
  };
  'order.given': { number: string; order: string; what: string; who: string; dueOn: string; why: string };
  'order.changed': { number: string; what: string; who: string; dueOn: string; reason: string };
  'order.ended': { number: string; what: string; how: string; reason: string };
  'change-note.documents-added': { numbers: string[]; way: string };
  'change-note.document-changed': { number: string; what: string; noChangeReason: string | null };
  'change-note.document-removed': { number: string };
  'change-note.task-added': { n: number; what: string; who: string; dueOn: string | null; before: string };
  'change-note.task-changed': { n: number; what: string; who: string; dueOn: string | null; before: string };
  'change-note.task-done': { n: number; what: string; result: string; files: string[] };
  'change-note.task-dropped': { n: number; what: string; reason: string };
  'change-note.closed': { result: string };
  'change-request.sent': { number: string; place: string; what: string; file: string | null };
  'change-request.answered': { number: string; answer: string; words: string; into: string | null };
  'document.put-on-hold': { reason: string; wayOut: string };
  'document.hold-lifted': { reason: string };
  'comment.written': {
    mark?: string;
    page?: number;
    comment: string;
    blocking: boolean;
    text: string;
    quote: string | null;
  };
  'comment.resolved': { comment: string; resolution: string };
  'comment.replied': { comment: string; answer: string; text: string };
  'comment.reopened': { comment: string; reason: string };
  'comment.assigned': { comment: string; to: string | null };
  'comment.withdrawn': { comment: string };
  'comments.imported': { read: number; file: string; sha256: string };
  'version.removed': {
    version: number;
    reason: string;
    files: { name: string; sha256: string; size: number }[];
    freed: number;
  };
  'version.supporting-file-added': { name: string; sha256: string; note: string };
  'link.added': { link: string; kind: string; to: string };
  'link.removed': { link: string };
  'stamp.saved': { text: string; colour: string; retired: boolean };
  'program-password.created': { name: string };
  'program-password.all-ended': { passwords: number };
  'mail.sent-again': { mails: number };
  'mail.server-changed': { server: string; security: string; user: string; sender: string };
  'mail.server-removed': { server: string };
  'work.retried': { work: string; of: string };
  'content.check-failed': { sha256: string; what: string; by: string; places: string[] };
  'program-password.ended': { name: string };
  'readers.defined': {
    everyone: boolean;
    units: string[];
    people: string[];
    except: string[];
    workingDays: number;
    instructions: string;
    reason: string;
  };
  'reading.asked': { asked: number; carriedOver: number; notNeeded: number };
  'reading.signed': Signed & { due: string };
  'reading.reminded': { team: string; people: number; readings: number };
  'person.added': {
    name: string;
    from: string;
    department: string | null;
    supervisor: string | null;
    roles: string[];
    groups: string[];
  };
  'person.changed': {
    after: { mails: string } | { name: string; email: string; organisationRights: string[] };
    before?: { name: string; email: string; organisationRights: string[] };
  };
  'person.deactivated': { reason: string };
  'membership.started': { kind: string; in: string; by?: string; from: string };
  'membership.ended': { kind: string; in: string; by?: string; to: string };
  'password.set': Nothing;
  'password.changed': Nothing;
  'password.reset-started': { reason: string };
  'absence.added': { from: string; to: string; deputy: string | null };
  'absence.removed': Nothing;
  'session.opened': Nothing;
  'session.ended': { everywhere: boolean };
  'seeing-as.started': { reason: string };
  'seeing-as.ended': Nothing;
  'sign-in.failed': { state?: string; nameDigest?: string };
  'signing.refused': { why: Refusal[] };
  'signing.locked': { minutes: number };
  'unit.added': { kind: string; code: string; name: string };
  'unit.changed': {
    before: { name: string; fallbackApprover: string | null };
    after: { name: string; fallbackApprover: string | null };
  };
  'counter.started': { scope: string; last: number; reason: string };
  'numbers.reserved': { first: string; last: string; count: number; type: string; until: string; reason: string };
  'numbers.reservation-ended': { scope: string; voided: number; reason: string };
  'template.added': TemplateEdition;
  'template.changed': TemplateEdition;
  'template.applied': { template: string; edition: number; version: number; sha256: string; note: string };
  'shortcut.added': { folder: string };
  'shortcut.removed': { folder: string };
  'document.renumbered': { before: string; after: string; reason: string };
  'file.renamed': { before: string; after: string; version: number };
  'content.replaced': { from: string; version: number; files: { name: string; sha256: string }[]; note: string };
  'content.given': { to: string; version: number };
  'source.checked': { source: string; had: string; found: string; isNewer: boolean; note: string; next: string };
  /** `from`: the address of whoever sent it by mail. */
  'incoming-file.received': { sha256?: string; path: string; refused?: string; from?: string };
  'incoming-file.set-aside': { reason?: string; path: string };
  'incoming-file.restored': { reason?: string; path: string };
  'document.removed': { reason: string };
  'document.restored': { reason: string };
  'document.imported': {
    type: string;
    by: string;
    import: string;
    revisions: {
      label: string;
      state: string;
      from: string | null;
      to: string | null;
      title: string;
      signers: string[];
      file: string;
      sha256: string;
      line: number;
    }[];
  };
  'document.verified': Nothing;
  'folder.added': { parent: string | null; code: string | null };
  'folder.changed': { differences: RuleDifference[]; reason: string };
  'folder.moved': { differences: RuleDifference[]; reason: string };
  'folder.removed': { reason: string };
  'document.rights-changed': { differences: RuleDifference[]; reason: string };
  'folder.rights-changed': { differences: RuleDifference[]; reason: string };
  'blueprint.added': { differences: RuleDifference[]; reason: string };
  'blueprint.changed': { differences: RuleDifference[]; reason: string };
  'project.created': { projects: { [x: string]: string }[]; folders: number; documents: string[] };
  'organisation.changed': { differences: RuleDifference[]; reason: string };
  'configuration.imported': { from: string; changes: string[]; reason: string };
  'setup.configuration-applied': { name: string; types: string[]; folders: string[]; rights: string[] };
  'setup.closed': { open: boolean };
  'list.added': { differences: RuleDifference[]; types: string[]; reason: string };
  'list.changed': { differences: RuleDifference[]; types: string[]; reason: string };
  'type.added': { name: string; numbering: string | null; reason: string };
  'type.changed': { filled?: Metadata; documents?: number; differences: RuleDifference[]; reason: string };
  'type.change-planned': { from: string; differences: RuleDifference[]; reason: string };
  'type.change-cancelled': { from: string; reason: string };
  'type.change-blocked': { from: string; why: string };
  'import.prepared': { import: string; file: { name: string; sha256: string }; lines: number };
  'import.line-corrected': {
    import: string;
    line: number;
    changes: { column: string; before: string; after: string }[];
  };
  'import.started': { import: string; file: string; ready: number; refused: number; reason: string };
  'import.ended': { import: string; done: number; refused: number };
  'usage.sealed': { first: number; last: number; lines: number; sha256: string };
};

/** The payload of an event as it is passed: it may be left out where the kind has none. */
export type WithPayload<K extends keyof EventPayloads> = Nothing extends EventPayloads[K]
  ? { payload?: EventPayloads[K] }
  : { payload: EventPayloads[K] };
