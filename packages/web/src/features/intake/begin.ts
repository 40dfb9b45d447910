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
