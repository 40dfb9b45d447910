/** Every kind of background work with its data: one job per item, so that no item can hide another. */
export type JobKinds = {
  'text.extract': { sha256: string };
  'text.scan': { sha256: string };
  'rendition.make': { kind: 'pages' | 'sheets' | 'small'; sha256: string };
  'mail.send': { mailId: string };
  'import.run': { importId: string };
} & Record<ClockKind, Record<string, never>>;

/** Work that comes by the clock and looks by itself for everything there is to do. */
export type ClockKind =
  | 'clock.zone'
  | 'types.apply-plans'
  | 'documents.apply-due'
  | 'numbers.end-reservations'
  | 'register.fold-counts'
  | 'groups.apply-rules'
  | 'citations.read'
  | 'comparisons.make'
  | 'drive.apply-due'
  | 'mail.retry'
  | 'contents.tell-incidents'
  | 'mail.reminders'
  | 'rounds.escalate'
  | 'rounds.start-by-rule'
  | 'rounds.start-planned'
  | 'signing.ask-service'
  | 'mail.summaries'
  | 'trail.head'
  | 'trail.end-day'
  | 'contents.tidy'
  | 'renditions.retry'
  | 'uploads.sweep'
  | 'contents.check';
export type JobKind = keyof JobKinds;

export type Queue<K extends JobKind = JobKind> = {
  /**
   * What makes two jobs the same: while one is queued, the same is not queued again. Left out, each that is sent is kept; a job of
   * the clock has no item and is queued once.
   */
  key?: (data: JobKinds[K]) => string;
  /** Queued even if the same job waits: a mail sent by hand must not wait for its own planned retry. */
  keepsAll?: boolean;
  retryLimit: number;
  /** Seconds before the first retry; doubled with each further one. */
  retryDelay: number;
  /** A job that works longer is taken for dead, in seconds. */
  expireInSeconds: number;
  /** Jobs fetched at once by one worker. Each is completed or failed alone. */
  batch: number;
  /** When it comes by the clock, in the zone of the organisation: minute, hour, day, month, weekday. */
  cron?: string;
};

const EACH_MINUTE = '* * * * *';
const EACH_QUARTER = '*/15 * * * *';
/** Reminders are part of the summary of the same morning. */
const BEFORE_SIX = '50 5 * * *';
const AT_SIX = '0 6 * * *';
const AFTER_MIDNIGHT = '1 0 * * *';

const byClock = (cron: string, expireInSeconds = 900): Queue => ({
  cron,
  retryLimit: 2,
  retryDelay: 5,
  expireInSeconds,
  batch: 1,
});
const bySha256 = ({ sha256 }: { sha256: string }) => sha256;

/** Each queue, declared once. */
export const QUEUES: { readonly [K in JobKind]: Queue<K> } = {
  'text.extract': { key: bySha256, retryLimit: 8, retryDelay: 5, expireInSeconds: 900, batch: 10 },
  'text.scan': { key: bySha256, retryLimit: 2, retryDelay: 60, expireInSeconds: 1800, batch: 2 },
  // A batch of office files is converted by one run of the office program, which is several times faster than one run each.
  'rendition.make': {
    key: ({ kind, sha256 }) => `${kind} ${sha256}`,
    retryLimit: 8,
    retryDelay: 5,
    expireInSeconds: 1800,
    batch: 8,
  },
  // A mail server may be down over a weekend: RETRY_PAUSES of mailing says when a mail is retried.
  'mail.send': { keepsAll: true, retryLimit: 2, retryDelay: 5, expireInSeconds: 300, batch: 10 },
  'import.run': { key: ({ importId }) => importId, retryLimit: 8, retryDelay: 5, expireInSeconds: 900, batch: 1 },
  'clock.zone': byClock(EACH_MINUTE),
  'types.apply-plans': byClock(EACH_MINUTE),
  'documents.apply-due': byClock(EACH_MINUTE),
  'numbers.end-reservations': byClock(EACH_MINUTE),
  'register.fold-counts': byClock(EACH_MINUTE),
  'groups.apply-rules': byClock(EACH_MINUTE),
  'citations.read': byClock(EACH_MINUTE),
  'comparisons.make': byClock(EACH_MINUTE),
  'drive.apply-due': byClock(EACH_MINUTE),
  'mail.retry': byClock(EACH_MINUTE),
  'contents.tell-incidents': byClock(EACH_MINUTE),
  'mail.reminders': byClock(BEFORE_SIX),
  'rounds.escalate': byClock(BEFORE_SIX),
  'rounds.start-by-rule': byClock(EACH_MINUTE),
  'rounds.start-planned': byClock(EACH_MINUTE),
  'signing.ask-service': byClock(EACH_MINUTE),
  'mail.summaries': byClock(AT_SIX),
  'trail.head': byClock(EACH_QUARTER),
  'trail.end-day': byClock(AFTER_MIDNIGHT),
  'contents.tidy': byClock(AFTER_MIDNIGHT, 3600),
  'renditions.retry': byClock(AFTER_MIDNIGHT),
  'uploads.sweep': byClock(AFTER_MIDNIGHT),
  'contents.check': byClock(AFTER_MIDNIGHT, 6 * 3600),
};
export const JOB_KINDS = Object.keys(QUEUES) as JobKind[];

/**
 * How the job library keeps a queue: `short` holds one queued job per key and drops the rest, `standard` holds every job that is sent.
 */
export const policyOf = (kind: JobKind): 'standard' | 'short' => (QUEUES[kind].keepsAll ? 'standard' : 'short');

/** The key of a job, by which `short` distinguishes jobs. */
export const keyOf = <K extends JobKind>(kind: K, data: JobKinds[K]): string | undefined => QUEUES[kind].key?.(data);
