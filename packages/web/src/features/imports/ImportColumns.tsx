import { api, type ImportDetail } from '@kanonos/contract';
import { IMPORTED_STATES } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { ask } from '../../app/client.ts';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton, Select, TextField } from '../../ui/controls.tsx';
import { besidesMeanwhile, Meanwhile } from '../../ui/Meanwhile.tsx';
import { Refusals } from '../../ui/states.tsx';
import { useDraft } from '../../ui/useDraft.ts';
import { pathOf } from '../filing/paths.ts';
import { wording } from './wording.ts';

/** The meaning of each column of the list, beside its cells; and the defaults for empty cells. */
export const ImportColumns = ({ now }: { now: ImportDetail }) => {
  const types = useQuery({ ...ask(api.documents.types), staleTime: 60_000 });
  const folders = useQuery({ ...ask(api.documents.folders), staleTime: 60_000 });
  const form = useDraft(now, (one) => ({ mapping: one.mapping }));
  const {
    base: detail,
    draft: { mapping },
  } = form;
  const command = useCommand(api.imports.setMapping, wording.columnsSaved, form.saved);
  const edit = (change: Partial<typeof mapping>) => form.edit({ mapping: { ...mapping, ...change } });
  const all = folders.data?.folders ?? [];
  return (
    <details open={detail.state === 'prepared'} className="mb-3 border border-line bg-sheet">
      <summary className="cursor-pointer bg-film-2 px-3 py-1.5 font-[650]">
        {wording.columns}{' '}
        <span className="font-normal text-ink-2">
          {wording.ofRecognised(mapping.columns.filter(Boolean).length, detail.headings.length)}
        </span>
      </summary>
      <div className="overflow-x-auto">
        <table className="w-full">
          <thead>
            <tr className="border-b border-line">
              {detail.headings.map((heading, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: a column is its place; headings may repeat
                <th key={i} className="min-w-36 px-2 py-1.5 text-left align-top">
                  <span className="block truncate" title={heading}>
                    {heading || <span className="text-ink-3">{wording.noHeading}</span>}
                  </span>
                  <select
                    aria-label={wording.meaningOf(heading || wording.columnI(i + 1))}
                    className={`inp !min-h-7 !py-0.5 font-normal ${mapping.columns[i] ? '' : 'text-ink-3'}`}
                    value={mapping.columns[i] ?? ''}
                    onChange={(event) =>
                      edit({
                        columns: detail.headings.map((_, n) =>
                          n === i ? event.target.value || null : (mapping.columns[n] ?? null),
                        ),
                      })
                    }
                  >
                    <option value="">{wording.ignored}</option>
                    {detail.meanings.map((meaning) => (
                      <option key={meaning.value} value={meaning.value}>
                        {meaning.text}
                      </option>
                    ))}
                  </select>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {detail.sample.map((cells, y) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: the first lines, which never change
              <tr key={y} className="border-b border-line-2 last:border-0">
                {detail.headings.map((_, x) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: a cell is its place
                  <td key={x} className="max-w-48 truncate px-2 py-0.5 text-ink-2">
                    {cells[x] ?? ''}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="grid grid-cols-5 max-md:grid-cols-2 gap-3 border-t border-line px-3 py-3">
        <Select
          label={wording.dateFormat}
          value={mapping.dateOrder}
          onChange={(value) => edit({ dateOrder: value as 'dmy' | 'mdy' })}
        >
          <option value="dmy">{wording.dayMonthYear}</option>
          <option value="mdy">{wording.monthDayYear}</option>
        </Select>
        <Select
          label={wording.typeIfTheListHasNone}
          value={mapping.typeCode ?? ''}
          onChange={(value) => edit({ typeCode: value || null })}
          empty={wording.derivedFromTheNumber}
          options={types.data?.types.map((type) => ({ value: type.code, text: `${type.code} ${type.name}` }))}
        />
        <Select
          label={wording.folderIfTheListHasNone}
          value={mapping.folder ?? ''}
          onChange={(value) => edit({ folder: value || null })}
        >
          <option value="">{wording.none}</option>
          {all.map((folder) => {
            const path = pathOf(folder, all);
            return (
              <option key={folder.id} value={path}>
                {path}
              </option>
            );
          })}
        </Select>
        <TextField
          label={wording.ownerIfTheListHasNone}
          value={mapping.owner ?? ''}
          onChange={(value) => edit({ owner: value || null })}
        />
        <Select
          label={wording.stateIfTheListHasNone}
          value={mapping.state}
          onChange={(value) => edit({ state: value as typeof mapping.state })}
          options={IMPORTED_STATES.map((state) => ({ value: state, text: state }))}
        />
        <div className="col-span-5 empty:hidden">
          <Meanwhile of={form} />
        </div>
        {form.isDirty && (
          <div className="col-span-5 flex items-center justify-end gap-2">
            <Refusals error={besidesMeanwhile(command.error, form)} />
            <button type="button" className="btn" onClick={form.anew}>
              {wording.discard}
            </button>
            <CommandButton
              type="button"
              busy={command.isPending}
              disabled={form.meanwhile !== null}
              onClick={() =>
                command.mutate({ params: { id: detail.id }, body: { mapping, rowVersion: detail.rowVersion } })
              }
            >
              {wording.saveColumns}
            </CommandButton>
          </div>
        )}
      </div>
    </details>
  );
};
