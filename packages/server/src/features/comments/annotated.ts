import type { AnswerOf, api } from '@kanonos/contract';
import { dayOf, hasRight, isInWork, type Mark, markOfAnnotation } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { isShownByPages } from '../../platform/content/kind.ts';
import type { Written } from '../../platform/office/annotations.ts';
import { parse } from '../../platform/parsing/index.ts';
import { refused } from '../../platform/refused.ts';
import { ensureRight, type Viewer } from '../access/index.ts';
import { getStored } from '../content/index.ts';
import { handOut, openDocument, runCommand, subjectOf } from '../documents/index.ts';
import { madePages } from '../viewing/index.ts';
import { insertComment, listComments } from './service.ts';
import * as store from './store.ts';

const MOST_BYTES = 200 * 1024 * 1024;
const PDF = 'application/pdf';

/** The PDF that carries the marks of a file: the file itself, or the pages made from an office file. */
const pdfOf = async (app: App, file: { sha256: string; media_type: string; size: number }): Promise<string> => {
  if (file.media_type === PDF && file.size <= MOST_BYTES) return file.sha256;
  const pages = isShownByPages(file.media_type) ? await madePages(app, file.sha256) : undefined;
  if (!pages) throw refused('cannot_be_shown');
  return pages;
};

/** A filed PDF, or the pages of an office file, with all marks and remarks on it, for people who may download it. */
export const annotatedFile = async (
  app: App,
  viewer: Viewer,
  fileId: string,
): Promise<{ bytes: Uint8Array; name: string }> => {
  const { file, name } = await handOut(app, viewer, fileId, 'exact');
  const pdf = await pdfOf(app, file);
  const { comments } = await listComments(app, viewer, file.document_id, file.version_id);
  const written = comments.flatMap((one): Written[] => {
    if (!one.mark || one.fileSort !== file.sort || one.place?.state !== 'here') return [];
    const thread = comments.filter((answer) => answer.parentId === one.id).reverse();
    const lines = thread.map((answer) => `${answer.person.name}: ${answer.text}`);
    const mark = { ...one.mark, page: one.place.page ?? one.mark.page } as Mark;
    return [
      {
        id: one.id,
        mark,
        person: one.person.name,
        at: new Date(one.at),
        text: [one.text, ...lines].filter(Boolean).join('\n'),
      },
    ];
  });
  const bytes = await parse('writeAnnotations', await app.content.intactPath(pdf), written.reverse());
  return { bytes, name: pdf === file.sha256 ? name : `${name.replace(/\.[^.]+$/, '')}.pdf` };
};

/** Reads the annotations of a PDF that came back as marks of the person who imports it; the author's name precedes their text. */
export const importComments = async (
  app: App,
  viewer: Viewer,
  ref: string,
  uploadId: string,
): Promise<AnswerOf<typeof api.comments.importComments>> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  ensureRight((await openDocument(app.db, viewer, ref, day)).rights, 'comment');
  const upload = await getStored(app, app.db, viewer, uploadId);
  if (upload.media_type !== PDF || upload.size > MOST_BYTES) throw refused('pdf_unreadable');
  const found = await parse('readAnnotations', await app.content.intactPath(upload.sha256));
  return runCommand(app, viewer, { document: ref }, async (work, opened) => {
    ensureRight(opened.rights, 'comment');
    const revision = opened.work;
    if (!revision || !isInWork(revision.state) || !hasRight(opened.rights, 'read work'))
      throw refused('wrong_state', { command: 'comment', state: revision?.state ?? 'none in work' });
    const names = found.map((one) => one.name);
    const known = new Set(
      (await store.wasRead(work.trx, { documentId: opened.document.id, names })).map((row) => row.read_from),
    );
    let read = 0;
    for (const { name, author, page, box, read: annotation } of found) {
      const mark = markOfAnnotation(annotation, box, page);
      if (!mark || known.has(name)) continue;
      known.add(name);
      const own = mark.text === undefined ? annotation.text.trim() : '';
      await insertComment(work, {
        documentId: opened.document.id,
        revision,
        viewer,
        kind: 'comment',
        text: [author && author !== viewer.name ? `${author}:` : '', own].filter(Boolean).join(' ').slice(0, 4000),
        quote: null,
        mark,
        readFrom: name,
      });
      read++;
    }
    if (read > 0)
      work.record({
        kind: 'comments.imported',
        subject: subjectOf(opened.document, revision),
        payload: { read, file: upload.name, sha256: upload.sha256 },
      });
    return { read, left: found.length - read };
  });
};
