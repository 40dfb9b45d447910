import { type DragEvent, useState } from 'react';

/** Documents that are dragged, by id; only what the register drags is taken by its targets. */
const KIND = 'application/x-kanonos-documents';

export const dragDocuments = (event: DragEvent, ids: readonly string[]): void => {
  event.dataTransfer.setData(KIND, JSON.stringify(ids));
  event.dataTransfer.effectAllowed = 'copyMove';
};

/** What makes an element take dragged documents, and whether some are over it. */
export const useDocumentDrop = (take: ((ids: string[]) => void) | undefined) => {
  const [over, setOver] = useState(false);
  if (!take) return { over: false, target: {} };
  return {
    over,
    target: {
      onDragOver: (event: DragEvent) => {
        if (!event.dataTransfer.types.includes(KIND)) return;
        event.preventDefault();
        setOver(true);
      },
      onDragLeave: () => setOver(false),
      onDrop: (event: DragEvent) => {
        setOver(false);
        const ids: unknown = JSON.parse(event.dataTransfer.getData(KIND) || '[]');
        if (!Array.isArray(ids) || ids.length === 0) return;
        event.preventDefault();
        take(ids.map(String));
      },
    },
  };
};
