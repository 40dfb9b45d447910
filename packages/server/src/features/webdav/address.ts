import type { AnswerOf, api } from '@kanonos/contract';
import { dayOf, extensionOf, isInWork } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { ensureDocumentRight, openDocument } from '../documents/index.ts';
import { getFolder } from '../rules/index.ts';
import { openTree } from './tree.ts';

/** The address schemes that office programs register on a machine, by the endings that they open. */
const OPENERS: readonly { program: string; endings: readonly string[]; scheme: (address: string) => string }[] = [
  { program: 'Word', endings: ['docx', 'doc', 'docm', 'dotx', 'rtf'], scheme: (a) => `ms-word:ofe|u|${a}` },
  { program: 'Excel', endings: ['xlsx', 'xls', 'xlsm', 'csv'], scheme: (a) => `ms-excel:ofe|u|${a}` },
  { program: 'PowerPoint', endings: ['pptx', 'ppt'], scheme: (a) => `ms-powerpoint:ofe|u|${a}` },
  {
    program: 'LibreOffice',
    endings: ['docx', 'doc', 'odt', 'rtf', 'xlsx', 'xls', 'ods', 'csv', 'pptx', 'odp', 'odg'],
    scheme: (a) => `vnd.libreoffice.command:ofe|u|${a}`,
  },
];

/** Where a desk program finds the file that is worked on, and the addresses that open it there by a press. */
export const addressOnDrive = async (
  app: App,
  viewer: Viewer,
  ref: string,
): Promise<AnswerOf<typeof api.programs.onDrive>> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const opened = await openDocument(app.db, viewer, ref, day);
  const { document } = opened;
  const folder = await getFolder(app.db, document.folder_id);
  const tree = await openTree(app, viewer);
  const { node } = await tree.find(folder.path_names);
  const nodes = node ? await tree.children(node) : [];
  const own = nodes.flatMap(({ node: one }) =>
    one.kind === 'document' && one.file.document_id === document.id && one.file.sort === 0 ? [one] : [],
  );
  const file = own.find((one) => isInWork(one.file.state)) ?? own[0];
  if (!file) {
    ensureDocumentRight(opened, 'read');
    throw refused('original_missing');
  }
  const path = [...folder.path_names, file.name].map(encodeURIComponent).join('/');
  const address = `${app.config.publicUrl.replace(/\/$/, '')}/webdav/${path}`;
  const ending = extensionOf(file.name);
  return {
    address,
    openers: OPENERS.filter((opener) => opener.endings.includes(ending)).map(({ program, scheme }) => ({
      program,
      address: scheme(address),
    })),
  };
};
