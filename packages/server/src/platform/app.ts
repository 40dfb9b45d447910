import { AsyncLocalStorage } from 'node:async_hooks';
import {
  type ConfidentialityRules,
  DEFAULT_CONFIDENTIALITY,
  dayOf,
  type EventDraft,
  type EventKind,
  type EventSubject,
  type Json,
  type OwnState,
  type WithPayload,
  type WorkingCalendar,
} from '@kanonos/core';
import type { Logger } from 'pino';
import type { Secrets } from './auth/secrets.ts';
import type { Config } from './config.ts';
import { type ContentStore, watchIntegrity } from './content/integrity.ts';
import type { DiskStore } from './content/store.ts';
import { type Db, firstRow, rows, type Trx } from './db/connect.ts';
import { isRetryable, refusalOfConstraint } from './db/constraints.ts';
import type { Jobs } from './jobs/jobs.ts';
import { refused } from './refused.ts';
import { appendEvents } from './trail/append.ts';

/** What every service needs of the organisation. */
export type Organisation = {
  name: string;
  code: string;
  zone: string;
  calendar: WorkingCalendar;
  demo: boolean;
  demoPassword: string | null;
  signingIdleMinutes: number;
  uploadLimit: number;
  fallbackApprover: string | null;
  confidentiality: ConfidentialityRules;
  /** Stored names follow the naming rules in the whole organisation. */
  followsNamingRule: boolean;
  /** Colour of mails and cover pages, or none. */
  colour: string;
  logo: string | null;
  /** How states are worded here; keys stay. */
  stateWords: Readonly<Record<string, string>>;
  /** What a signature outside a round may mean. */
  signatureMeanings: readonly string[];
  /** States of its own within draft and in review. */
  ownStates: readonly OwnState[];
};

type OrganisationRow = {
  name: string;
  code: string;
  zone: string;
  week: number[];
  demo: boolean;
  demo_password: string | null;
  signing_idle_minutes: number;
  upload_limit: number;
  fallback_approver: string | null;
  follows_naming_rule: boolean;
  colour: string;
  logo: string | null;
  state_words: Record<string, string>;
  signature_meanings: string[];
  own_states: OwnState[];
  confidentiality: ConfidentialityRules;
};

/** Who gives a command: a person, or the system itself. */
export type Actor = { id: string | null; signInName: string; name: string };

export const SYSTEM_CLOCK: Actor = { id: null, signInName: 'system.clock', name: 'Kanonos' };

/** An event as a command records it: its payload and its subject. */
export type RecordedEvent<K extends EventKind> = {
  kind: K;
  subject: EventSubject;
  for?: string;
  actor?: string;
} & WithPayload<K>;

/** One transaction of one command: everything in it happens or nothing does. */
export type UnitOfWork = {
  trx: Trx;
  now: Date;
  day: string;
  organisation: Organisation;
  actor: Actor;
  record: <K extends EventKind>(event: RecordedEvent<K>) => void;
  /** Runs when the transaction has been committed. */
  afterCommit: (then: () => void) => void;
};

export type PasswordCheck = (password: string, hash: string | null) => Promise<boolean>;

export type App = {
  db: Db;
  config: Config;
  log: Logger;
  clock: () => Date;
  secrets: Secrets;
  content: ContentStore;
  jobs: Jobs;
  checkPassword: PasswordCheck;
  organisation: () => Promise<Organisation>;
  forgetOrganisation: () => void;
  command: <T>(actor: Actor, work: (work: UnitOfWork) => Promise<T>) => Promise<T>;
  /** Whether this runs within a command, which holds a connection: it must not wait for another one. */
  isActing: () => boolean;
};

const ORGANISATION_KEPT_MS = 5_000;
const TRIES = 5;

/** The organisation with its calendar as the database has it; no upload is larger than the server allows. */
const loadOrganisation = async (db: Db, uploadLimit: number): Promise<Organisation> => {
  const row = await firstRow<OrganisationRow>(db, 'select * from organisation');
  if (!row) throw refused('not_ready');
  const holidays = await rows<{ day: string }>(db, 'select day from holidays');
  return {
    name: row.name,
    code: row.code,
    zone: row.zone,
    calendar: { week: row.week, holidays: new Set(holidays.map((holiday) => holiday.day)) },
    demo: row.demo,
    demoPassword: row.demo_password,
    signingIdleMinutes: row.signing_idle_minutes,
    uploadLimit: Math.min(row.upload_limit, uploadLimit),
    fallbackApprover: row.fallback_approver,
    followsNamingRule: row.follows_naming_rule,
    colour: row.colour,
    logo: row.logo,
    stateWords: row.state_words,
    signatureMeanings: row.signature_meanings,
    ownStates: row.own_states,
    confidentiality: { ...DEFAULT_CONFIDENTIALITY, ...row.confidentiality },
  };
};

/** Puts the application together. Clock and password check are passed in by tests and the demo loader, never over HTTP. */
export const createApp = (
  parts: Pick<App, 'db' | 'config' | 'log' | 'clock' | 'secrets' | 'jobs' | 'checkPassword'> & { content: DiskStore },
): App => {
  /** The organisation of the command that is under way: commands that each waited for a second connection would wait for each other. */
  const acting = new AsyncLocalStorage<Organisation>();
  const content = watchIntegrity(parts.content, parts.db, parts.clock, {
    isInside: () => acting.getStore() !== undefined,
    outside: (task) => acting.exit(task),
    failed: (error) => parts.log.error({ err: error }, 'what was found of stored bytes could not be written down'),
  });
  let kept: { organisation: Organisation; until: number } | undefined;

  const organisation = async (): Promise<Organisation> => {
    const ofCommand = acting.getStore();
    if (ofCommand) return ofCommand;
    if (kept && kept.until > performance.now()) return kept.organisation;
    const loaded = await loadOrganisation(parts.db, parts.config.uploadLimit);
    kept = { organisation: loaded, until: performance.now() + ORGANISATION_KEPT_MS };
    return loaded;
  };

  const command = async <T>(actor: Actor, work: (work: UnitOfWork) => Promise<T>): Promise<T> => {
    const now = parts.clock();
    const theOrganisation = await organisation();
    for (let attempt = 1; ; attempt++) {
      const events: EventDraft[] = [];
      const later: (() => void)[] = [];
      try {
        const result = await parts.db.transaction(async (trx) => {
          const inside: UnitOfWork = {
            trx,
            now,
            day: dayOf(now, theOrganisation.zone),
            organisation: theOrganisation,
            actor,
            record: ({ kind, subject, payload, for: forName, actor: other }) =>
              events.push({
                kind,
                actor: other ?? actor.signInName,
                subject,
                payload: (payload ?? {}) as { [key: string]: Json },
                ...(forName ? { for: forName } : {}),
              }),
            afterCommit: (then) => later.push(then),
          };
          const value = await acting.run(theOrganisation, () => work(inside));
          await appendEvents(trx, events, now);
          return value;
        });
        for (const then of later) then();
        return result;
      } catch (error) {
        if (isRetryable(error) && attempt < TRIES) continue;
        const code = refusalOfConstraint(error);
        throw code ? refused(code) : error;
      }
    }
  };

  return {
    ...parts,
    content,
    organisation,
    forgetOrganisation: () => (kept = undefined),
    command,
    isActing: () => acting.getStore() !== undefined,
  };
};
