import type { DocumentPage } from '@kanonos/contract';

/** Whether another revision than the one in view is in work. */
export const worksElsewhere = ({ work, revision }: Pick<DocumentPage, 'work' | 'revision'>): boolean =>
  work !== null && (work.label !== revision.label || work.state !== revision.state);
