import type { AnswerOf, api } from '@kanonos/contract';
import { dayOf, hasRight } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { valuesOf } from './copies.ts';
import { rightToRead } from './files.ts';
import { COMMON_PLACES } from './placed.ts';
import { openDocument } from './service.ts';

/** Every placeholder that a file of a document can use, with its present value. */
export const placesOf = async (
  app: App,
  viewer: Viewer,
  ref: string,
): Promise<AnswerOf<typeof api.documents.places>> => {
  const opened = await openDocument(app.db, viewer, ref, dayOf(app.clock(), (await app.organisation()).zone));
  const revision = opened.work && hasRight(opened.rights, 'read work') ? opened.work : opened.inForce;
  if (!revision) throw refused('not_found');
  if (!hasRight(opened.rights, rightToRead(revision.state)))
    throw refused('right_missing', { right: rightToRead(revision.state) });
  const values = await valuesOf(app, app.db, opened, revision, revision.version_count, '');
  const own = opened.type.fields.map(({ key, label }) => ({ name: key, label }));
  const common = COMMON_PLACES.filter(({ name }) => !own.some((field) => field.name === name));
  return {
    label: revision.label,
    places: [...common, ...own].map(({ name, label }) => ({ name, label, value: values[name] ?? '' })),
  };
};
