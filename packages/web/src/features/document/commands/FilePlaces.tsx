import { api, type DocumentPage } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { Copy } from 'lucide-react';
import { useState } from 'react';
import { ask } from '../../../app/client.ts';
import { CloseButton, Dialog, Segments } from '../../../ui/controls.tsx';
import { Failed, Loading } from '../../../ui/states.tsx';
import { TableHead } from '../../../ui/TableHead.tsx';
import { toast } from '../../../ui/toast.ts';
import { wording } from '../wording.ts';

const PROGRAMS = [
  { value: 'docx', text: wording.word },
  { value: 'xlsx', text: wording.excel },
  { value: 'odt', text: wording.libreOfficeWriter },
  { value: 'md', text: wording.markdown },
] as const;
type Program = (typeof PROGRAMS)[number]['value'];

/** How a field is placed, in the words of each program's own menus. */
const HOW: Record<Program, string> = {
  docx: wording.insertAPlainTextContentControl,
  xlsx: wording.selectTheCellTypeTheName,
  odt: wording.insertFieldMoreFieldsVariablesUser,
  md: wording.typeTheNameBetweenDoubleBraces,
};

/** The metadata that a file can place, with their present values, and how to place them in one's program. */
export const FilePlaces = ({ page, close }: { page: DocumentPage; close: () => void }) => {
  const { data, error } = useQuery(ask(api.documents.places, { params: { document: page.id } }));
  const main = page.versions[0]?.files
    .find((file) => file.role === 'original')
    ?.name.split('.')
    .at(-1);
  const [program, setProgram] = useState<Program>(PROGRAMS.find(({ value }) => value === main)?.value ?? 'docx');
  const written = (name: string) => (program === 'md' ? `{{${name}}}` : name);
  const copy = (name: string) =>
    void navigator.clipboard?.writeText(written(name)).then(() => toast.success(`${written(name)} copied.`));
  return (
    <Dialog open title={wording.insertMetadataIntoTheFileOf(page.number)} onClose={close} wide>
      {error ? (
        <Failed error={error} />
      ) : !data ? (
        <Loading what={wording.theMetadata} />
      ) : (
        <div className="flex flex-col gap-3">
          <p>{wording.downloadedCopiesShowTheirMetadataEach}</p>
          <div className="flex flex-wrap items-center gap-3">
            <Segments<Program> label={wording.program} value={program} options={PROGRAMS} onChange={setProgram} />
            <p className="min-w-0 flex-1 text-[12.5px] text-ink-2">{HOW[program]}</p>
          </div>
          <div className="max-h-[46vh] overflow-y-auto border border-line">
            <table className="w-full text-left">
              <TableHead
                className="sticky top-0 bg-film-2"
                cell="px-2.5 py-1.5"
                headings={[
                  wording.name,
                  wording.field,
                  wording.nowPart(data.label && wording.revisionData(data.label)),
                ]}
              />
              <tbody>
                {data.places.map(({ name, label, value }) => (
                  <tr key={name} className="border-b border-line-2 last:border-0">
                    <td className="px-2.5 py-1 whitespace-nowrap">
                      <button
                        type="button"
                        className="num flex items-center gap-1.5 hover:text-petrol"
                        aria-label={wording.copyName(written(name))}
                        onClick={() => copy(name)}
                      >
                        {written(name)} <Copy size={12} aria-hidden />
                      </button>
                    </td>
                    <td className="px-2.5 py-1 text-ink-2">{label}</td>
                    <td className="max-w-64 truncate px-2.5 py-1" title={value}>
                      {value || <span className="text-ink-3">{wording.empty}</span>}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          <CloseButton onClose={close} />
        </div>
      )}
    </Dialog>
  );
};
