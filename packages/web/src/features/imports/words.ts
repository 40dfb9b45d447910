import type { ImportSummary } from '@kanonos/contract';

export const STATE_WORDS: Record<ImportSummary['state'], string> = {
  prepared: 'prepared, not checked yet',
  checked: 'checked',
  running: 'being imported',
  stopped: 'stopped',
  done: 'done',
};

/** How far an import is, of what can come in at all. */
export const shareOf = ({ ready, done }: ImportSummary['counts']): number =>
  ready + done === 0 ? 0 : done / (ready + done);
