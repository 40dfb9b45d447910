import { createHash } from 'node:crypto';
import { canonicalJson, dayInWords, dayOf, timeOf } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { recordPdf } from '../../platform/office/recordPdf.ts';
import type { Viewer } from '../access/index.ts';
import { formRecord } from './records.ts';

/** A record as a PDF, made anew each time: what is on record changes no more, and a draft says that it is one. */
export const recordAsPdf = async (
  app: App,
  viewer: Viewer,
  id: string,
): Promise<{ name: string; bytes: Uint8Array }> => {
  const record = await formRecord(app, viewer, id);
  const { name, zone } = await app.organisation();
  const number = record.number ?? 'Draft';
  const at = new Date(record.sentAt ?? record.savedAt);
  const about = [
    record.document ? `${record.document.number} ${record.document.title}` : '',
    `${record.sentAt ? 'sent' : 'kept'} by ${record.by.name}, ${dayInWords(dayOf(at, zone))}, ${timeOf(at, zone)} ${zone}`,
    record.request ? `change request ${record.request}` : '',
  ];
  const fingerprint = createHash('sha256').update(canonicalJson(record.answers)).digest('hex');
  const bytes = await recordPdf({
    title: `${record.form.name} ${number}`,
    about: about.filter(Boolean).join(' · '),
    sections: record.inWords,
    files: record.files.map((file) => file.name),
    foot: `${name} · ${number} · form ${record.form.code} version ${record.form.version} · answers ${fingerprint.slice(0, 16)}`,
  });
  return { name: `${number}.pdf`, bytes };
};
