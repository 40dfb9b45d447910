import { dayInWords, isDay, type TrailEvent } from '@kanonos/core';

type Event = Pick<TrailEvent, 'kind' | 'subject' | 'payload'>;
type Say = (p: Record<string, unknown>, subject: Event['subject']) => string;

const list = (value: unknown) => (Array.isArray(value) ? value.join(', ') : String(value ?? ''));

const day = (value: unknown) => (typeof value === 'string' && isDay(value) ? dayInWords(value) : String(value ?? ''));
const SAID: Record<string, string> = {
  'no objection': 'had no objection',
  'with comments': 'had comments',
  done: 'did what was asked',
  approve: 'approved',
};

/** What each kind of event says in the history and in the audit trail, to be read behind the name of who did it. */
const SENTENCES: Record<string, Say> = {
  'organisation.seeded': (p) => `laid down the organisation rules of ${p.name}`,
  'document.registered': (p, s) => `registered ${s.document?.number ?? ''} as ${p.type}: ${p.title}`,
  'revision.checked-out': () => 'checked it out',
  'version.checked-in': (p) => `checked in version ${p.version}`,
  'check-out.given-up': () => 'gave up the check-out',
  'check-out.taken-over': (p) => `took over the check-out of ${p.from}: ${p.reason}`,
  'version.made-newest': (p) => `made version ${p.from} the newest, as version ${p.version}`,
  'metadata.corrected': () => 'corrected metadata',
  'revision.submitted': (p) => `submitted version ${p.version} on round ${p.round}`,
  'decision.given': (p) =>
    p.signature
      ? `signed: ${p.meaning}`
      : p.decision === 'reject'
        ? `rejected in ${p.step}`
        : `${SAID[String(p.decision)] ?? p.decision} in ${p.step}`,
  'revision.entered-approval': () => 'moved it into approval; what is signed is frozen',
  'revision.approved': () => 'completed the approval',
  'round.approved': (p) => `ended round ${p.round}: everyone has decided`,
  'round.rejected': (p) => `ended round ${p.round} by rejecting in ${p.step}`,
  'round.returned-to-step': (p) => `sent it back to ${p.step}`,
  'assignment.reminded': (p) => `reminded ${p.people} of the decision`,
  'revision.recalled': () => 'called it back to draft',
  'revision.released': () => 'released it',
  'revision.scheduled': (p) => `scheduled it for ${day(p.on)}`,
  'revision.day-moved': (p) => `moved the day from ${day(p.before)} to ${day(p.after)}`,
  'revision.day-dropped': (p) => `dropped the day ${day(p.before)}`,
  'revision.in-force': (p, s) =>
    `brought ${s.revision?.label || 'it'} into force${p.supersedes ? `, which supersedes ${p.supersedes}` : ''}`,
  'revision.superseded': (p, s) => `superseded ${s.revision?.label || 'it'} by ${p.by}`,
  'revision.release-blocked': (p) => `held it on ${day(p.planned)}: ${list(p.blockers).replaceAll('_', ' ')}`,
  'revision.reopened': (p) => `took it back from ${p.from} to draft`,
  'revision.revised': (p, s) => `began revision ${s.revision?.label ?? ''} from ${p.from} (${p.changeKind})`,
  'revision.abandoned': () => 'abandoned the draft',
  'revision.withdrawn': () => 'withdrew it',
  'revision.reinstated': () => 'reinstated it',
  'withdrawal.planned': (p) => `planned its withdrawal for ${day(p.on)}`,
  'withdrawal.dropped': () => 'dropped the planned withdrawal',
  'comment.written': (p) => (p.blocking ? 'wrote a blocking comment' : 'wrote a comment'),
  'comment.resolved': () => 'resolved a comment',
  'comment.answered': () => 'answered a comment',
  'comment.reopened': () => 'opened a comment again',
  'comment.assigned': (p) => (p.to ? 'gave a comment to somebody' : 'took a comment back from who saw to it'),
  'comment.withdrawn': () => 'took an own comment back',
  'comment.read-back': (p) => `read ${p.read} annotations in from ${p.file}`,
  'version.removed': (p) => `removed version ${p.version}`,
  'version.supporting-file-added': (p) => `kept ${p.name} beside its versions`,
  'link.set': (p) => `linked it: ${p.kind} ${p.to}`,
  'link.taken-away': () => 'took a link away',
  'stamp.saved': (p) => `${p.retired ? 'retired' : 'laid down'} the stamp “${p.text}”`,
  'program-password.made': (p) => `made a password for the program ${p.name}`,
  'program-password.all-ended': (p) => `ended all ${p.passwords} passwords of programs`,
  'mail.sent-again': (p) => `let ${p.mails} mails be sent again`,
  'work.tried-again': (p) => `let background work be tried again: ${p.work}, ${p.of}`,
  'content.check-failed': (p) =>
    `found stored bytes ${p.what === 'missing' ? 'missing' : 'altered'}: ${list(p.places) || String(p.sha256).slice(0, 16)}`,
  'program-password.ended': (p) => `ended the password of the program ${p.name}`,
  'readers.named': (p) => `named who must read it${list(p.units) ? `: ${list(p.units)}` : ''}`,
  'reading.asked': (p) =>
    `asked ${p.asked} to read${p.carried ? `, ${p.carried} carried over` : ''}${p.notNeeded ? `, ${p.notNeeded} no longer needed` : ''}`,
  'reading.signed': () => 'read and signed',
  'reading.reminded': (p) => `reminded ${p.people} people of ${p.readings} late readings`,
  'person.entered': (p, s) => `entered ${p.name} (${s.person?.name ?? ''})`,
  'person.changed': (_p, s) => `changed ${s.person?.name ?? ''}`,
  'person.deactivated': (_p, s) => `deactivated ${s.person?.name ?? ''}`,
  'membership.begun': (p, s) => `put ${s.person?.name ?? ''} under ${p.kind} ${p.in} from ${day(p.from)}`,
  'membership.ended': (p, s) => `ended ${p.kind} ${p.in} of ${s.person?.name ?? ''} on ${day(p.to)}`,
  'password.set': () => 'set a password by a link',
  'password.changed': () => 'changed the password',
  'password.reset-started': (_p, s) => `started a reset for ${s.person?.name ?? ''}`,
  'absence.entered': (p) => `is away from ${day(p.from)} to ${day(p.to)}${p.deputy ? `, deputy ${p.deputy}` : ''}`,
  'absence.taken-back': () => 'took an absence back',
  'session.opened': () => 'signed in',
  'session.ended': () => 'signed out',
  'sign-in.failed': () => 'failed to sign in',
  'signing.refused': (p) => `was refused to sign: ${list(p.why).replaceAll('_', ' ')}`,
  'signing.locked': (p) => `was locked out of signing for ${p.minutes} minutes`,
  'unit.added': (p) => `added ${p.kind} ${p.name}`,
  'counter.started': (p) => `set the last number before the organisation in ${p.scope} to ${p.last}`,
  'numbers.reserved': (p, s) => `reserved ${p.first} to ${p.last} for ${s.person?.name ?? ''} until ${day(p.until)}`,
  'numbers.reservation-ended': (p) => `ended a reservation in ${p.scope}; ${p.voided} numbers are void`,
  'template.added': (p) => `laid down template ${p.name} for ${p.type}`,
  'template.changed': (p) => `laid down edition ${p.edition} of template ${p.name} for ${p.type}`,
  'template.brought': (p) => `brought edition ${p.edition} of template ${p.template} onto it, as version ${p.version}`,
  'shortcut.added': (p) => `showed it in ${p.folder} too`,
  'shortcut.removed': (p) => `took its shortcut out of ${p.folder}`,
  'document.renumbered': (p) => `renumbered it from ${p.before} to ${p.after}`,
  'file.renamed': (p) => `named its file ${p.after}, as version ${p.version}`,
  'content.replaced': (p) => `took the content of ${p.from} as version ${p.version}`,
  'content.given': (p) => `gave its content to ${p.to}`,
  'source.checked': (p) => (p.isNewer ? `found edition ${p.found} at its source` : 'found it unchanged at its source'),
  'file.arrived': (p) => `took ${p.path} from the watched folder${p.refused ? ', which cannot be filed' : ''}`,
  'incoming-file.set-aside': (p) => `set ${p.path} from the watched folder aside`,
  'incoming-file.put-back': (p) => `put ${p.path} back among what is to be filed`,
  'document.removed': () => 'removed it',
  'document.brought-back': () => 'brought it back',
  'document.taken-over': () => 'took it over from old stock',
  'document.checked-after-taking-over': () => 'looked at what was taken over and found it right',
  'folder.added': (_p, s) => `made folder ${s.folder?.name ?? ''}`,
  'folder.changed': (_p, s) => `changed folder ${s.folder?.name ?? ''}`,
  'folder.moved': (_p, s) => `put folder ${s.folder?.name ?? ''} elsewhere`,
  'folder.removed': (_p, s) => `removed folder ${s.folder?.name ?? ''}`,
  'folder.rights-changed': (_p, s) => `changed the rights on folder ${s.folder?.name ?? ''}`,
  'blueprint.added': (_p, s) => `drew blueprint ${s.blueprint?.name ?? ''}`,
  'blueprint.changed': (_p, s) => `changed blueprint ${s.blueprint?.name ?? ''}`,
  'project.laid-out': (p, s) =>
    `laid a project out from ${s.blueprint?.name ?? ''}: ${p.folders} folders, ${p.documents} documents`,
  'organisation.changed': () => 'changed what holds for the whole organisation',
  'configuration.imported': (p) => `read rules of ${p.from} in`,
  'list.added': (_p, s) => `laid down list ${s.list?.name ?? ''}`,
  'list.changed': (_p, s) => `changed list ${s.list?.name ?? ''}`,
  'type.added': (_p, s) => `laid down type ${s.type?.name ?? ''}`,
  'type.changed': (_p, s) => `changed type ${s.type?.name ?? ''}`,
  'type.change-planned': (p, s) => `planned a change of type ${s.type?.name ?? ''} for ${day(p.from)}`,
  'type.change-dropped': (p, s) => `dropped the change of type ${s.type?.name ?? ''} for ${day(p.from)}`,
  'type.change-blocked': (p, s) => `held the change of type ${s.type?.name ?? ''} for ${day(p.from)}`,
  'import.laid-out': (p) => `laid an import of ${p.lines} lines out`,
  'import.started': (p) => `started an import of ${p.ready} documents`,
  'import.ended': (p) => `ended an import: ${p.done} taken over, ${p.refused} refused`,
  'usage.sealed': (p) => `sealed ${p.lines} lines of usage`,
};

export const eventSentence = (event: Event): string =>
  SENTENCES[event.kind]?.(event.payload, event.subject) ?? event.kind;

/** Words that a person gave with the command: note, reason, message, comment. */
export const eventWords = (event: Event): string | null => {
  const { note, reason, comment, message, text, resolution } = event.payload as Record<string, string | undefined>;
  return (
    [note, comment, reason, message, text, resolution].find((value) => typeof value === 'string' && value !== '') ??
    null
  );
};
