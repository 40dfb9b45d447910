import { type Arrival, api } from '@kanonos/contract';
import { call } from '../../app/client.ts';
import type { Start } from '../registering/common.ts';

export type Arrived = { proposal: Arrival['proposal']; start: Start };

/** Takes what arrived to register it: its file as one that I sent, and what is proposed for it. */
export const beginWith = async (id: string): Promise<Arrived> => {
  const [{ arrivals }, upload] = [
    await call(api.intake.list, { query: {} }),
    await call(api.intake.take, { params: { id }, body: {} }),
  ];
  const arrival = arrivals.find((one) => one.id === id);
  if (!arrival) throw new Error('It does not wait any more.');
  const { proposal, path } = arrival;
  return {
    proposal,
    start: {
      arrivalId: id,
      path,
      upload,
      title: proposal.title,
      titleOrigin: proposal.origins.title,
      number: proposal.number,
      label: proposal.label,
    },
  };
};

/** Takes what was saved at the desk to register it; its name stands for its title. */
export const beginWithDeskFile = async (id: string): Promise<Arrived> => {
  const upload = await call(api.programs.takeDeskFile, { params: { id }, body: {} });
  const title = upload.name.replace(/\.[^.]+$/, '');
  return {
    proposal: { typeId: null, folderId: null, number: null, label: null, title, metadata: {}, origins: {} },
    start: { arrivalId: null, path: upload.name, upload, title, titleOrigin: 'the name', number: null, label: null },
  };
};
