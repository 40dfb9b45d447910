import type { DocumentPage } from '@kanonos/contract';
import { useSearchParams } from 'react-router';
import { worksElsewhere } from '../inWork.ts';

/** Commands on what is in force, or on the document; all others are on what is in work. */
const NOT_ON_WORK = new Set([
  'withdraw',
  'cancel withdrawal',
  'put on hold',
  'set state',
  'lift hold',
  'reinstate',
  'revise',
  'remove',
  'restore',
  'renumber',
  'addresses',
  'suggest a change',
  'start a round',
  'order a revision',
  'sign outside a round',
  'send to be signed outside',
  'add a PDF signed outside',
  'check source',
]);

/** Whether a command is on what is in work while another revision is in view. */
export const leadsToWork = (command: string, page: Pick<DocumentPage, 'work' | 'revision'>): boolean =>
  worksElsewhere(page) && !NOT_ON_WORK.has(command);

/**
 * The address carries the command whose dialog is open, so that a link can lead straight to it. A command on what is in work leads
 * there first, where another revision is in view.
 */
export const useOpenCommand = (page?: Pick<DocumentPage, 'work' | 'revision'>) => {
  const [, setParams] = useSearchParams();
  return (command: string | null) =>
    setParams((before) => {
      const next = new URLSearchParams(before);
      if (command) next.set('command', command);
      else for (const given of ['command', 'kind', 'reason']) next.delete(given);
      if (command && page && leadsToWork(command, page)) {
        next.set('rev', 'work');
        for (const other of ['v', 'file']) next.delete(other);
      }
      return next;
    });
};
