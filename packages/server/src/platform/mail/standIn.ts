import { chmod, mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { simpleParser } from 'mailparser';
import { SMTPServer } from 'smtp-server';

const fileOf = (dir: string, mailId: string) => join(dir, 'mail', `${mailId.replace(/[^\w-]/g, '')}.eml`);

/** A mail server for a demo or a trial: takes every mail over SMTP on loopback and keeps it as a file. */
export const startMailStandIn = async (
  dir: string,
  port: number,
): Promise<{ port: number; stop: () => Promise<void> }> => {
  await mkdir(join(dir, 'mail'), { recursive: true, mode: 0o700 });
  // One that was made before it was private becomes so now.
  await chmod(join(dir, 'mail'), 0o700);
  const server = new SMTPServer({
    disabledCommands: ['AUTH', 'STARTTLS'],
    size: 30 * 1024 * 1024,
    onData: (stream, _session, done) => {
      const pieces: Buffer[] = [];
      stream.on('data', (piece: Buffer) => pieces.push(piece));
      stream.on('error', done);
      stream.on('end', async () => {
        try {
          const raw = Buffer.concat(pieces);
          const { messageId } = await simpleParser(raw);
          const path = fileOf(dir, /<([^@>]+)@/.exec(messageId ?? '')?.[1] ?? String(Date.now()));
          await writeFile(`${path}.part`, raw, { mode: 0o600 });
          await rename(`${path}.part`, path);
          done();
        } catch (error) {
          done(error as Error);
        }
      });
    },
  });
  server.on('error', () => {});
  await new Promise<void>((resolve, reject) => {
    server.listen(port, '127.0.0.1', resolve);
    server.on('error', reject);
  });
  const address = server.server.address();
  return {
    port: typeof address === 'object' && address ? address.port : port,
    stop: () => new Promise((resolve) => server.close(resolve)),
  };
};

/** A mail as the stand-in received it, parsed from its bytes; undefined before it has arrived. */
export const receivedMail = async (
  dir: string,
  mailId: string,
): Promise<{ html: string; text: string } | undefined> => {
  const raw = await readFile(fileOf(dir, mailId)).catch(() => undefined);
  if (!raw) return undefined;
  const parsed = await simpleParser(raw);
  return { html: parsed.html || '', text: parsed.text ?? '' };
};
