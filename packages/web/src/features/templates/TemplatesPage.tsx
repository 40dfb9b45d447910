import { api, type Template, type TypeInfo } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useSearchParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { showInstant } from '../../ui/format.ts';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { ApplyTemplateDialog } from './ApplyTemplateDialog.tsx';
import { TemplateDialog } from './TemplateDialog.tsx';
import { wording } from './wording.ts';

/** Templates by type: what each places, its editions, and bringing its head and foot onto drafts. */
export const TemplatesPage = () => {
  const [params, setParams] = useSearchParams();
  const templates = useQuery(ask(api.templates.list));
  const types = useQuery({ ...ask(api.documents.types), staleTime: 60_000 });
  if (templates.isPending || types.isPending) return <Loading what="templates" />;
  const error = templates.error ?? types.error;
  if (error || !templates.data || !types.data) return <Failed error={error ?? new Error()} />;
  const all = templates.data.templates;
  const open = params.get('template');
  const edited = all.find((one) => one.id === open);
  const bringing = all.find((one) => one.id === params.get('bring'));
  const close = () => setParams({});
  const typesWith = types.data.types.filter((type) => all.some((one) => one.typeId === type.id));
  return (
    <div className="flex-1 overflow-y-auto px-5 py-4">
      <div className="mb-3 flex items-end gap-4">
        <div className="flex-1">
          <h1>{wording.templates}</h1>
          <p className="text-ink-2">{wording.nativeFilesThatNewDocumentsStart}</p>
        </div>
        <button type="button" className="btn btn-pri" onClick={() => setParams({ template: 'new' })}>
          {wording.addTemplate}
        </button>
      </div>
      {all.length === 0 ? (
        <Empty title={wording.noTemplatesYet}>{wording.addADocxXlsxOdtOr}</Empty>
      ) : (
        typesWith.map((type) => (
          <section key={type.id} className="mb-4">
            <h2 className="mb-1 text-[13.5px]">
              <span className="num">{type.code}</span> {type.name}
            </h2>
            <div className="border border-line bg-sheet">
              {all
                .filter((one) => one.typeId === type.id)
                .map((template) => (
                  <Row key={template.id} template={template} type={type} set={setParams} />
                ))}
            </div>
          </section>
        ))
      )}
      {(edited || open === 'new') && (
        <TemplateDialog key={open} template={edited} types={types.data.types} close={close} />
      )}
      {bringing && <ApplyTemplateDialog template={bringing} close={close} />}
    </div>
  );
};

const Row = ({
  template,
  type,
  set,
}: {
  template: Template;
  type: TypeInfo;
  set: (params: Record<string, string>) => void;
}) => {
  const { zone } = useMe().organisation;
  const [last] = template.editions;
  const known = (name: string) =>
    type.fields.find((field) => field.key === name)?.label ?? name.charAt(0).toUpperCase() + name.slice(1);
  return (
    <div className="grid grid-cols-[minmax(0,1.1fr)_minmax(0,1.4fr)_minmax(0,1fr)_13.5rem] items-center gap-3 border-b border-line-2 px-3 py-2 last:border-0">
      <div className="min-w-0">
        <b className={`block truncate font-semibold ${template.retired ? 'text-ink-3 line-through' : ''}`}>
          {template.name}
        </b>
        <span className="num block truncate text-[11.5px] text-ink-2">
          {template.fileName}
          {template.language && `, ${template.language}`}
        </span>
      </div>
      <div className="flex min-w-0 flex-wrap gap-1">
        {template.places.length ? (
          template.places.map((name) => (
            <span key={name} className="chip !h-5">
              {known(name)}
            </span>
          ))
        ) : (
          <span className="text-ink-3">{wording.noPlaceholdersInTheText}</span>
        )}
      </div>
      <div className="text-[12px] text-ink-2">
        {wording.edition} {last?.n}, {last && showInstant(last.at, zone)}
        <span className="block truncate" title={last?.reason}>
          {last?.by}: {last?.reason}
        </span>
      </div>
      <span className="flex justify-end gap-1.5">
        {(template.kind === 'docx' || template.kind === 'odt') && !template.retired && (
          <button type="button" className="btn" onClick={() => set({ bring: template.id })}>
            {wording.applyToDrafts2}
          </button>
        )}
        <button type="button" className="btn" onClick={() => set({ template: template.id })}>
          {wording.change}
        </button>
      </span>
    </div>
  );
};
