// Background work: nothing is lost, and one that fails keeps no other waiting.

import { Readable } from 'node:stream';
import { pino } from 'pino';
import { SMTPServer } from 'smtp-server';
import { describe, expect, test } from 'vitest';
import { extractText } from '../../features/content/index.ts';
import { takeUpload } from '../../features/content/uploads.ts';
import { sendReminders } from '../../features/desk/reminders.ts';
import { notifyEach, resumeMails, sendMail } from '../../features/mailing/service.ts';
import { runDueWork } from '../../features/release/runDueWork.ts';
import { release } from '../../features/release/service.ts';
import { eachOnItsOwn, runStages } from '../../features/system/failedWork.ts';
import { systemStatus, tryFailedWorkAgain } from '../../features/system/service.ts';
import { askFor } from '../../features/viewing/asking.ts';
import { makeRenditions } from '../../features/viewing/making.ts';
import { SYSTEM_CLOCK } from '../../platform/app.ts';
import { connect, firstRow, rows } from '../../platform/db/connect.ts';
import { createJobs, type JobKinds } from '../../platform/jobs/jobs.ts';
import { createMailSender } from '../../platform/mail/sender.ts';
import { withOrganisation } from '../withOrganisation.ts';

const organisation = withOrganisation();

const text = (words: string) => Readable.from([Buffer.from(words)]);
const later = (days: number) => {
  organisation.clock.now = new Date(organisation.clock.now.getTime() + days * 86_400_000);
};

describe('8: jobs', () => {
  test('every item has a job of its own, and through the real queue none is dropped and one that fails fails alone', async () => {
    const jobs = createJobs(organisation.appUrl, pino({ level: 'silent' }));
    const done: string[] = [];
    const tried = new Map<string, number>();
    await organisation.app.db.transaction(async (trx) => {
      for (let i = 0; i < 40; i++) {
        await jobs.enqueue(trx, 'text.scan', { sha256: `scan ${i}` });
        await jobs.enqueue(trx, 'rendition.make', { kind: 'pages', sha256: `page ${i}` });
      }
      await jobs.enqueueMany(
        trx,
        'mail.send',
        Array.from({ length: 40 }, (_, i) => ({ mailId: `mail ${i}` })),
      );
    });
    await jobs.start();
    const take = async (name: string) => {
      tried.set(name, (tried.get(name) ?? 0) + 1);
      if (name.endsWith(' 7')) throw new Error('poisoned');
      done.push(name);
    };
    await jobs.work('text.scan', ({ sha256 }) => take(sha256));
    await jobs.work('mail.send', ({ mailId }) => take(mailId));
    await jobs.workBatch('rendition.make', async (items: readonly JobKinds['rendition.make'][]) =>
      Promise.all(
        items.map(({ sha256 }) =>
          take(sha256).then(
            () => undefined,
            (error: Error) => error,
          ),
        ),
      ),
    );
    await expect.poll(() => done.length, { timeout: 60_000, interval: 200 }).toBe(117);
    expect(new Set(done).size).toBe(117);
    // The poisoned ones wait for their next try; the others of their batch are done.
    const owner = await firstRow<{ n: number }>(
      organisation.app.db,
      `select count(*)::int as n from jobs.job where name in ('text.scan', 'rendition.make', 'mail.send') and state <> 'completed'`,
    );
    expect(owner?.n).toBe(3);
    await jobs.stop();
  }, 180_000);
});

describe('9: one poisoned document', () => {
  test('stops neither the clock nor the start; it is tried with growing pauses, set aside after five tries and shown with its reason', async () => {
    const numbers: string[] = [];
    const controller = await organisation.as('controller');
    for (let i = 0; i < 3; i++) {
      const { number } = await organisation.register('author');
      await organisation.submitAndReview(number);
      await organisation.decideAs('owner', number);
      await organisation.decideAs('authority', number);
      await release(organisation.app, controller, number, { seen: '*', on: '2026-11-27' });
      numbers.push(number);
    }
    const [poisoned = '', ...others] = numbers;
    // A period that reaches over the day keeps it from coming into force: an exception nobody expects.
    await rows(
      organisation.app.db,
      `insert into periods (id, document_id, revision_id, label, from_at, to_at) select gen_random_uuid(), d.id, r.id, 'X', '2026-01-01', null from documents d join revisions r on r.document_id = d.id where d.number = :poisoned`,
      { poisoned },
    );
    later(2);
    const stateOf = async (number: string) =>
      (
        await firstRow<{ state: string }>(
          organisation.app.db,
          'select r.state from revisions r join documents d on d.id = r.document_id where d.number = :number',
          { number },
        )
      )?.state;
    await runDueWork(organisation.app);
    for (const number of others) expect(await stateOf(number)).toBe('in force');
    expect(await stateOf(poisoned)).toBe('scheduled');
    const tries = async () =>
      await firstRow<{ tries: number; set_aside: boolean }>(
        organisation.app.db,
        `select tries, set_aside from failed_work where label = :poisoned`,
        { poisoned },
      );
    expect(await tries()).toEqual({ tries: 1, set_aside: false });
    // Not before its pause is over.
    await runDueWork(organisation.app);
    expect((await tries())?.tries).toBe(1);
    for (let i = 0; i < 4; i++) {
      organisation.clock.now = new Date(organisation.clock.now.getTime() + 3 * 3_600_000);
      await runDueWork(organisation.app);
    }
    expect(await tries()).toEqual({ tries: 5, set_aside: true });
    const status = await systemStatus(organisation.app);
    expect(status.failedWork).toEqual([
      expect.objectContaining({
        number: poisoned,
        kind: 'scheduled change of a document',
        reason: expect.stringContaining('periods_do_not_overlap'),
      }),
    ]);
    const owner = connect(organisation.ownerUrl, 1);
    await rows(owner, `delete from periods where label = 'X'`);
    await owner.destroy();
    await runDueWork(organisation.app);
    expect(await stateOf(poisoned)).toBe('scheduled');
    const [work] = status.failedWork;
    await tryFailedWorkAgain(organisation.app, await organisation.as('admin'), {
      kind: work?.kind ?? '',
      subject: work?.subject ?? '',
    });
    await runDueWork(organisation.app);
    expect(await stateOf(poisoned)).toBe('in force');
    expect((await systemStatus(organisation.app)).failedWork).toEqual([]);
  });

  test('a stage of the clock that fails keeps no other from its turn, and a lost database is nobody’s fault', async () => {
    const ran: string[] = [];
    await runStages(organisation.app, [
      ['first', async () => Promise.reject(new Error('broken'))],
      ['second', async () => void ran.push('second')],
      ['third', async () => Promise.reject(Object.assign(new Error('gone'), { code: 'ECONNREFUSED' }))],
      ['fourth', async () => void ran.push('fourth')],
    ]);
    expect(ran).toEqual(['second', 'fourth']);
    expect(await rows(organisation.app.db, `select subject, reason from failed_work where kind = 'clock'`)).toEqual([
      { subject: 'first', reason: 'broken' },
    ]);
    await expect(
      eachOnItsOwn(
        organisation.app,
        'clock',
        ['x'],
        (subject) => ({ subject, label: subject }),
        async () => Promise.reject(Object.assign(new Error('x'), { code: '57P01' })),
      ),
    ).rejects.toThrow('x');
  });
});

describe('10: the office program', () => {
  test('converts outside of any transaction: no lock is held meanwhile', async () => {
    const upload = await takeUpload(
      organisation.app,
      await organisation.as('author'),
      'a.rtf',
      text('{\\rtf1 Some words of an old file.}'),
    );
    await askFor(organisation.app, upload.sha256, 'pages');
    const watched: number[] = [];
    const watch = setInterval(async () => {
      const held = await firstRow<{ n: number }>(
        organisation.app.db,
        `select count(*)::int as n from pg_stat_activity where datname = current_database() and state = 'idle in transaction'`,
      );
      watched.push(held?.n ?? 0);
    }, 100);
    await makeRenditions(organisation.app, [{ kind: 'pages', sha256: upload.sha256 }]);
    clearInterval(watch);
    expect(watched.length).toBeGreaterThan(5);
    expect(watched.filter((n) => n > 0).length).toBeLessThan(watched.length / 4);
    expect(
      await firstRow(organisation.app.db, `select state from renditions where sha256 = :sha256`, {
        sha256: upload.sha256,
      }),
    ).toEqual({ state: 'done' });
  }, 180_000);
});

describe('11: reminders', () => {
  test('of more than 500 things that are due all are sent, and each once', async () => {
    const [one] = await rows<{ id: string }>(organisation.app.db, `select id from documents limit 1`);
    await rows(
      organisation.app.db,
      `insert into documents (id, number, type_id, folder_id, owner_id, registered_at, registered_by, changed_at, newest_state, newest_label, newest_title, public_state, public_label, public_title, origin_check_on)
       select gen_random_uuid(), 'TST-REM-' || n, d.type_id, d.folder_id, d.owner_id, d.registered_at, d.registered_by, d.changed_at, 'in force', '1', 'Reminded ' || n, 'in force', '1', 'Reminded ' || n, '2026-11-01'
       from documents d, generate_series(1, 1200) n where d.id = :id`,
      { id: one?.id },
    );
    expect(await sendReminders(organisation.app)).toBe(1200);
    expect(await sendReminders(organisation.app)).toBe(0);
    await rows(organisation.app.db, `update documents set removed_at = now() where number like 'TST-REM-%'`);
  }, 180_000);
});

describe('15: readings for many', () => {
  test('are given with their mails in a number of statements that does not grow with the readers', async () => {
    const statements = async (readers: number) => {
      const { number } = await organisation.register('author');
      await organisation.toInForce(number);
      const ids: string[] = [];
      for (let i = 0; i < readers; i++) ids.push(crypto.randomUUID());
      await rows(
        organisation.app.db,
        `insert into people (id, sign_in_name, name, email, from_day, state) select x, 'p' || x, 'P', x || '@test.example', '2026-01-01', 'active' from unnest(:ids::uuid[]) x`,
        { ids },
      );
      let n = 0;
      const count = () => n++;
      organisation.app.db.on('query', count);
      await organisation.requireReading(number, ids);
      organisation.app.db.off('query', count);
      expect(
        await rows(organisation.app.db, `select 1 from mails where person_id = any(:ids::uuid[])`, { ids }),
      ).toHaveLength(readers);
      return n;
    };
    expect(await statements(200)).toBe(await statements(5));
  });
});

describe('38: mails that nobody takes', () => {
  test('are tried for days with growing pauses, through SMTP, and sent when the server is back', async () => {
    await organisation.app.command(SYSTEM_CLOCK, (work) =>
      notifyEach(organisation.app, work, [
        {
          personId: organisation.ids.reader ?? '',
          message: { kind: 'patience', subject: 'x', lead: 'x', link: { path: '/', label: 'x' } },
        },
      ]),
    );
    const id =
      (await firstRow<{ id: string }>(organisation.app.db, `select id from mails where kind = 'patience'`))?.id ?? '';
    const gone = createMailSender({ smtpUrl: 'smtp://127.0.0.1:9', smtpFrom: 'a@test.example' });
    const pauses: number[] = [];
    for (let tries = 0; tries < 11; tries++) {
      await sendMail(organisation.app, gone, id);
      const mail = await firstRow<{ state: string; next_try_at: Date | null }>(
        organisation.app.db,
        'select state, next_try_at from mails where id = :id',
        { id },
      );
      expect(mail?.state).toBe('failed');
      if (!mail?.next_try_at) break;
      pauses.push((mail.next_try_at.getTime() - organisation.clock.now.getTime()) / 60_000);
      organisation.clock.now = mail.next_try_at;
      expect(await resumeMails(organisation.app)).toBeGreaterThanOrEqual(1);
    }
    expect(pauses).toEqual([...pauses].sort((a, b) => a - b));
    expect(pauses.reduce((sum, pause) => sum + pause, 0)).toBeGreaterThan(4 * 24 * 60);
    expect((await systemStatus(organisation.app)).failedMails).toBeGreaterThanOrEqual(1);
    // Sent again by hand, it goes to the server that is back.
    const { resendMails } = await import('../../features/system/service.ts');
    expect(await resendMails(organisation.app, await organisation.as('admin'), id)).toBe(1);
    let taken = 0;
    const server = new SMTPServer({
      disabledCommands: ['AUTH', 'STARTTLS'],
      onData: (stream, _session, end) => {
        stream.resume();
        stream.on('end', () => {
          taken++;
          end();
        });
      },
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const address = server.server.address();
    const port = typeof address === 'object' && address ? address.port : 0;
    await sendMail(
      organisation.app,
      createMailSender({ smtpUrl: `smtp://127.0.0.1:${port}`, smtpFrom: 'a@test.example' }),
      id,
    );
    expect(taken).toBe(1);
    expect(await firstRow(organisation.app.db, 'select state, error from mails where id = :id', { id })).toEqual({
      state: 'sent',
      error: null,
    });
    await new Promise<void>((resolve) => server.close(resolve));
  });
});

test('a file that broke its reader once is marked and not tried again by itself', async () => {
  const upload = await takeUpload(
    organisation.app,
    await organisation.as('author'),
    'a.md',
    text(`# Words ${Math.random()}`),
  );
  await rows(
    organisation.app.db,
    `update contents set media_type = 'application/vnd.openxmlformats-officedocument.wordprocessingml.document' where sha256 = :sha`,
    { sha: upload.sha256 },
  );
  await extractText(organisation.app, upload.sha256);
  expect(
    await firstRow(organisation.app.db, 'select text_state from contents where sha256 = :sha', { sha: upload.sha256 }),
  ).toEqual({ text_state: 'broken' });
  const { listWaitingTexts } = await import('../../features/content/index.ts');
  expect((await listWaitingTexts(organisation.app.db)).map((row) => row.sha256)).not.toContain(upload.sha256);
});
