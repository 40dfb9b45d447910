import { webcrypto } from 'node:crypto';
import { BitString, Integer, Utf8String } from 'asn1js';
import { AttributeTypeAndValue, BasicConstraints, Certificate, Extension } from 'pkijs';

/** A private key and the certificates that vouch for it, the own one first, both as PEM (RFC 7468). */
export type SealFiles = { key: string; certificates: string };

const COMMON_NAME = '2.5.4.3';
const BASIC_CONSTRAINTS = '2.5.29.19';
const KEY_USAGE = '2.5.29.15';
/** The bits *digital signature* and *content commitment* (RFC 5280, 4.2.1.3). */
const MAY_SIGN = new Uint8Array([0b1100_0000]);
const DAY_MS = 86_400_000;

let made = 0;
/** Two certificates of one moment are told apart (RFC 5280, 4.1.2.2). */
const serialOf = (from: Date): number => ((from.getTime() % 2 ** 30) + ++made) % 2 ** 31;

export const toPem = (label: string, der: ArrayBuffer | Uint8Array): string =>
  `-----BEGIN ${label}-----\n${Buffer.from(der as Uint8Array)
    .toString('base64')
    .replaceAll(/.{1,64}/g, '$&\n')}-----END ${label}-----\n`;

/** A certificate that vouches for itself: for the demo and for tests. Nobody else trusts it. */
/** Whoever vouches for a certificate: its own certificate and key. */
export type Issuer = { certificate: Certificate; key: webcrypto.CryptoKey };

/** Makes a key and its certificate, which vouches for itself, or which an issuer vouches for. */
export const makeCertificate = async (
  name: string,
  from: Date,
  { days = 3650, issuer }: { days?: number; issuer?: Issuer } = {},
): Promise<SealFiles> => {
  const { privateKey, publicKey } = await webcrypto.subtle.generateKey(
    { name: 'RSASSA-PKCS1-v1_5', modulusLength: 3072, publicExponent: new Uint8Array([1, 0, 1]), hash: 'SHA-256' },
    true,
    ['sign', 'verify'],
  );
  const certificate = new Certificate();
  certificate.version = 2;
  certificate.serialNumber = new Integer({ value: serialOf(from) });
  if (issuer) certificate.issuer = issuer.certificate.subject;
  for (const side of issuer ? [certificate.subject] : [certificate.issuer, certificate.subject])
    side.typesAndValues.push(new AttributeTypeAndValue({ type: COMMON_NAME, value: new Utf8String({ value: name }) }));
  certificate.notBefore.value = new Date(from.getTime() - DAY_MS);
  certificate.notAfter.value = new Date(from.getTime() + days * DAY_MS);
  certificate.extensions = [
    new Extension({
      extnID: BASIC_CONSTRAINTS,
      critical: true,
      extnValue: new BasicConstraints({ cA: false }).toSchema().toBER(false),
    }),
    new Extension({
      extnID: KEY_USAGE,
      critical: true,
      extnValue: new BitString({ valueHex: MAY_SIGN, unusedBits: 6 }).toBER(false),
    }),
  ];
  await certificate.subjectPublicKeyInfo.importKey(publicKey as never);
  await certificate.sign((issuer?.key ?? privateKey) as never, 'SHA-256');
  return {
    key: toPem('PRIVATE KEY', await webcrypto.subtle.exportKey('pkcs8', privateKey)),
    certificates: [certificate, ...(issuer ? [issuer.certificate] : [])]
      .map((one) => toPem('CERTIFICATE', one.toSchema(true).toBER(false)))
      .join(''),
  };
};
