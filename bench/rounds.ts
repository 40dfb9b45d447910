// The list of open rounds where five thousand are open, and the forecast of a long route.
import { dayTables, forecastRound, groupPastAnswers, type PastAnswer, type RemainingStep } from '@kanonos/core';
import { openRounds } from '../packages/server/src/features/rounds/openRounds.ts';
import { connect, rows } from '../packages/server/src/platform/db/connect.ts';
import type { TestOrganisation } from '../packages/server/src/tests/organisation.ts';
import { pair, quantile, rate } from './measure.ts';

const OPEN = 5000;
const PAST = 10_000;

/** Open rounds of three steps, the first of them asked, and answers of the last year to forecast from. */
export const layRounds = async (organisation: TestOrganisation) => {
  const owner = connect(organisation.ownerUrl, 1);
  const people = ['reviewer', 'owner', 'authority', 'authority2'].map((name) => organisation.ids[name]);
  const by = { by: organisation.ids.author, people, now: organisation.clock.now };
  const insert = (from: number, count: number, isOpen: boolean) =>
    rows(
      owner,
      `with chosen as (
         select r.id as revision_id, r.document_id, row_number() over (order by r.id) as i from revisions r join documents d on d.newest_revision_id = r.id
         where not exists (select 1 from rounds u where u.revision_id = r.id) order by r.id limit ${count}),
       made as (
         insert into rounds (id, document_id, revision_id, n, definition, state, started_by, started_at, ended_at)
         select gen_random_uuid(), document_id, revision_id, 1, '{"name":"","steps":[]}', '${isOpen ? 'running' : 'done'}', :by, :now::timestamptz - interval '9 days', ${isOpen ? 'null' : ':now'} from chosen returning id, revision_id),
       laid as (
         insert into steps (id, round_id, n, stage, name, kind, rule, working_days, due_on, state, opened_at)
         select gen_random_uuid(), made.id, k, k, 'Step ' || k, case when k = 0 then 'review' else 'approval' end, '{"kind":"all"}', 3,
           case when k = 0 then (:now::timestamptz + ((chosen.i % 21) - 6) * interval '1 day')::date end,
           '${isOpen ? '' : 'done'}' || case when ${isOpen} then case when k = 0 then 'open' else 'waiting' end else '' end, case when ${!isOpen} or k = 0 then :now::timestamptz - interval '9 days' end
         from made join chosen using (revision_id), generate_series(0, 2) k returning id, n)
       insert into assignments (id, step_id, n, person_id, state, opened_at, decision, decided_at, decided_by, on_version)
       select gen_random_uuid(), laid.id, p, (:people::uuid[])[1 + (laid.n + p) % 4], ${isOpen ? `case when laid.n = 0 then 'open' else 'waiting' end` : `'answered'`},
         case when ${!isOpen} or laid.n = 0 then :now::timestamptz - interval '12 days' end,
         ${isOpen ? 'null, null, null::uuid, null::int' : `'approve', :now::timestamptz - interval '12 days' + (p + laid.n * 2) * interval '1 day', (:people::uuid[])[1 + (laid.n + p) % 4], 1`}
       from laid, generate_series(0, 1) p`,
      by,
    ).then(() => from + count);
  await insert(0, OPEN, true);
  await insert(OPEN, Math.ceil(PAST / 6), false);
  await rows(owner, 'analyze rounds, steps, assignments');
  await owner.destroy();
};

const forecasting = () => {
  const past: PastAnswer[] = Array.from({ length: PAST }, (_, i) => ({
    person: `p${i % 40}`,
    type: 'PRO',
    step: `Step ${i % 8}`,
    kind: i % 3 === 0 ? 'review' : 'approval',
    workingDays: (i * 7919) % 13,
  }));
  const steps: RemainingStep[] = Array.from({ length: 8 }, (_, n) => ({
    type: 'PRO',
    name: `Step ${n}`,
    kind: n < 4 ? 'review' : 'approval',
    rule: { kind: n % 2 ? 'all' : 'in sequence' },
    positive: 0,
    workingDays: 3,
    awaited: Array.from({ length: 3 }, (_, p) => ({ person: `p${n * 3 + p}`, waited: n === 0 ? 2 : 0, absences: [] })),
  }));
  const today = '2026-11-30';
  const calendar = { week: [1, 2, 3, 4, 5], holidays: new Set(['2026-12-08']) };
  const times: number[] = [];
  for (let i = 0; i < 9; i++) {
    const began = performance.now();
    forecastRound(steps, groupPastAnswers(past), { today, tables: dayTables(today, calendar), draws: 10_000, seed: i });
    times.push(performance.now() - began);
  }
  rate('forecast: 8 steps of 3 people, 10,000 draws (worst of 9)', 0, quantile(times, 1), 0, '< 300 ms', 'ms');
};

export const rounds = async (organisation: TestOrganisation): Promise<void> => {
  forecasting();
  await layRounds(organisation);
  const controller = await organisation.as('controller');
  await pair(
    'open rounds: the first 60 of 5,000, with forecasts',
    OPEN,
    'p95 < 100 ms',
    () => openRounds(organisation.app, controller, {}),
    () =>
      rows(
        organisation.app.db,
        `select u.id, d.number, r.title, s.name, s.due_on from rounds u join revisions r on r.id = u.revision_id join documents d on d.id = u.document_id join steps s on s.round_id = u.id and s.state = 'open' where u.state = 'running' order by s.due_on, d.number limit 60`,
      ),
  );
};
