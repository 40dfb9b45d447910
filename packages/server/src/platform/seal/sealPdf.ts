import { createHash, createPrivateKey, webcrypto, X509Certificate } from 'node:crypto';
import { plainAddPlaceholder } from '@signpdf/placeholder-plain';
import { SignPdf } from '@signpdf/signpdf';
import { Signer, SUBFILTER_ETSI_CADES_DETACHED } from '@signpdf/utils';
import { fromBER, ObjectIdentifier, OctetString, Sequence } from 'asn1js';
import {
  Attribute,
  Certificate,
  ContentInfo,
  EncapsulatedContentInfo,
  IssuerAndSerialNumber,
  SignedAndUnsignedAttributes,
  SignedData,
  SignerInfo,
} from 'pkijs';
import type { SealFiles } from './certificate.ts';

/** A key with its certificates, ready to seal. */
export type Seal = { key: webcrypto.CryptoKey; certificates: Certificate[]; name: string };

const DATA = '1.2.840.113549.1.7.1';
const SIGNED_DATA = '1.2.840.113549.1.7.2';
const CONTENT_TYPE = '1.2.840.113549.1.9.3';
const MESSAGE_DIGEST = '1.2.840.113549.1.9.4';
/** Which certificate vouches for the signature (RFC 5035): what makes it one of baseline level B-B. */
const SIGNING_CERTIFICATE_V2 = '1.2.840.113549.1.9.16.2.47';
/** Room for the signature with a chain of several certificates, in bytes. */
const ROOM = 16_384;
const RSA = { name: 'RSASSA-PKCS1-v1_5', hash: 'SHA-256' };

const PEM = /-----BEGIN CERTIFICATE-----[\s\S]+?-----END CERTIFICATE-----/g;

/**
 * Reads a key (PKCS #8) and its certificates from PEM.
 *
 * @throws where they cannot be read, are not RSA, or do not belong together
 */
export const readSeal = async ({ key, certificates }: SealFiles): Promise<Seal> => {
  const chain = (certificates.match(PEM) ?? []).map((pem) => new X509Certificate(pem));
  const privateKey = createPrivateKey(key);
  const [own] = chain;
  if (!own) throw new Error('there is no certificate in the file');
  if (privateKey.asymmetricKeyType !== 'rsa') throw new Error('the key must be an RSA key');
  if (!own.checkPrivateKey(privateKey)) throw new Error('the first certificate does not belong to the key');
  const der = privateKey.export({ type: 'pkcs8', format: 'der' });
  return {
    key: await webcrypto.subtle.importKey('pkcs8', der, RSA, false, ['sign']),
    certificates: chain.map((one) => new Certificate({ schema: fromBER(new Uint8Array(one.raw)).result })),
    name: /CN=(.+)/.exec(own.subject)?.[1] ?? own.subject,
  };
};

const sha256 = (bytes: Uint8Array): Buffer => createHash('sha256').update(bytes).digest();
const octets = (bytes: Uint8Array) => new OctetString({ valueHex: new Uint8Array(bytes) });

/** The members of a set in the order that DER asks for (X.690, 11.6). */
const inDerOrder = (attributes: Attribute[]): Attribute[] =>
  attributes
    .map((one) => ({ one, bytes: Buffer.from(one.toSchema().toBER(false)) }))
    .sort((a, b) => Buffer.compare(a.bytes, b.bytes))
    .map(({ one }) => one);

/** Signs bytes as PAdES asks for: detached CMS with the signing certificate among what is signed (ETSI EN 319 142-1, 6.3, level B-B). */
class CadesSigner extends Signer {
  readonly #seal: Seal;
  constructor(seal: Seal) {
    super();
    this.#seal = seal;
  }
  override async sign(bytes: Buffer): Promise<Buffer> {
    const { key, certificates } = this.#seal;
    const [own] = certificates;
    if (!own) throw new Error('a seal has a certificate');
    const certificate = Buffer.from(own.toSchema().toBER(false));
    const attributes = inDerOrder([
      new Attribute({ type: CONTENT_TYPE, values: [new ObjectIdentifier({ value: DATA })] }),
      new Attribute({ type: MESSAGE_DIGEST, values: [octets(sha256(bytes))] }),
      new Attribute({
        type: SIGNING_CERTIFICATE_V2,
        values: [
          new Sequence({
            value: [new Sequence({ value: [new Sequence({ value: [octets(sha256(certificate))] })] })],
          }),
        ],
      }),
    ]);
    const signed = new SignedData({
      version: 1,
      encapContentInfo: new EncapsulatedContentInfo({ eContentType: DATA }),
      signerInfos: [
        new SignerInfo({
          version: 1,
          sid: new IssuerAndSerialNumber({ issuer: own.issuer, serialNumber: own.serialNumber }),
          signedAttrs: new SignedAndUnsignedAttributes({ type: 0, attributes }),
        }),
      ],
      certificates,
    });
    await signed.sign(key as never, 0, 'SHA-256', new Uint8Array(bytes) as never);
    const cms = new ContentInfo({ contentType: SIGNED_DATA, content: signed.toSchema(true) });
    return Buffer.from(cms.toSchema().toBER(false));
  }
}

/**
 * Seals a PDF for the organisation: from then on every change to its bytes shows (ISO 32000-2, 12.8).
 *
 * @param pdf with a plain table of references, as it is written here
 */
export const sealPdf = async (
  pdf: Uint8Array,
  seal: Seal,
  { reason, at }: { reason: string; at: Date },
): Promise<Uint8Array> => {
  const prepared = plainAddPlaceholder({
    pdfBuffer: Buffer.from(pdf),
    reason,
    name: seal.name,
    contactInfo: '',
    location: '',
    signingTime: at,
    signatureLength: ROOM,
    subFilter: SUBFILTER_ETSI_CADES_DETACHED,
    appName: 'Kanonos',
  });
  return new SignPdf().sign(prepared, new CadesSigner(seal));
};
