/** Every kind of background work with its data: one job per item, so that no item can hide behind another. */
export type JobKinds = {
  'text.extract': { sha256: string };
  'mail.send': { mailId: string };
  'due.work': Record<string, never>;
  'day.end': Record<string, never>;
  'mail.summaries': Record<string, never>;
  'import.run': { importId: string };
  'rendition.make': { kind: 'pages' | 'sheets' | 'small'; sha256: string };
  'text.scan': { sha256: string };
  'trail.head': Record<string, never>;
};
export type JobKind = keyof JobKinds;

export type Queue = {
  /**
   * `standard` keeps every job that is sent. `short` keeps one queued job at most and drops the rest: only for work that looks for
   * everything there is to do by itself, such as the clock.
   */
  policy: 'standard' | 'short';
  retryLimit: number;
  /** Seconds before the first retry; doubled with each further one. */
  retryDelay: number;
  /** A job that works longer is taken for dead, in seconds. */
  expireInSeconds: number;
  /** Jobs fetched at once by one worker. Each is completed or failed alone. */
  batch: number;
};

/** Each queue, declared once. */
export const QUEUES: Readonly<Record<JobKind, Queue>> = {
  'text.extract': { policy: 'standard', retryLimit: 8, retryDelay: 5, expireInSeconds: 900, batch: 10 },
  // A mail server may be gone over a weekend: see RETRY_PAUSES of mailing for when a mail is tried again.
  'mail.send': { policy: 'standard', retryLimit: 2, retryDelay: 5, expireInSeconds: 300, batch: 10 },
  'due.work': { policy: 'short', retryLimit: 8, retryDelay: 5, expireInSeconds: 900, batch: 1 },
  'day.end': { policy: 'short', retryLimit: 8, retryDelay: 60, expireInSeconds: 3600, batch: 1 },
  'mail.summaries': { policy: 'short', retryLimit: 8, retryDelay: 60, expireInSeconds: 900, batch: 1 },
  'trail.head': { policy: 'short', retryLimit: 2, retryDelay: 5, expireInSeconds: 900, batch: 1 },
  'import.run': { policy: 'standard', retryLimit: 8, retryDelay: 5, expireInSeconds: 900, batch: 1 },
  // A batch of office files is converted by one run of the office program, which is several times faster than one run each.
  'rendition.make': { policy: 'standard', retryLimit: 8, retryDelay: 5, expireInSeconds: 1800, batch: 8 },
  'text.scan': { policy: 'standard', retryLimit: 2, retryDelay: 60, expireInSeconds: 1800, batch: 2 },
};
export const JOB_KINDS = Object.keys(QUEUES) as JobKind[];
