import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { App } from '../app.ts';
import { makeCertificate, type SealFiles } from './certificate.ts';
import { readSeal, type Seal } from './sealPdf.ts';

/** By the file of its key, so that settings that change are followed. */
const kept = new WeakMap<App, { file: string | undefined; seal: Promise<Seal | undefined> }>();

/**
 * The seal of the organisation, read once: from the files that the configuration names; in the demo, one that is made on first use and
 * that nobody else trusts. Undefined for an organisation without a certificate.
 *
 * @throws where the files that are named cannot be used, with which settings they come from
 */
export const sealOf = (app: App): Promise<Seal | undefined> => {
  const file = app.config.sealKeyFile;
  const known = kept.get(app);
  if (known && known.file === file) return known.seal;
  const seal = open(app);
  kept.set(app, { file, seal });
  // What failed may be mended meanwhile.
  seal.catch(() => kept.delete(app));
  return seal;
};

const open = async (app: App): Promise<Seal | undefined> => {
  const { sealKeyFile, sealCertificateFile } = app.config;
  if (sealKeyFile === undefined || sealCertificateFile === undefined) {
    const { demo, name } = await app.organisation();
    return demo ? readSeal(await demoFiles(app, name)) : undefined;
  }
  try {
    return await readSeal({
      key: await readFile(sealKeyFile, 'utf8'),
      certificates: await readFile(sealCertificateFile, 'utf8'),
    });
  } catch (error) {
    throw new Error(`SEAL_KEY_FILE, SEAL_CERTIFICATE_FILE: ${(error as Error).message}`);
  }
};

const demoFiles = async (app: App, name: string): Promise<SealFiles> => {
  const path = join(app.config.dataDir, 'demo-seal.json');
  try {
    return JSON.parse(await readFile(path, 'utf8'));
  } catch (error) {
    if ((error as { code?: string }).code !== 'ENOENT') throw error;
    const made = await makeCertificate(`${name} (demo)`, app.clock());
    await mkdir(app.config.dataDir, { recursive: true, mode: 0o700 });
    await writeFile(`${path}.part`, JSON.stringify(made), { mode: 0o600 });
    await rename(`${path}.part`, path);
    return made;
  }
};
