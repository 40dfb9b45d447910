import { api, type DocumentPage } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { Copy } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { ask } from '../../../app/client.ts';
import { Actions, Dialog, Segments } from '../../../ui/controls.tsx';
import { Failed, Loading } from '../../../ui/states.tsx';

const PROGRAMS = [
  { value: 'docx', text: 'Word' },
  { value: 'xlsx', text: 'Excel' },
  { value: 'odt', text: 'LibreOffice Writer' },
  { value: 'md', text: 'Markdown' },
] as const;
type Program = (typeof PROGRAMS)[number]['value'];

/** How a field is placed, in the words of each program's own menus. */
const HOW: Record<Program, string> = {
  docx: 'Insert a plain text content control (Developer tab), open its properties and enter the name as its tag.',
  xlsx: 'Select the cell, type the name into the name box left of the formula bar, and press Enter.',
  odt: 'Insert › Field › More fields › Variables › User field: the name as its name, any text as its value.',
  md: 'Type the name between double braces where the value should appear.',
};

/** The metadata that a file can place, with what stands there now, and how to place them in one's program. */
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
    <Dialog open title={`Insert metadata into the file of ${page.number}`} onClose={close} wide>
      {error ? (
        <Failed error={error} />
      ) : !data ? (
        <Loading what="the metadata" />
      ) : (
        <div className="flex flex-col gap-3">
          <p>
            Downloaded copies show their metadata: each placeholder with one of these names is filled in, and all values
            are written to the document properties. The file you checked in stays unchanged.
          </p>
          <div className="flex flex-wrap items-center gap-3">
            <Segments<Program> label="Program" value={program} options={PROGRAMS} onChange={setProgram} />
            <p className="min-w-0 flex-1 text-[12.5px] text-ink-2">{HOW[program]}</p>
          </div>
          <div className="max-h-[46vh] overflow-y-auto border border-line">
            <table className="w-full text-left">
              <thead className="sticky top-0 bg-film-2">
                <tr className="cap border-b border-line">
                  <th className="px-2.5 py-1.5">Name</th>
                  <th className="px-2.5 py-1.5">Field</th>
                  <th className="px-2.5 py-1.5">Now{data.label && `, revision ${data.label}`}</th>
                </tr>
              </thead>
              <tbody>
                {data.places.map(({ name, label, value }) => (
                  <tr key={name} className="border-b border-line-2 last:border-0">
                    <td className="px-2.5 py-1 whitespace-nowrap">
                      <button
                        type="button"
                        className="num flex items-center gap-1.5 hover:text-petrol"
                        aria-label={`Copy ${written(name)}`}
                        onClick={() => copy(name)}
                      >
                        {written(name)} <Copy size={12} aria-hidden />
                      </button>
                    </td>
                    <td className="px-2.5 py-1 text-ink-2">{label}</td>
                    <td className="max-w-64 truncate px-2.5 py-1" title={value}>
                      {value || <span className="text-ink-3">empty</span>}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          <Actions>
            <button type="button" className="btn" onClick={close}>
              Close
            </button>
          </Actions>
        </div>
      )}
    </Dialog>
  );
};
