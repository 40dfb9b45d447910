import { sentenceOf } from '@kanonos/contract';
import { dayInWords, type EventKind, type EventPayloads, isDay, type Refusal, type TrailEvent } from '@kanonos/core';

type Event = Pick<TrailEvent, 'kind' | 'subject' | 'payload'>;

const ESCALATED = {
  remind: 'reminded',
  tell: 'told',
  'also ask': 'also asked',
  'hand over': 'handed over to',
} as const;

const list = (value: unknown) => (Array.isArray(value) ? value.join(', ') : String(value ?? ''));

/** Refusals as their sentences, without the full stop: an event never shows a code. */
const sentences = (value: unknown) =>
  (Array.isArray(value) ? (value as Refusal[]) : [])
    .map(({ code, params }) => sentenceOf(code, params).replace(/[.]$/, ''))
    .join('; ');

const day = (value: unknown) => (typeof value === 'string' && isDay(value) ? dayInWords(value) : String(value ?? ''));
const SAID: Record<string, string> = {
  'no objection': 'had no objection',
  'with comments': 'had comments',
  done: 'did what was asked',
  approve: 'approved',
};

/** The sentence of each kind of event in the history and in the audit trail, to be read after the person's name. */
const SENTENCES: { [K in EventKind]: (p: EventPayloads[K], subject: Event['subject']) => string } = {
  'organisation.seeded': (p) => `set up the organisation ${p.name}`,
  'document.registered': (p, s) => `registered ${s.document?.number ?? ''} as ${p.type}: ${p.title}`,
  'revision.checked-out': () => 'checked it out',
  'version.checked-in': (p) => `checked in version ${p.version}`,
  'check-out.discarded': () => 'discarded the check-out',
  'check-out.taken-over': (p) => `took over the check-out of ${p.from}: ${p.reason}`,
  'version.made-newest': (p) => `made version ${p.from} the newest, as version ${p.version}`,
  'metadata.corrected': () => 'corrected the metadata',
  'metadata.changed-in-bulk': () => 'changed the metadata, together with other documents',
  'bulk-change.undone': () => 'undid a change of several documents',
  'revision.submitted': (p) => `submitted version ${p.version} for review (round ${p.round})`,
  'decision.given': (p) =>
    p.signature
      ? `signed: ${p.meaning}`
      : p.decision === 'reject'
        ? `rejected in ${p.step}`
        : `${SAID[String(p.decision)] ?? p.decision} in ${p.step}`,
  'revision.entered-approval': () => 'started the approval; files and revision fields are now frozen',
  'revision.approved': () => 'completed the approval',
  'round.approved': (p) => `completed round ${p.round}: everybody has decided`,
  'round.rejected': (p) => `ended round ${p.round} with a rejection in ${p.step}`,
  'round.asked-again': (p) =>
    `checked in version ${p.version} during the review: ${p.people.join(', ')} ${p.people.length === 1 ? 'is' : 'are'} asked again`,
  'round.returned-to-step': (p) => `returned it to ${p.step}`,
  'step.added': (p) => `added the step ${p.step} for ${p.people.join(', ')}`,
  'round.started': (p) =>
    p.rule
      ? `started the round ${p.name} by its rule (round ${p.round})`
      : `started the ad hoc round ${p.name} (round ${p.round})`,
  'round.completed': (p) => `completed the ad hoc round ${p.name}: everybody has answered`,
  'round.cancelled': (p) => `cancelled the ad hoc round ${p.name}`,
  'revision.signed': (p) => `signed outside its route: ${p.meaning}`,
  'assignment.reassigned': (p) => `reassigned ${p.steps.join(' and ')} from ${p.from} to ${p.to}`,
  'assignment.added': (p) => `added ${p.person} to ${p.step}`,
  'step.extended': (p) =>
    p.before
      ? `moved the due day of ${p.step} from ${day(p.before)} to ${day(p.after)}`
      : `set the due day of ${p.step} to ${day(p.after)}`,
  'step.skipped': (p) => `skipped ${p.step}`,
  'step.escalated': (p) =>
    p.to === null || p.action === 'remind'
      ? `reminded ${p.person} after ${p.days} working days in ${p.step}`
      : p.refused
        ? `could not ask ${p.to} after ${p.days} working days in ${p.step}: ${p.refused}`
        : `${ESCALATED[p.action]} ${p.to}: ${p.person} has not answered for ${p.days} working days in ${p.step}`,
  'assignment.reminded': (p) => `sent ${p.people} a reminder to decide`,
  'revision.sent-to-be-signed': (p) => `sent it to be signed outside by ${p.signers.join(', ')}`,
  'revision.signed-outside': (p) =>
    `kept ${p.file}, signed outside by ${p.signatures.map(({ by, intact }) => (intact ? by : `${by} (not intact)`)).join(', ')}`,
  'revision.signing-outside-ended': (p) =>
    p.state === 'cancelled' ? 'cancelled the request to sign it outside' : 'was told that it is not signed outside',
  'revision.own-state-set': (p) =>
    p.after ? `set the state to “${p.after}”` : `took back the state “${p.before ?? ''}”`,
  'revision.recalled': () => 'recalled it to draft',
  'revision.released': () => 'released it',
  'revision.scheduled': (p) => `scheduled it for ${day(p.on)}`,
  'revision.day-moved': (p) => `moved the release date from ${day(p.before)} to ${day(p.after)}`,
  'revision.day-cancelled': (p) => `cancelled the release date ${day(p.before)}`,
  'revision.in-force': (p, s) =>
    `brought ${s.revision?.label || 'it'} into force${p.supersedes ? `, which supersedes ${p.supersedes}` : ''}`,
  'revision.superseded': (p, s) => `superseded ${s.revision?.label || 'it'} by ${p.by}`,
  'revision.release-blocked': (p) => `blocked the release on ${day(p.planned)}: ${sentences(p.blockers)}`,
  'revision.reopened': (p) => `returned it from ${p.from} to draft`,
  'revision.revised': (p, s) =>
    `started revision ${s.revision?.label ?? ''} from ${p.from} (${p.changeKind})${p.changeNote ? ` under ${p.changeNote}` : ''}`,
  'revision.abandoned': () => 'abandoned the draft',
  'revision.withdrawn': () => 'withdrew it',
  'revision.reinstated': () => 'reinstated it',
  'review.confirmed': (p) =>
    `reviewed it and confirmed it as it is${p.next ? `; next review ${day(p.next)}` : ''}${p.comment ? `: ${p.comment}` : ''}`,
  'review.answered': (p) =>
    `reviewed it: ${{ 'minor change': 'a minor change is needed', 'major change': 'a major change is needed', withdrawal: 'it is to be withdrawn' }[p.outcome]}: ${p.comment}`,
  'review.brought-forward': (p) => `brought the review forward from ${day(p.from)} to ${day(p.to)}`,
  'review.postponed': (p) => `postponed the review from ${day(p.from)} to ${day(p.to)}`,
  'withdrawal.planned': (p) => `planned its withdrawal for ${day(p.on)}`,
  'form.saved': (p) => `saved version ${p.version} of the form ${p.name}${p.active ? '' : ' (not offered)'}`,
  'form-record.sent': (p) => `sent the record ${p.number}${p.request ? ` as change request ${p.request}` : ''}`,
  'order.given': (p) =>
    `ordered ${p.order === 'write' ? p.what : `a revision of ${p.what}`} from ${p.who} by ${day(p.dueOn)} (${p.number})`,
  'order.changed': (p) => `ordered ${p.what} from ${p.who} by ${day(p.dueOn)} instead (${p.number})`,
  'order.ended': (p) => `${p.how === 'declined' ? 'declined' : 'withdrew'} the order ${p.number} of ${p.what}`,
  'change-note.documents-added': (p) => `named as affected: ${p.numbers.join(', ')}`,
  'change-note.document-changed': (p) =>
    p.noChangeReason === null
      ? `said what changes in ${p.number}${p.what ? `: ${p.what}` : ''}`
      : `said that ${p.number} needs no change: ${p.noChangeReason}`,
  'change-note.document-removed': (p) => `took ${p.number} off the affected documents`,
  'change-note.task-added': (p) => `gave task ${p.n} to ${p.who}: ${p.what}`,
  'change-note.task-changed': (p) =>
    `changed task ${p.n}: ${p.what}, for ${p.who}${p.dueOn ? ` by ${day(p.dueOn)}` : ''}`,
  'change-note.task-done': (p) => `finished task ${p.n}${p.result ? `: ${p.result}` : ''}`,
  'change-note.task-dropped': (p) => `cancelled task ${p.n}`,
  'change-note.closed': () => 'closed the change note',
  'change-request.sent': (p) => `suggested a change (${p.number})${p.place ? `, ${p.place}` : ''}: ${p.what}`,
  'change-request.answered': (p) =>
    p.answer === 'reject'
      ? `rejected the change request ${p.number}`
      : `${p.answer === 'merge' ? 'merged' : 'put'} the change request ${p.number} ${p.answer === 'merge' ? 'into' : 'on'} ${p.into}`,
  'document.put-on-hold': (p) => `put it on hold${p.wayOut ? `; until then: ${p.wayOut}` : ''}`,
  'document.hold-lifted': () => 'lifted the hold',
  'withdrawal.cancelled': () => 'cancelled the planned withdrawal',
  'comment.written': (p) => (p.blocking ? 'wrote a blocking comment' : 'wrote a comment'),
  'comment.resolved': () => 'resolved a comment',
  'comment.replied': () => 'replied to a comment',
  'comment.reopened': () => 'reopened a comment',
  'comment.assigned': (p) => (p.to ? 'assigned a comment' : 'removed the assignee of a comment'),
  'comment.withdrawn': () => 'deleted a comment of their own',
  'comments.imported': (p) => `imported ${p.read} comments from ${p.file}`,
  'version.removed': (p) => `removed version ${p.version}`,
  'version.supporting-file-added': (p) => `added the supporting file ${p.name}`,
  'link.added': (p) => `added a link: ${p.kind} ${p.to}`,
  'link.removed': () => 'removed a link',
  'stamp.saved': (p) => `${p.retired ? 'retired' : 'saved'} the stamp “${p.text}”`,
  'program-password.created': (p) => `created a password for the application ${p.name}`,
  'program-password.all-ended': (p) => `ended all ${p.passwords} application passwords`,
  'mail.server-changed': (p) => `set the mail server to ${p.server}, sender ${p.sender}`,
  'mail.server-removed': (p) => `removed the mail server ${p.server}`,
  'mail.sent-again': (p) => `sent ${p.mails} mails again`,
  'work.retried': (p) => `retried failed background work: ${p.work}, ${p.of}`,
  'content.check-failed': (p) =>
    `found stored content ${p.what === 'missing' ? 'missing' : 'altered'}: ${list(p.places) || String(p.sha256).slice(0, 16)}`,
  'program-password.ended': (p) => `ended the password of the application ${p.name}`,
  'readers.defined': (p) => `defined the readers${list(p.units) ? `: ${list(p.units)}` : ''}`,
  'reading.asked': (p) =>
    `asked ${p.asked} ${p.asked === 1 ? 'person' : 'people'} to read it${p.carriedOver ? `, carried over ${p.carriedOver}` : ''}${p.notNeeded ? `, cancelled ${p.notNeeded} readings` : ''}`,
  'reading.signed': () => 'read and signed',
  'reading.reminded': (p) => `reminded ${p.people} people of ${p.readings} overdue readings`,
  'person.added': (p, s) => `added ${p.name} (${s.person?.name ?? ''})`,
  'person.changed': (_p, s) => `changed ${s.person?.name ?? ''}`,
  'person.deactivated': (_p, s) => `deactivated ${s.person?.name ?? ''}`,
  'membership.started': (p, s) => `added ${s.person?.name ?? ''} to the ${p.kind} ${p.in} from ${day(p.from)}`,
  'membership.ended': (p, s) => `removed ${s.person?.name ?? ''} from the ${p.kind} ${p.in} on ${day(p.to)}`,
  'password.set': () => 'set a password through a link',
  'password.changed': () => 'changed the password',
  'password.reset-started': (_p, s) => `reset the password of ${s.person?.name ?? ''}`,
  'absence.added': (p) =>
    `entered an absence from ${day(p.from)} to ${day(p.to)}${p.deputy ? `, deputy ${p.deputy}` : ''}`,
  'absence.removed': () => 'removed an absence',
  'session.opened': () => 'signed in',
  'session.ended': () => 'signed out',
  'seeing-as.started': (p, s) =>
    `began to see the application as ${s.person?.name ?? 'somebody'}, read only: ${p.reason}`,
  'seeing-as.ended': (_p, s) => `stopped seeing the application as ${s.person?.name ?? 'somebody'}`,
  'sign-in.failed': () => 'failed to sign in',
  'signing.refused': (p) => `could not sign: ${sentences(p.why)}`,
  'signing.locked': (p) => `was locked out of signing for ${p.minutes} minutes`,
  'unit.added': (p) => `added ${p.kind} ${p.name}`,
  'unit.changed': (p) =>
    p.before.name === p.after.name
      ? `set the fallback approver of ${p.after.name} to ${p.after.fallbackApprover ?? 'nobody'}`
      : `renamed ${p.before.name} to ${p.after.name}`,
  'counter.started': (p) => `set the starting number of ${p.scope} to ${p.last}`,
  'numbers.reserved': (p, s) => `reserved ${p.first} to ${p.last} for ${s.person?.name ?? ''} until ${day(p.until)}`,
  'numbers.reservation-ended': (p) => `ended a reservation in ${p.scope}; ${p.voided} numbers are void`,
  'template.added': (p) => `added the template ${p.name} for ${p.type}`,
  'template.changed': (p) => `saved edition ${p.edition} of the template ${p.name} for ${p.type}`,
  'template.applied': (p) => `applied edition ${p.edition} of the template ${p.template}, as version ${p.version}`,
  'shortcut.added': (p) => `added a shortcut in ${p.folder}`,
  'shortcut.removed': (p) => `removed the shortcut in ${p.folder}`,
  'document.renumbered': (p) => `renumbered it from ${p.before} to ${p.after}`,
  'file.renamed': (p) => `renamed its file to ${p.after}, as version ${p.version}`,
  'content.replaced': (p) => `used the content of ${p.from} as version ${p.version}`,
  'content.given': (p) => `provided its content to ${p.to}`,
  'source.checked': (p) => (p.isNewer ? `found edition ${p.found} at the source` : 'found the source unchanged'),
  'incoming-file.received': (p) =>
    `received ${p.path} ${p.from ? `by mail from ${p.from}` : 'in the intake folder'}${p.refused ? '; it cannot be filed' : ''}`,
  'incoming-file.set-aside': (p) => `set the incoming file ${p.path} aside`,
  'incoming-file.restored': (p) => `restored the incoming file ${p.path}`,
  'document.removed': () => 'removed it',
  'document.restored': () => 'restored it',
  'document.imported': () => 'imported it from a legacy list',
  'document.verified': () => 'verified the imported document',
  'folder.added': (_p, s) => `added the folder ${s.folder?.name ?? ''}`,
  'folder.changed': (_p, s) => `changed the folder ${s.folder?.name ?? ''}`,
  'folder.moved': (_p, s) => `moved the folder ${s.folder?.name ?? ''}`,
  'folder.removed': (_p, s) => `removed the folder ${s.folder?.name ?? ''}`,
  'document.rights-changed': () => 'changed the rights on the document',
  'folder.rights-changed': (_p, s) => `changed the rights on the folder ${s.folder?.name ?? ''}`,
  'blueprint.added': (_p, s) => `added the blueprint ${s.blueprint?.name ?? ''}`,
  'blueprint.changed': (_p, s) => `changed the blueprint ${s.blueprint?.name ?? ''}`,
  'project.created': (p, s) =>
    `created a project from ${s.blueprint?.name ?? ''}: ${p.folders} folders, ${p.documents} documents`,
  'organisation.changed': () => 'changed the settings of the organisation',
  'configuration.imported': (p) => `imported the configuration ${p.from}`,
  'setup.configuration-applied': (p) => `began with the configuration ${p.name}: ${p.types.join(', ')}`,
  'setup.closed': (p) => (p.open ? 'opened the first steps again' : 'finished the first steps'),
  'list.added': (_p, s) => `added the list ${s.list?.name ?? ''}`,
  'list.changed': (_p, s) => `changed the list ${s.list?.name ?? ''}`,
  'round.planned': (p) => `planned the ad hoc round ${p.name} for ${dayInWords(p.on)}`,
  'round.plan-ended': (p) => `ended the plan of the ad hoc round ${p.name}, which was to begin on ${dayInWords(p.on)}`,
  'round-rule.saved': (p) => `saved the rule ${p.name}, which starts rounds${p.active ? '' : ' (switched off)'}`,
  'round-rule.removed': (p) => `removed the rule ${p.name}, which started rounds`,
  'type.added': (_p, s) => `added the type ${s.type?.name ?? ''}`,
  'type.changed': (_p, s) => `changed the type ${s.type?.name ?? ''}`,
  'type.change-planned': (p, s) => `planned a change of the type ${s.type?.name ?? ''} for ${day(p.from)}`,
  'type.change-cancelled': (p, s) =>
    `cancelled the change of the type ${s.type?.name ?? ''} planned for ${day(p.from)}`,
  'type.change-blocked': (p, s) =>
    `could not apply the change of the type ${s.type?.name ?? ''} planned for ${day(p.from)}`,
  'import.prepared': (p) => `prepared an import of ${p.lines} lines`,
  'import.line-corrected': (p) => `corrected line ${p.line} of an import`,
  'import.started': (p) => `started an import of ${p.ready} documents`,
  'import.ended': (p) => `completed an import: ${p.done} imported, ${p.refused} refused`,
  'usage.sealed': (p) => `sealed ${p.lines} usage records`,
};

export const eventSentence = (event: Event): string =>
  // An event of a later version, read by this one, is shown by its key.
  Object.hasOwn(SENTENCES, event.kind) ? say(event as Event & { kind: EventKind }) : event.kind;

/** A stored event has the payload of its kind, which the hash chain keeps as it was recorded. */
const say = <K extends EventKind>({ kind, payload, subject }: Event & { kind: K }): string =>
  SENTENCES[kind](payload as unknown as EventPayloads[K], subject);

/** Words that a person gave with the command: note, reason, message, comment. */
export const eventWords = (event: Event): string | null => {
  const { note, reason, comment, message, text, resolution } = event.payload as Record<string, string | undefined>;
  // Of a decision it is what was said; of a comment it is which one.
  const said = event.kind.startsWith('comment.') ? undefined : comment;
  return (
    [note, said, reason, message, text, resolution].find((value) => typeof value === 'string' && value !== '') ?? null
  );
};
