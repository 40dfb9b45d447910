import { api, type Template } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { ask, call, refreshAll } from '../../app/client.ts';
import { workAddress } from '../../ui/addresses.ts';
import { TextArea } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { count } from '../../ui/format.ts';
import { Failed, Loading } from '../../ui/states.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { wording } from './wording.ts';

const AT_ONCE = 20;
type Done = { done: { number: string; version: number }[]; refused: { number: string; reasons: string[] }[] };

/** Brings head, foot and styles of a template onto drafts of its type: each gets a new version, the others are named. */
export const ApplyTemplateDialog = ({ template, close }: { template: Template; close: () => void }) => {
  const [marked, setMarked] = useState<ReadonlySet<string>>(new Set());
  const [note, setNote] = useState(wording.headerAndFooterOfEdition(template.name, template.editions[0]?.n ?? 1));
  const [result, setResult] = useState<Done | null>(null);
  const [busy, setBusy] = useState(false);
  const [error, setError] = useState<Error | null>(null);
  const drafts = useQuery(
    ask(api.find.register, { query: { revisionScope: 'newest', type: template.typeId, state: 'draft', limit: 200 } }),
  );
  const rows = drafts.data?.rows ?? [];
  const run = async () => {
    setBusy(true);
    setError(null);
    const all: Done = { done: [], refused: [] };
    try {
      const ids = [...marked];
      for (let at = 0; at < ids.length; at += AT_ONCE) {
        const part = await call(api.templates.bring, {
          params: { id: template.id },
          body: { ids: ids.slice(at, at + AT_ONCE), note },
        });
        all.done.push(...part.done);
        all.refused.push(...part.refused);
      }
    } catch (failure) {
      setError(failure as Error);
    } finally {
      setBusy(false);
      setResult(all);
      await refreshAll();
    }
  };
  return (
    <FormDialog
      title={wording.applyToDrafts(template.name)}
      wide
      about={<p>{wording.theTextStaysHeaderFooterPage}</p>}
      command={{ isPending: busy, error }}
      button={result ? wording.close : wording.createNewVersions(marked.size || '')}
      leave={result ? wording.back : wording.cancel}
      ready={result !== null || marked.size > 0}
      onSubmit={() => (result ? close() : void run())}
      onClose={() => (result ? setResult(null) : close())}
    >
      {result ? (
        <div className="max-h-[46vh] overflow-y-auto">
          <p>{wording.getsANewVersion(count(result.done.length, wording.documentHas, wording.documentsHave))}</p>
          {result.refused.map((one) => (
            <p key={one.number} className="grid grid-cols-[128px_minmax(0,1fr)] gap-2">
              <span className="num">{one.number}</span>
              <span className="text-vermilion">{one.reasons.join(' ')}</span>
            </p>
          ))}
        </div>
      ) : drafts.isPending ? (
        <Loading what={wording.theDrafts} />
      ) : drafts.error ? (
        <Failed error={drafts.error} />
      ) : rows.length === 0 ? (
        <p className="text-ink-2">{wording.noDocumentOfThisTypeIs}</p>
      ) : (
        <>
          <Tick
            checked={marked.size === rows.length}
            onChange={(on) => setMarked(new Set(on ? rows.map((row) => row.documentId) : []))}
          >
            {wording.allDrafts(rows.length)}
          </Tick>
          <ul className="max-h-[34vh] overflow-y-auto border border-line-2">
            {rows.map((row) => (
              <li key={row.documentId} className="border-b border-line-2 px-2 py-1 last:border-0">
                <Tick
                  checked={marked.has(row.documentId)}
                  onChange={(on) => {
                    const next = new Set(marked);
                    if (on) next.add(row.documentId);
                    else next.delete(row.documentId);
                    setMarked(next);
                  }}
                >
                  <Link className="link num" to={workAddress(row.number)}>
                    {row.number}
                  </Link>{' '}
                  {row.title}
                </Tick>
              </li>
            ))}
          </ul>
          <TextArea label={wording.noteOnTheseVersions} required rows={2} value={note} onChange={setNote} />
        </>
      )}
    </FormDialog>
  );
};
