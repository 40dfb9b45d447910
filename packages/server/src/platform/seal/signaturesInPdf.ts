import { createHash } from 'node:crypto';
import { fromBER, type UTCTime } from 'asn1js';
import { Certificate, ContentInfo, SignedData, type SignerInfo } from 'pkijs';

/** What a signature inside a PDF says, and whether it holds. */
export type SignatureInPdf = {
  /** Whom the certificate names. */
  by: string;
  issuedBy: string;
  /** When the signer's program says that it was given; nobody vouches for it. */
  at: string | null;
  /** The bytes that it covers are those that were signed. */
  intact: boolean;
  /** Nothing was added after it. */
  coversAll: boolean;
  /** Its certificate, or one that vouches for it, is among those that are trusted, and was valid when it was given. */
  trusted: boolean;
};

const COMMON_NAME = '2.5.4.3';
const ORGANISATION = '2.5.4.10';
const SIGNING_TIME = '1.2.840.113549.1.9.5';
const MOST = 50;

const nameOf = ({ typesAndValues }: Certificate['subject']): string => {
  const value = (type: string) =>
    typesAndValues.find((one) => one.type === type)?.value.valueBlock.value as string | undefined;
  return value(COMMON_NAME) ?? value(ORGANISATION) ?? 'nobody by name';
};

const fingerprintOf = (certificate: Certificate): string =>
  createHash('sha256')
    .update(Buffer.from(certificate.toSchema().toBER(false)))
    .digest('hex');

const signerOf = (cms: SignedData, signer: SignerInfo): Certificate | undefined =>
  cms.certificates?.find(
    (one): one is Certificate =>
      one instanceof Certificate &&
      'serialNumber' in (signer.sid as object) &&
      one.serialNumber.isEqual((signer.sid as { serialNumber: Certificate['serialNumber'] }).serialNumber),
  );

const signedTime = (signer: SignerInfo): Date | undefined => {
  const attribute = signer.signedAttrs?.attributes.find(({ type }) => type === SIGNING_TIME);
  return (attribute?.values[0] as UTCTime | undefined)?.toDate?.();
};

/** The time that the dictionary of a signature gives (ISO 32000-2, 7.9.4), from the text around its bytes. */
const dictionaryTime = (text: string): Date | undefined => {
  const [, y, mo, d, h = '00', mi = '00', s = '00', sign, zh, zm = '00'] =
    /\/M\s*\(D:(\d{4})(\d\d)(\d\d)(\d\d)?(\d\d)?(\d\d)?(?:([+-])(\d\d)'?(\d\d)?|Z)?/.exec(text) ?? [];
  if (!y) return undefined;
  const zone = sign ? `${sign}${zh}:${zm}` : 'Z';
  const at = new Date(`${y}-${mo}-${d}T${h}:${mi}:${s}${zone}`);
  return Number.isNaN(at.getTime()) ? undefined : at;
};

/** Certificates of a chain as PEM (RFC 7468), as far as they can be read. */
export const readCertificates = (pem: string): Certificate[] =>
  [...pem.matchAll(/-----BEGIN CERTIFICATE-----([\s\S]*?)-----END CERTIFICATE-----/g)].flatMap(([, body = '']) => {
    try {
      return [Certificate.fromBER(Buffer.from(body, 'base64'))];
    } catch {
      return [];
    }
  });

const isTrusted = async (
  own: Certificate,
  chain: readonly Certificate[],
  trusted: readonly Certificate[],
  at: Date,
): Promise<boolean> => {
  if (at < own.notBefore.value || at > own.notAfter.value) return false;
  const known = new Set(trusted.map(fingerprintOf));
  let subject = own;
  // Up the chain, certificate by certificate, until one that is trusted.
  for (let step = 0; step < 6; step++) {
    if (known.has(fingerprintOf(subject))) return true;
    const issuer = [...trusted, ...chain].find((one) => one !== subject && one.subject.isEqual(subject.issuer));
    if (!issuer || !(await subject.verify(issuer).catch(() => false))) return false;
    subject = issuer;
  }
  return false;
};

/**
 * The signatures inside a PDF (ISO 32000-2, 12.8; CMS, RFC 5652), in the order of their bytes. One that cannot be read is not intact.
 *
 * @param trusted certificates that the organisation trusts
 * @param now the time by which a certificate is judged where the signature tells none
 */
export const signaturesInPdf = async (
  bytes: Uint8Array,
  trusted: readonly Certificate[],
  now: Date,
): Promise<SignatureInPdf[]> => {
  const all = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const text = all.toString('latin1');
  const found: SignatureInPdf[] = [];
  for (const match of text.matchAll(/\/ByteRange\s*\[\s*(\d+)\s+(\d+)\s+(\d+)\s+(\d+)\s*\]/g)) {
    if (found.length >= MOST) break;
    const [a = 0, b = 0, c = 0, d = 0] = match.slice(1).map(Number);
    if (a + b > c || c + d > all.length) continue;
    found.push(await judge(all, text, { a, b, c, d, at: match.index }, trusted, now));
  }
  return found;
};

const judge = async (
  all: Buffer,
  text: string,
  { a, b, c, d, at }: { a: number; b: number; c: number; d: number; at: number },
  trusted: readonly Certificate[],
  now: Date,
): Promise<SignatureInPdf> => {
  const unreadable = { by: 'unreadable', issuedBy: '', at: null, intact: false, coversAll: false, trusted: false };
  try {
    const hex = text.slice(a + b, c).replace(/[^0-9a-fA-F]/g, '');
    const parsed = fromBER(Uint8Array.from(Buffer.from(hex, 'hex')).buffer);
    const cms = new SignedData({ schema: new ContentInfo({ schema: parsed.result }).content });
    const [signer] = cms.signerInfos;
    const own = signer && signerOf(cms, signer);
    if (!signer || !own) return unreadable;
    const signed = Buffer.concat([all.subarray(a, a + b), all.subarray(c, c + d)]);
    const intact = await cms
      .verify({ signer: 0, data: Uint8Array.from(signed).buffer, checkChain: false })
      .catch(() => false);
    const around = text.slice(Math.max(0, at - 2000), at) + text.slice(c, Math.min(text.length, c + 600));
    const when = signedTime(signer) ?? dictionaryTime(around);
    const chain = (cms.certificates ?? []).filter((one): one is Certificate => one instanceof Certificate);
    return {
      by: nameOf(own.subject),
      issuedBy: nameOf(own.issuer),
      at: when?.toISOString() ?? null,
      intact,
      coversAll: a === 0 && c + d === all.length,
      trusted: intact && (await isTrusted(own, chain, trusted, when ?? now)),
    };
  } catch {
    return unreadable;
  }
};
