// Lists, counts, pages and searches at a size.
import { facetsOf, find, registerPage } from '../packages/server/src/features/find/service.ts';
import { documentPage } from '../packages/server/src/features/page/service.ts';
import { rows } from '../packages/server/src/platform/db/connect.ts';
import type { TestOrganisation } from '../packages/server/src/tests/organisation.ts';
import { pair, ROUNDS } from './measure.ts';

export const reading = async (organisation: TestOrganisation, size: number) => {
  const { app } = organisation;
  const [controller, reader] = [await organisation.as('controller'), await organisation.as('reader')];
  const base = {
    revisionScope: 'newest' as const,
    q: '',
    reach: 'everywhere' as const,
    sort: 'number' as const,
    order: 'asc' as const,
    limit: 50,
  };
  const areas = (
    await rows<{ id: string }>(
      app.db,
      `select id from folders where parent_id is null and name like 'Scale %' order by name limit 20`,
    )
  ).map((f) => f.id);
  const department = organisation.units.get('ops') ?? '';
  const narrowed = { ...base, department, state: 'in force', area: areas.join('~') };
  const bareList = () =>
    rows(
      app.db,
      `select d.id, d.number, d.newest_title from documents d where d.department_id = :department and d.newest_state = 'in force' and d.folder_id in (select id from folders where area_id = any(:areas::uuid[])) and d.removed_at is null order by d.number limit 50`,
      { department, areas },
    );
  await pair(
    'register page of 50: department, state, 20 areas',
    size,
    'p95 ≤ 15 ms',
    () => registerPage(app, controller, narrowed),
    bareList,
  );
  await pair(
    'the same by 16 clients at once',
    size,
    'p95 ≤ 80 ms',
    () => Promise.all(Array.from({ length: 16 }, () => registerPage(app, controller, narrowed))),
    () => Promise.all(Array.from({ length: 16 }, bareList)),
    Math.min(ROUNDS, 12),
  );
  await pair(
    'register page by number, reader',
    size,
    'p95 ≤ 30 ms',
    () => registerPage(app, reader, base),
    () =>
      rows(
        app.db,
        'select id, number, public_title from documents where removed_at is null and public_state is not null order by number limit 50',
      ),
  );
  await pair(
    'facets, narrowed',
    size,
    'p95 ≤ 15 ms',
    () => facetsOf(app, controller, narrowed),
    () =>
      rows(
        app.db,
        `select newest_state, count(*) from documents d where d.department_id = :department and d.newest_state = 'in force' and d.folder_id in (select id from folders where area_id = any(:areas::uuid[])) group by 1`,
        { department, areas },
      ),
    12,
  );
  await pair(
    'facets, unfiltered',
    size,
    '≤ 150 ms',
    () => facetsOf(app, controller, base),
    () =>
      rows(
        app.db,
        'select newest_state, folder_id, type_id, count(*) from documents where removed_at is null group by grouping sets ((newest_state), (folder_id), (type_id), ())',
      ),
    8,
  );
  const numberAt = (i: number) => `SCL-${String(1 + ((i * 7919) % size)).padStart(7, '0')}`;
  await pair(
    'document page, all panels',
    size,
    '≤ 3 × its bare queries',
    (i) => documentPage(app, controller, numberAt(i), {}),
    async (i) => {
      const [d] = await rows<{ id: string; newest_revision_id: string }>(
        app.db,
        'select * from documents where number = :number',
        { number: numberAt(i) },
      );
      await rows(app.db, 'select * from revisions where document_id = :id', { id: d?.id });
      await rows(app.db, 'select * from periods where document_id = :id', { id: d?.id });
      await rows(app.db, 'select * from versions where revision_id = :id', { id: d?.newest_revision_id });
      await rows(app.db, 'select * from checkouts where document_id = :id and ended_at is null', { id: d?.id });
      await rows(app.db, 'select * from rounds where revision_id = :id', { id: d?.newest_revision_id });
      await rows(app.db, 'select count(*) from comments where document_id = :id', { id: d?.id });
      await rows(app.db, 'select count(*) from reading_assignments where document_id = :id', { id: d?.id });
    },
  );
  await pair(
    'find: a rare word',
    size,
    '≤ 80 ms',
    (i) => find(app, reader, `code${1 + ((i * 7919) % size)} `, 20),
    (i) =>
      rows(app.db, `select sha256 from texts where words @@ to_tsquery('english', :w) limit 20`, {
        w: `code${1 + ((i * 7919) % size)}`,
      }),
  );
  await pair(
    'find: two common words',
    size,
    '≤ 250 ms',
    () => find(app, reader, 'rope brake ', 20),
    () =>
      rows(
        app.db,
        `select sha256, ts_rank_cd(words, q) from (select sha256, words, to_tsquery('english', 'rope & brake') q from texts where words @@ to_tsquery('english', 'rope & brake') limit 2000) x order by 2 desc limit 20`,
      ),
    8,
  );
  await pair(
    'find: a number in a usual form',
    size,
    '≤ 10 ms',
    (i) => find(app, reader, numberAt(i), 20),
    (i) => rows(app.db, 'select id from documents where number = :number', { number: numberAt(i) }),
  );
  await pair(
    'in force on a past day, page of 50',
    size,
    'p95 ≤ 20 ms',
    () => registerPage(app, reader, { ...base, revisionScope: 'in force', on: '2025-06-01' }),
    () =>
      rows(
        app.db,
        `select d.id, p.label from documents d join lateral (select label from periods p where p.document_id = d.id and p.from_at < '2025-06-02' and (p.to_at is null or p.to_at >= '2025-06-02') order by p.from_at desc limit 1) p on true order by d.number limit 50`,
      ),
  );
};
