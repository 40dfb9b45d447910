import {
  createCipheriv,
  createDecipheriv,
  createHmac,
  createPrivateKey,
  createPublicKey,
  generateKeyPairSync,
  hkdfSync,
  randomBytes,
  sign,
} from 'node:crypto';
import { mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** Keys kept beside the database, not in it: access to one does not give access to the other. */
export type Secrets = {
  /** The form in which the trail keeps a name that belongs to nobody: it cannot be read back. */
  nameDigest: (name: string) => string;
  /** Hides a text that is kept for a while, such as a link that has not been sent; who holds the database alone cannot read it. */
  hide: (text: string) => string;
  /** Decrypts it; throws where it was altered. */
  reveal: (hidden: string) => string;
  headsPublicKey: string;
  signHead: (text: string) => string;
};

/** Reads the keys from the data folder, making them on first use. */
export const loadSecrets = (dir: string): Secrets => {
  const path = join(dir, 'secrets.json');
  let stored: { names: string; heads: string };
  try {
    stored = JSON.parse(readFileSync(path, 'utf8'));
  } catch (error) {
    if ((error as { code?: string }).code !== 'ENOENT') throw error;
    const heads = generateKeyPairSync('ed25519').privateKey.export({ type: 'pkcs8', format: 'pem' }).toString();
    stored = { names: randomBytes(32).toString('base64'), heads };
    mkdirSync(dir, { recursive: true, mode: 0o700 });
    writeFileSync(`${path}.part`, JSON.stringify(stored), { mode: 0o600 });
    renameSync(`${path}.part`, path);
  }
  const privateKey = createPrivateKey(stored.heads);
  const hidingKey = Buffer.from(hkdfSync('sha256', Buffer.from(stored.names, 'base64'), '', 'hidden texts', 32));
  return {
    nameDigest: (name) =>
      createHmac('sha256', Buffer.from(stored.names, 'base64')).update(name.toLowerCase()).digest('hex'),
    hide: (text) => {
      const iv = randomBytes(12);
      const cipher = createCipheriv('aes-256-gcm', hidingKey, iv);
      const body = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
      return Buffer.concat([iv, cipher.getAuthTag(), body]).toString('base64');
    },
    reveal: (hidden) => {
      const bytes = Buffer.from(hidden, 'base64');
      const decipher = createDecipheriv('aes-256-gcm', hidingKey, bytes.subarray(0, 12));
      decipher.setAuthTag(bytes.subarray(12, 28));
      return Buffer.concat([decipher.update(bytes.subarray(28)), decipher.final()]).toString('utf8');
    },
    headsPublicKey: createPublicKey(privateKey).export({ type: 'spki', format: 'der' }).toString('base64'),
    signHead: (text) => sign(null, Buffer.from(text), privateKey).toString('base64'),
  };
};
