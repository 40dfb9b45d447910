import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { ask } from '../../app/client.ts';
import { Select } from '../../ui/controls.tsx';
import { wording } from './wording.ts';

/** Where numbers count: what would be registered, where it would be filed, and the metadata that the number contains. */
export type Place = { typeId: string; folderId: string; metadata: Record<string, string> };
export const NO_PLACE: Place = { typeId: '', folderId: '', metadata: {} };

export const PlaceFields = ({ value, onChange }: { value: Place; onChange: (place: Place) => void }) => {
  const types = useQuery(ask(api.documents.types));
  const folders = useQuery(ask(api.documents.folders));
  const type = types.data?.types.find((t) => t.id === value.typeId);
  const keys = [...(type?.numbering ?? '').matchAll(/\{field:([^}]+)\}/g)].map((match) => match[1] ?? '');
  return (
    <>
      <Select
        label={wording.type}
        required
        value={value.typeId}
        onChange={(text) => onChange({ ...value, typeId: text, metadata: {} })}
        hint={type?.numbering && <span className="num">{type.numbering}</span>}
        empty={wording.chooseWhatWillBeNumbered}
        options={types.data?.types
          .filter((t) => t.numbering)
          .map((t) => ({ value: t.id, text: `${t.code} ${t.name}` }))}
      />
      <Select
        label={wording.folder}
        required
        value={value.folderId}
        onChange={(text) => onChange({ ...value, folderId: text })}
        hint={wording.itsAreaIsPartOfSome}
        empty={wording.chooseTheFolder}
        options={folders.data?.folders.map((folder) => ({
          value: folder.id,
          text: folder.parentId ? `${folder.area} / ${folder.name}` : folder.name,
        }))}
      />
      {keys.map((key) => {
        const field = type?.fields.find((f) => f.key === key);
        return (
          <Select
            key={key}
            label={field?.label ?? key}
            required
            value={value.metadata[key] ?? ''}
            onChange={(text) => onChange({ ...value, metadata: { ...value.metadata, [key]: text } })}
            empty={'–'}
            options={field?.options?.map((option) => ({ value: option.code, text: option.text })) ?? []}
          />
        );
      })}
    </>
  );
};
