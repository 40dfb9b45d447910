import type { AnswerOf, api } from '@kanonos/contract';
import {
  chooseTitle,
  createRecogniser,
  dayOf,
  foldNumber,
  isWritten,
  type NameReading,
  readFileName,
} from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { officeKind } from '../../platform/office/metadata.ts';
import type { FileProperties } from '../../platform/office/properties.ts';
import { parse } from '../../platform/parsing/index.ts';
import { listScope, type Viewer } from '../access/index.ts';
import type { UploadRow } from '../content/index.ts';
import { getUpload } from '../content/index.ts';
import { knownRules } from '../rules/index.ts';
import { listMatches, type Match } from './storeMatches.ts';

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

/** What uploaded files are, by their names and bytes. Equal bytes count more than a name, a number more than both. */
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
    // A file that was handed out contains its number, whatever its present name.
    const number = properties[i]?.named.number ?? '';
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
      const own = properties[i] ?? { heading: '', title: '', keywords: [], named: {} };
      const chosen = chooseTitle({ heading: own.heading, property: own.title, name: title });
      return {
        uploadId: upload.id,
        number,
        label,
        title: chosen.title,
        titleFrom: chosen.from,
        keywords: own.keywords,
        named: own.named,
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
