import type { AnswerOf, api } from '@kanonos/contract';
import {
  createRecogniser,
  dayOf,
  foldNumber,
  isWritten,
  type NameReading,
  readFileName,
  saysNothing,
} from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { type Db, rows } from '../../platform/db/connect.ts';
import { officeKind } from '../../platform/office/metadata.ts';
import type { FileProperties } from '../../platform/office/properties.ts';
import { parse } from '../../platform/parsing/index.ts';
import { listScope, SEES, SEES_WORK, type Viewer } from '../access/index.ts';
import type { UploadRow } from '../content/index.ts';
import { getUpload } from '../content/index.ts';
import { knownRules } from '../rules/index.ts';

type Match = {
  key: string;
  by: 'number' | 'name' | 'bytes';
  id: string;
  number: string;
  title: string;
  state: string;
  may_check_in: boolean;
};

/**
 * Documents that a viewer may see and that bear one of these numbers, a file of one of these names, or the same bytes. Of
 * documents seen without *read work* only released revisions count, so that a hit tells nothing of what is in work.
 */
const listMatches = async (
  db: Db,
  by: { folded: string[]; names: string[]; hashes: string[] },
  scope: Record<string, unknown>,
): Promise<Match[]> => {
  const shown = `d.id, d.number, case when ${SEES_WORK} then d.newest_title else d.public_title end as title,
    case when ${SEES_WORK} then d.newest_state else d.public_state end as state, ${SEES_WORK} and d.newest_state = 'draft' as may_check_in`;
  const visible = `d.removed_at is null and (${SEES_WORK} or (${SEES} and d.public_state is not null))`;
  const file = (column: string, by_: string, list: string) => `
    select f.${column} as key, '${by_}' as by, ${shown} from version_files f join versions v on v.id = f.version_id
      join revisions r on r.id = v.revision_id join documents d on d.id = r.document_id
    where f.role = 'original' and f.${column} = any(:${list}::text[]) and ${visible}
      and (${SEES_WORK} or r.state in ('in force', 'superseded', 'withdrawn'))`;
  return rows<Match>(
    db,
    `select n.folded as key, 'number' as by, ${shown} from numbers n join documents d on d.id = n.document_id
       where n.folded = any(:folded::text[]) and ${visible}
     union ${file('name', 'name', 'names')} union ${file('sha256', 'bytes', 'hashes')} limit 2000`,
    { ...scope, ...by },
  );
};

/** For each file the document that has its number, its bytes or its name, in this order, as far as a viewer may see it. */
export const matchNames = async (
  app: App,
  viewer: Viewer,
  files: readonly { name: string; sha256: string; number: string | null }[],
): Promise<(Match | undefined)[]> => {
  if (files.length === 0) return [];
  const scope = await listScope(app.db, viewer, dayOf(app.clock(), (await app.organisation()).zone));
  const matches = await listMatches(
    app.db,
    {
      folded: files.flatMap(({ number }) => (number ? [foldNumber(number)] : [])),
      names: files.map((file) => file.name),
      hashes: files.map((file) => file.sha256),
    },
    { ...scope },
  );
  const find = (by: Match['by'], key: string | null) => matches.find((match) => match.by === by && match.key === key);
  return files.map(
    ({ name, sha256, number }) =>
      find('number', number && foldNumber(number)) ?? find('bytes', sha256) ?? find('name', name),
  );
};

const MOST_READ = 50 * 1024 * 1024;
const propertiesOf = async (app: App, { media_type, size, sha256 }: UploadRow): Promise<FileProperties | undefined> => {
  const kind = officeKind(media_type);
  if (!kind || size > MOST_READ || !(await app.content.has(sha256))) return undefined;
  return parse('properties', await app.content.intactPath(sha256), kind);
};

/** What sent files are, by their names and bytes. The same bytes say more than a name, a number more than both. */
export const matchFiles = async (
  app: App,
  viewer: Viewer,
  uploadIds: readonly string[],
): Promise<AnswerOf<typeof api.documents.match>> => {
  const uploads = [];
  for (const id of uploadIds) uploads.push(await getUpload(app.db, viewer, id));
  const recognise = createRecogniser(await knownRules(app.db));
  const properties = await Promise.all(uploads.map((upload) => propertiesOf(app, upload)));
  const read = uploads.map((upload, i): NameReading => {
    const name = readFileName(upload.name, recognise);
    // A file that was handed out bears its number inside, whatever it is called by now.
    const number = properties[i]?.said.number ?? '';
    return name.number === null && recognise(number).kind === 'read' ? { ...name, number } : name;
  });
  const hits = await matchNames(
    app,
    viewer,
    uploads.map(({ name, sha256, media_type }, i) => ({
      name: isWritten(media_type) ? '' : name,
      sha256,
      number: read[i]?.number ?? null,
    })),
  );
  return {
    files: uploads.map((upload, i) => {
      const { number = null, label = null, title = '' } = read[i] ?? {};
      const hit = hits[i];
      const own = properties[i] ?? { title: '', keywords: [], said: {} };
      const titleFrom = own.title && (title === '' || saysNothing(title)) ? 'properties' : 'name';
      return {
        uploadId: upload.id,
        number,
        label,
        title: titleFrom === 'properties' ? own.title : title,
        titleFrom,
        keywords: own.keywords,
        said: own.said,
        document: hit
          ? {
              id: hit.id,
              number: hit.number,
              title: hit.title,
              by: hit.by,
              state: hit.state,
              mayCheckIn: hit.may_check_in,
            }
          : null,
      };
    }),
  };
};
