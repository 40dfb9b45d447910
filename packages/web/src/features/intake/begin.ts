import { api, type IncomingFile } from '@kanonos/contract';
import { call } from '../../app/client.ts';
import type { Start } from '../registering/common.ts';

export type Arrived = { proposal: IncomingFile['proposal']; start: Start };

/** Takes what arrived to register it: its file as one that I sent, and what is proposed for it. */
export const beginWith = async (id: string): Promise<Arrived> => {
  const [{ incomingFiles }, upload] = [
    await call(api.intake.list, { query: {} }),
    await call(api.intake.take, { params: { id }, body: {} }),
  ];
  const incomingFile = incomingFiles.find((one) => one.id === id);
  if (!incomingFile) throw new Error('The file is no longer waiting.');
  const { proposal, path } = incomingFile;
  return {
    proposal,
    start: {
      incomingFileId: id,
      path,
      upload,
      title: proposal.title,
      titleOrigin: proposal.origins.title,
      number: proposal.number,
      label: proposal.label,
    },
  };
};

/** Takes what was saved on the network drive to register it; its name becomes its title. */
export const beginWithDriveFile = async (id: string): Promise<Arrived> => {
  const upload = await call(api.programs.takeDriveFile, { params: { id }, body: {} });
  const title = upload.name.replace(/\.[^.]+$/, '');
  return {
    proposal: { typeId: null, folderId: null, number: null, label: null, title, metadata: {}, origins: {} },
    start: {
      incomingFileId: null,
      path: upload.name,
      upload,
      title,
      titleOrigin: 'the file name',
      number: null,
      label: null,
    },
  };
};
