import { api } from '@kanonos/contract';
import { useState } from 'react';
import { call, refreshAll, uploadFile } from '../../app/client.ts';
import { count } from '../../ui/format.ts';
import { toast } from '../../ui/toast.ts';
import { wording } from './wording.ts';

const SENT_AT_ONCE = 3;
const NOTIFIED_AT_ONCE = 20;

/** The path of a file in the folder that was dropped or picked; its name alone where it came alone. */
export const pathOf = (file: File): string => {
  const { path = '' } = file as File & { path?: string };
  return (file.webkitRelativePath || path || file.name).replace(/^\.?\/+/, '');
};
/** What systems put into folders for themselves. */
const isOfSystem = (file: File): boolean => /^(\.DS_Store|Thumbs\.db|desktop\.ini|\._.*)$/i.test(file.name);

export type Failed = { file: File; why: string };
type Sending = { done: number; of: number };

/** Sends the files of an import, a few at once; one that fails is named and does not keep the others. */
export const useSendFiles = (importId: string) => {
  const [sending, setSending] = useState<Sending | null>(null);
  const [failed, setFailed] = useState<Failed[]>([]);
  const send = async (dropped: readonly File[]) => {
    const waiting = dropped.filter((file) => !isOfSystem(file));
    const of = waiting.length;
    let done = 0;
    const lost: Failed[] = [];
    let sent: { uploadId: string; path: string; file: File }[] = [];
    setFailed([]);
    setSending({ done, of });
    const tell = async (batch: typeof sent) => {
      try {
        const files = batch.map(({ uploadId, path }) => ({ uploadId, path }));
        const { skipped } = await call(api.imports.files, { params: { id: importId }, body: { files } });
        if (skipped.length)
          toast.warning(
            wording.filesWereSkippedNameWhy(
              count(skipped.length, wording.fileWas, wording.filesWere),
              skipped[0]?.name,
              skipped[0]?.why,
            ),
          );
      } catch (failure) {
        lost.push(...batch.map(({ file }) => ({ file, why: (failure as Error).message })));
      }
    };
    const one = async () => {
      for (let file = waiting.shift(); file; file = waiting.shift()) {
        try {
          sent.push({ uploadId: (await uploadFile(file, () => {})).id, path: pathOf(file), file });
        } catch (failure) {
          lost.push({ file, why: (failure as Error).message });
        }
        setSending({ done: ++done, of });
        if (sent.length >= NOTIFIED_AT_ONCE) {
          const batch = sent;
          sent = [];
          await tell(batch);
        }
      }
    };
    await Promise.all(Array.from({ length: SENT_AT_ONCE }, one));
    if (sent.length) await tell(sent);
    setFailed(lost);
    setSending(null);
    await refreshAll();
  };
  return { send, sending, failed };
};
