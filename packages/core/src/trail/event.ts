import { canonicalJson, type Json } from './canonical.ts';

/** SHA-256 of bytes or of the UTF-8 of a text, as 32 bytes. Passed in: the core has no cryptography of its own. */
export type Sha256 = (data: string | Uint8Array) => Uint8Array;

export type EventSubject = Record<string, { id: string; number?: string; label?: string; name?: string }>;

/** What a service records of a command; the chain adds the rest. */
export type EventDraft = {
  kind: string;
  actor: string;
  for?: string;
  subject: EventSubject;
  payload: { [key: string]: Json };
};

/** One link of the audit trail. */
export type TrailEvent = EventDraft & { seq: number; at: string; prev: string; hash: string };

export const GENESIS = '0'.repeat(64);

const HEX = Array.from({ length: 256 }, (_, byte) => byte.toString(16).padStart(2, '0'));

export const toHex = (bytes: Uint8Array): string => {
  let text = '';
  for (const byte of bytes) text += HEX[byte];
  return text;
};

const NIBBLE = new Uint8Array(128);
for (let i = 0; i < 16; i++) {
  NIBBLE[i.toString(16).charCodeAt(0)] = i;
  NIBBLE[i.toString(16).toUpperCase().charCodeAt(0)] = i;
}

export const fromHex = (hex: string): Uint8Array => {
  const bytes = new Uint8Array(hex.length >> 1);
  for (let i = 0; i < bytes.length; i++)
    bytes[i] = ((NIBBLE[hex.charCodeAt(i * 2)] ?? 0) << 4) | (NIBBLE[hex.charCodeAt(i * 2 + 1)] ?? 0);
  return bytes;
};

/** The canonical text (RFC 8785) of an event without its hash: what is stored and hashed. */
export const eventText = (event: Omit<TrailEvent, 'hash'>): string => {
  const { seq, at, actor, kind, subject, payload, prev } = event;
  return canonicalJson({ seq, at, actor, for: event.for, kind, subject, payload, prev });
};

/** An event as a line of an export: its stored text with its hash as the last member. */
export const eventLine = (text: string, hash: string): string => `${text.slice(0, -1)},"hash":"${hash}"}`;

/** Chains drafts after the last event: sequence without gap, time never before the last, each with the hash before it. */
export const chainEvents = (
  drafts: readonly EventDraft[],
  last: { seq: number; hash: string; at: string } | undefined,
  now: string,
  sha256: Sha256,
): { event: TrailEvent; text: string }[] => {
  let { seq, hash: prev } = last ?? { seq: 0, hash: GENESIS };
  const at = last && last.at > now ? last.at : now;
  return drafts.map((draft) => {
    seq += 1;
    const text = eventText({ ...draft, seq, at, prev });
    const hash = toHex(sha256(text));
    const event = { ...draft, seq, at, prev, hash };
    prev = hash;
    return { event, text };
  });
};

const EVENT_KEYS = new Set(['actor', 'at', 'for', 'hash', 'kind', 'payload', 'prev', 'seq', 'subject']);

/**
 * Whether the hash of an event is correct. The bytes of a line as it was exported are hashed as they are; a line that
 * somebody wrote anew, with other order or spaces, is brought into its canonical form first.
 */
const hashFits = (event: TrailEvent, line: string | undefined, sha256: Sha256): boolean => {
  const { hash, ...rest } = event;
  const end = `,"hash":"${hash}"}`;
  if (line?.endsWith(end) && toHex(sha256(`${line.slice(0, -end.length)}}`)) === hash) return true;
  return toHex(sha256(eventText(rest))) === hash;
};

/**
 * The first thing wrong with an event as the successor of another, in words; undefined when it fits. `line` is the text from
 * which it was read, where there is one.
 */
export const checkEvent = (
  event: TrailEvent,
  last: { seq: number; hash: string; at: string } | undefined,
  sha256: Sha256,
  line?: string,
): string | undefined => {
  for (const key in event) if (!EVENT_KEYS.has(key)) return `member "${key}" does not belong to an event`;
  const expected = (last?.seq ?? 0) + 1;
  if (event.seq !== expected) return `gap: expected event ${expected}, found ${event.seq}`;
  if (event.prev !== (last?.hash ?? GENESIS)) return 'prev is not the hash of the event before it';
  if (last && event.at < last.at) return `time runs backwards: ${event.at} after ${last.at}`;
  if (!hashFits(event, line, sha256)) return 'content does not match its hash';
  return undefined;
};
