import { api, type TypeInfo } from '@kanonos/contract';
import { useCallback, useEffect, useRef, useState } from 'react';
import { call, refreshAll, uploadFile } from '../../app/client.ts';
import { type AboutValues, toAbout } from '../document/about.ts';
import { checkInNow } from '../document/checkInNow.ts';
import { toMetadata } from '../document/metadataValues.ts';
import { type Match, newRow, type Row, withSaid } from './manyRows.ts';
import { wording } from './wording.ts';

const SENT_AT_ONCE = 3;
type Wanted = {
  type: TypeInfo;
  folderId: string;
  ownerId: string | null;
  departmentId: string | null;
  keywords: string[];
  metadata: Record<string, string>;
  about: AboutValues;
};

/** Sends files, a few at once, learns what is known of them, and registers or checks in row by row. */
export const useManyFiles = (files: readonly File[], type: TypeInfo | undefined) => {
  const [rows, setRows] = useState<Row[]>(() => files.map(newRow));
  const [running, setRunning] = useState(false);
  const started = useRef(false);
  const patch = useCallback(
    (id: string, change: Partial<Row>) =>
      setRows((before) => before.map((row) => (row.id === id ? { ...row, ...change } : row))),
    [],
  );
  const send = useCallback(
    async (queue: Row[]) => {
      const waiting = [...queue];
      const one = async () => {
        for (let row = waiting.shift(); row; row = waiting.shift()) {
          const { id, file } = row;
          try {
            const upload = await uploadFile(file, (share) => patch(id, { share }));
            const { files: found } = await call(api.documents.match, { body: { uploadIds: [upload.id] } });
            const match: Match | null = found[0] ?? null;
            setRows((before) =>
              before.map((r) =>
                r.id === id
                  ? {
                      ...r,
                      upload,
                      match,
                      state: 'ready',
                      title: r.title || match?.title || file.name.replace(/\.[^.]+$/, ''),
                      label: r.label || match?.label || '',
                      as: match?.document ? (match.document.mayCheckIn ? 'version' : 'leave out') : 'new',
                    }
                  : r,
              ),
            );
          } catch (error) {
            patch(id, { state: 'refused', problem: (error as Error).message });
          }
        }
      };
      await Promise.all(Array.from({ length: SENT_AT_ONCE }, one));
    },
    [patch],
  );
  useEffect(() => {
    if (started.current) return;
    started.current = true;
    void send(rows);
  }, [send, rows]);
  // The properties of files fill their rows as soon as both are known, the file and the fields of its type.
  const known = rows.filter((row) => row.match).length;
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each file and each type, not for every letter typed
  useEffect(() => setRows((before) => before.map((row) => withSaid(row, type))), [type?.id, known]);
  const add = (more: readonly File[]) => {
    const fresh = more.map(newRow);
    setRows((before) => [...before, ...fresh]);
    void send(fresh);
  };
  /** One after the other, each whole in itself: what is done stays done, what is refused stays here to be mended. */
  const run = async (wanted: Wanted) => {
    setRunning(true);
    for (const row of rows) {
      if (row.state === 'done' || row.state === 'sending' || !row.upload || row.as === 'leave out') continue;
      patch(row.id, { state: 'working', problem: '' });
      try {
        const done = row.as === 'version' ? await checkIn(row) : await register(row, wanted);
        patch(row.id, { state: 'done', done });
      } catch (error) {
        patch(row.id, { state: 'refused', problem: (error as Error).message });
      }
    }
    setRunning(false);
    await refreshAll();
  };
  return { rows, setRows, patch, add, run, running };
};

const register = async (
  row: Row,
  { type, folderId, ownerId, departmentId, keywords, metadata, about }: Wanted,
): Promise<string> => {
  const own = Object.fromEntries(Object.entries(row.metadata).filter(([, value]) => value !== ''));
  const { number } = await call(api.documents.register, {
    // The row's own key: pressed twice, or after a lost connection, it is still one document.
    key: row.id,
    body: {
      typeId: type.id,
      folderId: type.filing ? null : folderId,
      title: row.title,
      metadata: toMetadata(type.fields, { ...metadata, ...own }),
      uploadId: row.upload?.id ?? '',
      ownerId,
      departmentId,
      number: type.numbering ? null : row.number,
      label: type.labelGivenBySupplier ? row.label : null,
      keywords: [...new Set([...keywords, ...(row.match?.keywords ?? [])])],
      ...toAbout(about),
    },
  });
  return number;
};

const checkIn = async (row: Row): Promise<string> => {
  const number = row.match?.document?.number ?? '';
  await checkInNow(number, { uploadId: row.upload?.id ?? '', note: wording.fileFile(row.file.name) });
  return number;
};
