import { readFile } from 'node:fs/promises';
import type { App } from '../../platform/app.ts';
import { httpSigningService, type SigningService } from '../../platform/signing/service.ts';

/** The signing service that the configuration names; undefined where it names none. */
export const serviceOf = (app: App): SigningService | undefined => {
  const { signingServiceUrl, signingServiceToken } = app.config;
  return signingServiceUrl ? httpSigningService(signingServiceUrl, signingServiceToken) : undefined;
};

/**
 * The certificates that signatures from outside are trusted by, as PEM: those in the file that the configuration names, and those that
 * its signing service vouches by. A service that does not answer vouches for nothing.
 */
export const trustedCertificates = async (app: App): Promise<string> => {
  const { trustedCertificatesFile } = app.config;
  const own = trustedCertificatesFile ? await readFile(trustedCertificatesFile, 'utf8') : '';
  const ofService = await serviceOf(app)
    ?.certificates()
    .catch(() => '');
  return `${own}\n${ofService ?? ''}`;
};
