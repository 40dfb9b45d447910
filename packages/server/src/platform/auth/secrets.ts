import { createHmac, createPrivateKey, createPublicKey, generateKeyPairSync, randomBytes, sign } from 'node:crypto';
import { mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** Keys that stand beside the database, not in it: who holds the one does not hold the other. */
export type Secrets = {
  /** A name as it may stand in the trail when it is nobody's: it cannot be read back. */
  nameDigest: (name: string) => string;
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
    mkdirSync(dir, { recursive: true });
    writeFileSync(`${path}.part`, JSON.stringify(stored), { mode: 0o600 });
    renameSync(`${path}.part`, path);
  }
  const privateKey = createPrivateKey(stored.heads);
  return {
    nameDigest: (name) =>
      createHmac('sha256', Buffer.from(stored.names, 'base64')).update(name.toLowerCase()).digest('hex'),
    headsPublicKey: createPublicKey(privateKey).export({ type: 'spki', format: 'der' }).toString('base64'),
    signHead: (text) => sign(null, Buffer.from(text), privateKey).toString('base64'),
  };
};
