import { api } from '@kanonos/contract';
import type { BlueprintFolder, Starter } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { ask } from '../../app/client.ts';
import { Select, TextField } from '../../ui/controls.tsx';
import { RightTicks } from '../../ui/RightTicks.tsx';
import { wording } from './wording.ts';

type Change = (change: Partial<BlueprintFolder>) => void;

/** The name, settings, first documents and rights of one folder of a blueprint. */
export const FolderDetail = ({
  folder,
  files,
  onChange,
}: {
  folder: BlueprintFolder;
  /** Files of the blueprint, by name: a first document may begin from one. */
  files: readonly string[];
  onChange: Change;
}) => (
  <div className="flex flex-col gap-4 border border-line bg-sheet p-4">
    <TextField
      label={wording.folderName}
      required
      maxLength={80}
      value={folder.name}
      onChange={(value) => onChange({ name: value.replace(/\|/g, '').replace(/^[+*\s]+/, '') })}
      hint={wording.aWordInBracesSuchAs}
    />
    <Metadata metadata={folder.metadata} onChange={(metadata) => onChange({ metadata })} />
    <Starters starters={folder.starters} files={files} onChange={(starters) => onChange({ starters })} />
    <Grants grants={folder.grants} onChange={(grants) => onChange({ grants })} />
  </div>
);

const Part = ({
  title,
  add,
  onAdd,
  children,
}: {
  title: string;
  add: string;
  onAdd: () => void;
  children: React.ReactNode;
}) => (
  <section aria-label={title}>
    <div className="mb-1 flex items-center justify-between border-b border-line-2 pb-1">
      <h3 className="cap">{title}</h3>
      <button type="button" className="btn btn-quiet !h-6" onClick={onAdd}>
        {add}
      </button>
    </div>
    <div className="flex flex-col gap-1.5">{children}</div>
  </section>
);
const TakeOut = ({ what, onClick }: { what: string; onClick: () => void }) => (
  <button type="button" className="link text-[12px]" aria-label={wording.removeWhat(what)} onClick={onClick}>
    {wording.remove}
  </button>
);

const Metadata = ({
  metadata,
  onChange,
}: {
  metadata: Record<string, string>;
  onChange: (metadata: Record<string, string>) => void;
}) => {
  const lines = Object.entries(metadata);
  const set = (at: number, key: string, value: string) =>
    onChange(Object.fromEntries(lines.map((line, i) => (i === at ? [key, value] : line))));
  return (
    <Part
      title={wording.metadataInheritedByDocuments}
      add={wording.addField}
      onAdd={() => onChange({ ...metadata, [`field${lines.length + 1}`]: '' })}
    >
      {lines.map(([key, value], i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the key of a field is what is typed
        <div key={i} className="grid grid-cols-[140px_minmax(0,1fr)_auto] items-center gap-2">
          <input
            className="inp num"
            aria-label={wording.fieldI(i + 1)}
            value={key}
            onChange={(event) => set(i, event.target.value.replace(/[^A-Za-z0-9]/g, ''), value)}
          />
          <input
            className="inp"
            aria-label={wording.valueOf2(key)}
            placeholder={wording.aValueOrClient}
            value={value}
            onChange={(event) => set(i, key, event.target.value.replace(/;/g, ','))}
          />
          <TakeOut what={key} onClick={() => onChange(Object.fromEntries(lines.filter((_, at) => at !== i)))} />
        </div>
      ))}
    </Part>
  );
};

const Starters = ({
  starters,
  files,
  onChange,
}: {
  starters: readonly Starter[];
  files: readonly string[];
  onChange: (starters: Starter[]) => void;
}) => {
  const types = useQuery({ ...ask(api.documents.types), staleTime: 60_000 });
  const templates = useQuery({ ...ask(api.templates.choices), staleTime: 60_000 });
  const all = types.data?.types ?? [];
  const set = (at: number, change: Partial<Starter>) =>
    onChange(starters.map((one, i) => (i === at ? { ...one, ...change } : one)));
  return (
    <Part
      title={wording.documentsCreatedWithTheFolder}
      add={wording.addDocument}
      onAdd={() => onChange([...starters, { type: all[0]?.code ?? '', template: null, title: wording.newDocument }])}
    >
      {starters.map((one, i) => {
        const typeId = all.find((type) => type.code === one.type)?.id;
        const own = (templates.data?.templates ?? []).filter((template) => template.typeId === typeId);
        return (
          <div
            // biome-ignore lint/suspicious/noArrayIndexKey: two starters may be alike
            key={i}
            className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_auto] items-center gap-x-2 gap-y-1 border border-line-2 p-2"
          >
            <select
              className="inp"
              aria-label={wording.typeOfDocument(i + 1)}
              value={one.type}
              onChange={(event) => set(i, { type: event.target.value, template: null })}
            >
              {!all.some((type) => type.code === one.type) && <option value={one.type}>{one.type}</option>}
              {all.map((type) => (
                <option key={type.id} value={type.code}>
                  {type.code} {type.name}
                </option>
              ))}
            </select>
            <select
              className="inp"
              aria-label={wording.templateOfDocument(i + 1)}
              value={one.template ?? ''}
              onChange={(event) => set(i, { template: event.target.value || null })}
            >
              <option value="">{own[0] ? wording.firstTemplateOfTheType : wording.emptyText}</option>
              {own.map((template) => (
                <option key={template.id} value={template.name}>
                  {template.name}
                </option>
              ))}
              {files.map((name) => (
                <option key={name} value={name}>
                  {wording.fileOfThisBlueprint(name)}
                </option>
              ))}
            </select>
            <TakeOut what={one.title} onClick={() => onChange(starters.filter((_, at) => at !== i))} />
            <input
              className="inp col-span-3"
              aria-label={wording.titleOfDocument(i + 1)}
              value={one.title}
              onChange={(event) => set(i, { title: event.target.value.replace(/^[(\s]+/, '') })}
            />
          </div>
        );
      })}
    </Part>
  );
};

type Grant = BlueprintFolder['grants'][number];
const Grants = ({ grants, onChange }: { grants: readonly Grant[]; onChange: (grants: Grant[]) => void }) => {
  const units = useQuery({ ...ask(api.people.units), staleTime: 60_000 });
  const all = (units.data?.units ?? []).map(({ kind, code, name }) => ({ unit: `${kind}/${code}`, name, kind }));
  const free = all.filter(({ unit }) => !grants.some((grant) => grant.unit === unit));
  const set = (at: number, change: Partial<Grant>) =>
    onChange(grants.map((one, i) => (i === at ? { ...one, ...change } : one)));
  return (
    <Part
      title={wording.rightsOnThisFolder}
      add={wording.addDepartmentRoleOrGroup}
      onAdd={() => free[0] && onChange([...grants, { unit: free[0].unit, rights: ['read'] }])}
    >
      {grants.map((grant, i) => (
        <div key={grant.unit} className="border border-line-2 px-3 py-2">
          <div className="flex items-end justify-between gap-3">
            <div className="w-64">
              <Select label={wording.who} value={grant.unit} onChange={(value) => set(i, { unit: value })}>
                {all
                  .filter(({ unit }) => unit === grant.unit || free.some((one) => one.unit === unit))
                  .map(({ unit, name, kind }) => (
                    <option key={unit} value={unit}>
                      {name} ({kind})
                    </option>
                  ))}
                {!all.some(({ unit }) => unit === grant.unit) && <option value={grant.unit}>{grant.unit}</option>}
              </Select>
            </div>
            <TakeOut what={grant.unit} onClick={() => onChange(grants.filter((_, at) => at !== i))} />
          </div>
          <RightTicks rights={grant.rights} onChange={(rights) => rights.length && set(i, { rights })} />
        </div>
      ))}
    </Part>
  );
};
